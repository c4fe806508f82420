using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Bench;

/// <summary>300 people come to the door within five seconds; the host goes on clicking meanwhile.</summary>
internal static class ArrivalBench
{
    private const int People = 300;
    private static readonly TimeSpan _within = TimeSpan.FromSeconds(5);

    public static async Task Run()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        using var server = Started.Server(folder);
        var host = new CourtAddress(server.Address);
        await host.SignIn();
        var names = PlanningBench.Names(People);
        var session = (await host.Get<List<SessionCard>>("/api/sessions"))[0];
        await using (var db = await PlanningBench.Db(folder))
        {
            await db.Sessions.ExecuteUpdateAsync(set => set.SetProperty(s => s.Extras, (string?)null));
            db.AddRange(names.Select((name, n) => new DocketRecord { SessionId = session.Id, Name = name, Token = $"bench-{n:D16}" }));
            await db.SaveChangesAsync();
        }
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{session.Id}/open", new { });
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));

        var (seen, done, start) = (new ConcurrentDictionary<SeatId, (double At, bool Matched)>(), new TaskCompletionSource(),
            Stopwatch.GetTimestamp());
        double Elapsed() => Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        await using var hub = new HubConnectionBuilder()
            .WithUrl(new Uri(server.Address, $"/live?sitting={opened.Sitting}"), options => options.Cookies = host.Cookies)
            .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
        hub.On<ViewChange>("Change", change =>
        {
            foreach (var row in (change.Put ?? []).Where(row => row.Place == Place.Lobby))
                seen[row.Id] = (Elapsed(), row.Note?.Recognition.Match is not null and not Match.Unknown);
            if (seen.Count == People) done.TrySetResult();
        });
        await hub.StartAsync();
        // Their cookies first, so that only the announcing is measured.
        var guests = names.ConvertAll(_ => new CourtAddress(server.Address));
        foreach (var guest in guests) await guest.Warm();
        var clicks = new List<double>();
        using var over = new CancellationTokenSource();
        var clicking = Click(hub, clicks, over.Token);
        await Task.Delay(2_000);
        var quiet = clicks.Count;
        start = Stopwatch.GetTimestamp();
        var random = new Random(11);
        var announcing = guests.Select(async (guest, n) =>
        {
            await Task.Delay(_within * n / People);
            var at = Elapsed();
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish(PlanningBench.Mistyped(names[n], random)));
            return Elapsed() - at;
        }).ToList();
        var answers = await Task.WhenAll(announcing);
        var last = Elapsed();
        await done.Task.WaitAsync(TimeSpan.FromSeconds(60));
        await over.CancelAsync();
        await clicking;
        Numbers.Head($"{People} people announced within {_within.TotalSeconds} s");
        Numbers.Row("from the first announcement until the bench has all of them",
            $"{seen.Values.Max(one => one.At) / 1000:F2} s; the last announcement was answered at {last / 1000:F2} s");
        Numbers.Row("matched with a line of the docket", $"{seen.Values.Count(one => one.Matched)} of {People}");
        Numbers.Row("answer to an announcement: median, p99", $"{answers.Percentile(0.5):F0} ms, {answers.Percentile(0.99):F0} ms");
        Numbers.Row("the host's clicks meanwhile: median, p99",
            $"{clicks[quiet..].Percentile(0.5):F1} ms, {clicks[quiet..].Percentile(0.99):F1} ms");
        Numbers.Row("and before: median, p99", $"{clicks[..quiet].Percentile(0.5):F1} ms, {clicks[..quiet].Percentile(0.99):F1} ms");
    }

    private static async Task Click(HubConnection hub, List<double> times, CancellationToken over)
    {
        for (var n = 0; !over.IsCancellationRequested; n++)
        {
            var at = Stopwatch.GetTimestamp();
            await hub.InvokeAsync<Refusal?>("Do",
                JsonSerializer.SerializeToElement<SeatCommand>(n % 2 == 0 ? new OpenMicrophone() : new CloseMicrophone(), CoreJson.Options),
                null, CancellationToken.None);
            times.Add(Stopwatch.GetElapsedTime(at).TotalMilliseconds);
            await Task.Delay(40, CancellationToken.None);
        }
    }
}
