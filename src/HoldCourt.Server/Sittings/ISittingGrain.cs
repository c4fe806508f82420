using HoldCourt.Server.Chat;
using System.Collections.Immutable;
using HoldCourt.Server.Media;

namespace HoldCourt.Server.Sittings;

/// <summary>The one writer of a sitting. Its key is the sitting's id.</summary>
public interface ISittingGrain : IGrainWithGuidKey
{
    /// <summary>Loads the sitting from what is stored, where it is not there already.</summary>
    Task Wake();

    /// <summary>Starts the sitting; answers with a refusal when it has been opened before.</summary>
    Task<Refusal?> Open(Open open);

    /// <summary>Somebody is at the door.</summary>
    Task<Arrival> Announce(Announce announce);

    /// <summary>A wish of somebody who holds a seat. The answer comes when what follows from it is on disk.</summary>
    /// <param name="connection">The connection it came by, which must be the seat's own; null for the server's simulated people.</param>
    /// <param name="wish">The wish's id: the same wish again is answered as it was, and not done twice.</param>
    Task<Refusal?> Do(SeatId by, SeatCommand command, string? connection = null, string? wish = null);

    /// <summary>A wish that comes by the web rather than by a connection.</summary>
    Task<Refusal?> DoFor(PersonKey person, SeatCommand command);

    /// <summary>Why a wish would be refused; null when it would be done.</summary>
    Task<Refusal?> WouldRefuse(PersonKey person, SeatCommand command);

    /// <summary>A wish of the server itself, such as letting in its own simulated people.</summary>
    Task<Refusal?> DoAsHouse(Command command);

    /// <summary>A connection of a person opens. It takes the place of an older one of the same seat.</summary>
    /// <returns>The seat, whose view has been sent; null when the person has none here.</returns>
    /// <exception cref="InvalidOperationException">It could not be noted; the line must be taken up anew.</exception>
    Task<SeatId?> Connect(PersonKey person, string connection, string? device = null);

    Task Disconnect(SeatId seat, string connection);

    /// <summary>The account's sign-in has ended: its seat is left, and the lead goes to the first deputy, where there is one.</summary>
    Task Withdraw(SeatId seat, string connection);

    /// <summary>Entries of the adjourned sitting were changed where they are kept: what is in memory goes.</summary>
    Task Forget();

    /// <summary>Whether the seat is in the lobby or inside, and the connection its own.</summary>
    Task<bool> IsPresent(SeatId seat, string connection);

    /// <summary>What a wish would do, and let nothing happen.</summary>
    Task<ForesightRow> Foresee(SeatId by, SeatCommand command);

    /// <summary>The whole view for a connection that has missed something.</summary>
    Task<WholeView?> Whole(SeatId seat);
}

/// <summary>Either a seat, or why not.</summary>
public sealed record Arrival(SeatId? Seat, Refusal? Refusal);

/// <summary>What a connection starts from.</summary>
/// <param name="Now">By the server's clock, by which all moments are meant.</param>
/// <param name="Build">Which build answers: a page that was loaded from another is old.</param>
public sealed record Joined(MeRow Me, WholeView View, Instant Now, string Build = "")
{
    public ChatPage Chat { get; init; } = new([], null);

    /// <summary>The newest that may be read.</summary>
    public ImmutableArray<CaptionRow> Captions { get; init; } = [];

    public TroubleRow Trouble { get; init; } = new([]);
}
