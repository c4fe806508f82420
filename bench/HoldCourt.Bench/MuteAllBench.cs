using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Api;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;
using HoldCourt.Server.Sittings;

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
        var host = new CourtAddress(server.Address);
        await host.SignIn();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Mute everyone"));
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));
        var (inbox, payload) = (new Inbox(), (ViewChange?)null);
        var bench = await Connect(host, _ => { });
        await Say(bench, new SetDoor(DoorMode.Open));
        var everybody = new List<HubConnection>();
        var begun = Stopwatch.GetTimestamp();
        for (var n = 0; n < People; n++)
        {
            // The door takes 600 a minute from one address.
            if (n == People / 2) await Task.Delay(TimeSpan.FromSeconds(61));
            var guest = new CourtAddress(server.Address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish($"Person {n}"));
            everybody.Add(await Connect(guest, change =>
            {
                if ((change.Altered?.Sum(rows => rows.Seats.Length) ?? 0) < People / 2) return;
                payload = change;
                inbox.Take();
            }));
            await Say(everybody[^1], new OpenMicrophone());
            if (everybody.Count % 100 == 0)
                Console.Error.WriteLine($"{everybody.Count} of {People} are in, after {Stopwatch.GetElapsedTime(begun).TotalSeconds:F0} s");
        }
        await Task.Delay(2_000);

        var listeners = new List<HubConnection>();
        for (var n = 0; n < People; n++)
        {
            var connection = Build(new Uri(bare.Address, "/bare"), null);
            connection.On<ViewChange>("Change", _ => inbox.Take());
            await connection.StartAsync();
            listeners.Add(connection);
        }
        var (ours, plain) = (new List<double>(), new List<double>());
        for (var n = 0; n < Rounds; n++)
        {
            var one = await Time(inbox, () => Say(bench, n % 2 == 0 ? new MuteAll(true) : new TakeBack()));
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

        async Task<HubConnection> Connect(CourtAddress who, Action<ViewChange> take)
        {
            var connection = Build(new Uri(server.Address, $"/live?sitting={opened.Sitting}"), who);
            connection.On<Joined>("Joined", _ => { });
            connection.On("Change", take);
            await connection.StartAsync();
            return connection;
        }
    }

    private static HubConnection Build(Uri address, CourtAddress? who) => new HubConnectionBuilder()
        .WithUrl(address, options => { if (who is not null) options.Cookies = who.Cookies; })
        .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();

    private static async Task Say(HubConnection hub, SeatCommand command)
    {
        if (await hub.InvokeAsync<Refusal?>("Do", JsonSerializer.SerializeToElement(command, CoreJson.Options), null) is { } refusal)
            throw new InvalidOperationException(refusal.ToString());
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
