using System.Collections.Immutable;

namespace HoldCourt.Core.People;

internal static class PeopleRules
{
    public static Decision Decide(Sitting sitting, Remove remove, Actor by)
    {
        if (sitting.Forbids(by, Capability.Remove) is { } refusal) return refusal;
        var here = sitting.Those(remove.Seats, seat => seat.Place != Place.Gone && by.Seat != seat.Id);
        var seats = sitting.Those(here, seat => sitting.Forbids(by, Capability.Remove, seat) is null);
        return seats is []
            ? Decision.Refused(here is [] ? Reason.NobodySeated : Reason.HostIsOutOfReach)
            : new Removed(seats, [.. seats.Select(id => sitting.Seats[id].Role)], remove.MayReturn);
    }

    public static Decision Decide(Sitting sitting, GiveRole give, Actor by)
    {
        if (sitting.Forbids(by, Capability.GiveRoles) is { } refusal) return refusal;
        if (give.Role == Role.Host) return Decision.Refused(Reason.RoleNotGiven, Remedy.HandOverFirst);
        var here = sitting.Those(give.Seats, seat => seat.Place != Place.Gone && seat.Role != give.Role);
        if (here is []) return Decision.Refused(Reason.NoChange);
        var seats = sitting.Those(here, seat => seat.Role != Role.Host);
        return seats is []
            ? Decision.Refused(Reason.HostIsOutOfReach, Remedy.HandOverFirst)
            : new RolesGiven([.. seats.Select(id => new RoleChange(id, sitting.Seats[id].Role, give.Role))]);
    }

    public static Decision Decide(Sitting sitting, HandOver over, Actor by)
    {
        if (sitting.Forbids(by, Capability.HandOver) is { } refusal) return refusal;
        if (sitting.Host is not { } host || over.To == host || !sitting.Seats.TryGet(over.To, out var seat) || !seat.IsSeated)
            return Decision.Refused(Reason.NotADeputyOrSeated, Remedy.ChooseAnother);
        return seat.Connected ? new HandedOver(host, over.To, seat.Role, Role.Deputy) : Decision.Refused(Reason.OutOfReach, Remedy.ChooseAnother);
    }

    public static Decision Decide(Sitting sitting, Rename rename, Actor by)
    {
        if (!sitting.Seats.TryGet(rename.Seat, out var seat)) return Decision.Refused(Reason.NoSuchSeat);
        var capability = by.Seat == rename.Seat ? Capability.RenameSelf : Capability.RenameOthers;
        if (sitting.Forbids(by, capability, seat) is { } refusal) return refusal;
        if (PersonName.Refuses(rename.Name) is { } bad) return bad;
        var name = PersonName.Tidy(rename.Name);
        return name == seat.Name ? Decision.Refused(Reason.NoChange) : new Renamed(seat.Id, seat.Name, name);
    }

    public static RolesGiven? Opposite(Sitting sitting, RolesGiven given)
    {
        ImmutableArray<RoleChange> back =
        [
            .. given.Changes.Where(change => sitting.Seats[change.Seat] is { Place: not Place.Gone } seat && seat.Role == change.To)
                .Select(change => new RoleChange(change.Seat, change.To, change.From))
        ];
        return back is [] ? null : new RolesGiven(back);
    }

    public static HandedOver? Opposite(Sitting sitting, HandedOver over) =>
        sitting.Host == over.To && sitting.Seats[over.From].IsSeated ? new HandedOver(over.To, over.From, sitting.Seats[over.From].Role, over.ToWas) : null;

    public static Renamed? Opposite(Sitting sitting, Renamed renamed) =>
        sitting.Seats[renamed.Seat].Name == renamed.To ? new Renamed(renamed.Seat, renamed.To, renamed.From) : null;

    public static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        // Coming back after a removal does not bring back powers.
        Removed removed => sitting.WithEach(removed.Seats, seat => AdmissionRules.PutOut(seat, Place.Gone, at) with
        {
            Role = Role.Attendee,
            Exit = removed.MayReturn ? Exit.Removed : Exit.RemovedForGood
        }),
        RolesGiven given => WithRoles(sitting, given.Changes),
        HandedOver over => WithRoles(sitting with { Host = over.To },
            [new(over.From, Role.Host, over.FromBecomes), new(over.To, over.ToWas, Role.Host)]),
        Renamed renamed => sitting.With(renamed.Seat, seat => seat with { Name = renamed.To }),
        _ => sitting
    };

    /// <summary>Whoever may no longer speak or show a camera after the change does not go on doing so.</summary>
    private static Sitting WithRoles(Sitting sitting, ImmutableArray<RoleChange> changes)
    {
        var changed = changes.Aggregate(sitting, (state, change) => state.With(change.Seat, seat => seat with { Role = change.To }));
        return changed.WithEach(changes.Select(change => change.Seat), seat => seat with
        {
            MicrophoneOpen = seat.MicrophoneOpen && changed.Forbids(Actor.Of(seat.Id), Capability.Speak) is null,
            CameraOn = seat.CameraOn && changed.Forbids(Actor.Of(seat.Id), Capability.ShowCamera) is null
        });
    }
}
