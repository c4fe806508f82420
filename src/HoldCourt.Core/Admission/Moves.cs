using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

/// <summary>What happens to a seat that comes to another place.</summary>
internal static class Moves
{
    /// <summary>From here on only the bench lets in again.</summary>
    public static Seat PutOut(Seat seat, Place to, Instant at) => Moved(seat, to, at) with
    {
        Admittance = Admittance.Withdrawn,
        LetInAt = null,
        PutOutAt = at
    };

    /// <summary>Nothing that was open stays open across a change of place. Whoever is seated has been let in.</summary>
    public static Seat Moved(Seat seat, Place to, Instant at) => seat with
    {
        Place = to,
        Since = at,
        Admittance = to == Place.Seated ? Admittance.Granted : seat.Admittance,
        LetInAt = to == Place.Seated ? at : seat.LetInAt,
        PutOutAt = to == Place.Seated ? null : seat.PutOutAt,
        // Of the gone nobody knows whether a page of theirs is still open.
        Connected = seat.Connected && to != Place.Gone,
        DroppedAt = to == Place.Gone ? null : seat.DroppedAt,
        Exit = null,
        Words = null,
        MicrophoneOpen = false,
        CameraOn = false,
        Asked = false,
        HasLeave = false,
        HandSince = null,
        WantsToShow = null,
        ShowsOnce = false,
        State = null,
        Room = null,
        Listens = false,
        InHall = null
    };

    /// <summary>Somebody stands at the door or walks in, newly or again.</summary>
    /// <param name="back">Was let in before, and comes back in the role that is said; otherwise a higher role is kept.</param>
    public static Sitting Arrive(Sitting sitting, Seat comer, Instant at, ImmutableArray<Order>? taken, bool back = false)
    {
        var seat = sitting.Seats.TryGet(comer.Id, out var before)
            ? Moved(before, comer.Place, at).Showing(comer.Proof) with
            {
                Name = comer.Name,
                Role = back ? comer.Role : Highest(comer.Role, before.Role),
                RoleSince = comer.Place == Place.Seated && !back ? at : before.RoleSince
            }
            : Moved(comer, comer.Place, at) with { RoleSince = comer.Place == Place.Seated ? at : null };
        return sitting with
        {
            Seats = sitting.Seats.With(WithoutWhatWasTaken(seat, taken)),
            SeatOf = sitting.SeatOf.SetItem(comer.Person, comer.Id),
            Host = comer.Role == Role.Host ? comer.Id : sitting.Host
        };
    }

    public static Seat WithoutWhatWasTaken(Seat seat, ImmutableArray<Order>? taken) =>
        (taken ?? []).Aggregate(seat, (one, order) => one.Excepted(order, may: false));

    /// <summary>What was taken from somebody stays taken when the same link comes from another browser; null for nothing.</summary>
    public static ImmutableArray<Order>? TakenWith(Sitting sitting, string? proof, Seat? self)
    {
        ImmutableArray<Order> taken =
            [.. Persons.OthersOf(sitting, self, proof).SelectMany(other => other.Taken).Distinct().Order()];
        return taken is [] ? null : taken;
    }

    public static Admitted AdmittedAsExpected(Sitting sitting, ImmutableArray<Seat> seats) => new(
        [.. seats.Select(seat => seat.Id)], [.. seats.Select(seat => Highest(Threshold.RoleOf(sitting, seat), seat.Role))]);

    public static Role Highest(Role a, Role b) => a > b ? a : b;

    /// <summary>Each with the role beside it.</summary>
    public static Sitting WithRoles(Sitting sitting,
        ImmutableArray<SeatId> seats, ImmutableArray<Role> roles, Func<Seat, Role, Seat> change) =>
        seats.Zip(roles).Aggregate(sitting, (state, pair) => state.With(pair.First, seat => change(seat, pair.Second)));
}
