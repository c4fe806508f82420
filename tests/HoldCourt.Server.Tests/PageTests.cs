using System.Buffers.Binary;
using System.Buffers.Text;
using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using HoldCourt.Server.Api;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Planning;
using SkiaSharp;
using static HoldCourt.Server.Tests.FilesSent;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>Files that people bring, and the pages that are made of them: what comes out, and who must never get it.</summary>
public class PageTests(Court court) : IClassFixture<Court>
{
    private async Task<(OpenedSitting Opened, Visitor Host, Live Bench, Visitor Nia, Live Seat)> Open(string title)
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        var nia = court.Visitor();
        return (opened, host, bench, nia, await nia.Announces(opened, "Nia"));
    }

    private static async Task<int> Bring(Visitor who, OpenedSitting opened, string name, byte[] bytes) =>
        (await who.Post<BroughtRow>($"/api/sittings/{opened.Sitting}/exhibits",
            new BringWish(await Send(who, opened, name, bytes), null))).Exhibit;

    private static PagesRow PagesOf(Live live, int exhibit) => live.Sitting!.Shelf!.Exhibits.Single(one => one.Number == exhibit).Pages!;

    private static Task Made(Live live, int exhibit) =>
        Eventually.Succeeds(() =>
        {
            live.Sitting!.Shelf!.Exhibits.Any(one => one.Number == exhibit && one.Pages is { Count: > 0 } or { Flaw: not null })
                .ShouldBeTrue();
            return Task.CompletedTask;
        }, 30);

    private static string PageAt(OpenedSitting opened, int exhibit, int page, int width = 1600) =>
        $"/api/sittings/{opened.Sitting}/exhibits/{exhibit}/pages/{page}/{width}";

    private static byte[] Open(byte[] bytes, string key)
    {
        var open = new byte[bytes.Length - 28];
        using var aes = new AesGcm(Base64Url.DecodeFromChars(key), 16);
        aes.Decrypt(bytes.AsSpan(0, 12), bytes.AsSpan(12, open.Length), bytes.AsSpan(bytes.Length - 16), open);
        return open;
    }

    [Fact]
    public async Task Pages_come_sealed_and_are_seen_by_those_before_whom_they_are_turned()
    {
        var (opened, host, bench, nia, seat) = await Open("Pages");
        await using var _ = bench;
        await using var __ = seat;
        var number = await Bring(host, opened, "Reach map.pdf",
            Pdf("The weir", "The gate", "Secret figures", "Four", "Five", "Six", "Seven"));
        await Made(bench, number);
        PagesOf(bench, number).Count.ShouldBe(7);
        async Task<HttpStatusCode> Gets(Visitor who, int page, int width = 1600) =>
            (await who.Get(PageAt(opened, number, page, width))).StatusCode;
        (await Gets(nia, 1)).ShouldBe(HttpStatusCode.NotFound, "it is not shown");
        await bench.Done(new ShowExhibit(number));
        await Eventually.Holds(() => seat.Sitting!.Shelf!.Exhibits.Length == 1);
        var row = PagesOf(seat, number);
        row.Secret.ShouldBeNull();

        var first = await (await nia.Get(PageAt(opened, number, 1))).Content.ReadAsByteArrayAsync();
        using var picture = SKBitmap.Decode(Open(first, row.Opens));
        (picture.Width, picture.Height).ShouldBe((1600, 900));
        Enumerable.Range(0, 1600 * 900).Count(at => picture.GetPixel(at % 1600, at / 1600).Red < 128)
            .ShouldBeGreaterThan(500, "there is text");
        var text = Encoding.UTF8.GetString(
            Open(await (await nia.Get(PageAt(opened, number, 1, 0))).Content.ReadAsByteArrayAsync(), row.Opens));
        text.ShouldContain("The weir");
        // The page after the next is fetched ahead, and stays sealed until it is turned to.
        var third = await (await nia.Get(PageAt(opened, number, 3, 0))).Content.ReadAsByteArrayAsync();
        Should.Throw<CryptographicException>(() => Open(third, row.Opens));
        (await Gets(nia, 4)).ShouldBe(HttpStatusCode.NotFound, "so far ahead nobody needs it");
        (await Gets(host, 7, 160)).ShouldBe(HttpStatusCode.OK);
        (await Gets(host, 8)).ShouldBe(HttpStatusCode.NotFound);
        (await Gets(host, 1, 1601)).ShouldBe(HttpStatusCode.NotFound);
        Encoding.UTF8.GetString(Open(third, Pages.KeyOf(PagesOf(bench, number).Secret!, 3))).ShouldContain("Secret figures");
        await bench.Done(new TurnPage(3, number));
        await Eventually.Holds(() => PagesOf(seat, number).At == 3);
        Encoding.UTF8.GetString(Open(third, PagesOf(seat, number).Opens)).ShouldContain("Secret figures");

        using var stranger = court.Visitor();
        (await Gets(stranger, 3)).ShouldBe(HttpStatusCode.NotFound);
        await bench.Done(new SetDoor(DoorMode.Attended));
        using var comer = court.Visitor();
        await using var waits = await comer.Announces(opened, "Jun");
        (await Gets(comer, 3)).ShouldBe(HttpStatusCode.NotFound, "who waits sees nothing of it");
        await bench.Done(new SetFreeLook(true, number));
        await Eventually.Holds(() => PagesOf(seat, number).Secret is not null);
        (await Gets(nia, 6)).ShouldBe(HttpStatusCode.OK);
        await bench.Done(new TakeDown());
        (await Gets(nia, 3)).ShouldBe(HttpStatusCode.NotFound);
        await bench.Done(new ShowExhibit(number));
        await bench.Done(new Remove([seat.Me!.Seat], MayReturn: false));
        (await Gets(nia, 3)).ShouldBe(HttpStatusCode.NotFound, "an old cookie");
    }

    [Fact]
    public async Task What_is_saved_opens_again_with_its_marks_where_they_were_drawn()
    {
        var (opened, host, bench, nia, seat) = await Open("Saved");
        await using var _ = bench;
        await using var __ = seat;
        var number = await Bring(host, opened, "Reach map.pdf", Pdf("One", "Two"));
        await Made(bench, number);
        await bench.Done(new OpenSheet("Numbers", Ruling.Squared));
        await bench.Done(new ShowExhibit(number));
        // A box from a half to three quarters of the width, on the second page.
        var box = new Draw(2, MarkShape.Box, MarkColour.Vermilion, 100, MarkLine.Write([(8192, 4096), (12288, 8192)]));
        (await bench.Mark(number, box)).ShouldBeNull();
        (await bench.Mark(number + 1, box with { Page = 1, Shape = MarkShape.Line })).ShouldBeNull();
        string Address(int exhibit) => $"/api/sittings/{opened.Sitting}/exhibits/{exhibit}/pages.pdf";
        (await nia.Get(Address(number))).StatusCode.ShouldBe(HttpStatusCode.NotFound, "she may not look ahead");
        var saved = await Bring(host, opened, "again.pdf", await (await host.Get(Address(number))).Content.ReadAsByteArrayAsync());
        await Made(bench, saved);
        PagesOf(bench, saved).Count.ShouldBe(2);
        async Task<SKBitmap> Page(int exhibit, int page) => SKBitmap.Decode(Open(
            await (await host.Get(PageAt(opened, exhibit, page))).Content.ReadAsByteArrayAsync(),
            Pages.KeyOf(PagesOf(bench, exhibit).Secret!, page)));
        using var second = await Page(saved, 2);
        IsVermilion(second, 800, 600).ShouldBeTrue("the left side of the box");
        IsVermilion(second, 1200, 500).ShouldBeTrue("the right side");
        IsVermilion(second, 1000, 600).ShouldBeFalse("it is not filled");
        IsVermilion(second, 600, 600).ShouldBeFalse();
        using var first = await Page(saved, 1);
        IsVermilion(first, 800, 600).ShouldBeFalse("another page");
        var sheet = await Bring(host, opened, "sheet.pdf", await (await host.Get(Address(number + 1))).Content.ReadAsByteArrayAsync());
        await Made(bench, sheet);
        using var drawn = await Page(sheet, 1);
        IsVermilion(drawn, 1000, 600).ShouldBeTrue("the middle of the line");
    }

    private static bool IsVermilion(SKBitmap picture, int x, int y) => picture.GetPixel(x, y) is var colour
        && Math.Abs(colour.Red - 0xD5) < 12 && Math.Abs(colour.Green - 0x5E) < 12 && colour.Blue < 20;

    public static TheoryData<string, string, PageFlaw> Bad => new()
    {
        { "broken.pdf", "broken", PageFlaw.Broken },
        { "cut.pdf", "cut", PageFlaw.Broken },
        { "locked.pdf", "locked", PageFlaw.Locked },
        { "many.pdf", "many", PageFlaw.TooManyPages },
        { "huge.png", "huge", PageFlaw.TooLarge },
        { "broken.png", "brokenPicture", PageFlaw.Broken }
    };

    [Theory]
    [MemberData(nameof(Bad))]
    public async Task A_file_of_which_no_pages_can_be_made_says_why_and_the_room_goes_on(string name, string what, PageFlaw flaw)
    {
        var (opened, host, bench, _, seat) = await Open(name);
        await using var __ = bench;
        await using var ___ = seat;
        var number = await Bring(host, opened, name, what switch
        {
            "broken" => [.. "%PDF-1.7\n"u8.ToArray(), .. RandomNumberGenerator.GetBytes(5_000)],
            "cut" => Pdf("One", "Two")[..300],
            "locked" => Locked(Pdf("Secret")),
            "many" => Many(2_001),
            "huge" => Png(30_000, 30_000),
            _ => [.. Png(100, 100)[..60], .. RandomNumberGenerator.GetBytes(100)]
        });
        await Made(bench, number);
        PagesOf(bench, number).Flaw.ShouldBe(flaw);
        (await bench.Do(new ShowExhibit(number)))!.Reason.ShouldBe(Reason.PagesNotThere);
        await bench.Done(new CloseExhibit(number));
        await bench.Done(new MuteAll());
    }

    /// <summary>Opens only with a password (PDF 1.7, 7.6).</summary>
    private static byte[] Locked(byte[] pdf)
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-locked-").FullName;
        try
        {
            var (from, to) = (Path.Combine(folder, "open.pdf"), Path.Combine(folder, "locked.pdf"));
            File.WriteAllBytes(from, pdf);
            using var lockIt = Process.Start("qpdf", ["--encrypt", "user", "owner", "256", "--", from, to]);
            lockIt.WaitForExit();
            return File.ReadAllBytes(to);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>A tree of pages that are all the same one.</summary>
    private static byte[] Many(int pages)
    {
        var kids = string.Concat(Enumerable.Range(3, pages).Select(n => $"{n} 0 R "));
        var all = string.Concat(Enumerable.Range(3, pages)
            .Select(n => $"{n} 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]>>endobj\n"));
        return Encoding.ASCII.GetBytes("%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n"
            + $"2 0 obj<</Type/Pages/Count {pages}/Kids[{kids}]>>endobj\n{all}trailer<</Root 1 0 R>>\n%%EOF");
    }

    /// <summary>A picture of so many black pixels (PNG, one bit each), which takes little room and much when it is read.</summary>
    private static byte[] Png(int width, int height)
    {
        using var to = new MemoryStream();
        to.Write([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]);
        var head = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(head, width);
        BinaryPrimitives.WriteInt32BigEndian(head.AsSpan(4), height);
        (head[8], head[9]) = (1, 0);
        Chunk("IHDR", head);
        using (var packed = new MemoryStream())
        {
            using (var zip = new ZLibStream(packed, CompressionLevel.Fastest, leaveOpen: true))
                for (var row = 0; row < height; row++) zip.Write(new byte[1 + (width + 7) / 8]);
            Chunk("IDAT", packed.ToArray());
        }
        Chunk("IEND", []);
        return to.ToArray();

        void Chunk(string name, byte[] data)
        {
            byte[] body = [.. Encoding.ASCII.GetBytes(name), .. data];
            var number = new byte[4];
            BinaryPrimitives.WriteInt32BigEndian(number, data.Length);
            to.Write(number);
            to.Write(body);
            BinaryPrimitives.WriteUInt32BigEndian(number, Crc(body));
            to.Write(number);
        }
    }

    /// <summary>CRC-32 as PNG has it (ISO 3309).</summary>
    private static uint Crc(byte[] bytes)
    {
        var crc = uint.MaxValue;
        foreach (var one in bytes)
        {
            crc ^= one;
            for (var bit = 0; bit < 8; bit++) crc = (crc & 1) != 0 ? (crc >> 1) ^ 0xEDB88320 : crc >> 1;
        }
        return ~crc;
    }

    [Fact]
    public async Task What_is_no_document_or_comes_from_whoever_may_show_nothing_is_not_taken()
    {
        var (opened, host, bench, nia, seat) = await Open("Not taken");
        await using var _ = bench;
        await using var __ = seat;
        async Task<string> Refused(string name, byte[] bytes) => await host.Refused(HttpMethod.Post,
            $"/api/sittings/{opened.Sitting}/exhibits", new BringWish(await Send(host, opened, name, bytes), null));
        (await Refused("drawing.svg", "<svg xmlns='http://www.w3.org/2000/svg'><script>1</script></svg>"u8.ToArray()))
            .ShouldBe("fileCannotBeShown");
        (await Refused("slides.pptx", Zip(("readme.txt", 10)))).ShouldBe("fileCannotBeShown");
        (await Refused("bomb.docx", Zip(("[Content_Types].xml", 600_000_000)))).ShouldBe("fileCannotBeShown", "it unfolds");
        (await Refused("program.pdf", [0x7F, 0x45, 0x4C, 0x46, 0, 0, 0])).ShouldBe("fileCannotBeShown");
        async Task<string> NoRoom(string name, long size) => await Visitor.ReasonOf(await Announce(host, opened, name, size));
        (await NoRoom("empty.pdf", 0)).ShouldBe("fileEmpty");
        (await NoRoom("../../escape.pdf", 10)).ShouldBe("fileNameNotUnderstood");
        (await NoRoom("..", 10)).ShouldBe("fileNameNotUnderstood");
        (await NoRoom("large.pdf", 100_000_001)).ShouldBe("tooLarge");
        // By its first bytes, whatever it is called.
        var number = await Bring(host, opened, "really a picture.pdf", Png(40, 20));
        await Made(bench, number);
        bench.Sitting!.Shelf!.Exhibits.Single(one => one.Number == number).Kind.ShouldBe(ExhibitKind.Picture);

        (await Visitor.ReasonOf(await Announce(nia, opened, "mine.pdf", 10))).ShouldBe("exhibitsNotAllowed");
        using var stranger = court.Visitor();
        (await Visitor.ReasonOf(await Announce(stranger, opened, "mine.pdf", 10))).ShouldBe("notInside");
        // What somebody else has sent is nobody else's to show, to read on, or to write on.
        var file = await Send(host, opened, "mine.pdf", Pdf("Mine"));
        await bench.Done(new LetShowOnce([seat.Me!.Seat], true));
        (await nia.Refused(HttpMethod.Post, $"/api/sittings/{opened.Sitting}/exhibits", new BringWish(file, null))).ShouldBe("noSuchFile");
        (await nia.SendFile(HttpMethod.Head, $"{Files(opened)}/{file}", null)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Piece(nia, $"{Files(opened)}/{file}", [1], 0)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await nia.SendFile(HttpMethod.Delete, $"{Files(opened)}/{file}", null)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await nia.Refused(HttpMethod.Post, $"/api/sittings/{opened.Sitting}/exhibits", new BringWish(null, 1))).ShouldBe("noSuchPaper");
    }

    private static byte[] Zip(params (string Name, int Size)[] entries)
    {
        using var to = new MemoryStream();
        using (var archive = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var (name, size) in entries)
            {
                using var entry = archive.CreateEntry(name, CompressionLevel.Fastest).Open();
                var zeros = new byte[1_000_000];
                for (var left = size; left > 0; left -= zeros.Length) entry.Write(zeros, 0, Math.Min(left, zeros.Length));
            }
        return to.ToArray();
    }

    [Fact]
    public async Task A_file_comes_in_pieces_from_where_the_last_one_ended()
    {
        var (opened, host, bench, _, seat) = await Open("Pieces");
        await using var __ = bench;
        await using var ___ = seat;
        var pdf = Pdf("In pieces");
        var address = (await Announce(host, opened, "pieces.pdf", pdf.Length)).Headers.Location!.ToString();
        async Task<string> Came() => (await host.SendFile(HttpMethod.Head, address, null)).Headers.GetValues("Upload-Offset").Single();
        (await Piece(host, address, pdf[..400], 0)).Headers.GetValues("Upload-Offset").Single().ShouldBe("400");
        (await Piece(host, address, pdf[..400], 0)).StatusCode.ShouldBe(HttpStatusCode.Conflict, "that has come");
        (await Piece(host, address, pdf[500..], 500)).StatusCode.ShouldBe(HttpStatusCode.Conflict, "something is missing before it");
        (await Came()).ShouldBe("400");
        var id = Guid.Parse(address[(address.LastIndexOf('/') + 1)..]);
        (await host.Refused(HttpMethod.Post, $"/api/sittings/{opened.Sitting}/exhibits", new BringWish(id, null))).ShouldBe("noSuchFile");
        // More than was announced is not taken.
        (await Piece(host, address, [.. pdf[400..], .. new byte[500]], 400)).Headers.GetValues("Upload-Offset").Single()
            .ShouldBe($"{pdf.Length}");
        var number = (await host.Post<BroughtRow>($"/api/sittings/{opened.Sitting}/exhibits", new BringWish(id, null))).Exhibit;
        await Made(bench, number);
        PagesOf(bench, number).Count.ShouldBe(1);
        // After a restart the pages are there, and what was being made is made.
        await court.Restart();
        await using var again = await host.Connects(opened);
        await Made(again, number);
        PagesOf(again, number).Count.ShouldBe(1);
    }

    [Fact]
    public async Task A_text_becomes_pages_where_an_office_program_is_installed_and_says_so_where_not()
    {
        var (opened, host, bench, _, seat) = await Open("Texts");
        await using var __ = bench;
        await using var ___ = seat;
        var number = await Bring(host, opened, "notes.txt", Encoding.UTF8.GetBytes("The gauge at the weir, Żółw.\nRead at dawn."));
        await Made(bench, number);
        if (!PageMaker.Converts)
        {
            PagesOf(bench, number).Flaw.ShouldBe(PageFlaw.NoConverter);
            return;
        }
        (PagesOf(bench, number).Count, PagesOf(bench, number).Flaw).ShouldBe((1, null));
        Encoding.UTF8.GetString(Open(await (await host.Get(PageAt(opened, number, 1, 0))).Content.ReadAsByteArrayAsync(),
            PagesOf(bench, number).Opens)).ShouldContain("weir");
    }

    [Fact]
    public async Task A_paper_of_this_session_becomes_an_exhibit_and_one_of_another_does_not()
    {
        using var host = await court.Host();
        var plan = await host.Post<KeptPlan>("/api/plans", Planned("With papers"));
        var other = await host.Post<KeptPlan>("/api/plans", Planned("Other papers"));
        async Task<long> Add(KeptPlan to) =>
            (await host.Post<List<PaperRow>>($"/api/plans/{to.Id}/papers/agenda.pdf", Pdf("Agenda", "Second"))).Single().Id;
        var (mine, others) = (await Add(plan), await Add(other));
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{plan.Id}/open");
        await using var bench = await host.Announces(opened, "Odalys");
        (await host.Refused(HttpMethod.Post, $"/api/sittings/{opened.Sitting}/exhibits", new BringWish(null, others)))
            .ShouldBe("noSuchPaper");
        var number = (await host.Post<BroughtRow>($"/api/sittings/{opened.Sitting}/exhibits", new BringWish(null, mine))).Exhibit;
        await Made(bench, number);
        var row = bench.Sitting!.Shelf!.Exhibits.Single(one => one.Number == number);
        (row.Title, row.Pages!.Count).ShouldBe(("agenda", 2));
        // An item of the run sheet brings and shows one by its name.
        await bench.Done(new CloseExhibit(number));
        await bench.Done(new SetRunSheet([new Item(1, "Agenda", Shows: "agenda")]));
        await bench.Done(new NextItem());
        await Eventually.Succeeds(() =>
        {
            bench.Sitting!.Shelf!.Exhibits.ShouldHaveSingleItem().Shown.ShouldBeTrue();
            return Task.CompletedTask;
        });
    }

    [Fact]
    public async Task The_program_that_reads_pages_sees_nothing_of_the_machine_and_is_stopped_in_its_time()
    {
        var file = Path.Combine(court.Folder, "in.txt");
        await File.WriteAllTextAsync(file, "the file alone");
        async Task<Ran> Run(params string[] command) => await Sandbox.Run(file, TimeSpan.FromSeconds(2), CancellationToken.None, command);
        (await Sandbox.Works).ShouldBeTrue();
        Encoding.UTF8.GetString((await Run("cat", "/in")).Output).ShouldBe("the file alone");
        foreach (var secret in new[] { "/etc/passwd", "/root", court.Folder, "/proc/1/environ", "/var" })
        {
            var seen = await Run("ls", "-la", secret);
            (seen.Exit != 0 || !Encoding.UTF8.GetString(seen.Output).Contains("hold-court", StringComparison.Ordinal))
                .ShouldBeTrue(secret);
        }
        (await Run("cat", "/etc/passwd")).Exit.ShouldNotBe(0);
        (await Run("bash", "-c", "echo x > /in")).Exit.ShouldNotBe(0);
        (await Run("bash", "-c", "exec 3<>/dev/tcp/127.0.0.1/" + court.Address.Port)).Exit.ShouldNotBe(0, "there is no network");
        (await Run("env")).Output.Length.ShouldBeLessThan(200);
        (await Run("sleep", "60")).TooLong.ShouldBeTrue();
        (await Run("bash", "-c", "while :; do :; done")).TooLong.ShouldBeTrue();
        (await Run("yes")).TooLong.ShouldBeTrue();
        (await Run("bash", "-c", "x=$(head -c 3000000000 /dev/zero | tr '\\0' a)")).Exit.ShouldNotBe(0, "there is an end of memory");
    }

    /// <summary>The thread that asks for a film goes when it has nothing to do for a while, and once took the film with it.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task What_runs_for_long_in_a_sandbox_outlives_the_thread_that_asked_for_it(bool lasts)
    {
        var start = new ProcessStartInfo("/usr/bin/bwrap",
            ["--die-with-parent", "--unshare-all", "--ro-bind", "/usr", "/usr", "--symlink", "usr/lib", "/lib",
                "--symlink", "usr/lib64", "/lib64", "/usr/bin/sleep", "60"]);
        var over = new TaskCompletionSource();
        Task<Process>? started = null;
        var asks = new Thread(() =>
        {
            started = lasts ? Sandbox.Start(start, over.Task) : Task.FromResult(Process.Start(start)!);
            started.Wait();
            // It makes itself one that ends with its parent a moment after it began.
            Thread.Sleep(1_000);
        });
        asks.Start();
        asks.Join();
        using var process = await started!;
        if (lasts)
        {
            await Task.Delay(1_000);
            process.HasExited.ShouldBeFalse();
            process.Kill(entireProcessTree: true);
        }
        // Otherwise it ends with that thread: what is tested here is there.
        await process.WaitForExitAsync().WaitAsync(TimeSpan.FromSeconds(20));
        over.SetResult();
    }
}
