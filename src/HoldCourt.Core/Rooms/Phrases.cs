using System.Collections.Immutable;
using System.Globalization;
using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Rooms;

/// <summary>What the command line understands of this topic.</summary>
internal static class RoomPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<PlanRooms>("plan {number} rooms", "zaplanuj {number} pokoi", (s, a) => Planned(s, (int)a[0], Spread.Mixed)),
        Say<PlanRooms>("plan {number} rooms by group", "zaplanuj {number} pokoi według grup",
            (s, a) => Planned(s, (int)a[0], Spread.ByGroup)),
        Say<PlanRooms>("plan rooms of {number}", "zaplanuj pokoje po {number}",
            (s, a) => Planned(s, RoomWishes.RoomsOf(RoomPlanning.PeopleOf(s.Sitting).Length, (int)a[0]), Spread.Mixed)),
        Say<PlanRooms>("drop the plan of rooms", "porzuć plan pokoi", (_, _) => new PlanRooms(null)),
        Say<PlanAnotherRound>("plan another round", "zaplanuj kolejną rundę", (_, _) => new PlanAnotherRound()),
        Say<OpenRooms>("open the rooms", "otwórz pokoje", (_, _) => new OpenRooms()),
        Say<MoveToRoom>("move {people} to room {room}", "przenieś {people} do pokoju {room}",
            (_, a) => new MoveToRoom((ImmutableArray<SeatId>)a[0], (int)a[1])),
        Say<MoveToRoom>("move {people} to the hall", "przenieś {people} do sali",
            (_, a) => new MoveToRoom((ImmutableArray<SeatId>)a[0], null)),
        Say<VisitRoom>("visit room {room}", "odwiedź pokój {room}", (_, a) => new VisitRoom((int)a[0])),
        Say<VisitRoom>("listen in room {room}", "słuchaj w pokoju {room}", (_, a) => new VisitRoom((int)a[0], Listens: true)),
        Say<VisitRoom>("back to the hall", "z powrotem do sali", (_, _) => new VisitRoom(null)),
        Say<CallBench>("call the bench", "wezwij prezydium", (_, _) => new CallBench()),
        Say<CallBench>("do not call the bench", "nie wzywaj prezydium", (_, _) => new CallBench(false)),
        Say<AnswerCall>("answer room {room}", "odpowiedz pokojowi {room}", (_, a) => new AnswerCall((int)a[0])),
        Say<TellRooms>("tell all rooms {text}", "powiedz wszystkim pokojom {text}", (_, a) => new TellRooms((string)a[0])),
        Say<TellRooms>("tell room {room} that {text}", "powiedz pokojowi {room} że {text}",
            (_, a) => new TellRooms((string)a[1], (int)a[0])),
        Say<TellRooms>("tell the rooms nothing more", "nic więcej nie mów pokojom", (_, _) => new TellRooms("")),
        Say<SpeakToRooms>("speak to all rooms", "mów do wszystkich pokoi", (_, _) => new SpeakToRooms(true)),
        Say<SpeakToRooms>("speak to the hall alone", "mów tylko do sali", (_, _) => new SpeakToRooms(false)),
        Say<GiveRoomsTime>("rooms go on for {length}", "pokoje trwają jeszcze {length}", (_, a) => new GiveRoomsTime(Minutes(a[0]))),
        Say<GiveRoomsTime>("room {room} goes on for {length}", "pokój {room} trwa jeszcze {length}",
            (_, a) => new GiveRoomsTime(Minutes(a[1]), (int)a[0])),
        Say<SetRoomsOrder>("{order} in rooms for {audience}", "{order} w pokojach dla {audience}",
            (_, a) => new SetRoomsOrder((Order)a[0], (Audience)a[1])),
        Say<CloseRooms>("close the rooms", "zamknij pokoje", (_, _) => new CloseRooms()),
        Say<CloseRooms>("close the rooms in {length}", "zamknij pokoje za {length}", (_, a) => new CloseRooms(Seconds(a[0]))),
        Say<CloseRooms>("close the rooms now", "zamknij pokoje teraz", (_, _) => new CloseRooms(0)),
        Say<CloseRooms>("close room {room}", "zamknij pokój {room}", (_, a) => new CloseRooms(Room: (int)a[0]))
    ]);

    /// <summary>With the wishes of the plan that is there, or of the last round, where there was one of so many rooms.</summary>
    private static PlanRooms Planned(Scope scope, int rooms, Spread spread)
    {
        var known = scope.Knows(Matter.Books) ? scope.Sitting.Rooms.Draft?.Form ?? scope.Sitting.Rooms.Form : null;
        var form = known ?? RoomForm.Of("");
        return new PlanRooms(form with
        {
            Spread = spread,
            Rooms = form.Rooms.Length == rooms
                ? form.Rooms
                : [.. Enumerable.Repeat(RoomSpec.Called(""), Math.Clamp(rooms, 0, RoomWishes.MostRooms + 1))]
        });
    }

    private static int Minutes(object length) => (int)Math.Ceiling(((TimeSpan)length).TotalMinutes);
}

/// <summary>A room, by its name or its place: of those that are open, or of the plan before that.</summary>
internal sealed record ARoom : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        if (words.Length == 0) return null;
        var rooms = Known(scope);
        var found = rooms.Find(room => room.Name.Equals(words, StringComparison.OrdinalIgnoreCase));
        if (found == default) found = rooms.Find(room => room.Ordinal.ToString(CultureInfo.InvariantCulture) == words);
        if (found == default) found = rooms.Find(room => room.Name.StartsWith(words, StringComparison.OrdinalIgnoreCase));
        return found == default ? null : found.Number;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        Known(scope).Select(room => RoomNames.Of(room.Name, room.Ordinal))
            .Where(name => name.StartsWith(words, StringComparison.OrdinalIgnoreCase));

    /// <summary>As <see cref="MoveToRoom"/> takes them.</summary>
    private static List<(int Number, int Ordinal, string Name)> Known(Scope scope)
    {
        if (!scope.Knows(Matter.Books)) return [];
        var book = scope.Sitting.Rooms;
        return book.Open is not []
            ? [.. book.Open.Select(room => (room.Number, room.Ordinal, room.Name))]
            : [.. (book.Draft?.Form.Rooms ?? []).Select((room, at) => (at + 1, at + 1, room.Name))];
    }
}
