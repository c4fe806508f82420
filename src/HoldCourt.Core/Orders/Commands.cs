using System.Collections.Immutable;

namespace HoldCourt.Core.Orders;

/// <summary>Changes who may do something without asking. "Microphones by leave" is Speak for Presenters.</summary>
public sealed record SetOrder(Order Order, Audience To) : SeatCommand;

/// <summary>Orders and a door that the host keeps under a name, all at once.</summary>
public sealed record TakePreset(string Name, DoorMode Door, OrderSheet Orders) : SeatCommand;

/// <summary>Excepts single seats from an order. The bench itself cannot be excepted.</summary>
/// <param name="May">True gives, false takes; null leaves them to the order again.</param>
public sealed record Except(ImmutableArray<SeatId> Seats, Order Order, bool? May) : SeatCommand, ISeats;

/// <param name="Muted">Those whose open microphones the change closed.</param>
/// <param name="Darkened">Those whose cameras the change turned off.</param>
/// <param name="Reopened">On the way back: those given back what they had.</param>
public sealed record OrderSet(
    Order Order, Audience From, Audience To, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened, ImmutableArray<SeatId> Reopened) : Fact;

/// <summary>All orders at once, as a preset or an item of the run sheet has them.</summary>
/// <param name="Reopened">On the way back: microphones open again.</param>
/// <param name="Relit">On the way back: cameras on again.</param>
public sealed record OrdersSet(
    OrderSheet From, OrderSheet To, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened, ImmutableArray<SeatId> Reopened, ImmutableArray<SeatId> Relit) : Fact;

/// <param name="Parts">What the preset changed, in order.</param>
public sealed record PresetTaken(string Name, ImmutableArray<Fact> Parts) : Fact;

public sealed record Excepted(
    Order Order, ImmutableArray<Exempt> Changes, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened, ImmutableArray<SeatId> Reopened, ImmutableArray<SeatId> Relit) : Fact;

/// <summary>A seat's exception from an order, before and after; null where the order itself holds.</summary>
public sealed record Exempt(SeatId Seat, bool? From, bool? To);
