using HoldCourt.Core.Sittings;

namespace HoldCourt.Core.Orders;

/// <summary>Everything about which "may this actor do this?" is ever asked.</summary>
public enum Capability
{
    Speak, ShowCamera, RenameSelf, SeePeople, RaiseHand,
    KeepDoor, KeepFloor, MuteOthers, TurnCamerasOff, Remove, GiveRoles, RenameOthers, SetOrders, TakeBack,
    HandOver, Adjourn
}

/// <summary>The one place where roles are compared.</summary>
public static class Powers
{
    /// <summary>
    /// Why <paramref name="by"/> may not do this now, or null when it is allowed. Answers from phase, place, role,
    /// orders, leave, and whether the target is the host.
    /// </summary>
    public static Refusal? Forbids(this Sitting sitting, Actor by, Capability capability, Seat? target = null)
    {
        if (!sitting.IsRunning) return new Refusal(sitting.Phase == Phase.New ? Reason.NotOpen : Reason.SittingOver);
        if (by.Seat is not { } id) return null;
        if (!sitting.Seats.TryGet(id, out var seat)) return new Refusal(Reason.NoSuchSeat);
        if (!seat.IsSeated) return new Refusal(Reason.NotInside, Remedy.AskBench);
        return capability switch
        {
            Capability.Speak => Allows(seat, sitting.Orders.Speak) || seat.HasLeave ? null : new Refusal(Reason.MicrophonesByLeave, Remedy.WaitForLeave),
            Capability.ShowCamera => Allows(seat, sitting.Orders.ShowCamera) ? null : new Refusal(Reason.CameraNotAllowed, Remedy.AskBench),
            Capability.RenameSelf => Allows(seat, sitting.Orders.Rename) ? null : new Refusal(Reason.RenameNotAllowed, Remedy.AskBench),
            Capability.SeePeople => Allows(seat, sitting.Orders.SeePeople) ? null : new Refusal(Reason.OnlyBench, Remedy.AskBench),
            Capability.RaiseHand => null,
            Capability.HandOver or Capability.Adjourn => seat.Role == Role.Host ? null : new Refusal(Reason.OnlyHost, Remedy.AskHost),
            _ when !seat.OnBench => new Refusal(Reason.OnlyBench, Remedy.AskBench),
            Capability.KeepDoor or Capability.Remove or Capability.GiveRoles or Capability.RenameOthers
                when target is { Role: Role.Host } && target.Id != id => new Refusal(Reason.HostIsOutOfReach, Remedy.AskHost),
            _ => null
        };
    }

    /// <summary>All that a seat may do now, apart from limits that depend on a target.</summary>
    public static IEnumerable<Capability> Of(Sitting sitting, SeatId seat) =>
        Enum.GetValues<Capability>().Where(capability => sitting.Forbids(Actor.Of(seat), capability) is null);

    private static bool Allows(Seat seat, Audience audience) => audience switch
    {
        Audience.Everyone => true,
        Audience.Presenters => seat.Role >= Role.Presenter,
        _ => seat.OnBench
    };
}
