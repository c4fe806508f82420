using System.Collections.Concurrent;
using System.Diagnostics;
using System.Security.Cryptography;
using Microsoft.AspNetCore.SignalR.Client;

namespace HoldCourt.Bench;

/// <summary>1,000 people vote within five seconds: until each vote is confirmed, and what the host's clicks take meanwhile.</summary>
internal static class VoteBench
{
    private const int People = 1_000, SpreadMs = 5_000;

    /// <summary>What the host's clicks open and close.</summary>
    private static bool _closed;

    public static async Task Run()
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        var crowd = await Crowd.Gather(server.Address, "Vote", People, connection => connection.On<ViewChange>("Change", _ => { }));
        Numbers.Head($"{People:N0} people vote within {SpreadMs / 1_000} s");
        await Vote(crowd.Bench, crowd.People, poll: 1, secret: false);
        await Vote(crowd.Bench, crowd.People, poll: 2, secret: true);
    }

    private static async Task Vote(HubConnection bench, List<HubConnection> voters, int poll, bool secret)
    {
        await Crowd.Say(bench, new OpenPoll(PollForm.Of(PollKind.YesOrNo, "Shall we mend the weir?") with { Secret = secret }));
        await Task.Delay(2_000);
        var (confirmed, clicks) = (new ConcurrentBag<double>(), new List<double>());
        var random = new Random(20_261_128);
        var due = voters.ConvertAll(_ => random.Next(SpreadMs));
        using var over = new CancellationTokenSource();
        var clicking = Task.Run(async () =>
        {
            for (; !over.IsCancellationRequested; _closed = !_closed)
            {
                clicks.Add(await Timed(() => Crowd.Say(bench, new SetOrder(Order.Rename, _closed ? Audience.Everyone : Audience.Bench))));
                await Task.Delay(100);
            }
        });
        await Task.WhenAll(voters.Select(async (voter, n) =>
        {
            await Task.Delay(due[n]);
            var token = secret ? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)) : null;
            confirmed.Add(await Timed(() => Crowd.Say(voter, new Vote(poll, Choice.Of(n % 2), token))));
        }));
        await over.CancelAsync();
        await clicking;
        await Crowd.Say(bench, new ClosePoll());
        var kind = secret ? "secret" : "named";
        Numbers.Row($"{kind}: confirmed, of all", $"{confirmed.Count} of {voters.Count}");
        Numbers.Row($"{kind}: until a vote is confirmed: median, p99",
            $"{confirmed.Percentile(0.5):F0} ms, {confirmed.Percentile(0.99):F0} ms (target: p99 under 1,000)");
        Numbers.Row($"{kind}: a click of the host meanwhile, which changes a page of everybody: median, p95",
            $"{clicks.Percentile(0.5):F0} ms, {clicks.Percentile(0.95):F0} ms (target: median under 100)");
    }

    private static async Task<double> Timed(Func<Task> act)
    {
        var start = Stopwatch.GetTimestamp();
        await act();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }
}
