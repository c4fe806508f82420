using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>One person's turn in a session of visits.</summary>
/// <param name="Line">The docket's line with the slot.</param>
/// <param name="To">Null while the visit is on.</param>
public sealed record Visit(SeatId Seat, int Line, Instant From, Instant? To = null);

/// <summary>Closes the visit that is on, and calls the next person by slot and arrival. Only people who surely are expected are called.</summary>
public sealed record Next : SeatCommand;

/// <param name="Closed">Whose visit is over.</param>
/// <param name="Called">Who comes in; empty when nobody who waits is sure.</param>
public sealed record VisitsTurned(ImmutableArray<SeatId> Closed, ImmutableArray<SeatId> Called, ImmutableArray<Role> As) : Fact;

/// <summary>The way back: those called wait again, those whose visit was closed are inside again.</summary>
public sealed record VisitsReturned(ImmutableArray<SeatId> Back, ImmutableArray<SeatId> ToLobby) : Fact;

internal static class VisitRules
{
    public static Decision DecideNext(Sitting sitting, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        // Whoever stands on the docket without a slot is there for the whole session.
        ImmutableArray<SeatId> closed = [.. sitting.Seats.Where(seat => seat is { IsSeated: true, Role: Role.Attendee } && (seat.Recognition.Line is null || SlotOf(sitting, seat) is not null)).Select(seat => seat.Id)];
        var next = NextOf(sitting);
        if (next is null && closed is []) return Decision.Refused(Reason.NobodyNext);
        return next is null
            ? new VisitsTurned(closed, [], [])
            : new VisitsTurned(closed, [next.Id], [Admission.Threshold.RoleOf(sitting, next)]);
    }

    /// <summary>Whose turn it is: of those who wait and are surely expected, by slot, then by arrival; null when there is none.</summary>
    public static Seat? NextOf(Sitting sitting) => sitting.Seats.Where(seat => seat is { Place: Place.Lobby, Match: Match.Sure })
        .OrderBy(seat => SlotOf(sitting, seat) ?? new Instant(long.MaxValue)).ThenBy(seat => seat.Since).ThenBy(seat => seat.Id).FirstOrDefault();

    public static VisitsReturned? Opposite(Sitting sitting, VisitsTurned turned)
    {
        var back = sitting.Those(turned.Closed, seat => seat.Exit == Exit.VisitOver);
        var lobby = sitting.Those(turned.Called, seat => seat is { IsSeated: true, Role: not Role.Host });
        return back is [] && lobby is [] ? null : new VisitsReturned(back, lobby);
    }

    public static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        VisitsTurned turned => turned.Called.Zip(turned.As).Aggregate(
            sitting.WithEach(turned.Closed, seat => Admission.AdmissionRules.PutOut(seat, Place.Gone, at) with { Exit = Exit.VisitOver }),
            (state, pair) => state.With(pair.First, seat => Admission.AdmissionRules.Moved(seat, Place.Seated, at) with { Role = pair.Second > seat.Role ? pair.Second : seat.Role })),
        VisitsReturned returned => sitting
            .WithEach(returned.ToLobby, seat => Admission.AdmissionRules.PutOut(seat, Place.Lobby, at))
            .WithEach(returned.Back, seat => Admission.AdmissionRules.Moved(seat, Place.Seated, at)),
        _ => sitting
    };

    /// <summary>Notes whose visit begins and ends with the change.</summary>
    public static Sitting Follow(Sitting before, Sitting after, Instant at)
    {
        if (!after.Docket.HasSlots || ReferenceEquals(before.Seats, after.Seats)) return after;
        var visits = after.Visits;
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            var (visited, isVisit) = (IsVisit(before, was), IsVisit(after, now));
            if (visited == isVisit) continue;
            if (isVisit)
            {
                // Called back after a moment: the same visit goes on.
                var same = visits.FindLastIndex(visit => visit.Seat == now.Id && visit.Line == now.Recognition.Line && visit.To is { } to && at - to < TimeSpan.FromMinutes(2));
                visits = same >= 0 ? visits.SetItem(same, visits[same] with { To = null }) : visits.Add(new Visit(now.Id, now.Recognition.Line!.Value, at));
            }
            else if (visits.FindLastIndex(visit => visit.Seat == now.Id && visit.To is null) is >= 0 and var open)
            {
                visits = visits.SetItem(open, visits[open] with { To = at });
            }
        }
        return ReferenceEquals(visits, after.Visits) ? after : after with { Visits = visits };
    }

    private static bool IsVisit(Sitting sitting, Seat? seat) => seat is { IsSeated: true, Role: Role.Attendee } && SlotOf(sitting, seat) is not null;

    public static Instant? SlotOf(Sitting sitting, Seat seat) => sitting.Docket[seat.Recognition.Line]?.Slot;
}
