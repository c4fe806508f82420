using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>A room that is open, as it may be seen.</summary>
/// <param name="Ordinal">A room without a name is called by it.</param>
/// <param name="Task">For the bench, and in the room.</param>
/// <param name="Called">Since when the bench is called; for the bench, and in the room.</param>
/// <param name="CalledBy">The caller's name, for the bench.</param>
/// <param name="Heard">When a voice was heard there last; for the bench.</param>
/// <param name="HeardName">Whose.</param>
/// <param name="Belong">How many belong there, and may not be there yet; for the bench.</param>
public sealed record RoomRow(
    int Number, int Ordinal, string Name, string? Task, ImmutableArray<SeatId> Leads, Instant? EndsAt, Instant? Called, string? CalledBy,
    Instant? Heard, string? HeardName, RoomWords? Words, int Belong)
{
    internal static RoomRow Of(Sitting sitting, Room room, bool books) => new(
        Number: room.Number,
        Ordinal: room.Ordinal,
        Name: room.Name,
        Task: room.Task,
        Leads: room.Leads,
        EndsAt: room.EndsAt,
        Called: room.CalledAt,
        CalledBy: books && room.CalledBy is { } caller ? sitting.Seats[caller].Name : null,
        Heard: books ? room.HeardAt : null,
        HeardName: books && room.HeardLast is { } last ? sitting.Seats[last].Name : null,
        Words: room.Words,
        Belong: books ? sitting.Rooms.Assigned.Values.Count(number => number == room.Number) : 0);

    public bool Equals(RoomRow? other) => other is not null
        && (Number, Ordinal, Name, Task) == (other.Number, other.Ordinal, other.Name, other.Task)
        && (EndsAt, Called) == (other.EndsAt, other.Called)
        && (CalledBy, Heard, HeardName, Words, Belong) == (other.CalledBy, other.Heard, other.HeardName, other.Words, other.Belong)
        && Leads.SequenceEqual(other.Leads);

    public override int GetHashCode() => HashCode.Combine(Number, EndsAt, Called, Heard, Belong);
}

/// <summary>Somebody's place in a plan.</summary>
/// <param name="Room">From 0.</param>
public sealed record PlanRow(SeatId Seat, int Room, bool ByHand, bool Leads);

/// <summary>The plan, for the bench alone.</summary>
/// <param name="Missing">Titles of documents that are to go with tasks, and are not there.</param>
/// <param name="Coming">Those whose pages are still being made.</param>
public sealed record DraftRow(
    int Number, RoomForm Form, ImmutableArray<PlanRow> People, int Repeated, int Least, ImmutableArray<RoomClash> Clashes,
    ImmutableArray<string> Unknown, ImmutableArray<string> Missing, ImmutableArray<string> Coming)
{
    internal static DraftRow Of(Sitting sitting, RoomDraft draft) => new(
        draft.Number, draft.Form,
        [
            .. draft.RoomOf.Select(pair => new PlanRow(
                new SeatId(pair.Key), pair.Value, draft.ByHand.ContainsKey(pair.Key),
                pair.Value < draft.Leads.Length && draft.Leads[pair.Value].Contains(pair.Key)))
        ],
        draft.Repeated, draft.Least, draft.Clashes, draft.Unknown,
        Missing: [.. draft.Form.Documents.Where(title => RoomShelves.DocumentOf(sitting, title) is null)],
        Coming: [.. draft.Form.Documents.Where(title => RoomShelves.DocumentOf(sitting, title) is { Pages.AreThere: false })]);

    /// <summary>It has another number after each change.</summary>
    public bool Equals(DraftRow? other) => other is not null && Number == other.Number && Missing.SequenceEqual(other.Missing)
        && Coming.SequenceEqual(other.Coming);

    public override int GetHashCode() => Number;
}

/// <summary>Rooms.</summary>
/// <param name="Open">To the bench all; to whoever is in one, that one; to others in the hall none.</param>
/// <param name="Here">Where this is seen from; null for the hall.</param>
/// <param name="Voice">Whose voice goes into all rooms, for the bench and in rooms, where it is heard.</param>
/// <param name="VoiceName">Their name: whoever speaks to all says who they are.</param>
/// <param name="AnyOpen">There are rooms, and people in them.</param>
/// <param name="Last">The wishes of the last round, for another one; for the bench alone.</param>
/// <param name="Rounds">How many rounds are over.</param>
/// <param name="Orders">Those that hold in rooms; for the bench alone.</param>
/// <param name="Past">Those that were closed, newest last; for the bench alone.</param>
public sealed record RoomsFacet(
    ImmutableArray<RoomRow> Open, int? Here, Instant? OpensAt, DraftRow? Draft, SeatId? Voice, string? VoiceName, bool AnyOpen,
    bool MayGoBack, bool MayListen, bool KeepsChat, RoomForm? Last, int Rounds, StandingOrders? Orders, ImmutableArray<PastRoom> Past)
    : IFacet<RoomsFacet>
{
    private static readonly RoomsFacet _none = new(
        Open: [], Here: null, OpensAt: null, Draft: null, Voice: null, VoiceName: null, AnyOpen: false, MayGoBack: false,
        MayListen: false, KeepsChat: false, Last: null, Rounds: 0, Orders: null, Past: []);

    public static RoomsFacet Of(Sitting sitting, Viewpoint from)
    {
        var book = sitting.Rooms;
        if (!sitting.MayKnow(from, Matter.Inside)) return _none;
        var books = sitting.MayKnow(from, Matter.Books);
        if (book is { Open: [], Draft: null, Form: null }) return books ? _none with { Orders = book.Orders } : _none;
        var any = book.Open is not [];
        return new RoomsFacet(
            Open: [.. book.Open.Where(room => books || room.Number == from.Room).Select(room => RoomRow.Of(sitting, room, books))],
            Here: from.Room,
            OpensAt: book.OpensAt,
            Draft: books && book.Draft is { } draft ? DraftRow.Of(sitting.At(null), draft) : null,
            Voice: books || from.Room is not null ? book.Voice : null,
            VoiceName: book.Voice is { } voice && (books || from.Room is not null) ? sitting.Seats[voice].Name : null,
            AnyOpen: any,
            MayGoBack: any && book.Form!.MayGoBack,
            MayListen: any && book.Form!.MayListen,
            KeepsChat: any && book.Form!.KeepsChat,
            Last: books ? book.Form : null,
            Rounds: books ? book.Rounds.Length : 0,
            Orders: books ? book.Orders : null,
            Past: books ? [.. book.Past.TakeLast(RoomWishes.MostRooms)] : []);
    }

    // Whether a plan's documents are there depends on more than rooms.
    public static bool IsSame(Step step) => ReferenceEquals(step.Before.Rooms, step.After.Rooms)
        && step.After.Rooms.Draft is null && !step.Renamed;

    public static bool AltersRows(Step step) => step.Before.Rooms.Orders != step.After.Rooms.Orders;

    public static IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        before.Rooms.Orders != after.Rooms.Orders ? all
            : ReferenceEquals(before.Rooms, after.Rooms) || (ReferenceEquals(before.Rooms.Assigned, after.Rooms.Assigned)
            && before.Rooms.OpensAt == after.Rooms.OpensAt && before.Rooms.Open.Length == after.Rooms.Open.Length) ? [] : all;

    public bool Equals(RoomsFacet? other) => other is not null
        && (Here, OpensAt, Draft, Voice, VoiceName) == (other.Here, other.OpensAt, other.Draft, other.Voice, other.VoiceName)
        && AnyOpen == other.AnyOpen
        && (MayGoBack, MayListen, KeepsChat, Last, Rounds, Orders)
            == (other.MayGoBack, other.MayListen, other.KeepsChat, other.Last, other.Rounds, other.Orders)
        && Past.Length == other.Past.Length && Past.LastOrDefault()?.Number == other.Past.LastOrDefault()?.Number
        && Open.SequenceEqual(other.Open);

    public override int GetHashCode() => HashCode.Combine(Here, OpensAt, Draft, Voice, AnyOpen, Open.Length);
}

/// <summary>The room where one belongs, while one is not in it: where one goes in a moment, or may go back to.</summary>
/// <param name="With">Names of those who go there, too; empty where people may not see each other.</param>
/// <param name="Leads">One leads it.</param>
public sealed record OwnRoomRow(int Number, int Ordinal, string Name, string? Task, ImmutableArray<string> With, bool Leads)
{
    /// <summary>So many are named.</summary>
    public const int MostNames = 12;

    internal static OwnRoomRow? Of(Sitting sitting, Seat seat)
    {
        var book = sitting.Rooms;
        if (!Powers.BelongsInRooms(seat) || book.Open is [] || !book.Assigned.TryGetValue(seat.Id.Number, out var number)
            || seat.Room == number || book.Find(number) is not { } room) return null;
        return new OwnRoomRow(
            number, room.Ordinal, room.Name, room.Task,
            book.OpensAt is not null && sitting.WouldSeePeople(seat, room)
                ? [.. book.Assigned.Where(pair => pair.Value == number && pair.Key != seat.Id.Number)
                    .Select(pair => sitting.Seats[new SeatId(pair.Key)]).Where(other => other.IsSeated)
                    .OrderByDescending(other => room.Leads.Contains(other.Id)).Take(MostNames).Select(other => other.Name)]
                : [],
            room.Leads.Contains(seat.Id));
    }

    public bool Equals(OwnRoomRow? other) => other is not null
        && (Number, Ordinal, Name, Task, Leads) == (other.Number, other.Ordinal, other.Name, other.Task, other.Leads)
        && With.SequenceEqual(other.With);

    public override int GetHashCode() => HashCode.Combine(Number, With.Length, Leads);
}
