namespace HoldCourt.Core.Views;

/// <summary>
/// Projects a sitting into what may be known from each viewpoint. A seat's row depends on the seat and on what holds for all, so that
/// seats which are the same objects need not be looked at.
/// </summary>
public static class Projection
{
    /// <summary>How many entries of the ledger a whole view carries; older ones are read from the store.</summary>
    public const int LedgerDepth = 200;

    /// <summary>How many of those who have gone stand in a view, the newest; the others are asked for.</summary>
    public const int MostGone = 50;

    public static SittingRow Record(Sitting sitting, Viewpoint from) => RecordHere(sitting.At(from.Room), from);

    private static SittingRow RecordHere(Sitting sitting, Viewpoint from)
    {
        var row = new SittingRow();
        foreach (var facet in Facet.All) facet.Put(row, sitting, from);
        return row;
    }

    public static WholeView Whole(Sitting sitting, Viewpoint from, IEnumerable<Entry> newestEntries)
    {
        sitting = sitting.At(from.Room);
        var gone = sitting.MayKnow(from, Matter.Books) ? NewestGone(sitting) : [];
        return new WholeView(
            sitting.Sequence, from.Viewer, Record(sitting, from),
            [.. sitting.Seats.Where(seat => IsShown(seat, gone)).Select(seat => SeatRow.Of(sitting, seat, from)).OfType<SeatRow>()],
            sitting.MayKnow(from, Matter.Books) ? Sentences.Of(sitting, newestEntries) : []);
    }

    /// <summary>People who are gone, the latest first, from one of them on.</summary>
    /// <param name="before">Null for the latest.</param>
    public static IEnumerable<Seat> Gone(Sitting sitting, Seat? before = null) => sitting.Seats
        .Where(seat => seat.Place == Place.Gone && (before is null || IsEarlier(seat, before)))
        .OrderByDescending(seat => seat.Since).ThenByDescending(seat => seat.Id);

    internal static HashSet<SeatId> NewestGone(Sitting sitting) => [.. Gone(sitting).Take(MostGone).Select(seat => seat.Id)];

    internal static bool IsShown(Seat seat, HashSet<SeatId> gone) => seat.Place != Place.Gone || gone.Contains(seat.Id);

    private static bool IsEarlier(Seat seat, Seat other) =>
        seat.Since != other.Since ? seat.Since < other.Since : seat.Id.Number < other.Id.Number;
}
