using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Rooms;

/// <summary>Plans rooms for the people who are here, plans them anew, or drops the plan.</summary>
/// <param name="Form">Null to drop it.</param>
/// <param name="Basis">The number of the plan that was seen, so that nobody replaces one that they have not; 0 for none.</param>
/// <param name="ByHand">Those who were put somewhere by hand stay there.</param>
public sealed record PlanRooms(RoomForm? Form, int? Basis = null, bool ByHand = true) : SeatCommand
{
    /// <summary>Worked out before, since it takes a while. The server does it; no browser can say so.</summary>
    [JsonIgnore]
    public WorkedOut? Done { get; init; }

    /// <summary>The form as it would be worked out; null when it is refused or dropped.</summary>
    [JsonIgnore]
    public RoomForm? ToWorkOut => Form?.Clean() is { } form && form.Refuses() is null ? form : null;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        var draft = sitting.Rooms.Draft;
        if (Basis is { } seen && seen != (draft?.Number ?? 0)) return Decision.Refused(Reason.PlanChangedSince);
        if (Form is null) return draft is null ? Decision.AlreadySo : new RoomsPlanned(draft, null);
        if (sitting.Docket.HasSlots) return Decision.Refused(Reason.NoRoomsWithVisits);
        var form = Form.Clean();
        if (form.Refuses() is { } bad) return bad;
        var byHand = ByHandIn(draft, form);
        var done = Done is not null && Done.Form == form && Done.People.SequenceEqual(RoomPlanning.PeopleOf(sitting, byHand))
            ? Done
            : RoomPlanning.WorkOut(sitting, form, byHand);
        return new RoomsPlanned(draft, RoomPlanning.DraftOf(done, byHand, sitting.Rooms.Drafts + 1));
    }

    /// <summary>What was put somewhere by hand, as far as there are such rooms.</summary>
    public ImmutableSortedDictionary<int, int> ByHandIn(RoomDraft? draft, RoomForm form) =>
        (ByHand ? draft?.ByHand : null)?.RemoveRange(draft!.ByHand.Where(pair => pair.Value >= form.Rooms.Length).Select(pair => pair.Key))
        ?? ImmutableSortedDictionary<int, int>.Empty;
}

/// <summary>Plans another round with the wishes of the last one, so that those who have met do not meet again where that can be.</summary>
public sealed record PlanAnotherRound : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        if (sitting.Rooms.Open is not []) return Decision.Refused(Reason.RoomsAreOpen);
        return FormIn(sitting) is { } form
            ? new PlanRooms(form, ByHand: false) { Done = Done }.Decide(sitting, by, now)
            : Decision.Refused(Reason.NoRoomsPlanned);
    }

    /// <inheritdoc cref="PlanRooms.Done"/>
    [JsonIgnore]
    public WorkedOut? Done { get; init; }

    /// <summary>The wishes of the last round, or of the plan that is there; null where there was none.</summary>
    public static RoomForm? FormIn(Sitting sitting) => (sitting.Rooms.Draft?.Form ?? sitting.Rooms.Form) is { } form
        ? form with { NotAgain = true, Seed = form.Seed + 1 }
        : null;
}

/// <summary>Opens the rooms of the plan: after a countdown that all see, people are in them.</summary>
public sealed record OpenRooms : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        var book = sitting.Rooms;
        if (book.Open is not []) return Decision.Refused(Reason.RoomsAreOpen);
        if (book.Draft is not { } draft) return Decision.Refused(Reason.NoRoomsPlanned);
        if (sitting.Docket.HasSlots) return Decision.Refused(Reason.NoRoomsWithVisits);
        var going = draft.RoomOf.Where(pair => Powers.BelongsInRooms(sitting.Seats[new SeatId(pair.Key)])).ToList();
        if (going is []) return Decision.Refused(Reason.NobodyForRooms);
        var round = book.Rounds.Length + 1;
        return new RoomsOpened(
            draft,
            [.. draft.Form.Rooms.Select((room, at) => new PastRoom(
                book.Last + at + 1, at + 1, room.Name, room.Task ?? draft.Form.Task,
                [.. (at < draft.Leads.Length ? draft.Leads[at] : []).Select(number => new SeatId(number))], round, draft.Form.KeepsChat))],
            [.. going.Select(pair => new SeatId(pair.Key))], [.. going.Select(pair => book.Last + pair.Value + 1)],
            now + RoomBook.Countdown);
    }
}

/// <summary>The countdown is over.</summary>
public sealed record EnterRooms : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Rooms.OpensAt is not { } at || now < at) return Decision.Of();
        var going = sitting.Rooms.Assigned.Select(pair => (Seat: new SeatId(pair.Key), Room: pair.Value))
            .Where(pair => Powers.BelongsInRooms(sitting.Seats[pair.Seat]) && sitting.Rooms.Find(pair.Room) is not null)
            .ToList();
        var known = going.Select(pair => pair.Seat).ToHashSet();
        // Those who came in since the plan was made go where late people go.
        going.AddRange(RoomPlacing.Place(sitting, [.. sitting.Seats
            .Where(seat => Powers.BelongsInRooms(seat) && !known.Contains(seat.Id) && !sitting.Rooms.LeftOut.Contains(seat.Id.Number))
            .Select(seat => seat.Id)]));
        return new RoomsEntered([.. going.Select(pair => pair.Seat)], [.. going.Select(pair => pair.Room)]);
    }
}

/// <summary>Puts people into another room: of the plan while it is made, and of those that are open.</summary>
/// <param name="Room">
/// While rooms are open the number of one; before that which room of the plan, from 1. Null is the hall, or out of the plan.
/// </param>
public sealed record MoveToRoom(ImmutableArray<SeatId> Seats, int? Room) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        var book = sitting.Rooms;
        if (book.Open is []) return book.Draft is { } draft ? Planned(sitting, draft) : Decision.Refused(Reason.NoRoomsOpen);
        if (Room is not null && book.Find(Room) is null) return Decision.Refused(Reason.NoSuchRoom);
        var seats = sitting.Those(Seats, seat => seat.IsSeated);
        if (seats is []) return Decision.Refused(Reason.NobodySeated);
        // The bench goes where it wants; nobody sends it.
        bool IsSent(Seat seat) => Powers.BelongsInRooms(seat) || seat.Id == by.Seat;
        var moved = sitting.Those(seats, seat => IsSent(seat) && PeopleMoved.Belongs(sitting, seat) != Room);
        if (moved is []) return sitting.Those(seats, IsSent) is [] ? Decision.Refused(Reason.OutOfReach) : Decision.AlreadySo;
        return new PeopleMoved(
            moved, [.. moved.Select(id => PeopleMoved.Belongs(sitting, sitting.Seats[id]))], Room,
            book.Find(Room) is { } room ? RoomNames.Of(room) : null);
    }

    private Decision Planned(Sitting sitting, RoomDraft draft)
    {
        if (Room is { } wanted && (wanted < 1 || wanted > draft.Form.Rooms.Length)) return Decision.Refused(Reason.NoSuchRoom);
        var to = Room - 1;
        int? In(SeatId id) => draft.RoomOf.TryGetValue(id.Number, out var room) ? room : null;
        var seats = sitting.Those(Seats, Powers.BelongsInRooms);
        if (seats is []) return Decision.Refused(Reason.NobodySeated);
        var moved = sitting.Those(seats, seat => In(seat.Id) != to);
        return moved is [] ? Decision.AlreadySo : new RoomChosen(moved, [.. moved.Select(In)], to);
    }
}

/// <summary>Goes to a room, or back to the hall: the bench into any, others into the one where they belong.</summary>
/// <param name="Room">Its number; null for the hall.</param>
/// <param name="Listens">Of the bench: neither heard nor seen there; the room sees that somebody listens.</param>
public sealed record VisitRoom(int? Room, bool Listens = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id) return Decision.Refused(Reason.NotUnderstood);
        var (seat, book) = (sitting.Seats[id], sitting.Rooms);
        var runs = sitting.Forbids(by, Capability.RunRooms) is null;
        if (book.Open is [] || book.OpensAt is not null) return Decision.Refused(Reason.NoRoomsOpen);
        if (seat.Room == Room && seat.Listens == (Listens && Room is not null)) return Decision.AlreadySo;
        if (Room is null)
        {
            if (!runs && book.Form?.MayGoBack != true) return Decision.Refused(Reason.GoingBackNotAllowed, Remedy.AskBench);
        }
        else
        {
            if (book.Find(Room) is null) return Decision.Refused(Reason.NoSuchRoom);
            if (!runs && (Listens || !(book.Assigned.TryGetValue(id.Number, out var own) && own == Room)))
                return Decision.Refused(Reason.RoomNotYours, Remedy.AskBench);
            if (Listens && book.Form?.MayListen != true) return Decision.Refused(Reason.ListeningNotAllowed);
        }
        return new RoomVisited(id, seat.Room, Room, Listens && Room is not null, book.Find(Room) is { } room ? RoomNames.Of(room) : null);
    }
}

/// <summary>Calls the bench into the own room, or takes that back.</summary>
public sealed record CallBench(bool On = true) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id || sitting.Rooms.Find(sitting.Seats[id].Room) is not { } room) return Decision.Refused(Reason.NotInRoom);
        if (!sitting.Seats[id].IsSeated) return Decision.Refused(Reason.NotInside);
        if (room.CalledBy is { } caller == On) return Decision.AlreadySo;
        return On
            ? new BenchCalled(room.Number, id, RoomNames.Of(room))
            : new CallEnded(room.Number, id, RoomNames.Of(room));
    }
}

/// <summary>The bench has seen to a call without going there.</summary>
public sealed record AnswerCall(int Room) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        if (sitting.Rooms.Find(Room) is not { } room) return Decision.Refused(Reason.NoSuchRoom);
        return room.CalledBy is { } caller ? new CallEnded(Room, caller, RoomNames.Of(room)) : Decision.AlreadySo;
    }
}

/// <summary>Puts words above everything in one room, or in all.</summary>
/// <param name="Text">Empty takes them down.</param>
public sealed record TellRooms(string Text, int? Room = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        if (RoomNames.Meant(sitting, Room) is not { Length: > 0 } rooms)
            return Decision.Refused(Room is null ? Reason.NoRoomsOpen : Reason.NoSuchRoom);
        var text = Bounds.Clean(Text);
        if (text.Length > RoomWords.Longest) return Decision.Refused(Reason.WordsTooLong, Remedy.Shorten);
        if (text.Length > 0) return new RoomsAddressed(rooms, text);
        rooms = [.. rooms.Where(number => sitting.Rooms.Find(number)!.Words is not null)];
        return rooms is [] ? Decision.AlreadySo : new RoomWordsTakenDown(rooms, sitting.Rooms.Find(rooms[0])!.Words!.Text);
    }
}

/// <summary>The own voice goes into all rooms, or no more.</summary>
public sealed record SpeakToRooms(bool On) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        if (by.Seat is not { } id) return Decision.Refused(Reason.NotUnderstood);
        var voice = sitting.Rooms.Voice;
        if (!On) return voice is null ? Decision.AlreadySo : new VoiceTurned(voice, null);
        if (sitting.Rooms.Open is []) return Decision.Refused(Reason.NoRoomsOpen);
        if (sitting.Seats[id].Listens) return Decision.Refused(Reason.SpeakWhileListening);
        return voice == id ? Decision.AlreadySo : new VoiceTurned(voice, id);
    }
}

/// <summary>One room, or all, stay open for so much longer than they would have, or from now on.</summary>
/// <param name="Minutes">1 to <see cref="RoomForm.MostMinutes"/>.</param>
public sealed record GiveRoomsTime(int Minutes, int? Room = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        if (Minutes is < 1 or > RoomForm.MostMinutes) return Decision.Refused(Reason.RoomMinutesOutOfRange);
        if (RoomNames.Meant(sitting, Room) is not { Length: > 0 } rooms)
            return Decision.Refused(Room is null ? Reason.NoRoomsOpen : Reason.NoSuchRoom);
        if (sitting.Rooms.OpensAt is not null) return Decision.Refused(Reason.NoRoomsOpen);
        ImmutableArray<Instant?> were = [.. rooms.Select(number => sitting.Rooms.Find(number)!.EndsAt)];
        return new RoomsTimed(
            rooms, were, [.. were.Select(end => (Instant?)((end ?? now) + TimeSpan.FromMinutes(Minutes)))], Closing: false, Minutes);
    }
}

/// <summary>Closes one room, or all, after a countdown that all see; before people are in them they are called off.</summary>
/// <param name="Seconds">0 to <see cref="Longest"/>; 0 closes at once.</param>
public sealed record CloseRooms(int Seconds = RoomBook.UsualClosing, int? Room = null) : SeatCommand
{
    public const int Longest = 3_600;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        if (Seconds is < 0 or > Longest) return Decision.Refused(Reason.ClosingOutOfRange);
        if (RoomNames.Meant(sitting, Room) is not { Length: > 0 } rooms)
            return Decision.Refused(Room is null ? Reason.NoRoomsOpen : Reason.NoSuchRoom);
        if (sitting.Rooms.OpensAt is not null)
            return RoomsClosed.Of(sitting, [.. sitting.Rooms.Open.Select(room => room.Number)], PlanAgain(sitting))!;
        if (Seconds == 0) return RoomsClosed.Of(sitting, rooms)!;
        ImmutableArray<Instant?> were = [.. rooms.Select(number => sitting.Rooms.Find(number)!.EndsAt)];
        var end = now + TimeSpan.FromSeconds(Seconds);
        return were.All(was => was is { } at && at <= end)
            ? Decision.AlreadySo
            : new RoomsTimed(
                rooms, were, [.. were.Select(was => (Instant?)(was is { } at && at < end ? at : end))], Closing: true, Seconds);
    }

    /// <summary>The plan from which they were opened, as people have been put since.</summary>
    private static RoomDraft PlanAgain(Sitting sitting)
    {
        var book = sitting.Rooms;
        return new RoomDraft(
            book.Drafts + 1, book.Form!,
            book.Assigned.ToImmutableSortedDictionary(pair => pair.Key, pair => book.Find(pair.Value)!.Ordinal - 1),
            book.LeftOut.ToImmutableSortedDictionary(number => number, _ => RoomDraft.Out),
            [.. book.Open.Select(room => room.Leads.Select(lead => lead.Number).ToImmutableArray())],
            0, 0, [], []);
    }
}

/// <summary>Changes who may do something without asking in rooms, also before any are open.</summary>
public sealed record SetRoomsOrder(Order Order, Audience To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunRooms) is { } refusal) return refusal;
        var decision = new SetOrder(Order, To).Decide(RoomsOrderSet.Among(sitting), by, now);
        return decision is { Facts: [OrderSet set] } ? new RoomsOrderSet(set) : decision;
    }
}

/// <summary>The time of rooms is over.</summary>
public sealed record EndRooms : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        RoomsClosed.Of(sitting, [.. sitting.Rooms.Open.Where(room => room.EndsAt is { } end && now >= end).Select(room => room.Number)])
            is { } closed ? closed : Decision.Of();

    /// <summary>When something is to be done about rooms next; null for never.</summary>
    public static Instant? Due(Sitting sitting) =>
        sitting.Rooms.Open is [] ? null : sitting.Rooms.OpensAt ?? sitting.Rooms.Open.Select(room => room.EndsAt).Min();
}

internal static class RoomNames
{
    /// <summary>As a sentence calls it: by its name, or by its place.</summary>
    public static string Of(Room room) => Of(room.Name, room.Ordinal);

    /// <summary>Of one that is open, or was.</summary>
    public static string? Of(Sitting sitting, int number) => sitting.Rooms.Find(number) is { } open ? Of(open)
        : sitting.Rooms.FindPast(number) is { } past ? Of(past.Name, past.Ordinal)
        : null;

    public static string Of(string name, int ordinal) =>
        name.Length > 0 ? name : ordinal.ToString(System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The one that is open, or all that are; empty when there is none.</summary>
    public static ImmutableArray<int> Meant(Sitting sitting, int? room) => room is null
        ? [.. sitting.Rooms.Open.Select(one => one.Number)]
        : sitting.Rooms.Find(room) is { } only ? [only.Number] : [];
}
