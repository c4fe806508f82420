using System.Net;
using System.Text;
using HoldCourt.Server.Api;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Handouts;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using SkiaSharp;
using static HoldCourt.Server.Tests.FilesSent;

namespace HoldCourt.Server.Tests;

/// <summary>Files that are handed out: who gets them, whole and in pieces, and who must never.</summary>
public class HandoutTests(Court court) : IClassFixture<Court>
{
    private sealed record Room(OpenedSitting Opened, Visitor Host, Live Bench, Visitor Nia, Live Seat) : IAsyncDisposable
    {
        public string Handouts => $"/api/sittings/{Opened.Sitting}/handouts";

        public async Task<HttpResponseMessage> HandOut(Visitor who, string name, byte[] bytes, SeatId? to = null, bool prints = false) =>
            await who.Send(HttpMethod.Post, Handouts, new HandoutWish(await Send(who, Opened, name, bytes, "handout"), to, prints));

        public async ValueTask DisposeAsync()
        {
            await Bench.DisposeAsync();
            await Seat.DisposeAsync();
        }
    }

    private async Task<Room> Open(string title)
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        var nia = court.Visitor();
        return new Room(opened, host, bench, nia, await nia.Announces(opened, "Nia"));
    }

    private static async Task<HttpStatusCode> Status(Task<HttpResponseMessage> answer) => (await answer).StatusCode;

    [Fact]
    public async Task A_file_is_fetched_by_those_who_took_it_and_goes_on_from_where_it_broke()
    {
        await using var room = await Open("Handing out");
        var bytes = new byte[300_000];
        new Random(7).NextBytes(bytes);
        "%PDF-1.7"u8.CopyTo(bytes);
        (await Status(room.HandOut(room.Host, "Reach map.pdf", bytes))).ShouldBe(HttpStatusCode.NoContent);
        await Eventually.Holds(() => room.Seat.Me!.Handouts.Length == 1);
        var offered = room.Seat.Me!.Handouts[0];
        (offered.Name, offered.Size, offered.State, offered.ByName).ShouldBe(("Reach map.pdf", 300_000, HandoutState.Offered, "Odalys"));
        var address = $"{room.Handouts}/{offered.Number}/file";
        (await Status(room.Nia.Get(address))).ShouldBe(HttpStatusCode.NotFound, "not taken yet");
        await room.Seat.Done(new TakeFile(offered.Number));
        await Eventually.Holds(() => room.Bench.Me!.Handouts is [{ Count: 1 }]);

        var whole = await room.Nia.Get(address);
        (await whole.Content.ReadAsByteArrayAsync()).ShouldBe(bytes);
        whole.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
        whole.Headers.GetValues("Content-Security-Policy").ShouldHaveSingleItem().ShouldContain("sandbox");
        whole.Headers.GetValues("X-Content-Type-Options").ShouldHaveSingleItem().ShouldBe("nosniff");
        var piece = await room.Nia.SendFile(HttpMethod.Get, address, null, ("Range", "bytes=123456-"));
        piece.StatusCode.ShouldBe(HttpStatusCode.PartialContent);
        (await piece.Content.ReadAsByteArrayAsync()).ShouldBe(bytes[123_456..]);

        // Nobody else: whoever waits, knows the address, was removed, or has an old cookie.
        using var stranger = court.Visitor();
        (await Status(stranger.Get(address))).ShouldBe(HttpStatusCode.NotFound);
        await room.Bench.Done(new SetDoor(DoorMode.Attended));
        using var comer = court.Visitor();
        await using var waits = await comer.Announces(room.Opened, "Jun");
        (await Status(comer.Get(address))).ShouldBe(HttpStatusCode.NotFound);
        (await waits.Do(new TakeFile(offered.Number)))!.Reason.ShouldBe(Reason.NotInside);
        waits.Me!.Handouts.ShouldBeEmpty();
        await room.Bench.Done(new SendToLobby([room.Seat.Me!.Seat]));
        (await Status(room.Nia.Get(address))).ShouldBe(HttpStatusCode.NotFound);
        await room.Bench.Done(new Admit([room.Seat.Me!.Seat]));
        (await Status(room.Nia.Get(address))).ShouldBe(HttpStatusCode.OK);
        await room.Bench.Done(new EndHandout(offered.Number));
        (await Status(room.Nia.Get(address))).ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_goes_to_one_person_reaches_nobody_else_and_what_is_not_ones_own_cannot_be_handed_out()
    {
        await using var room = await Open("Between two");
        using var other = court.Visitor();
        await using var ilse = await other.Announces(room.Opened, "Ilse");
        (await Status(room.HandOut(room.Host, "salary.pdf", Pdf("Salary"), room.Seat.Me!.Seat))).ShouldBe(HttpStatusCode.NoContent);
        await Eventually.Holds(() => room.Seat.Me!.Handouts is [{ ToAll: false }]);
        await room.Seat.Done(new TakeFile(1));
        (await Status(room.Nia.Get($"{room.Handouts}/1/file"))).ShouldBe(HttpStatusCode.OK);
        (await ilse.Do(new TakeFile(1)))!.Reason.ShouldBe(Reason.NoSuchHandout);
        (await Status(other.Get($"{room.Handouts}/1/file"))).ShouldBe(HttpStatusCode.NotFound);
        ilse.Me!.Handouts.ShouldBeEmpty();
        var ledger = await room.Host.Get($"/api/sittings/{room.Opened.Sitting}/ledger.csv");
        (await ledger.Content.ReadAsStringAsync()).ShouldNotContain("salary");

        // A file of another, one that has not come whole, and one's own without leave.
        var hosts = await Send(room.Host, room.Opened, "plan.pdf", Pdf("Plan"), "handout");
        Task<HttpStatusCode> Hands(Guid file) => Status(room.Nia.Send(HttpMethod.Post, room.Handouts, new HandoutWish(file, null, false)));
        (await Hands(hosts)).ShouldBe(HttpStatusCode.NotFound);
        (await Status(Announce(room.Nia, room.Opened, "mine.pdf", 5_000, "handout"))).ShouldBe(HttpStatusCode.Conflict);
        await room.Bench.Done(new SetOrder(Order.HandOut, Audience.Everyone));
        var half = await Announce(room.Nia, room.Opened, "mine.pdf", 5_000, "handout");
        half.StatusCode.ShouldBe(HttpStatusCode.Created, "who may only hand out may send for that");
        (await Status(Announce(room.Nia, room.Opened, "mine.pdf", 5_000))).ShouldBe(HttpStatusCode.Conflict, "and not to show");
        var id = Guid.Parse(half.Headers.Location!.ToString().Split('/')[^1]);
        (await Hands(id)).ShouldBe(HttpStatusCode.NotFound);
        var mine = await Send(room.Nia, room.Opened, "mine.pdf", Pdf("Mine"), "handout");
        (await Status(room.Nia.Send(HttpMethod.Post, $"/api/sittings/{room.Opened.Sitting}/exhibits", new BringWish(mine, null))))
            .ShouldBe(HttpStatusCode.Conflict, "nor is it shown by the other way");
        await room.Bench.Done(new SetOrder(Order.HandOut, Audience.Bench));
        (await Hands(mine)).ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task Too_large_harmful_and_forbidden_kinds_end_in_a_sentence()
    {
        await using var room = await Open("Bounds");
        await room.Bench.Done(new SetHandoutRules(new HandoutRules(1, Documents: true, Pictures: false, Others: false)));
        var large = await Announce(room.Host, room.Opened, "large.pdf", 1_000_001, "handout");
        large.StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge, "before the first byte");
        (await large.Content.ReadAsStringAsync()).ShouldContain("1000000");
        // By the first bytes, whatever the name says.
        (await Visitor.ReasonOf(await room.HandOut(room.Host, "map.pdf", [0x7F, 0x45, 0x4C, 0x46, 1, 2, 3])))
            .ShouldBe("handoutKindNotAllowed");
        using var small = new SKBitmap(4, 4);
        (await Visitor.ReasonOf(await room.HandOut(room.Host, "map.pdf", small.Encode(SKEncodedImageFormat.Png, 100).ToArray())))
            .ShouldBe("handoutKindNotAllowed");
        // Its words lie across the border of two reads.
        byte[] harmful = [.. Enumerable.Repeat((byte)'x', (128 * 1024) - 5), .. FileScan.Harmful, .. "rest"u8];
        var announced = await Announce(room.Host, room.Opened, "sample.txt", harmful.Length, "handout");
        var address = announced.Headers.Location!.ToString();
        var refused = await Piece(room.Host, address, harmful, 0);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Visitor.ReasonOf(refused)).ShouldBe("fileHarmful");
        (await Status(room.Host.SendFile(HttpMethod.Head, address, null))).ShouldBe(HttpStatusCode.NotFound, "nothing of it is left");
        (await Status(room.HandOut(room.Host, "notes.txt", "Harmless words."u8.ToArray()))).ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task A_file_never_takes_the_last_of_the_disk_and_goes_on_when_there_is_room()
    {
        await using var room = await Open("A small disk");
        var bounds = court.Services.GetRequiredService<IOptions<FileBounds>>().Value;
        var bytes = "%PDF-1.7"u8.ToArray().Concat(new byte[3_000_000]).ToArray();
        var usual = bounds.KeptFree;
        try
        {
            var address = (await Announce(room.Host, room.Opened, "Reach map.pdf", bytes.Length, "handout")).Headers.Location!.ToString();
            (await Piece(room.Host, address, bytes[..1_000_000], 0)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
            bounds.KeptFree = long.MaxValue / 2;
            foreach (var answer in new[]
                { await Piece(room.Host, address, bytes[1_000_000..], 1_000_000), await Announce(room.Host, room.Opened, "b.pdf", 10) })
            {
                answer.StatusCode.ShouldBe(HttpStatusCode.InsufficientStorage);
                (await answer.Content.ReadAsStringAsync()).ShouldContain("diskFull");
            }
            // The room goes on, and what had come is still there.
            await room.Bench.Done(new SetOrder(Order.Speak, Audience.Presenters));
            bounds.KeptFree = usual;
            (await Piece(room.Host, address, bytes[1_000_000..], 1_000_000)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
            (await Status(room.Host.Send(HttpMethod.Post, room.Handouts, new HandoutWish(
                Guid.Parse(address[(address.LastIndexOf('/') + 1)..]), null, false)))).ShouldBe(HttpStatusCode.NoContent);
        }
        finally { bounds.KeptFree = usual; }
    }

    [Fact]
    public async Task What_is_kept_stands_among_the_papers_with_its_marks_before_it_is_told()
    {
        await using var room = await Open("Keeping");
        (await Status(room.HandOut(room.Host, "notes.txt", "Words to keep."u8.ToArray()))).ShouldBe(HttpStatusCode.NoContent);
        await Eventually.Holds(() => room.Seat.Me!.Handouts.Length == 1);
        (await room.Seat.Do(new KeepHandout(1))).ShouldNotBeNull("keeping is the bench's");
        // Two presses at once keep it once.
        await Task.WhenAll(room.Bench.Do(new KeepHandout(1)), room.Bench.Do(new KeepHandout(1)));
        await room.Bench.Done(new OpenSheet("Sketch"));
        await room.Bench.Done(new KeepExhibit(1));
        (await room.Bench.Do(new KeepExhibit(9)))!.Reason.ShouldBe(Reason.NoSuchExhibit);
        var papers = await room.Nia.Get<PaperRow[]>($"/api/door/{room.Opened.Link}/papers");
        papers.Select(paper => paper.Name).ShouldBe(["A Sketch.pdf", "notes.txt"]);
        var sketch = await (await room.Nia.Get($"/api/door/{room.Opened.Link}/papers/{papers[0].Id}")).Content.ReadAsByteArrayAsync();
        Encoding.ASCII.GetString(sketch, 0, 5).ShouldBe("%PDF-");
        await room.Bench.Done(new KeepHandout(1));
        (await room.Nia.Get<PaperRow[]>($"/api/door/{room.Opened.Link}/papers")).Length.ShouldBe(2, "kept once");
        await Eventually.Holds(() => room.Seat.Me!.Handouts is [{ Kept: true }]);
    }

    [Fact]
    public async Task What_is_for_printing_comes_as_pages_to_those_who_took_it()
    {
        await using var room = await Open("Printing");
        (await Status(room.HandOut(room.Host, "form.pdf", Pdf("One", "Two"), prints: true))).ShouldBe(HttpStatusCode.NoContent);
        (await Status(room.HandOut(room.Host, "other.pdf", Pdf("Three")))).ShouldBe(HttpStatusCode.NoContent);
        await Eventually.Holds(() => room.Seat.Me!.Handouts.Length == 2);
        (await Status(room.Nia.Get($"{room.Handouts}/1/print"))).ShouldBe(HttpStatusCode.NotFound);
        foreach (var number in new[] { 1, 2 }) await room.Seat.Done(new TakeFile(number));
        (await room.Nia.Get<PrintRow>($"{room.Handouts}/1/print")).Pages.ShouldBe(2);
        using var page = SKBitmap.Decode(await (await room.Nia.Get($"{room.Handouts}/1/print/2")).Content.ReadAsByteArrayAsync());
        (page.Width, page.Height).ShouldBe((1600, 900));
        Enumerable.Range(0, 1600 * 900).Count(at => page.GetPixel(at % 1600, at / 1600).Red < 128).ShouldBeGreaterThan(300);
        (await Status(room.Nia.Get($"{room.Handouts}/1/print/0"))).ShouldBe(HttpStatusCode.NotFound);
        (await Status(room.Nia.Get($"{room.Handouts}/1/print/3"))).ShouldBe(HttpStatusCode.InternalServerError);
        (await Status(room.Nia.Get($"{room.Handouts}/2/print"))).ShouldBe(HttpStatusCode.NotFound, "not meant for it");
    }
}
