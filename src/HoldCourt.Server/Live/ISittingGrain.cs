using HoldCourt.Core.Admission;
using HoldCourt.Core.Sittings;
using HoldCourt.Core.Views;

namespace HoldCourt.Server.Live;

/// <summary>The one writer of a sitting. Its key is the sitting's id.</summary>
public interface ISittingGrain : IGrainWithGuidKey
{
    /// <summary>Starts the sitting; answers with a refusal when it has been opened before.</summary>
    Task<Refusal?> Open(Open open);

    /// <summary>Somebody is at the door.</summary>
    Task<Arrival> Announce(Announce announce);

    /// <summary>A wish of somebody who holds a seat. The answer comes when what follows from it is on disk.</summary>
    Task<Refusal?> Do(SeatId by, Command command);

    /// <summary>A wish that comes by the web rather than by a connection.</summary>
    Task<Refusal?> DoFor(PersonKey person, Command command);

    /// <summary>A wish of the server itself, such as letting in its own simulated people.</summary>
    Task<Refusal?> DoAsHouse(Command command);

    /// <summary>A connection of a person opens. It takes the place of an older one of the same seat.</summary>
    /// <returns>The seat, whose view has been sent; null when the person has none here.</returns>
    Task<SeatId?> Connect(PersonKey person, string connection);

    Task Disconnect(SeatId seat, string connection);

    /// <summary>The whole view for a connection that has missed something.</summary>
    Task<WholeView?> Whole(SeatId seat);

    /// <param name="holder">Who holds a claim on a seat, if anybody does.</param>
    /// <param name="comer">Who would be at the door.</param>
    Task<DoorState> Door(PersonKey? holder, PersonKey? comer);
}

/// <summary>Either a seat, or why not.</summary>
public sealed record Arrival(SeatId? Seat, Refusal? Refusal);

/// <summary>What a connection starts from.</summary>
public sealed record Joined(MeRow Me, WholeView View);

/// <summary>How the visits are expected to go on. Beside the views and not stored, since it changes with the clock.</summary>
/// <param name="LateMinutes">How far behind the next promised slot the host runs.</param>
/// <param name="Starts">For those who wait; others than the bench get only their own.</param>
public sealed record OutlookRow(int LateMinutes, IReadOnlyList<SeatStart> Starts);

/// <param name="From">Four times out of five it begins between this and <paramref name="To"/>.</param>
public sealed record SeatStart(SeatId Seat, Instant From, Instant At, Instant To);

/// <summary>What somebody at the door may know.</summary>
/// <param name="HoldsSeat">The person already has a seat, and has not left or been turned away.</param>
/// <param name="EntersAs">The role in which the person would walk in now; null when they would wait or be turned away.</param>
public sealed record DoorState(
    bool Over, string? HostName, DoorLock? Lock, bool HoldsSeat, bool HeldSeat, bool IsSeated, bool Barred, bool Preparing, Role? EntersAs);
