using System.Collections.Immutable;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Core.Orders;

/// <summary>Changes who may do something without asking. "Microphones by leave" is Speak for Presenters.</summary>
public sealed record SetOrder(Order Order, Audience To) : SeatCommand;

/// <param name="Muted">Those whose open microphones the change closed.</param>
/// <param name="Darkened">Those whose cameras the change turned off.</param>
/// <param name="Reopened">On the way back: those given back what they had.</param>
public sealed record OrderSet(
    Order Order, Audience From, Audience To, ImmutableArray<SeatId> Muted, ImmutableArray<SeatId> Darkened, ImmutableArray<SeatId> Reopened) : Fact;

internal static class OrderRules
{
    public static Decision Decide(Sitting sitting, SetOrder set, Actor by)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        var from = sitting.Orders[set.Order];
        if (from == set.To) return Decision.Refused(Reason.NoChange);
        var after = sitting with { Orders = sitting.Orders.With(set.Order, set.To) };
        return new OrderSet(set.Order, from, set.To,
            Losing(after, Capability.Speak, seat => seat.MicrophoneOpen),
            Losing(after, Capability.ShowCamera, seat => seat.CameraOn), []);
    }

    public static Sitting Apply(Sitting sitting, OrderSet set)
    {
        var changed = (sitting with { Orders = sitting.Orders.With(set.Order, set.To) })
            .WithEach(set.Muted, seat => seat with { MicrophoneOpen = false })
            .WithEach(set.Darkened, seat => seat with { CameraOn = false });
        return set.Order == Order.ShowCamera
            ? changed.WithEach(set.Reopened, seat => seat with { CameraOn = true })
            : changed.WithEach(set.Reopened, seat => seat with { MicrophoneOpen = true });
    }

    /// <summary>The way back gives again exactly what the change took, to those who are still here and may have it then.</summary>
    public static OrderSet? Opposite(Sitting sitting, OrderSet set)
    {
        if (sitting.Orders[set.Order] != set.To) return null;
        var after = sitting with { Orders = sitting.Orders.With(set.Order, set.From) };
        var reopened = set.Order switch
        {
            Order.Speak => after.Those(set.Muted, seat => !seat.MicrophoneOpen && after.Forbids(Actor.Of(seat.Id), Capability.Speak) is null),
            Order.ShowCamera => after.Those(set.Darkened, seat => !seat.CameraOn && after.Forbids(Actor.Of(seat.Id), Capability.ShowCamera) is null),
            _ => []
        };
        return new OrderSet(set.Order, set.To, set.From,
            Losing(after, Capability.Speak, seat => seat.MicrophoneOpen),
            Losing(after, Capability.ShowCamera, seat => seat.CameraOn), reopened);
    }

    private static ImmutableArray<SeatId> Losing(Sitting after, Capability capability, Func<Seat, bool> uses) =>
        [.. after.Seats.Where(seat => seat.IsSeated && uses(seat) && after.Forbids(Actor.Of(seat.Id), capability) is not null).Select(seat => seat.Id)];
}
