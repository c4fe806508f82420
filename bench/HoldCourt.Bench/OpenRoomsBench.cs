using System.Collections.Concurrent;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR.Client;

namespace HoldCourt.Bench;

/// <summary>100 rooms open for 1,000 people: from the end of the countdown until each has the view from their room, against a bare group
/// send of the same bytes.</summary>
internal static class OpenRoomsBench
{
    private const int People = 1_000, Rooms = 100, Rounds = 4;

    /// <summary>The house's clock rings so long after the moment, in milliseconds.</summary>
    private const int RingsAfter = 50;

    public static async Task Run()
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        using var bare = Started.Bare();
        var (inbox, came, opensAt, view) = (new Inbox(), new ConcurrentBag<double>(), (Instant?)null, (WholeView?)null);
        double Now() => (DateTime.UtcNow - DateTime.UnixEpoch).TotalMilliseconds;
        var start = 0.0;
        var crowd = await Crowd.Gather(server.Address, "Rooms", People, connection => connection.On<WholeView>("Whole", whole =>
        {
            came.Add(Now() - start);
            view = whole;
            inbox.Take();
        }), ofBench: connection => connection.On<ViewChange>("Change", change =>
        {
            if (change.Set?.Rooms?.OpensAt is not { } at) return;
            opensAt = at;
            start = at.Milliseconds + RingsAfter;
        }));
        var listeners = new List<HubConnection>();
        var plainStart = 0.0;
        var plainCame = new ConcurrentBag<double>();
        for (var n = 0; n < People; n++)
        {
            var connection = Crowd.Build(new Uri(bare.Address, "/bare"), null);
            connection.On<ViewChange>("Change", _ =>
            {
                plainCame.Add(Now() - plainStart);
                inbox.Take();
            });
            await connection.StartAsync();
            listeners.Add(connection);
        }
        await Crowd.Say(crowd.Bench, new PlanRooms(RoomForm.Of([.. Enumerable.Repeat("", Rooms)])));
        var (ours, plain, bytes) = (new List<double>(), new List<double>(), 0);
        for (var round = 0; round <= Rounds; round++)
        {
            came.Clear();
            plainCame.Clear();
            inbox.Expect(People);
            await Crowd.Say(crowd.Bench, new OpenRooms());
            await inbox.All;
            var whole = view!;
            bytes = JsonSerializer.SerializeToUtf8Bytes(whole, CoreJson.Options).Length;
            inbox.Expect(People);
            plainStart = Now();
            await listeners[0].InvokeAsync("Say", new ViewChange(0, whole.V, whole.Sitting, whole.Seats));
            await inbox.All;
            Console.Error.WriteLine($"round {round}: {came.Max():F0} ms, bare {plainCame.Max():F0} ms");
            // The first one compiles.
            if (round > 0)
            {
                ours.AddRange(came);
                plain.AddRange(plainCame);
            }
            inbox.Expect(People);
            await Crowd.Say(crowd.Bench, new CloseRooms(0));
            await inbox.All;
            await Crowd.Say(crowd.Bench, new PlanAnotherRound());
            await Task.Delay(1_000);
        }
        Numbers.Head($"{Rooms} rooms open for {People:N0} people over real sockets");
        Numbers.Row("bytes for each participant", $"{bytes / 1024.0:F1} kB");
        Numbers.Row("from the end of the countdown: median, p99", $"{ours.Percentile(0.5):F0} ms, {ours.Percentile(0.99):F0} ms");
        Numbers.Row("bare group send of the same bytes: median, p99", $"{plain.Percentile(0.5):F0} ms, {plain.Percentile(0.99):F0} ms");
        Numbers.Row("p99 over the bare p99", $"{ours.Percentile(0.99) / plain.Percentile(0.99):F2} (target: at most 1.5)");
        if (opensAt is null) throw new InvalidOperationException("No countdown was seen.");
    }
}
