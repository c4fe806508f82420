using System.Diagnostics;
using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Bench;

/// <summary>
/// A server that starts again while a sitting of 1,000 seats, 10,000 messages and 20,000 entries runs; what it takes of memory,
/// and how soon 200 more have come in.
/// </summary>
internal static class RestartBench
{
    private const int Newcomers = 200;
    private static readonly TimeSpan _settling = TimeSpan.FromSeconds(15);

    public static async Task Run()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        double idle;
        using (var empty = Started.Server(folder))
        {
            using var asking = new HttpClient();
            await asking.GetStringAsync(new Uri(empty.Address, "/api/me"));
            await Task.Delay(_settling);
            idle = empty.ResidentMegabytes;
        }
        var link = await BigSitting.Fill(folder);
        var bare = Stopwatch.GetTimestamp();
        using (Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName))
            bare = (long)Stopwatch.GetElapsedTime(bare).TotalMilliseconds;
        // The first start after it writes what brings the sitting back quickly the next time.
        using (var first = Started.Server(folder)) await Door(first, link);
        var start = Stopwatch.GetTimestamp();
        using var server = Started.Server(folder);
        var listening = Stopwatch.GetElapsedTime(start);
        await Door(server, link);
        var back = Stopwatch.GetElapsedTime(start);
        Numbers.Head("Restart with a sitting of 1,000 seats, 10,000 messages and 20,000 entries");
        Numbers.Row("from the start of the process until it listens (without a sitting)",
            $"{listening.TotalSeconds:F2} s ({bare / 1e3:F2} s)");
        Numbers.Row("from then until the sitting is back", $"{(back - listening).TotalSeconds:F2} s (target: under 1)");
        await Task.Delay(_settling);
        var full = server.ResidentMegabytes;
        Numbers.Row("resident memory: idle, with the sitting, between them",
            $"{idle:F0} MB, {full:F0} MB, {full - idle:F0} MB (target: under 60)");

        await LookBack(server, link);

        var guests = Enumerable.Range(0, Newcomers).Select(_ => new CourtAddress(server.Address)).ToList();
        foreach (var guest in guests) await guest.Warm();
        var opened = Stopwatch.GetTimestamp();
        var times = await Task.WhenAll(guests.Select(async (guest, n) =>
        {
            var at = Stopwatch.GetTimestamp();
            var seat = await guest.Post<Announcement>($"/api/door/{link}/announce", new AnnounceWish($"Newcomer {n}"));
            var joined = new TaskCompletionSource();
            var connection = new HubConnectionBuilder()
                .WithUrl(new Uri(server.Address, $"/live?sitting={seat.Sitting}"), options => options.Cookies = guest.Cookies)
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<Joined>("Joined", _ => joined.TrySetResult());
            await connection.StartAsync();
            await joined.Task;
            return Stopwatch.GetElapsedTime(at).TotalSeconds;
        }));
        Numbers.Row($"{Newcomers} who come in at once: all have the whole view, median of one",
            $"{Stopwatch.GetElapsedTime(opened).TotalSeconds:F2} s, {times.Percentile(0.5):F2} s (target: 10)");
    }

    /// <summary>
    /// Somebody looks for what nobody wrote: of the server's work, which others wait for, so much is done for one question.
    /// </summary>
    private static async Task LookBack(Started server, string link)
    {
        var guest = new CourtAddress(server.Address);
        var seat = await guest.Post<Announcement>($"/api/door/{link}/announce", new AnnounceWish("Looks back"));
        var joined = new TaskCompletionSource();
        await using var connection = new HubConnectionBuilder()
            .WithUrl(new Uri(server.Address, $"/live?sitting={seat.Sitting}"), options => options.Cookies = guest.Cookies)
            .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
        connection.On<Joined>("Joined", _ => joined.TrySetResult());
        await connection.StartAsync();
        await joined.Task;
        var times = new List<double>();
        for (int? before = null, asked = 0; asked < 12; asked++)
        {
            var at = Stopwatch.GetTimestamp();
            var page = await connection.InvokeAsync<ChatPage?>("Chat", new ChatWish(before, "nobody wrote this"));
            times.Add(Stopwatch.GetElapsedTime(at).TotalMilliseconds);
            before = page?.Older;
        }
        Numbers.Row("a word that nobody wrote looked for among the messages: median, longest of a question",
            $"{times.Percentile(0.5):F0} ms, {times.Max():F0} ms (2 questions a second at most)");
    }

    private static async Task Door(Started server, string link)
    {
        using var http = new HttpClient();
        var page = await http.GetStringAsync(new Uri(server.Address, $"/api/door/{link}"));
        if (!page.Contains("\"phase\":\"open\"", StringComparison.Ordinal)) throw new InvalidOperationException(page);
    }
}
