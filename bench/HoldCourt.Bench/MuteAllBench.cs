using System.Diagnostics;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR.Client;

namespace HoldCourt.Bench;

/// <summary>Everybody is muted, and given back: from the host's call until all
/// of 1,000 have it, against a bare group send of the same bytes.</summary>
internal static class MuteAllBench
{
    private const int People = 1_000, Rounds = 16, WarmUp = 3;

    public static async Task Run()
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        using var bare = Started.Bare();
        var (inbox, payload) = (new Inbox(), (ViewChange?)null);
        var crowd = await Crowd.Gather(server.Address, "Mute everyone", People, connection => connection.On<ViewChange>("Change", change =>
        {
            if ((change.Altered?.Sum(rows => rows.Seats.Length) ?? 0) < People / 2) return;
            payload = change;
            inbox.Take();
        }), new OpenMicrophone());
        var bench = crowd.Bench;

        var listeners = new List<HubConnection>();
        for (var n = 0; n < People; n++)
        {
            var connection = Crowd.Build(new Uri(bare.Address, "/bare"), null);
            connection.On<ViewChange>("Change", _ => inbox.Take());
            await connection.StartAsync();
            listeners.Add(connection);
        }
        var (ours, plain) = (new List<double>(), new List<double>());
        for (var n = 0; n < Rounds; n++)
        {
            var one = await Time(inbox, () => Crowd.Say(bench, n % 2 == 0 ? new MuteAll(true) : new TakeBack()));
            var two = await Time(inbox, () => listeners[0].InvokeAsync("Say", payload));
            await Task.Delay(200);
            Console.Error.WriteLine($"round {n + 1} of {Rounds}: {one:F0} ms, bare {two:F0} ms");
            if (n < WarmUp) continue;
            ours.Add(one);
            plain.Add(two);
        }
        Numbers.Head($"A mute of everyone, and its taking back, at {People:N0} participants over real sockets");
        Numbers.Row("bytes for each participant", $"{JsonSerializer.SerializeToUtf8Bytes(payload, CoreJson.Options).Length / 1024} kB");
        Numbers.Row("median, p99", $"{ours.Percentile(0.5):F0} ms, {ours.Percentile(0.99):F0} ms");
        Numbers.Row("bare group send of the same bytes: median, p99", $"{plain.Percentile(0.5):F0} ms, {plain.Percentile(0.99):F0} ms");
        Numbers.Row("p99 over the bare p99", $"{ours.Percentile(0.99) / plain.Percentile(0.99):F2} (target: under 1.5)");
    }

    private static async Task<double> Time(Inbox inbox, Func<Task> click)
    {
        inbox.Expect(People);
        var start = Stopwatch.GetTimestamp();
        var answered = click();
        await inbox.All;
        var elapsed = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        await answered;
        return elapsed;
    }
}
