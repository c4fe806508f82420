using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Sittings;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;

namespace HoldCourt.Bench;

/// <summary>
/// Pages turned, exhibits shown and marks finished at all of 200 participants, against a bare group send; strokes of five who draw at once;
/// a document of 100 pages.
/// </summary>
internal static class ExhibitBench
{
    private const int People = 200, Rounds = 200, WarmUp = 30, Drawers = 5, Seconds = 15, PagesOfDocument = 100;

    private static readonly string _line = MarkLine.Write(Enumerable.Range(0, 60).Select(n => (2_000 + n * 90, 3_000 + n * n % 700)));

    public static async Task Run()
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        using var bare = Started.Bare();
        var (host, opened, everybody) = await Join(server.Address);
        await Say(host.Hub, new OpenSheet("One"));
        await Say(host.Hub, new OpenSheet("Two"));
        await Say(host.Hub, new ShowExhibit(1));
        for (var n = 0; n < 9; n++) await Say(host.Hub, new AddPage(1));
        await Say(host.Hub, new SetOrder(Order.Mark, Audience.Everyone));
        await Task.Delay(1_000);
        var plainInbox = new Inbox();
        var caller = await JoinBare(bare.Address, plainInbox);
        var sizes = new ViewChange?[] { everybody.Last };

        Numbers.Head($"Exhibits at {People} participants over real sockets");
        await Compare("page turned", n => Say(host.Hub, new TurnPage(1 + n % 10, 1)));
        await Compare("other exhibit shown", n => Say(host.Hub, new ShowExhibit(1 + n % 2)));
        await Compare("mark finished (60 points)", async n =>
        {
            if (await Mark(host.Hub, 1) is { } refusal) throw new InvalidOperationException(refusal.ToString());
        });
        await Strokes(server, everybody);
        await Document(host, opened);

        async Task Compare(string what, Func<int, Task> act)
        {
            var (ours, plain) = (new List<double>(), new List<double>());
            for (var n = 0; n < Rounds; n++)
            {
                everybody.Inbox.Expect(People + 1);
                var start = Stopwatch.GetTimestamp();
                var done = act(n + 1);
                await everybody.Inbox.All;
                var one = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
                await done;
                plainInbox.Expect(People + 1);
                start = Stopwatch.GetTimestamp();
                var said = caller.InvokeAsync("Say", sizes[0] = everybody.Last ?? sizes[0]);
                await plainInbox.All;
                var two = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
                await said;
                await Task.Delay(60);
                if (n < WarmUp) continue;
                ours.Add(one);
                plain.Add(two);
            }
            Numbers.Row($"{what}: median, p99", $"{ours.Percentile(0.5):F1} ms, {ours.Percentile(0.99):F1} ms");
            Numbers.Row("bare group send: median, p99", $"{plain.Percentile(0.5):F1} ms, {plain.Percentile(0.99):F1} ms");
            Numbers.Row("p99 over the bare p99, the commit counted in",
                $"{ours.Percentile(0.99) / plain.Percentile(0.99):F2} (target: at most 1.5, and one commit)");
        }
    }

    private static Task<Refusal?> Mark(HubConnection hub, int exhibit) => hub.InvokeAsync<Refusal?>("Mark", exhibit,
        JsonSerializer.SerializeToElement<MarkWish>(new Draw(1, MarkShape.Pen, MarkColour.Blue, 30, _line), CoreJson.Options));

    private static async Task Strokes(Started server, Everybody everybody)
    {
        var piece = MarkLine.Write([(5_000, 5_000), (5_040, 5_020), (5_090, 5_010)]);
        var before = server.Cpu;
        await Task.Delay(TimeSpan.FromSeconds(5));
        var idle = (server.Cpu - before).TotalSeconds / 5;
        everybody.Strokes = 0;
        before = server.Cpu;
        var clock = Stopwatch.StartNew();
        for (var n = 0; clock.Elapsed.TotalSeconds < Seconds; n++)
        {
            foreach (var drawer in everybody.Hubs.Take(Drawers))
                await drawer.SendAsync("Stroke", new StrokeWish(1, 1, n / 40, MarkShape.Pen, MarkColour.Blue, 30, piece));
            var wait = (n + 1) * 50 - clock.ElapsedMilliseconds;
            if (wait > 0) await Task.Delay((int)wait);
        }
        var busy = (server.Cpu - before).TotalSeconds / clock.Elapsed.TotalSeconds;
        Numbers.Row($"{Drawers} draw at 60 points a second to {People}: of a core, less what it takes idle",
            $"{(busy - idle) * 100:F0} % (target: under 10)");
        Numbers.Row("messages a second to each", $"{everybody.Strokes / clock.Elapsed.TotalSeconds / (People + 1):F0}");
    }

    private static async Task Document((CourtAddress Address, HubConnection Hub) host, OpenedSitting opened)
    {
        var begun = Stopwatch.GetTimestamp();
        var brought = await host.Address.Bring(opened.Sitting, "hundred.pdf", Hundred());
        string Page(int page, int width) => $"/api/sittings/{opened.Sitting}/exhibits/{brought}/pages/{page}/{width}";
        await Until(() => host.Address.Bytes(Page(1, 160)));
        Numbers.Row($"a document of {PagesOfDocument} pages: until its pages are there", $"{Ms(begun):F0} ms");
        for (var page = 1; page <= PagesOfDocument; page++) await Until(() => host.Address.Bytes(Page(page, 160)));
        Numbers.Row("until all have small pictures", $"{Ms(begun) / 1000:F1} s (target: under 20)");
        var first = new List<double>();
        var again = new List<double>();
        for (var page = 50; page < 80; page++)
        {
            var start = Stopwatch.GetTimestamp();
            await host.Address.Bytes(Page(page, 1600));
            first.Add(Ms(start));
            start = Stopwatch.GetTimestamp();
            await host.Address.Bytes(Page(page, 1600));
            again.Add(Ms(start));
        }
        Numbers.Row("a page asked for first: median, p99 (target: under 500 ms)",
            $"{first.Percentile(0.5):F0} ms, {first.Percentile(0.99):F0} ms");
        Numbers.Row("a page made ahead: median, p99 (target: under 100 ms)",
            $"{again.Percentile(0.5):F1} ms, {again.Percentile(0.99):F1} ms");

        static double Ms(long since) => Stopwatch.GetElapsedTime(since).TotalMilliseconds;

        static async Task Until(Func<Task> get)
        {
            while (true)
                try { await get(); return; }
                catch (HttpRequestException) { await Task.Delay(20); }
        }
    }

    /// <summary>A document of 100 pages of text.</summary>
    internal static byte[] Hundred()
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
        {
            using var font = new SKFont(SKTypeface.Default, 24);
            using var paint = new SKPaint { Color = SKColors.Black };
            for (var page = 1; page <= PagesOfDocument; page++)
            {
                var canvas = document.BeginPage(1280, 720);
                for (var line = 0; line < 24; line++)
                    canvas.DrawText($"Page {page}, line {line}: the gauge at the weir was read at dawn and again at noon.",
                        40, 40 + line * 28, font, paint);
                document.EndPage();
            }
        }
        return to.ToArray();
    }

    private sealed record Everybody(Inbox Inbox, List<HubConnection> Hubs)
    {
        public ViewChange? Last { get; set; }
        public int Strokes;
    }

    private static async Task<((CourtAddress Address, HubConnection Hub) Host, OpenedSitting Opened, Everybody All)> Join(Uri address)
    {
        var host = new CourtAddress(address);
        await host.SignIn();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Exhibits"));
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));
        var all = new Everybody(new Inbox(), []);
        var hub = await Connect(host);
        await Say(hub, new SetDoor(DoorMode.Open));
        for (var n = 0; n < People; n++)
        {
            var guest = new CourtAddress(address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish($"Person {n}"));
            all.Hubs.Add(await Connect(guest));
        }
        return ((host, hub), opened, all);

        async Task<HubConnection> Connect(CourtAddress who)
        {
            var connection = new HubConnectionBuilder()
                .WithUrl(new Uri(address, $"/live?sitting={opened.Sitting}"), options => options.Cookies = who.Cookies)
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<Joined>("Joined", _ => { });
            connection.On<MeRow>("Me", _ => { });
            connection.On<ViewChange>("Change", change => { all.Last = change; all.Inbox.Take(); });
            connection.On<MarkActRow>("Mark", _ => all.Inbox.Take());
            connection.On<IReadOnlyList<StrokeRow>>("Strokes", _ => Interlocked.Increment(ref all.Strokes));
            await connection.StartAsync();
            return connection;
        }
    }

    private static async Task<HubConnection> JoinBare(Uri address, Inbox inbox)
    {
        HubConnection? caller = null;
        for (var n = 0; n <= People; n++)
        {
            var connection = new HubConnectionBuilder().WithUrl(new Uri(address, "/bare"))
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<ViewChange>("Change", _ => inbox.Take());
            await connection.StartAsync();
            caller ??= connection;
        }
        return caller!;
    }

    private static async Task Say(HubConnection hub, SeatCommand command)
    {
        if (await hub.InvokeAsync<Refusal?>("Do", JsonSerializer.SerializeToElement(command, CoreJson.Options), null) is { } refusal)
            throw new InvalidOperationException(refusal.ToString());
    }
}
