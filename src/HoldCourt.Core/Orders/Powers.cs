namespace HoldCourt.Core.Orders;

/// <summary>Everything about which "may this actor do this?" is ever asked.</summary>
public enum Capability
{
    Speak, ShowCamera, RenameSelf, SeePeople, WriteToAll, WriteToBench, WriteToOne, SeeChat, React, RaiseHand,
    KeepDoor, KeepFloor, MuteOthers, TurnCamerasOff, Remove, GiveRoles, RenameOthers, SetOrders, SetPicture, KeepChat, KeepRunSheet, KeepTime, TakeBack,
    HandOver, Adjourn
}

/// <summary>The one place, with <see cref="Knowledge"/> and the door's threshold, where roles are compared.</summary>
public static class Powers
{
    /// <summary>
    /// Why <paramref name="by"/> may not do this now, or null when it is allowed. Answers from phase, place, role,
    /// orders, exceptions, leave, and whether the target is the host.
    /// </summary>
    public static Refusal? Forbids(this Sitting sitting, Actor by, Capability capability, Seat? target = null)
    {
        if (!sitting.IsRunning) return new Refusal(sitting.Phase == Phase.New ? Reason.NotOpen : Reason.SittingOver);
        if (by.Seat is not { } id) return null;
        if (!sitting.Seats.TryGet(id, out var seat)) return new Refusal(Reason.NoSuchSeat);
        if (!seat.IsSeated) return new Refusal(Reason.NotInside, Remedy.AskBench);
        if (OrderOf(capability) is { } order)
            return (capability == Capability.Speak && seat.HasLeave) || Allows(sitting, seat, order) ? null : Withheld(seat, order);
        return capability switch
        {
            Capability.RaiseHand => seat.Role == Role.Host ? new Refusal(Reason.HostNeedsNoHand) : null,
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

    /// <summary>What the orders say for people of this role, exceptions left out.</summary>
    public static bool Allows(this OrderSheet orders, Role role, Order order) => orders[order] switch
    {
        Audience.Everyone => true,
        Audience.Presenters => role >= Role.Presenter,
        _ => role >= Role.Deputy
    };

    /// <summary>Single people can be excepted from the orders; the orders do not hold for the bench.</summary>
    public static bool TakesExceptions(Seat seat) => !seat.OnBench;

    /// <summary>What this person does to others or the session can be taken back.</summary>
    public static bool ActsAreTakenBack(Seat seat) => seat.OnBench;

    /// <summary>Presenters and the bench, who speak without asking.</summary>
    public static bool PresentsOrLeads(Seat seat) => seat.Role >= Role.Presenter;

    /// <summary>During a recess only the bench is heard and seen, and by itself alone.</summary>
    public static bool Rests(this Sitting sitting, Seat seat) => sitting.Phase == Phase.Recess && !seat.OnBench;

    /// <summary>The order that gives a capability; null when it goes by role alone.</summary>
    public static Order? OrderOf(Capability capability) => capability switch
    {
        Capability.Speak => Order.Speak,
        Capability.ShowCamera => Order.ShowCamera,
        Capability.RenameSelf => Order.Rename,
        Capability.SeePeople => Order.SeePeople,
        Capability.WriteToAll => Order.WriteToAll,
        Capability.WriteToBench => Order.WriteToBench,
        Capability.WriteToOne => Order.WriteToOne,
        Capability.SeeChat => Order.SeeChat,
        Capability.React => Order.React,
        _ => null
    };

    private static bool Allows(Sitting sitting, Seat seat, Order order) =>
        seat.OnBench || (!seat.Taken.Contains(order) && (seat.Given.Contains(order) || sitting.Orders.Allows(seat.Role, order)));

    private static Refusal Withheld(Seat seat, Order order) => order switch
    {
        _ when seat.Taken.Contains(order) => new Refusal(Reason.TakenFromYou, Remedy.AskBench),
        Order.Speak => new Refusal(Reason.MicrophonesByLeave, Remedy.WaitForLeave),
        Order.ShowCamera => new Refusal(Reason.CameraNotAllowed, Remedy.AskBench),
        Order.Rename => new Refusal(Reason.RenameNotAllowed, Remedy.AskBench),
        Order.WriteToAll or Order.WriteToBench or Order.WriteToOne => new Refusal(Reason.WritingNotAllowed, Remedy.AskBench),
        Order.SeeChat => new Refusal(Reason.ChatHidden, Remedy.AskBench),
        Order.React => new Refusal(Reason.ReactionsOff, Remedy.AskBench),
        _ => new Refusal(Reason.OnlyBench, Remedy.AskBench)
    };
}
