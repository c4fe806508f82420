using System.Diagnostics;
using System.Text.Json;

namespace HoldCourt.Bench;

/// <summary>One mute in a sitting of 1,000 seats: decide, evolve, and the difference for each kind of viewer.</summary>
internal static class CoreBench
{
    public static void Run()
    {
        var sitting = Seated(1_000);
        var host = Actor.Of(new SeatId(1));
        var times = new List<double>();
        for (var n = 0; n < 30_000; n++)
        {
            var target = new SeatId(2 + (n % 999));
            var now = new Instant(n);
            (_, sitting) = SittingRules.Record(sitting, SittingRules.Decide(sitting, new OpenMicrophone(), Actor.Of(target), now).Facts,
                Actor.Of(target), now);
            var start = Stopwatch.GetTimestamp();
            var decision = SittingRules.Decide(sitting, new Mute([target]), host, now);
            var (entries, after) = SittingRules.Record(sitting, decision.Facts, host, now);
            var transition = new Transition(sitting, after, entries);
            foreach (var viewer in Enum.GetValues<Viewer>()) _ = transition.From(viewer);
            if (n > 5_000) times.Add(Stopwatch.GetElapsedTime(start).TotalMicroseconds);
            sitting = after;
        }
        Numbers.Head("One mute in a sitting of 1,000 seats");
        Numbers.Row("median", $"{times.Percentile(0.5):F1} µs (target: under 50)");
        Numbers.Row("p99", $"{times.Percentile(0.99):F1} µs");
        FirstView(sitting);
    }

    /// <summary>What whoever comes in gets: the whole view, as it is written to the line.</summary>
    private static void FirstView(Sitting sitting)
    {
        var (times, bytes) = (new List<double>(), 0);
        for (var n = 0; n < 120; n++)
        {
            var start = Stopwatch.GetTimestamp();
            bytes = JsonSerializer.SerializeToUtf8Bytes(Projection.Whole(sitting, Viewer.Bench, []), CoreJson.Options).Length;
            if (n > 20) times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }
        Numbers.Row("first view of the bench, built and written: median, p99, size",
            $"{times.Percentile(0.5):F1} ms, {times.Percentile(0.99):F1} ms, {bytes / 1e3:F0} kB (target: under 40 ms)");
    }

    public static Sitting Seated(int seats)
    {
        var sitting = Sitting.Empty;
        void Do(Actor by, Command command) =>
            (_, sitting) = SittingRules.Record(sitting, SittingRules.Decide(sitting, command, by, new Instant(1)).Facts, by,
                new Instant(1));
        Do(Actor.House, new Open("Bench", new PersonKey("account:1"), new Door(DoorMode.Open), StandingOrders.Usual, []));
        for (var n = 1; n <= seats; n++) Do(Actor.House, new Announce(new PersonKey($"account:{n}"), $"Person {n}"));
        return sitting;
    }
}
