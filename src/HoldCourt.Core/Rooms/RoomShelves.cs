using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>What stands in rooms when they open, and what becomes of what they have made.</summary>
internal static class RoomShelves
{
    /// <summary>Each room has before it, from the beginning, its own copy of the document that goes with its task.</summary>
    public static Sitting WithTasks(Sitting sitting, Instant at)
    {
        if (sitting.Rooms.Form is not { } form || form.Documents.FirstOrDefault() is null) return sitting;
        var hall = sitting.At(null);
        return sitting.Rooms.Open.Aggregate(sitting, (state, room) =>
            room.Ordinal <= form.Rooms.Length && form.ShownIn(room.Ordinal - 1) is { } title
                && DocumentOf(hall, title) is { Pages: { } pages } document
                ? state with { Rooms = state.Rooms.With(room.Number, one => Showing(one, document, pages, state.NextExhibit(), at)) }
                : state);
    }

    /// <summary>What is meant by a title. A sheet is none: what it says are its marks, and those stay with it.</summary>
    public static Exhibit? DocumentOf(Sitting hall, string title) =>
        hall.Named(title) is { Pages: { File: not null, Flaw: null } } document ? document : null;

    private static Room Showing(Room room, Exhibit document, Pages pages, int number, Instant at) => room with
    {
        Scenery = room.Scenery with
        {
            Shelf = new Shelf(
                [
                    new Exhibit(number, document.Kind, document.Title, document.By, at,
                        Pages: pages.TurnedTo(1) with { Holder = null, FreeLook = true, View = PageView.Whole },
                        WasShown: pages.AreThere, Backed: pages.AreThere, ShowsWhenMade: !pages.AreThere)
                ],
                pages.AreThere ? [number] : [], number)
        }
    };

    /// <summary>What was made in a room stands on the hall's shelf from now on, not before all; a screen is nobody's any more.</summary>
    public static Shelf Taking(this Shelf shelf, Room room) => room.Scenery.Shelf is { Last: 0 } ? shelf : shelf with
    {
        Open = Newest(
            [
                .. shelf.Open, .. room.Scenery.Shelf.Open.Where(exhibit => exhibit.Pages is not null).Select(exhibit =>
                    exhibit with { Backed = false, ShowsWhenMade = false, ByLeave = false, Loan = null, Room = room.Number })
            ],
            exhibit => exhibit.Room is not null && !shelf.IsShown(exhibit), Shelf.MostOfRooms),
        Last = Math.Max(shelf.Last, room.Scenery.Shelf.Last)
    };

    /// <summary>What went to all in the room is kept for those who took it, and for the bench; what went to one person ends.</summary>
    public static HandoutList Taking(this HandoutList list, Room room) => list with
    {
        Out = Newest(
            [
                .. list.Out,
                .. room.Scenery.Handouts.Out.Where(handout => handout.To is null).Select(handout => handout with { Room = room.Number })
            ],
            handout => handout.IsOfRoom, HandoutList.MostOfRooms),
        Last = Math.Max(list.Last, room.Scenery.Handouts.Last)
    };

    private static bool IsOf(Sitting sitting, Exhibit exhibit, int room) => exhibit.Room == room && !sitting.Shelf.IsShown(exhibit);

    /// <summary>A room that is open again has what it had made, before nobody yet.</summary>
    public static Room WithThings(Room room, Sitting hall) => room with
    {
        Scenery = room.Scenery with
        {
            Shelf = new Shelf(
                [.. hall.Shelf.Open.Where(exhibit => IsOf(hall, exhibit, room.Number)).Select(exhibit => exhibit with { Room = null })],
                [], hall.Shelf.Last),
            Handouts = room.Scenery.Handouts with
            {
                Out =
                [
                    .. hall.Handouts.Out.Where(handout => handout.IsOfRoom && handout.Room == room.Number)
                        .Select(handout => handout with { Room = null })
                ],
                Last = hall.Handouts.Last
            }
        }
    };

    public static Sitting WithoutThingsOf(Sitting hall, ImmutableArray<PastRoom> rooms) => hall with
    {
        Shelf = hall.Shelf.Without(exhibit => rooms.Any(room => IsOf(hall, exhibit, room.Number))),
        Handouts = hall.Handouts.Without(handout => handout.IsOfRoom && rooms.Any(room => handout.Room == room.Number))
    };

    /// <summary>Of those that count, the last ones; all others.</summary>
    private static ImmutableArray<T> Newest<T>(ImmutableArray<T> all, Func<T, bool> counts, int most) =>
        all.Count(counts) - most is var over and > 0 ? [.. all.Where(one => !counts(one) || over-- <= 0)] : all;
}
