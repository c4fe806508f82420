using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Bench;

/// <summary>From the host's click to the change applied at all of 200 participants, against a bare group send of the same bytes.</summary>
internal static class FanOutBench
{
    private const int People = 200, Rounds = 300, WarmUp = 50;

    public static async Task Run()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        using var server = Started.Server(folder);
        using var bare = Started.Bare();
        var (commitMedian, commitTail) = await Commits(folder);

        var (host, everybody) = await Join(server.Address);
        var (caller, listeners, payload) = await JoinBare(bare.Address);
        var (ours, plain) = (new List<double>(), new List<double>());
        for (var n = 0; n < Rounds; n++)
        {
            var open = n % 2 == 0;
            var one = await Time(everybody, () =>
                host.InvokeAsync<Refusal?>("Do",
                JsonSerializer.SerializeToElement<SeatCommand>(open
                ? new OpenMicrophone()
                : new CloseMicrophone(), CoreJson.Options), null));
            var two = await Time(listeners, () => caller.InvokeAsync("Say", payload));
            // A hand does not click faster than the server takes wishes.
            await Task.Delay(60);
            if (n < WarmUp) continue;
            ours.Add(one);
            plain.Add(two);
        }
        var (p99, bareP99) = (ours.Percentile(0.99), plain.Percentile(0.99));
        Numbers.Head($"One change at {People} participants over real sockets");
        Numbers.Row("median, p99", $"{ours.Percentile(0.5):F1} ms, {p99:F1} ms");
        Numbers.Row("bare group send of the same bytes: median, p99", $"{plain.Percentile(0.5):F1} ms, {bareP99:F1} ms");
        Numbers.Row("one disk commit: median, p99", $"{commitMedian:F1} ms, {commitTail:F1} ms");
        Numbers.Row("p99, less the median commit, over the bare p99", $"{(p99 - commitMedian) / bareP99:F2} (target: at most 1.5)");
        Numbers.Row($"resident memory of the server with {People} participants", $"{server.ResidentMegabytes:F0} MB (target: under 400)");
    }

    private static async Task<double> Time(Inbox inbox, Func<Task> click)
    {
        inbox.Expect(People + 1);
        var start = Stopwatch.GetTimestamp();
        var answered = click();
        await inbox.All;
        var elapsed = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        await answered;
        return elapsed;
    }

    private static async Task<(HubConnection Host, Inbox Inbox)> Join(Uri address)
    {
        var host = new CourtAddress(address);
        await host.SignIn();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Fan-out"));
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));
        var inbox = new Inbox();
        var hub = await Connect(host);
        await hub.InvokeAsync<Refusal?>("Do",
            JsonSerializer.SerializeToElement<SeatCommand>(new SetDoor(DoorMode.Open), CoreJson.Options), null);
        for (var n = 0; n < People; n++)
        {
            var guest = new CourtAddress(address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish($"Person {n}"));
            await Connect(guest);
        }
        await Task.Delay(1_000);
        return (hub, inbox);

        async Task<HubConnection> Connect(CourtAddress who)
        {
            var connection = new HubConnectionBuilder()
                .WithUrl(new Uri(address, $"/live?sitting={opened.Sitting}"), options => options.Cookies = who.Cookies)
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<Joined>("Joined", _ => { });
            connection.On<MeRow>("Me", _ => { });
            connection.On<ViewChange>("Change", change => inbox.Take());
            await connection.StartAsync();
            return connection;
        }
    }

    private static async Task<(HubConnection Caller, Inbox Inbox, ViewChange Payload)> JoinBare(Uri address)
    {
        var sitting = CoreBench.Seated(2);
        var payload = new Transition(sitting,
            SittingRules.Record(sitting, [new MicrophonesOpened([new SeatId(1)], [])], Actor.Of(new SeatId(1)),
                new Instant(1)).After, []).From(Viewer.Attendee);
        var inbox = new Inbox();
        var connections = new List<HubConnection>();
        for (var n = 0; n <= People; n++)
        {
            var connection = new HubConnectionBuilder().WithUrl(new Uri(address, "/bare"))
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<ViewChange>("Change", _ => inbox.Take());
            await connection.StartAsync();
            connections.Add(connection);
        }
        return (connections[0], inbox, payload);
    }

    /// <summary>The store's own path, alone: one entry, one transaction on disk.</summary>
    private static async Task<(double Median, double Tail)> Commits(string folder)
    {
        var services = new ServiceCollection().AddStore(Path.Combine(folder, "hold-court.db")).BuildServiceProvider();
        var sitting = Guid.NewGuid();
        await using (var db = await services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync())
        {
            var session = await db.Sessions.FirstAsync();
            db.Add(new SittingRecord { Id = sitting, SessionId = session.Id, OpenedAt = 1, AdjournedAt = 2 });
            await db.SaveChangesAsync();
        }
        await using var writer = services.GetRequiredService<EntryWriter>();
        var (digest, times) = (Chain.Start, new List<double>());
        for (var n = 1; n <= 400; n++)
        {
            var left = new Entry(n, new Instant(n), Actor.House, new Left(new SeatId(1)));
            var kept = Chain.Link(digest, left, Marks.Of(left, Sitting.Empty));
            digest = kept.Digest;
            var start = Stopwatch.GetTimestamp();
            await writer.Append(sitting, [kept]);
            if (n > 100) times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }
        return (times.Percentile(0.5), times.Percentile(0.99));
    }
}
