using System.Collections.Immutable;
using System.Text.Json;

namespace HoldCourt.Core.Orders;

/// <param name="Muted">Those whose open microphones the change closed.</param>
/// <param name="Darkened">Those whose cameras the change turned off.</param>
/// <param name="Reopened">On the way back: those given back what they had.</param>
public sealed record OrderSet(
    Order Order, Audience From, Audience To, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened, ImmutableArray<SeatId> Reopened)
        : Fact
{
    private bool IsOfCameras => Order == Order.ShowCamera;

    internal override Sitting Apply(Sitting sitting, Instant at) => Losses.Apply(
        sitting with { Orders = sitting.Orders.With(Order, To) }, Muted, Darkened, IsOfCameras ? [] : Reopened, IsOfCameras
            ? Reopened
            : []);

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Orders;
    internal override string? Detail => JsonNamingPolicy.CamelCase.ConvertName($"{Order}{To}");
    internal override bool IsTakeable(SeatId by) => true;

    /// <summary>The way back gives again exactly what the change took, to those who are still here and may have it then.</summary>
    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (sitting.Orders[Order] != To) return null;
        var after = sitting with { Orders = sitting.Orders.With(Order, From) };
        var reopened = IsOfCameras ? Losses.Relit(after, Darkened) : Losses.Reopened(after, Muted);
        return new OrderSet(Order, To, From, Losses.Muted(after), Losses.Darkened(after), reopened);
    }
}

/// <summary>All orders at once, as a preset or an item of the run orders has them.</summary>
/// <param name="Reopened">On the way back: microphones open again.</param>
/// <param name="Relit">On the way back: cameras on again.</param>
public sealed record OrdersSet(
    StandingOrders From, StandingOrders To, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened,
    ImmutableArray<SeatId> Reopened, ImmutableArray<SeatId> Relit) : Fact
{
    /// <summary>What brings the sitting to these orders; null when they hold already.</summary>
    internal static OrdersSet? Towards(Sitting sitting, StandingOrders to)
    {
        if (to == sitting.Orders) return null;
        var after = sitting with { Orders = to };
        return new OrdersSet(sitting.Orders, to, Losses.Muted(after), Losses.Darkened(after), [], []);
    }

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        Losses.Apply(sitting with { Orders = To }, Muted, Darkened, Reopened, Relit);
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Orders;

    /// <summary>Also where one of the orders was changed since: that one stays as it is.</summary>
    internal override Fact? OppositeIn(Sitting sitting)
    {
        var back = Enum.GetValues<Order>()
            .Aggregate(sitting.Orders, (orders, order) => orders[order] == To[order] ? orders.With(order, From[order]) : orders);
        if (back == sitting.Orders) return null;
        var after = sitting with { Orders = back };
        return new OrdersSet(
            sitting.Orders, back, Losses.Muted(after), Losses.Darkened(after), Losses.Reopened(after, Muted),
            Losses.Relit(after, Darkened));
    }
}

/// <param name="Parts">What the preset changed, in order.</param>
public sealed record PresetTaken(string Name, ImmutableArray<Fact> Parts) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Parts.ApplyTo(sitting, at);
    internal override ImmutableArray<SeatId> About => [.. Parts.SelectMany(part => part.About).Distinct()];
    internal override Topic Topic => Topic.Orders;
    internal override string? Detail => Name;
    internal override ImmutableArray<Fact> Within => Parts;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        Parts.OppositesIn(sitting) is { IsEmpty: false } parts ? this with { Parts = parts } : null;
}

/// <summary>A seat's exception from an order, before and after; null where the order itself holds.</summary>
public sealed record Exempt(SeatId Seat, bool? From, bool? To);

public sealed record Excepted(
    Order Order, ImmutableArray<Exempt> Changes, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened,
    ImmutableArray<SeatId> Reopened, ImmutableArray<SeatId> Relit) : Fact
{
    internal static Sitting With(Sitting sitting, Order order, ImmutableArray<Exempt> changes) => changes.GroupBy(change => change.To)
        .Aggregate(sitting, (state, alike) => state.WithEach(alike.Select(change => change.Seat), seat => seat.Excepted(order, alike.Key)));

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        Losses.Apply(With(sitting, Order, Changes), Muted, Darkened, Reopened, Relit);
    internal override ImmutableArray<SeatId> About => [.. Changes.Select(change => change.Seat)];
    internal override Topic Topic => Topic.Orders;

    internal override string NameFor(Actor by) => Changes switch
    {
        [{ To: true }, ..] => "exceptionGiven",
        [{ To: false }, ..] => "exceptionTaken",
        _ => "exceptionEnded"
    };

    internal override string? Detail => CoreJson.NameOf(Order);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        ImmutableArray<Exempt> back =
        [
            .. Changes.Where(change => sitting.Seats[change.Seat] is var seat && Powers.TakesExceptions(seat)
                && seat.ExceptionFrom(Order) == change.To)
                .Select(change => new Exempt(change.Seat, change.To, change.From))
        ];
        if (back is []) return null;
        var after = With(sitting, Order, back);
        return new Excepted(
            Order, back, Losses.Muted(after), Losses.Darkened(after), Losses.Reopened(after, Muted), Losses.Relit(after, Darkened));
    }
}

/// <summary>A group's exception from an order, before and after; null where the order itself holds.</summary>
public sealed record GroupExcepted(
    string Group, Order Order, bool? From, bool? To, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened,
    ImmutableArray<SeatId> Reopened, ImmutableArray<SeatId> Relit) : Fact
{
    /// <summary>What brings a group there; null when it is there already.</summary>
    internal static GroupExcepted? Towards(Sitting sitting, string group, Order order, bool? to)
    {
        var from = sitting.RuleOfGroup(group, order);
        if (from == to) return null;
        var after = sitting.WithRuleOfGroup(group, order, to);
        return new GroupExcepted(group, order, from, to, Losses.Muted(after), Losses.Darkened(after), [], []);
    }

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        Losses.Apply(sitting.WithRuleOfGroup(Group, Order, To), Muted, Darkened, Reopened, Relit);
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Orders;

    internal override string NameFor(Actor by) =>
        To switch { true => "groupExceptionGiven", false => "groupExceptionTaken", _ => "groupExceptionEnded" };

    /// <summary>The order, and after a colon the group.</summary>
    internal override string? Detail => $"{CoreJson.NameOf(Order)}:{Group}";
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (sitting.RuleOfGroup(Group, Order) != To) return null;
        var after = sitting.WithRuleOfGroup(Group, Order, From);
        return new GroupExcepted(Group, Order, To, From, Losses.Muted(after), Losses.Darkened(after), Losses.Reopened(after, Muted),
            Losses.Relit(after, Darkened));
    }
}
