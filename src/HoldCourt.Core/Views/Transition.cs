using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>
/// From one state to a later one, looked at from each viewpoint. What need not be looked at is found once for all of them; whether a
/// facet is different is always seen by comparing it.
/// </summary>
/// <param name="entries">What led from <paramref name="before"/> to <paramref name="after"/>.</param>
public sealed class Transition(Sitting before, Sitting after, ImmutableArray<Entry> entries)
{
    /// <summary>From where is looked just now; and the facets that may be different from there.</summary>
    private Step _step = new(before, after);
    private Facet[]? _mayDiffer;

    private Sitting Before => _step.Before;
    private Sitting After => _step.After;
    private ImmutableArray<(Seat? Before, Seat After)> Changed => _step.Changed;

    private ImmutableArray<(Seat? Before, Seat After)>? _looked;
    private (HashSet<SeatId> Before, HashSet<SeatId> After)? _gone;

    /// <summary>The room from which is looked just now.</summary>
    private int? _here;

    private void LookFrom(int? room)
    {
        if (room == _here) return;
        _step = _step.At(room);
        (_here, _looked, _mayDiffer) = (room, null, null);
    }

    /// <summary>
    /// Nothing that can be seen from a room is different: nobody who is or was there changed, nor what is there, nor what is the same in
    /// all places. With a hundred rooms this spares looking at each facet a hundred times.
    /// </summary>
    private bool IsStill(Viewpoint from) => from is { Room: { } room, Viewer: not Viewer.Bench }
        && !Changed.Any(pair => pair.After.Room == room || pair.Before?.Room == room || pair.Before?.Place != pair.After.Place)
        && Before.Rooms.Find(room) is { } was && After.Rooms.Find(room) is { } now
        && was with { HeardAt = null, HeardLast = null } == now with { HeardAt = null, HeardLast = null }
        && InCommon(Before) == InCommon(After);

    /// <summary>What is the same in all places, people and words left out.</summary>
    private static Sitting InCommon(Sitting sitting) => sitting with
    {
        Seats = Roll.Empty,
        Takeable = [],
        Sequence = 0,
        Chat = ChatLog.Empty,
        Aside = null,
        Captions = sitting.Captions with { Count = 0, Newest = [] },
        Rooms = RoomBook.Empty with
        {
            Orders = sitting.Rooms.Orders,
            OpensAt = sitting.Rooms.OpensAt,
            Voice = sitting.Rooms.Voice,
            Form = sitting.Rooms.Form
        }
    };

    /// <summary>Rows may be different of seats that are not: what holds for all is another.</summary>
    private bool TouchesAll => Facet.All.Any(facet => facet.AltersRows(_step));

    public ViewChange From(Viewpoint from)
    {
        LookFrom(from.Room);
        if (IsStill(from)) return new ViewChange(Before.Sequence, After.Sequence);
        var set = Facets(from);
        var (put, drop, altered) = (ImmutableArray.CreateBuilder<SeatRow>(), ImmutableArray.CreateBuilder<SeatId>(), new Alterations());
        var books = After.MayKnow(from, Matter.Books);
        foreach (var (was, now) in books ? WithTheGone() : Looked())
        {
            var old = was is null || (books && !Projection.IsShown(was, Gone().Before)) ? null : SeatRow.Of(Before, was, from);
            var row = books && !Projection.IsShown(now, Gone().After) ? null : SeatRow.Of(After, now, from);
            if (row == old) continue;
            if (row is null) drop.Add(now.Id);
            else if (old is null) put.Add(row);
            else altered.Add(old, row);
        }
        var told = books ? Sentences.Of(After, entries) : [];
        return new ViewChange(
            Before.Sequence, After.Sequence, set, put.Count > 0 ? put.DrainToImmutable() : null, altered.Done(),
            drop.Count > 0 ? drop.DrainToImmutable() : null, told is [] ? null : told);
    }

    private ImmutableArray<(Seat? Before, Seat After)> Looked() => _looked ??= TouchesAll
        ? [.. After.Seats.Select(seat => (Before.Seats.TryGet(seat.Id, out var was) ? was : null, seat))]
        : Changed;

    /// <summary>Those, too, who come into the view or fall out of it because others have gone or come back.</summary>
    private IEnumerable<(Seat? Before, Seat After)> WithTheGone()
    {
        var looked = Looked();
        if (Changed.All(pair => pair.Before?.Place != Place.Gone && pair.After.Place != Place.Gone)) return looked;
        var (was, now) = Gone();
        var ids = looked.Select(pair => pair.After.Id).ToHashSet();
        return looked.Concat(was.Union(now).Where(id => was.Contains(id) != now.Contains(id) && !ids.Contains(id))
            .Select(id => ((Seat?)Before.Seats[id], After.Seats[id])));
    }

    private (HashSet<SeatId> Before, HashSet<SeatId> After) Gone() =>
        _gone ??= (Projection.NewestGone(Before), Projection.NewestGone(After));

    private SittingRow? Facets(Viewpoint from)
    {
        SittingRow? set = null;
        foreach (var facet in _mayDiffer ??= [.. Facet.All.Where(facet => !facet.IsSame(_step))]) facet.PutIfNew(ref set, _step, from);
        return set;
    }
}
