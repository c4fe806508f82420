using System.Collections.Immutable;
using System.Text.Json;
using HoldCourt.Server.Accounts;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Chat;
using HoldCourt.Server.CommandLine;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Ledger;
using HoldCourt.Server.Lending;
using HoldCourt.Server.Media;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Server.Signs;
using Microsoft.AspNetCore.SignalR;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Live;

/// <summary>What the server says to a browser in a sitting.</summary>
public interface ILiveClient : IChatClient, ICaptionClient, ISignClient, IMarkClient, IOutlookClient, ITroubleClient
{
    Task Joined(Joined joined);
    Task Whole(WholeView view);
    Task Change(ViewChange change);

    Task Me(MeRow me);

    /// <summary>The seat is now used from another tab or device.</summary>
    Task Superseded();

    /// <summary>Connect anew: the server has lost track of this connection.</summary>
    Task Rejoin();

    /// <summary>There is no seat for this browser; the door is where to go.</summary>
    Task NoSeat();
}

/// <summary>One connection of one seat. Every wish goes through the sitting's grain, which asks the core.</summary>
public sealed partial class LiveHub(IGrainFactory grains, SeatCookies cookies, MediaTickets tickets, SeatLimits limits, SignIns signIns,
    ILogger<LiveHub> log) : Hub<ILiveClient>
{
    /// <summary>Longest id of a wish, and longest subtag of a language.</summary>
    private const int LongestId = 40, LongestLanguage = 20;

    /// <summary>Most presets that one line is read with.</summary>
    private const int MostPresets = 200;

    public override async Task OnConnectedAsync()
    {
        var http = Context.GetHttpContext()!;
        if (!Guid.TryParse(http.Request.Query["sitting"], out var sitting) || cookies.Read(http, sitting) is not { } person)
        {
            await Clients.Caller.NoSeat();
            return;
        }
        // Too many connections in a row wait their turn: the page tries again by itself.
        if (!limits.Connection(sitting, person))
        {
            Context.Abort();
            return;
        }
        try
        {
            if (await grains.GetGrain<ISittingGrain>(sitting)
                .Connect(person, Context.ConnectionId, DeviceName.Of(http.Request.Headers.UserAgent)) is { } seat)
                EndsWithSignIn(Context.Items[nameof(Held)] = new Held(sitting, seat, person, SeatCookies.IsAccount(person)
                    ? SignIns.IdOf(http.User)
                    : null));
            else
                await Clients.Caller.NoSeat();
        }
        catch (Exception e)
        {
            // The disk is full, the database is locked: a line that knows nothing must not stay open.
            LogFailed(e, sitting);
            Context.Abort();
        }
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        if (Seat is { } held) await Grain(held).Disconnect(held.Seat, Context.ConnectionId);
    }

    /// <summary>Does what is wished, or says why not. Null when it is done.</summary>
    /// <param name="id">The wish's own id: one that comes again, because its answer was lost, is answered and not done twice.</param>
    public async Task<Refusal?> Do(JsonElement command, string? id = null)
    {
        if (Seat is not { } held) return new Refusal(Reason.NoSuchSeat, Remedy.TryAgain);
        if (!limits.Wish(held.Sitting, held.Person)) return new Refusal(Reason.TooMany, Remedy.TryAgain);
        return Parse(command) is { } wish && id is null or { Length: > 0 and <= LongestId }
            ? await Grain(held).Do(held.Seat, wish, Context.ConnectionId, id)
            : new Refusal(Reason.NotUnderstood);
    }

    /// <summary>Draws over an exhibit, or takes marks away, or says why not. Null when it is done.</summary>
    public async Task<Refusal?> Mark(int exhibit, JsonElement wish)
    {
        if (Seat is not { } held) return new Refusal(Reason.NoSuchSeat, Remedy.TryAgain);
        if (!limits.Mark(held.Sitting, held.Person)) return new Refusal(Reason.TooMany, Remedy.TryAgain);
        return Parse<MarkWish>(wish) is { } mark
            ? await In<ISittingExhibits>(held).Mark(held.Seat, exhibit, mark, Context.ConnectionId)
            : new Refusal(Reason.NotUnderstood);
    }

    /// <summary>A piece of what is being drawn. What comes too fast is let go.</summary>
    public Task Stroke(StrokeWish? stroke) =>
        Seat is { } held && stroke is { Line.Length: <= StrokeWish.Longest, Width: >= 1 and <= Draw.Widest }
        && Bounds.Refuses(stroke) is null
        && (stroke.Line.Length == 0 || MarkLine.Read(stroke.Line) is not null)
        && limits.Stroke(held.Sitting, held.Person)
            ? In<ISittingExhibits>(held).Stroke(held.Seat, stroke, Context.ConnectionId)
            : Task.CompletedTask;

    /// <summary>Moves and presses on a screen that was lent to one. What comes too fast, or is not understood, is let go.</summary>
    public Task Drive(int exhibit, ImmutableArray<DriveInput> inputs) =>
        Seat is { } held && inputs is { IsDefault: false, Length: > 0 and <= DriveInput.MostAtOnce }
        && inputs.All(input => input is { IsMeaningful: true }) && limits.Stroke(held.Sitting, held.Person)
            ? In<ISittingScreens>(held).Drive(held.Seat, exhibit, inputs, Context.ConnectionId)
            : Task.CompletedTask;

    /// <summary>What a wish would do.</summary>
    public async Task<ForesightRow?> Foresee(JsonElement command) =>
        Asks() is { } held && Parse(command) is { } wish ? await Grain(held).Foresee(held.Seat, wish) : null;

    /// <param name="presets">The presets that this browser's account keeps.</param>
    public async Task<ReadingRow?> Read(string? line, ImmutableArray<NamedPreset> presets, string? language) =>
        Asks() is { } held && line is { Length: <= Reader.Longest } && language is { Length: <= LongestLanguage }
        && Bounds.Refuses(presets) is null && presets is { Length: <= MostPresets }
            && presets.All(preset => preset.Name.Length <= NamedPreset.LongestName)
            ? await In<ISittingLine>(held).Read(held.Seat, line, presets, language)
            : null;

    public async Task<LedgerPage?> Ledger(LedgerWish? wish) =>
        Searches() is { } held && wish is not null && Bounds.Refuses(wish) is null
            ? await In<ISittingLedger>(held).Read(held.Seat, wish)
            : null;

    public async Task<ChatPage?> Chat(ChatWish? wish) =>
        Searches() is { } held && wish is { Find: null or { Length: <= ChatWish.LongestFind } }
            ? await In<ISittingChat>(held).Read(held.Seat, wish)
            : null;

    public async Task<GonePage?> Gone(SeatId before) =>
        Searches() is { } held ? await In<ISittingLedger>(held).Gone(held.Seat, before) : null;

    public async Task<PersonRow?> Person(SeatId of) => Searches() is { } held ? await In<ISittingLedger>(held).Person(held.Seat, of) : null;

    public async Task<WholeView?> Whole() => Asks() is { } held ? await Grain(held).Whole(held.Seat) : null;

    /// <summary>A short-lived ticket for the media socket, good for once.</summary>
    public async Task<string?> MediaTicket() =>
        Asks() is { } held && limits.Ticket(held.Sitting, held.Person) && await Grain(held).IsPresent(held.Seat, Context.ConnectionId)
            ? tickets.Issue(held.Sitting, held.Seat, held.SignIn)
            : null;

    /// <summary>Whoever signs out, or is signed out from elsewhere, leaves the
    /// seat that the account has through this line, and the line ends.</summary>
    private void EndsWithSignIn(object? item)
    {
        if (item is not Held { SignIn: { } signIn } held) return;
        var (context, grain) = (Context, Grain(held));
        var ends = signIns.Ends(signIn).Register(() => _ = End());
        context.ConnectionAborted.Register(() => ends.Dispose());

        async Task End()
        {
            try { await grain.Withdraw(held.Seat, context.ConnectionId); }
            catch (Exception e) { LogFailed(e, held.Sitting); }
            finally { context.Abort(); }
        }
    }

    private Held? Searches() => Seat is { } held && limits.Search(held.Sitting, held.Person) ? held : null;

    private Held? Asks() => Seat is { } held && limits.Question(held.Sitting, held.Person) ? held : null;

    private T In<T>(Held held) where T : IGrainExtension => grains.In<T>(held.Sitting);

    private ISittingGrain Grain(Held held) => grains.GetGrain<ISittingGrain>(held.Sitting);

    private Held? Seat => Context.Items.TryGetValue(nameof(Held), out var held) ? (Held)held! : null;

    private static SeatCommand? Parse(JsonElement json) => Parse<SeatCommand>(json);

    private static T? Parse<T>(JsonElement json) where T : class
    {
        try { return json.Deserialize<T>(CoreJson.Options); }
        catch (Exception e) when (e is JsonException or NotSupportedException or InvalidOperationException or FormatException
            or OverflowException)
        { return null; }
    }

    [LoggerMessage(LogLevel.Warning, "A live line of sitting {Sitting} could not be taken up")]
    private partial void LogFailed(Exception e, Guid sitting);

    private sealed record Held(Guid Sitting, SeatId Seat, PersonKey Person, string? SignIn);
}
