namespace HoldCourt.Core.Docket;

/// <summary>One person's turn in a session of visits.</summary>
/// <param name="Line">The docket's line with the slot.</param>
/// <param name="To">Null while the visit is on.</param>
public sealed record Visit(SeatId Seat, int Line, Instant From, Instant? To = null);

/// <summary>Whose turn it is, and whose visit is on.</summary>
public static class Visits
{
    /// <summary>Whoever is called back within this goes on with the same visit.</summary>
    private static readonly TimeSpan _same = TimeSpan.FromMinutes(2);

    /// <summary>When somebody's visit was promised; null when this is nobody with a slot.</summary>
    public static Instant? SlotOf(this Sitting sitting, Seat seat) => sitting.Docket[seat.Recognition.Line]?.Slot;

    /// <summary>Whose turn it is: of those who wait and are surely expected, by slot, then by arrival; null when there is none.</summary>
    public static Seat? NextOf(Sitting sitting) => sitting.Seats.Where(seat => seat is { Place: Place.Lobby, Match: Match.Sure }
            && !Threshold.IsBarred(sitting, seat, null))
        .OrderBy(seat => sitting.SlotOf(seat) ?? new Instant(long.MaxValue)).ThenBy(seat => seat.Since).ThenBy(seat => seat.Id)
        .FirstOrDefault();

    /// <summary>The visits that begin and end with a change; null when none does.</summary>
    internal static VisitsNoted? Note(Sitting before, Sitting after, Instant at)
    {
        if (!after.Docket.HasSlots || ReferenceEquals(before.Seats, after.Seats)) return null;
        var visits = after.Visits;
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            var (visited, visiting) = (IsVisit(before, was), IsVisit(after, now));
            if (visited == visiting) continue;
            if (visiting)
            {
                var line = now.Recognition.Line!.Value;
                var same = visits.FindLastIndex(visit => visit.Seat == now.Id && visit.Line == line && visit.To is { } to
                    && at - to < _same);
                visits = same >= 0 ? visits.SetItem(same, visits[same] with { To = null }) : visits.Add(new Visit(now.Id, line, at));
            }
            else if (visits.FindLastIndex(visit => visit.Seat == now.Id && visit.To is null) is >= 0 and var open)
            {
                visits = visits.SetItem(open, visits[open] with { To = at });
            }
        }
        if (ReferenceEquals(visits, after.Visits)) return null;
        return new VisitsNoted([.. visits.Select((visit, n) => new VisitsNoted.Change(n, visit))
            .Where(change => change.At >= after.Visits.Count || !ReferenceEquals(change.Visit, after.Visits[change.At]))]);
    }

    private static bool IsVisit(Sitting sitting, Seat? seat) =>
        seat is { IsSeated: true, Role: Role.Attendee } && sitting.SlotOf(seat) is not null;
}
