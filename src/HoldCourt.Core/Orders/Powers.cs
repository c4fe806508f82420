namespace HoldCourt.Core.Orders;

/// <summary>The one place, with <see cref="Knowledge"/> and the door's threshold, where roles are compared.</summary>
public static class Powers
{
    /// <summary>
    /// Why <paramref name="by"/> may not do this now, or null when it is allowed. Answers from phase, place, role,
    /// orders, exceptions of people and of their groups, leave, and whether the target is the host.
    /// </summary>
    public static Refusal? Forbids(this Sitting sitting, Actor by, Capability capability, Seat? target = null)
    {
        if (!sitting.IsRunning) return new Refusal(sitting.Phase == Phase.New ? Reason.NotOpen : Reason.SittingOver);
        if (by.Seat is not { } id) return null;
        if (!sitting.Seats.TryGet(id, out var seat)) return new Refusal(Reason.NoSuchSeat);
        if (!seat.IsSeated) return new Refusal(Reason.NotInside, Remedy.AskBench);
        // What holds for somebody holds in the place where they are.
        sitting = sitting.AtPlaceOf(seat);
        return capability.Given switch
        {
            Capability.Holder.ByOrder => ByOrder(sitting, seat, capability),
            Capability.Holder.AllButTheHost => seat.Role == Role.Host ? capability.Otherwise : null,
            Capability.Holder.Host => seat.Role == Role.Host ? null : new Refusal(Reason.OnlyHost, Remedy.AskHost),
            _ when !seat.OnBench => new Refusal(Reason.OnlyBench, Remedy.AskBench),
            _ when capability.SparesTheHost && target is { Role: Role.Host } && target.Id != id =>
                new Refusal(Reason.HostIsOutOfReach, Remedy.AskHost),
            _ => null
        };
    }

    /// <summary>All that a seat may do now, apart from limits that depend on a target.</summary>
    public static IEnumerable<Capability> Of(Sitting sitting, SeatId seat) =>
        Named.All<Capability>().Where(capability => sitting.Forbids(Actor.Of(seat), capability) is null);

    /// <summary>What the orders say for people of this role, exceptions left out.</summary>
    public static bool Allows(this StandingOrders orders, Role role, Order order) => orders[order] switch
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

    /// <summary>Whoever leads the room that they are in has a presenter's powers there.</summary>
    internal static Role RoleHere(this Sitting sitting, Seat seat) =>
        seat is { Role: Role.Attendee, Room: not null } && sitting.Rooms.Leads(seat) ? Role.Presenter : seat.Role;

    /// <summary>The roles of an electorate take this person in.</summary>
    internal static bool VotesBy(Seat seat, Electorate who) => seat.Role switch
    {
        Role.Attendee => who.Attendees,
        Role.Presenter => who.Presenters,
        _ => who.Bench
    };

    /// <summary>Those who are planned into rooms; the bench stays in the hall, and goes where it wants.</summary>
    public static bool BelongsInRooms(Seat seat) => seat is { IsSeated: true, OnBench: false };

    /// <summary>Is on the bench, and inside.</summary>
    internal static bool SitsOnBench(Seat seat) => seat is { IsSeated: true, OnBench: true };

    /// <summary>During a recess only the bench is heard and seen, and by itself alone.</summary>
    public static bool Rests(this Sitting sitting, Seat seat) => sitting.Phase == Phase.Recess && !seat.OnBench;

    private static Refusal? ByOrder(Sitting sitting, Seat seat, Capability capability)
    {
        var order = capability.ByOrder!.Value;
        // Who listens is neither heard nor seen.
        if (seat.Listens && order is (Order.Speak or Order.ShowCamera)) return new Refusal(Reason.SpeakWhileListening);
        if (capability.OrBy?.Invoke(seat) == true || Allows(sitting, seat, order)) return null;
        return seat.Taken.Contains(order) || sitting.RuleOfGroup(seat, order) == false
            ? new Refusal(Reason.TakenFromYou, Remedy.AskBench)
            : capability.Otherwise ?? new Refusal(Reason.OnlyBench, Remedy.AskBench);
    }

    private static bool Allows(Sitting sitting, Seat seat, Order order) =>
        seat.OnBench || (!seat.Taken.Contains(order) && (seat.Given.Contains(order)
            || (sitting.RuleOfGroup(seat, order) ?? sitting.Orders.Allows(sitting.RoleHere(seat), order))));
}
