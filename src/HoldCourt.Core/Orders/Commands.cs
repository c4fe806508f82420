using System.Collections.Immutable;

namespace HoldCourt.Core.Orders;

/// <summary>Changes who may do something without asking. "Microphones by leave" is Speak for Presenters.</summary>
public sealed record SetOrder(Order Order, Audience To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        if (!Enum.IsDefined(Order) || !Enum.IsDefined(To)) return Decision.Refused(Reason.NotUnderstood);
        var from = sitting.Orders[Order];
        if (from == To) return Decision.Refused(Reason.NoChange);
        var after = sitting with { Orders = sitting.Orders.With(Order, To) };
        return new OrderSet(Order, from, To, Losses.Muted(after), Losses.Darkened(after), []);
    }
}

/// <summary>Orders and a door that the host keeps under a name, all at once.</summary>
public sealed record TakePreset(string Name, DoorMode Door, StandingOrders Orders) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        var name = Bounds.Clean(Name, lines: false);
        if (name.Length is 0 or > NamedPreset.LongestName || !Orders.IsMeaningful || !Enum.IsDefined(Door))
            return Decision.Refused(Reason.NotUnderstood);
        var door = sitting.Door with { Mode = Door, ByName = sitting.Door.ByName && Door == DoorMode.Listed };
        ImmutableArray<Fact> parts =
        [
            .. OrdersSet.Towards(sitting, Orders) is { } orders ? [orders] : (IEnumerable<Fact>)[],
            .. door == sitting.Door ? [] : (IEnumerable<Fact>)[new DoorSet(sitting.Door, door)]
        ];
        return parts is [] ? Decision.Refused(Reason.NoChange) : new PresetTaken(name, parts);
    }
}

/// <summary>Excepts single seats from an order. The bench itself cannot be excepted.</summary>
/// <param name="May">True gives, false takes; null leaves them to the order again.</param>
public sealed record Except(ImmutableArray<SeatId> Seats, Order Order, bool? May) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        if (!Enum.IsDefined(Order) || !StandingOrders.TakesExceptions(Order)) return Decision.Refused(Reason.NoExceptions);
        var here = sitting.Those(Seats, seat => seat.Place != Place.Gone);
        var seats = sitting.Those(here, seat => Powers.TakesExceptions(seat) && seat.ExceptionFrom(Order) != May);
        if (seats is [])
            return Decision.Refused(here is [] ? Reason.NobodySeated
                : sitting.Those(here, Powers.TakesExceptions) is [] ? Reason.BenchNotExcepted : Reason.NoChange);
        ImmutableArray<Exempt> changes = [.. seats.Select(id => new Exempt(id, sitting.Seats[id].ExceptionFrom(Order), May))];
        var after = Excepted.With(sitting, Order, changes);
        return new Excepted(Order, changes, Losses.Muted(after), Losses.Darkened(after), [], []);
    }
}

/// <summary>Excepts a group of the docket from an order, those too who come later.</summary>
/// <param name="May">True gives, false takes; null leaves the group to the order again.</param>
public sealed record ExceptGroup(string Group, Order Order, bool? May) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        if (!Enum.IsDefined(Order) || !StandingOrders.TakesExceptions(Order)) return Decision.Refused(Reason.NoExceptions);
        // One that holds can be ended even when the docket has lost its group.
        if ((sitting.Docket.Find(Group) ?? (May is null ? Group.Trim() : null)) is not { } group)
            return Decision.Refused(Reason.NoSuchGroup);
        return GroupExcepted.Towards(sitting, group, Order, May) is { } change ? change : Decision.Refused(Reason.NoChange);
    }
}
