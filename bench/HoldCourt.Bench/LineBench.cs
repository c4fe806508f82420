using System.Diagnostics;

namespace HoldCourt.Bench;

/// <summary>A line of the command line in a sitting of 1,000 seats: read, completed, and told what it would do.</summary>
internal static class LineBench
{
    private static readonly string[] _lines =
    [
        "m", "mute ", "mute per", "mute Person 17, Person 18", "mute all but presenters", "floor to Person 512 for 3 min",
        "microphones by leave", "remove Person 99 for good",
        "write to Person 5: are you here?", "add item Reports of 20 min", "keep attendees from react", "let Person 1 ", "przerwa"
    ];

    public static void Run()
    {
        var sitting = CoreBench.Seated(1_000);
        var host = new SeatId(1);
        var times = _lines.ToDictionary(line => line, _ => new List<double>());
        for (var round = 0; round < 600; round++)
        {
            foreach (var line in _lines)
            {
                // As after each change: the names are looked up anew.
                (_, sitting) = SittingRules.Record(sitting,
                    SittingRules.Decide(sitting, round % 2 == 0
                    ? new Core.People.OpenMicrophone()
                    : new Core.People.CloseMicrophone(), Actor.Of(new SeatId(2)), new Instant(round)).Facts, Actor.Of(new SeatId(2)),
                    new Instant(round));
                var start = Stopwatch.GetTimestamp();
                var reading = Reader.Read(new Scope(sitting, host, new Instant(round), []), line);
                if (reading.Command is { } command) _ = Foresight.Of(sitting, command, Actor.Of(host), new Instant(round));
                if (round >= 200) times[line].Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            }
        }
        Numbers.Head("A command line in a sitting of 1,000 seats: read, completed, and what it would do");
        var all = times.Values.SelectMany(one => one).ToList();
        Numbers.Row("median, p99 of all", $"{all.Percentile(0.5):F2} ms, {all.Percentile(0.99):F2} ms (target: under 2)");
        foreach (var (line, one) in times) Numbers.Row($"\"{line}\"", $"{one.Percentile(0.5):F2} ms, {one.Percentile(0.99):F2} ms");
    }
}
