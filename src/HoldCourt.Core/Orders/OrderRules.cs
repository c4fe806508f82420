using System.Collections.Immutable;

namespace HoldCourt.Core.Orders;

internal static class OrderRules
{
    public const int LongestPresetName = NamedPreset.LongestName;

    public static Decision Decide(Sitting sitting, SetOrder set, Actor by)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        if (!Enum.IsDefined(set.Order) || !Enum.IsDefined(set.To)) return Decision.Refused(Reason.NotUnderstood);
        var from = sitting.Orders[set.Order];
        if (from == set.To) return Decision.Refused(Reason.NoChange);
        var after = sitting with { Orders = sitting.Orders.With(set.Order, set.To) };
        return new OrderSet(set.Order, from, set.To, Muted(after), Darkened(after), []);
    }

    public static Decision Decide(Sitting sitting, TakePreset take, Actor by)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        if (Bounds.Clean(take.Name, lines: false) is not { Length: > 0 and <= LongestPresetName } name || !take.Orders.IsMeaningful || !Enum.IsDefined(take.Door)) return Decision.Refused(Reason.NotUnderstood);
        var door = sitting.Door with { Mode = take.Door, ByName = sitting.Door.ByName && take.Door == DoorMode.Listed };
        ImmutableArray<Fact> parts =
        [
            .. ToSheet(sitting, take.Orders) is { } orders ? [orders] : (IEnumerable<Fact>)[],
            .. door == sitting.Door ? [] : (IEnumerable<Fact>)[new DoorSet(sitting.Door, door)]
        ];
        return parts is [] ? Decision.Refused(Reason.NoChange) : new PresetTaken(name, parts);
    }

    public static Decision Decide(Sitting sitting, Except except, Actor by)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        if (!Enum.IsDefined(except.Order) || !OrderSheet.TakesExceptions(except.Order)) return Decision.Refused(Reason.NoExceptions);
        var here = sitting.Those(except.Seats, seat => seat.Place != Place.Gone);
        var seats = sitting.Those(here, seat => Powers.TakesExceptions(seat) && ExceptionOf(seat, except.Order) != except.May);
        if (seats is []) return Decision.Refused(here is [] ? Reason.NobodySeated : sitting.Those(here, Powers.TakesExceptions) is [] ? Reason.BenchNotExcepted : Reason.NoChange);
        var after = sitting.WithEach(seats, seat => With(seat, except.Order, except.May));
        return new Excepted(except.Order, [.. seats.Select(id => new Exempt(id, ExceptionOf(sitting.Seats[id], except.Order), except.May))], Muted(after), Darkened(after), [], []);
    }

    /// <summary>What brings the sitting to these orders; null when they hold already.</summary>
    public static OrdersSet? ToSheet(Sitting sitting, OrderSheet to)
    {
        if (to == sitting.Orders) return null;
        var after = sitting with { Orders = to };
        return new OrdersSet(sitting.Orders, to, Muted(after), Darkened(after), [], []);
    }

    /// <summary>True when given, false when taken, null when the order itself holds for the seat.</summary>
    public static bool? ExceptionOf(Seat seat, Order order) => seat.Given.Contains(order) ? true : seat.Taken.Contains(order) ? false : null;

    private static Seat With(Seat seat, Order order, bool? may) => seat with
    {
        Given = Sorted(seat.Given, order, may == true),
        Taken = Sorted(seat.Taken, order, may == false)
    };

    private static Sitting WithEach(Sitting sitting, Order order, ImmutableArray<Exempt> changes) =>
        changes.GroupBy(change => change.To).Aggregate(sitting, (state, alike) => state.WithEach(alike.Select(change => change.Seat), seat => With(seat, order, alike.Key)));

    private static ImmutableArray<Order> Sorted(ImmutableArray<Order> orders, Order order, bool holds) =>
        orders.Contains(order) == holds ? orders : holds ? [.. orders.Append(order).Order()] : orders.Remove(order);

    public static Sitting Apply(Sitting sitting, Fact fact) => fact switch
    {
        OrderSet set => Restored((sitting with { Orders = sitting.Orders.With(set.Order, set.To) }), set.Muted, set.Darkened,
            set.Order == Order.ShowCamera ? [] : set.Reopened, set.Order == Order.ShowCamera ? set.Reopened : []),
        OrdersSet set => Restored(sitting with { Orders = set.To }, set.Muted, set.Darkened, set.Reopened, set.Relit),
        Excepted excepted => Restored(
            WithEach(sitting, excepted.Order, excepted.Changes),
            excepted.Muted, excepted.Darkened, excepted.Reopened, excepted.Relit),
        _ => sitting
    };

    private static Sitting Restored(Sitting sitting, ImmutableArray<SeatId> muted, ImmutableArray<SeatId> darkened, ImmutableArray<SeatId> reopened, ImmutableArray<SeatId> relit) => sitting
        .WithEach(muted, seat => seat with { MicrophoneOpen = false })
        .WithEach(darkened, seat => seat with { CameraOn = false })
        .WithEach(reopened, seat => seat with { MicrophoneOpen = true })
        .WithEach(relit, seat => seat with { CameraOn = true });

    /// <summary>The way back gives again exactly what the change took, to those who are still here and may have it then.</summary>
    public static OrderSet? Opposite(Sitting sitting, OrderSet set)
    {
        if (sitting.Orders[set.Order] != set.To) return null;
        var after = sitting with { Orders = sitting.Orders.With(set.Order, set.From) };
        var reopened = set.Order == Order.ShowCamera ? Relit(after, set.Darkened) : Reopened(after, set.Muted);
        return new OrderSet(set.Order, set.To, set.From, Muted(after), Darkened(after), reopened);
    }

    /// <summary>Also where one of the orders was changed since: that one stays as it is.</summary>
    public static OrdersSet? Opposite(Sitting sitting, OrdersSet set)
    {
        var back = Enum.GetValues<Order>().Aggregate(sitting.Orders, (sheet, order) => sheet[order] == set.To[order] ? sheet.With(order, set.From[order]) : sheet);
        if (back == sitting.Orders) return null;
        var after = sitting with { Orders = back };
        return new OrdersSet(sitting.Orders, back, Muted(after), Darkened(after), Reopened(after, set.Muted), Relit(after, set.Darkened));
    }

    public static Excepted? Opposite(Sitting sitting, Excepted excepted)
    {
        ImmutableArray<Exempt> back =
        [
            .. excepted.Changes.Where(change => sitting.Seats[change.Seat] is var seat && Powers.TakesExceptions(seat) && ExceptionOf(seat, excepted.Order) == change.To)
                .Select(change => new Exempt(change.Seat, change.To, change.From))
        ];
        if (back is []) return null;
        var after = WithEach(sitting, excepted.Order, back);
        return new Excepted(excepted.Order, back, Muted(after), Darkened(after), Reopened(after, excepted.Muted), Relit(after, excepted.Darkened));
    }

    private static ImmutableArray<SeatId> Muted(Sitting after) => Losing(after, Capability.Speak, seat => seat.MicrophoneOpen);
    private static ImmutableArray<SeatId> Darkened(Sitting after) => Losing(after, Capability.ShowCamera, seat => seat.CameraOn);

    private static ImmutableArray<SeatId> Reopened(Sitting after, ImmutableArray<SeatId> muted) =>
        after.Those(muted, seat => !seat.MicrophoneOpen && after.Forbids(Actor.Of(seat.Id), Capability.Speak) is null);

    private static ImmutableArray<SeatId> Relit(Sitting after, ImmutableArray<SeatId> darkened) =>
        after.Those(darkened, seat => !seat.CameraOn && after.Forbids(Actor.Of(seat.Id), Capability.ShowCamera) is null);

    private static ImmutableArray<SeatId> Losing(Sitting after, Capability capability, Func<Seat, bool> uses) =>
        [.. after.Seats.Where(seat => seat.IsSeated && uses(seat) && after.Forbids(Actor.Of(seat.Id), capability) is not null).Select(seat => seat.Id)];
}
