using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Sittings;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Bench;

/// <summary>A session with a host and many people inside, each with a live line of their own.</summary>
internal sealed record Crowd(HubConnection Bench, List<HubConnection> People, CourtAddress Host, string Link)
{
    /// <param name="before">Done with each person's connection before it is started.</param>
    /// <param name="after">A wish of each person once they are in.</param>
    public static async Task<Crowd> Gather(
        Uri server, string title, int people, Action<HubConnection>? before = null, SeatCommand? after = null,
        Action<HubConnection>? ofBench = null)
    {
        var host = new CourtAddress(server);
        await host.SignIn();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));
        var bench = await Connect(host, ofBench);
        await Say(bench, new SetDoor(DoorMode.Open));
        var everybody = new List<HubConnection>();
        for (var n = 0; n < people; n++)
        {
            // The door takes 600 a minute from one address.
            if (people > 500 && n == people / 2) await Task.Delay(TimeSpan.FromSeconds(61));
            var guest = new CourtAddress(server);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish($"Person {n}"));
            everybody.Add(await Connect(guest, before));
            if (after is not null) await Say(everybody[^1], after);
            if (everybody.Count % 100 == 0) Console.Error.WriteLine($"{everybody.Count} of {people} are in");
        }
        await Task.Delay(2_000);
        return new Crowd(bench, everybody, host, opened.Link);

        async Task<HubConnection> Connect(CourtAddress who, Action<HubConnection>? prepare)
        {
            var connection = Build(new Uri(server, $"/live?sitting={opened.Sitting}"), who);
            connection.On<Joined>("Joined", _ => { });
            prepare?.Invoke(connection);
            await connection.StartAsync();
            return connection;
        }
    }

    public static HubConnection Build(Uri address, CourtAddress? who) => new HubConnectionBuilder()
        .WithUrl(address, options => { if (who is not null) options.Cookies = who.Cookies; })
        .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();

    /// <exception cref="InvalidOperationException">It was refused.</exception>
    public static async Task Say(HubConnection hub, SeatCommand command)
    {
        if (await hub.InvokeAsync<Refusal?>("Do", JsonSerializer.SerializeToElement(command, CoreJson.Options), null) is { } refusal)
            throw new InvalidOperationException(refusal.ToString());
    }
}
