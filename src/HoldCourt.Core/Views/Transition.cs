using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>
/// From one state to a later one, looked at from each viewpoint. What need not be looked at is found once for all of them; whether a
/// facet is different is always seen by comparing it.
/// </summary>
/// <param name="entries">What led from <paramref name="before"/> to <paramref name="after"/>.</param>
public sealed class Transition(Sitting before, Sitting after, ImmutableArray<Entry> entries)
{
    private readonly ImmutableArray<(Seat? Before, Seat After)> _changed = [.. after.Seats.ChangedSince(before.Seats)];
    private ImmutableArray<(Seat? Before, Seat After)>? _looked;
    private (HashSet<SeatId> Before, HashSet<SeatId> After)? _gone;

    /// <summary>Somebody came, went, or is thought to be somebody else.</summary>
    private bool Moved => field = field
        || _changed.Any(pair => pair.Before?.Place != pair.After.Place || pair.Before.Recognition != pair.After.Recognition
            || pair.Before.Room != pair.After.Room);

    /// <summary>The room from which is looked just now.</summary>
    private int? _here;

    private void LookFrom(int? room)
    {
        if (room == _here) return;
        (_here, before, after, _looked) = (room, before.At(room), after.At(room), null);
    }

    /// <summary>
    /// Nothing that can be seen from a room is different: nobody who is or was there changed, nor what is there, nor what is the same in
    /// all places. With a hundred rooms this spares looking at each facet a hundred times.
    /// </summary>
    private bool IsStill(Viewpoint from) => from is { Room: { } room, Viewer: not Viewer.Bench }
        && !_changed.Any(pair => pair.After.Room == room || pair.Before?.Room == room || pair.Before?.Place != pair.After.Place)
        && before.Rooms.Find(room) is { } was && after.Rooms.Find(room) is { } now
        && was with { HeardAt = null, HeardLast = null } == now with { HeardAt = null, HeardLast = null }
        && InCommon(before) == InCommon(after);

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
    private bool TouchesAll => before.Orders != after.Orders || before.GroupRules != after.GroupRules
        || before.Turn?.Seat != after.Turn?.Seat || before.Phase != after.Phase || before.RecordingRules != after.RecordingRules
        || !ReferenceEquals(before.Picture, after.Picture) || !ReferenceEquals(before.Docket, after.Docket)
        || !ReferenceEquals(before.Shelf, after.Shelf) || before.Rooms.Orders != after.Rooms.Orders
        || !ReferenceEquals(before.Polls.Open?.Voters, after.Polls.Open?.Voters);

    public ViewChange From(Viewpoint from)
    {
        LookFrom(from.Room);
        if (IsStill(from)) return new ViewChange(before.Sequence, after.Sequence);
        var set = Facets(from);
        var (put, drop, altered) = (ImmutableArray.CreateBuilder<SeatRow>(), ImmutableArray.CreateBuilder<SeatId>(), new Alterations());
        var books = after.MayKnow(from, Matter.Books);
        foreach (var (was, now) in books ? WithTheGone() : Looked())
        {
            var old = was is null || (books && !Projection.IsShown(was, Gone().Before)) ? null : SeatRow.Of(before, was, from);
            var row = books && !Projection.IsShown(now, Gone().After) ? null : SeatRow.Of(after, now, from);
            if (row == old) continue;
            if (row is null) drop.Add(now.Id);
            else if (old is null) put.Add(row);
            else altered.Add(old, row);
        }
        var told = books ? Sentences.Of(after, entries) : [];
        return new ViewChange(
            before.Sequence, after.Sequence, set, put.Count > 0 ? put.DrainToImmutable() : null, altered.Done(),
            drop.Count > 0 ? drop.DrainToImmutable() : null, told is [] ? null : told);
    }

    private ImmutableArray<(Seat? Before, Seat After)> Looked() => _looked ??= TouchesAll
        ? [.. after.Seats.Select(seat => (before.Seats.TryGet(seat.Id, out var was) ? was : null, seat))]
        : _changed;

    /// <summary>Those, too, who come into the view or fall out of it because others have gone or come back.</summary>
    private IEnumerable<(Seat? Before, Seat After)> WithTheGone()
    {
        var looked = Looked();
        if (_changed.All(pair => pair.Before?.Place != Place.Gone && pair.After.Place != Place.Gone)) return looked;
        var (was, now) = Gone();
        var ids = looked.Select(pair => pair.After.Id).ToHashSet();
        return looked.Concat(was.Union(now).Where(id => was.Contains(id) != now.Contains(id) && !ids.Contains(id))
            .Select(id => ((Seat?)before.Seats[id], after.Seats[id])));
    }

    private (HashSet<SeatId> Before, HashSet<SeatId> After) Gone() =>
        _gone ??= (Projection.NewestGone(before), Projection.NewestGone(after));

    private SittingRow? Facets(Viewpoint from)
    {
        var handed = _changed.Any(pair => pair.Before?.HandSince != pair.After.HandSince || pair.After.HandSince is not null)
            || before.Floor != after.Floor;
        var visits = Moved || !ReferenceEquals(before.Docket, after.Docket) || !ReferenceEquals(before.Visits, after.Visits);
        var set = new SittingRow
        {
            Session = New(SessionFacet.Of(before), SessionFacet.Of(after)),
            Door = New(DoorFacet.Of(before, from), DoorFacet.Of(after, from)),
            Counts = Moved ? New(CountsFacet.Of(before, from), CountsFacet.Of(after, from)) : null,
            Visits = visits ? New(VisitsFacet.Of(before, from), VisitsFacet.Of(after, from)) : null,
            Orders = New(Projection.OrdersOf(before, from), Projection.OrdersOf(after, from)),
            Groups = New(GroupsFacet.Of(before, from), GroupsFacet.Of(after, from)),
            Floor = New(FloorFacet.Of(before, from), FloorFacet.Of(after, from)),
            Hands = handed ? New(HandsFacet.Of(before, from), HandsFacet.Of(after, from)) : null,
            Chat = New(ChatFacet.Of(before, from), ChatFacet.Of(after, from)),
            Picture = New(PictureFacet.Of(before, from), PictureFacet.Of(after, from)),
            Time = New(TimeFacet.Of(before, from), TimeFacet.Of(after, from)),
            Files = New(Projection.FilesOf(before, from), Projection.FilesOf(after, from)),
            Shelf = New(ShelfFacet.Of(before, from), ShelfFacet.Of(after, from)),
            Recording = New(RecordingFacet.Of(before, from), RecordingFacet.Of(after, from)),
            Captions = New(CaptionsFacet.Of(before, from), CaptionsFacet.Of(after, from)),
            Polls = ReferenceEquals(before.Polls, after.Polls) && ReferenceEquals(before.Visits, after.Visits)
                ? null
                : New(PollsFacet.Of(before, from), PollsFacet.Of(after, from)),
            // Whether a plan's documents are there depends on more than rooms.
            Rooms = ReferenceEquals(before.Rooms, after.Rooms) && after.Rooms.Draft is null
                ? null
                : New(RoomsFacet.Of(before, from), RoomsFacet.Of(after, from)),
            Business = New(BusinessFacet.Of(before, from), BusinessFacet.Of(after, from)),
            Items = New(ItemsFacet.Of(before, from), ItemsFacet.Of(after, from)),
            TakeBack = New(TakeBackFacet.Of(before, from), TakeBackFacet.Of(after, from)),
            Takeable = ReferenceEquals(before.Takeable, after.Takeable)
                ? null
                : TakeableFacet.Of(after, from) is { Sequences: not null } takeable ? takeable : null
        };
        return set == _nothing ? null : set;
    }

    private static readonly SittingRow _nothing = new();

    private static T? New<T>(T was, T now) where T : class => was.Equals(now) ? null : now;
}
