using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Rooms;

/// <summary>Rooms open in a moment; everybody sees where they go.</summary>
/// <param name="Rooms">Each for a room of the form, in its order.</param>
/// <param name="Seats">Those who go.</param>
/// <param name="In">For each the room's number.</param>
public sealed record RoomsOpened(
    RoomDraft Plan, ImmutableArray<PastRoom> Rooms, ImmutableArray<SeatId> Seats, ImmutableArray<int> In, Instant OpensAt) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Rooms = sitting.Rooms with
        {
            Draft = null,
            Form = Plan.Form,
            OpensAt = OpensAt,
            Last = Rooms[^1].Number,
            LeftOut = [.. Plan.ByHand.Where(pair => pair.Value == RoomDraft.Out).Select(pair => pair.Key)],
            Open = [.. Rooms.Select(room => Opened(sitting, room))],
            Assigned = Seats.Zip(In).ToImmutableSortedDictionary(pair => pair.First.Number, pair => pair.Second)
        }
    };

    internal static Room Opened(Sitting sitting, PastRoom room) => new(
        room.Number, room.Ordinal, room.Name, room.Task, room.Leads, null,
        Scenery.Empty with { Handouts = HandoutList.Empty with { Rules = sitting.Handouts.Rules } });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => Rooms.Length.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.Rooms.Open.Any(room => room.Number == Rooms[0].Number)
        ? RoomsClosed.Of(sitting, [.. sitting.Rooms.Open.Select(room => room.Number)], sitting.Rooms.OpensAt is null ? null : Plan)
        : null;
}

/// <summary>The countdown is over: people are in their rooms.</summary>
/// <param name="In">For each the room's number.</param>
public sealed record RoomsEntered(ImmutableArray<SeatId> Seats, ImmutableArray<int> In) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var book = sitting.Rooms;
        var ends = book.Form?.Minutes is { } minutes ? at + TimeSpan.FromMinutes(minutes) : (Instant?)null;
        sitting = RoomShelves.WithTasks(sitting, at);
        book = sitting.Rooms;
        return (sitting with
        {
            Rooms = book with
            {
                OpensAt = null,
                Open = [.. book.Open.Select(room => room with { EndsAt = ends, HeardAt = at })],
                Assigned = book.Assigned.SetItems(Seats.Zip(In).Select(pair => KeyValuePair.Create(pair.First.Number, pair.Second)))
            }
        }).Put(Seats.Zip(In).Select(pair => (pair.First, (int?)pair.Second)));
    }

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
}

/// <summary>They came in while rooms were open, and were put where the plan says.</summary>
public sealed record LatePlaced(ImmutableArray<SeatId> Seats, ImmutableArray<int> In) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => (sitting with
    {
        Rooms = sitting.Rooms with
        {
            Assigned = sitting.Rooms.Assigned.SetItems(Seats.Zip(In).Select(pair => KeyValuePair.Create(pair.First.Number, pair.Second)))
        }
    }).Put(Seats.Zip(In).Select(pair => (pair.First, (int?)pair.Second)));

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
    internal override bool StandsInLedger => false;
}

/// <summary>The bench has moved people from place to place.</summary>
/// <param name="From">For each the room's number; null for the hall.</param>
/// <param name="To">Null for the hall.</param>
/// <param name="Name">Of the room, empty for one that is called by its place.</param>
public sealed record PeopleMoved(ImmutableArray<SeatId> Seats, ImmutableArray<int?> From, int? To, string? Name) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Moved(sitting, [.. Seats.Select(seat => (seat, To))]);

    internal static Sitting Moved(Sitting sitting, IReadOnlyList<(SeatId Seat, int? Room)> moves)
    {
        var (assigned, leftOut) = (sitting.Rooms.Assigned, sitting.Rooms.LeftOut);
        foreach (var (seat, room) in moves.Where(move => Powers.BelongsInRooms(sitting.Seats[move.Seat])))
        {
            assigned = room is { } to ? assigned.SetItem(seat.Number, to) : assigned.Remove(seat.Number);
            leftOut = room is not null ? leftOut.Remove(seat.Number) : leftOut.Contains(seat.Number) ? leftOut : leftOut.Add(seat.Number);
        }
        var after = sitting with { Rooms = sitting.Rooms with { Assigned = assigned, LeftOut = leftOut } };
        return sitting.Rooms.OpensAt is null ? after.Put(moves) : after;
    }

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => To is null ? "peopleMovedToHall" : base.NameFor(by);
    internal override string? Detail => Name;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var back = Seats.Zip(From).Where(pair => sitting.Seats[pair.First] is { IsSeated: true } seat && Belongs(sitting, seat) == To
            && (pair.Second is null ? sitting.Rooms.Open is not [] : sitting.Rooms.Find(pair.Second) is not null)).ToList();
        return back is [] ? null : new PeopleMovedBack([.. back.Select(pair => pair.First)], [.. back.Select(pair => pair.Second)]);
    }

    /// <summary>Where somebody is, or goes when the countdown is over.</summary>
    internal static int? Belongs(Sitting sitting, Seat seat) => sitting.Rooms.OpensAt is null ? seat.Room
        : sitting.Rooms.Assigned.TryGetValue(seat.Id.Number, out var room) ? room : null;
}

/// <summary>On the way back: each is where they were.</summary>
public sealed record PeopleMovedBack(ImmutableArray<SeatId> Seats, ImmutableArray<int?> To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => PeopleMoved.Moved(sitting, [.. Seats.Zip(To)]);
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
}

/// <summary>Somebody goes to a room, or back to the hall, by themselves.</summary>
/// <param name="To">Null for the hall.</param>
/// <param name="Listens">Only to listen.</param>
public sealed record RoomVisited(SeatId Seat, int? From, int? To, bool Listens, string? Name) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var after = sitting.Put([(Seat, To)], Listens);
        return To is { } room && !Listens && Powers.SitsOnBench(sitting.Seats[Seat])
            ? after with { Rooms = after.Rooms.With(room, one => one with { CalledAt = null, CalledBy = null }) }
            : after;
    }

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => To is null ? "wentToHall" : Listens ? "roomListened" : base.NameFor(by);
    internal override string? Detail => Name;
}

public sealed record BenchCalled(int Room, SeatId Seat, string Name) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Rooms = sitting.Rooms.With(Room, room => room with { CalledAt = at, CalledBy = Seat }) };

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => Name;
}

/// <summary>A call is over: whoever called has taken it back, or the bench has answered it.</summary>
public sealed record CallEnded(int Room, SeatId Seat, string Name) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Rooms = sitting.Rooms.With(Room, room => room with { CalledAt = null, CalledBy = null }) };

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => by.Seat == Seat ? "callTakenBack" : base.NameFor(by);
    internal override string? Detail => Name;
}

/// <summary>Words of the bench stand above everything in these rooms.</summary>
public sealed record RoomsAddressed(ImmutableArray<int> Rooms, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Rooms = sitting.Rooms.WithEach(Rooms, room => room with { Words = new RoomWords(Text, at) }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => Text;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        ImmutableArray<int> rooms = [.. Rooms.Where(number => sitting.Rooms.Find(number)?.Words?.Text == Text)];
        return rooms is [] ? null : new RoomWordsTakenDown(rooms, Text);
    }
}

public sealed record RoomWordsTakenDown(ImmutableArray<int> Rooms, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Rooms = sitting.Rooms.WithEach(Rooms, room => room with { Words = null }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => Text;
}

/// <summary>Whose voice goes into all rooms is another.</summary>
public sealed record VoiceTurned(SeatId? From, SeatId? To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Rooms = sitting.Rooms with { Voice = To } };
    internal override ImmutableArray<SeatId> About => To is { } to ? [to] : From is { } from ? [from] : [];
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => To is null ? "voiceTurnedBack" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => To is not null;

    internal override Fact? OppositeIn(Sitting sitting) =>
        To is not null && sitting.Rooms.Voice == To ? new VoiceTurned(To, null) : null;
}

/// <summary>Rooms close at another moment than they would have.</summary>
/// <param name="From">For each; null when it was open.</param>
/// <param name="To">For each.</param>
/// <param name="Closing">They are being closed; otherwise they are given more time.</param>
public sealed record RoomsTimed(
    ImmutableArray<int> Rooms, ImmutableArray<Instant?> From, ImmutableArray<Instant?> To, bool Closing, int Amount) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Rooms = Rooms.Zip(To).Aggregate(sitting.Rooms, (book, pair) => book.With(pair.First, room => room with { EndsAt = pair.Second }))
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => Closing ? "roomsClosing" : "roomTimeGiven";
    internal override string? Detail => Amount.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var back = Rooms.Select((number, n) => (number, Was: From[n], Is: To[n]))
            .Where(one => sitting.Rooms.Find(one.number) is { } room && room.EndsAt == one.Is && one.Was != one.Is).ToList();
        return back is []
            ? null
            : new RoomsTimedBack([.. back.Select(one => one.number)], [.. back.Select(one => one.Was)]);
    }
}

/// <summary>On the way back: rooms close when they would have.</summary>
public sealed record RoomsTimedBack(ImmutableArray<int> Rooms, ImmutableArray<Instant?> To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Rooms = Rooms.Zip(To).Aggregate(sitting.Rooms, (book, pair) => book.With(pair.First, room => room with
        {
            // Not back into the past: whoever takes back has seen it go on.
            EndsAt = pair.Second is { } end && end < at ? at : pair.Second
        }))
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Rooms;
}

/// <summary>Rooms are closed, and everybody in them is back in the hall.</summary>
/// <param name="In">For each the room's number.</param>
/// <param name="Plan">The plan, which is there again, when it was called off before anybody went.</param>
public sealed record RoomsClosed(
    ImmutableArray<PastRoom> Rooms, ImmutableArray<SeatId> Seats, ImmutableArray<int> In, RoomDraft? Plan) : Fact
{
    internal static RoomsClosed? Of(Sitting sitting, ImmutableArray<int> numbers, RoomDraft? plan = null)
    {
        var rooms = sitting.Rooms.Open.Where(room => numbers.Contains(room.Number)).ToList();
        if (rooms is []) return null;
        var seats = sitting.Seats.Where(seat => seat.Room is { } room && numbers.Contains(room)).ToList();
        var round = sitting.Rooms.Rounds.Length + 1;
        return new RoomsClosed(
            [.. rooms.Select(room => new PastRoom(
                room.Number, room.Ordinal, room.Name, room.Task, room.Leads, round, sitting.Rooms.Form?.KeepsChat == true))],
            [.. seats.Select(seat => seat.Id)], [.. seats.Select(seat => seat.Room!.Value)], plan);
    }

    /// <summary>The state after all rooms are closed, as when the session ends.</summary>
    internal static Sitting OfAll(Sitting sitting) =>
        Of(sitting, [.. sitting.Rooms.Open.Select(room => room.Number)])?.Apply(sitting, sitting.OpenedAt) ?? sitting;

    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var closed = Rooms.Select(room => room.Number).ToHashSet();
        var made = sitting.Rooms.Open.Where(room => closed.Contains(room.Number)).ToList();
        var book = sitting.Rooms with
        {
            Open = [.. sitting.Rooms.Open.Where(room => !closed.Contains(room.Number))],
            Past = [.. sitting.Rooms.Past.Concat(Rooms).TakeLast(RoomBook.MostPast)]
        };
        if (book.Open is [])
            book = book with
            {
                // Where nobody went nobody met.
                Rounds = book.OpensAt is null && Plan is null ? book.Rounds.Add(book.Assigned) : book.Rounds,
                Assigned = ImmutableSortedDictionary<int, int>.Empty,
                LeftOut = [],
                OpensAt = null,
                Voice = null,
                Draft = Plan is null ? book.Draft : Plan with { Number = book.Drafts + 1 },
                Drafts = Plan is null ? book.Drafts : book.Drafts + 1
            };
        return (sitting with
        {
            Rooms = book,
            Shelf = made.Aggregate(sitting.Shelf, (shelf, room) => shelf.Taking(room)),
            Handouts = made.Aggregate(sitting.Handouts, (list, room) => list.Taking(room))
        }).Put(Seats.Where(seat => sitting.Seats[seat].Room is { } room && closed.Contains(room)).Select(seat => (seat, (int?)null)));
    }

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => Plan is not null ? "roomsCalledOff" : base.NameFor(by);
    internal override string? Detail => Rooms.Length.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => Plan is null;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (Rooms.Any(room => sitting.Rooms.Open.Any(open => open.Number == room.Number || open.Ordinal == room.Ordinal))
            || Rooms[0].Round < sitting.Rooms.Rounds.Length || sitting.Docket.HasSlots) return null;
        var back = Seats.Zip(In).Where(pair => sitting.Seats[pair.First] is { IsSeated: true, Room: null }).ToList();
        return new RoomsReopened(
            Rooms, [.. back.Select(pair => pair.First)], [.. back.Select(pair => pair.Second)], WithThings: true);
    }
}

/// <summary>On the way back: rooms that were closed are open again, and those who were in them are back there.</summary>
/// <param name="WithThings">What rooms have made is there again, too, but for what is shown in the hall by now.</param>
public sealed record RoomsReopened(
    ImmutableArray<PastRoom> Rooms, ImmutableArray<SeatId> Seats, ImmutableArray<int> In, bool WithThings = false) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var book = sitting.Rooms;
        // Reopened when all were closed, it is the same round that goes on.
        var goesOn = book.Open is [] && book.Rounds is not [] && Rooms[0].Round == book.Rounds.Length;
        var things = sitting;
        if (WithThings) sitting = RoomShelves.WithoutThingsOf(sitting, Rooms);
        return (sitting with
        {
            Rooms = book with
            {
                Open =
                [
                    .. book.Open.Concat(Rooms.Select(room => Opened(things, room) with { HeardAt = at }))
                        .OrderBy(room => room.Number)
                ],
                Past = [.. book.Past.Where(past => Rooms.All(room => room.Number != past.Number))],
                Rounds = goesOn ? book.Rounds.RemoveAt(book.Rounds.Length - 1) : book.Rounds,
                Assigned = (goesOn ? book.Rounds[^1] : book.Assigned)
                    .SetItems(Seats.Zip(In).Where(pair => Powers.BelongsInRooms(sitting.Seats[pair.First]))
                        .Select(pair => KeyValuePair.Create(pair.First.Number, pair.Second)))
            }
        }).Put(Seats.Zip(In).Select(pair => (pair.First, (int?)pair.Second)));
    }

    private Room Opened(Sitting things, PastRoom past) => RoomsOpened.Opened(things, past) is var room && WithThings
        ? RoomShelves.WithThings(room, things)
        : room;

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => Rooms.Length.ToString(CultureInfo.InvariantCulture);
}

/// <summary>An order that holds in all rooms is another.</summary>
public sealed record RoomsOrderSet(OrderSet Change) : Fact
{
    /// <summary>The sitting with the orders of rooms, whether any are open or not.</summary>
    internal static Sitting Among(Sitting sitting) => sitting.At(sitting.Rooms.Open is [var first, ..] ? first.Number : 0);

    internal override Sitting Apply(Sitting sitting, Instant at) => Change.Apply(Among(sitting), at).At(null);
    internal override ImmutableArray<SeatId> About => Change.About;
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => Change.Detail;
    internal override bool IsTakeable(SeatId by) => Change.IsTakeable(by);

    internal override Fact? OppositeIn(Sitting sitting) =>
        Change.OppositeIn(Among(sitting)) is OrderSet back ? new RoomsOrderSet(back) : null;
}
