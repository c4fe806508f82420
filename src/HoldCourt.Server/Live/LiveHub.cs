using System.Collections.Immutable;
using System.Text.Json;
using System.Threading.RateLimiting;
using HoldCourt.Server.Media;
using HoldCourt.Server.Security;
using Microsoft.AspNetCore.SignalR;

namespace HoldCourt.Server.Live;

/// <summary>What the server says to a browser in a sitting.</summary>
public interface ILiveClient
{
    Task Joined(Joined joined);
    Task Whole(WholeView view);
    Task Change(ViewChange change);

    Task Me(MeRow me);

    /// <summary>When those who wait are expected to be called.</summary>
    Task Outlook(OutlookRow outlook);

    /// <summary>New messages, and changed ones.</summary>
    Task Messages(IReadOnlyList<MessageRow> rows);

    /// <summary>Reactions of the last moment.</summary>
    Task Signs(IReadOnlyList<SignRow> signs);

    /// <summary>Whose connections are slow.</summary>
    Task Trouble(TroubleRow trouble);

    /// <summary>The seat is now used from another tab or device.</summary>
    Task Superseded();

    /// <summary>Connect anew: the server has lost track of this connection.</summary>
    Task Rejoin();

    /// <summary>There is no seat for this browser; the door is where to go.</summary>
    Task NoSeat();
}

/// <summary>One connection of one seat. Every wish goes through the sitting's grain, which asks the core.</summary>
public sealed class LiveHub(IGrainFactory grains, SeatCookies cookies, MediaTickets tickets) : Hub<ILiveClient>
{
    public override async Task OnConnectedAsync()
    {
        var http = Context.GetHttpContext()!;
        if (!Guid.TryParse(http.Request.Query["sitting"], out var sitting) || cookies.Read(http, sitting) is not { } person)
        {
            await Clients.Caller.NoSeat();
            return;
        }
        if (await grains.GetGrain<ISittingGrain>(sitting).Connect(person, Context.ConnectionId, DeviceName.Of(http.Request.Headers.UserAgent)) is not { } seat)
        {
            await Clients.Caller.NoSeat();
            return;
        }
        Context.Items[nameof(Held)] = new Held(sitting, seat, Bucket(60, 20), Bucket(100, 40));
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        if (Seat is not { } held) return;
        await held.Wishes.DisposeAsync();
        await held.Questions.DisposeAsync();
        await grains.GetGrain<ISittingGrain>(held.Sitting).Disconnect(held.Seat, Context.ConnectionId);
    }

    /// <summary>Does what is wished, or says why not. Null when it is done.</summary>
    public async Task<Refusal?> Do(JsonElement command)
    {
        if (Seat is not { } held) return new Refusal(Reason.NoSuchSeat, Remedy.TryAgain);
        if (!held.Wishes.AttemptAcquire().IsAcquired) return new Refusal(Reason.TooMany, Remedy.TryAgain);
        return Parse(command) is { } wish
            ? await grains.GetGrain<ISittingGrain>(held.Sitting).Do(held.Seat, wish)
            : new Refusal(Reason.NotUnderstood);
    }

    /// <summary>What a wish would do.</summary>
    public async Task<ForesightRow?> Foresee(JsonElement command) =>
        Asks() is { } held && Parse(command) is { } wish ? await Grain(held).Foresee(held.Seat, wish) : null;

    /// <param name="presets">The presets that this browser's account keeps.</param>
    public async Task<ReadingRow?> Read(string line, ImmutableArray<NamedPreset> presets, string language) =>
        Asks() is { } held && line.Length <= Reader.Longest && !presets.IsDefault ? await Grain(held).Read(held.Seat, line, presets, language) : null;

    public async Task<LedgerPage?> Ledger(LedgerWish wish) => Asks() is { } held && !wish.Topics.IsDefault ? await Grain(held).Ledger(held.Seat, wish) : null;

    public async Task<ChatPage?> Chat(ChatWish wish) => Asks() is { } held ? await Grain(held).Chat(held.Seat, wish) : null;

    public async Task<PersonRow?> Person(SeatId of) => Asks() is { } held ? await Grain(held).Person(held.Seat, of) : null;

    public Task<WholeView?> Whole() =>
        Seat is { } held && held.Wishes.AttemptAcquire().IsAcquired ? grains.GetGrain<ISittingGrain>(held.Sitting).Whole(held.Seat) : Task.FromResult<WholeView?>(null);

    /// <summary>A short-lived ticket for the media socket.</summary>
    public string? MediaTicket() => Seat is { } held ? tickets.Issue(held.Sitting, held.Seat) : null;

    /// <summary>Questions have a bucket of their own: typing a line asks often, and must not use up the wishes.</summary>
    private Held? Asks() => Seat is { } held && held.Questions.AttemptAcquire().IsAcquired ? held : null;

    private ISittingGrain Grain(Held held) => grains.GetGrain<ISittingGrain>(held.Sitting);

    private Held? Seat => Context.Items.TryGetValue(nameof(Held), out var held) ? (Held)held! : null;

    private static SeatCommand? Parse(JsonElement json)
    {
        try { return json.Deserialize<SeatCommand>(CoreJson.Options); }
        catch (Exception e) when (e is JsonException or NotSupportedException or InvalidOperationException) { return null; }
    }

    /// <summary>A person's hand makes a few wishes a second; a flood is refused.</summary>
    private static TokenBucketRateLimiter Bucket(int burst, int eachSecond) => new(new TokenBucketRateLimiterOptions
    {
        TokenLimit = burst,
        TokensPerPeriod = eachSecond,
        ReplenishmentPeriod = TimeSpan.FromSeconds(1),
        QueueLimit = 0,
        AutoReplenishment = true
    });

    private sealed record Held(Guid Sitting, SeatId Seat, TokenBucketRateLimiter Wishes, TokenBucketRateLimiter Questions);
}
