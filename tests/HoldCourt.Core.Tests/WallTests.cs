using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using Step = HoldCourt.Core.Tests.PropertyTests.Step;

namespace HoldCourt.Core.Tests;

/// <summary>Nothing passes a wall between rooms, whatever people wish in whatever order.</summary>
public class WallTests
{
    private const int People = 8;

    public static class Wishes
    {
        private static readonly Gen<SeatId> _seat = Gen.Choose(1, People).Select(number => new SeatId(number));
        private static readonly Gen<bool> _coin = Gen.Elements(true, false);
        private static readonly Gen<int?> _room = Gen.Choose(0, 6).Select(number => number == 0 ? null : (int?)number);

        private static readonly Gen<Command> _ofRooms = Gen.Frequency(
            (2, Gen.Choose(1, 3).Zip(_coin, (rooms, listen) => (Command)new PlanRooms(RoomForm.Of([.. Enumerable.Repeat("", rooms)]) with
            {
                Minutes = 1,
                MayListen = listen,
                MayGoBack = listen,
                Task = "a task",
                Shows = "worksheet",
                Rooms = [.. Enumerable.Range(0, rooms).Select(n => new RoomSpec($"{n}", null, [$"person{n + 2}"], []))]
            }))),
            (1, Gen.Constant((Command)new PlanAnotherRound())),
            (3, Gen.Constant((Command)new OpenRooms())),
            (4, _seat.Zip(_room, (seat, room) => (Command)new MoveToRoom([seat], room))),
            (4, _room.Zip(_coin, (room, listens) => (Command)new VisitRoom(room, listens))),
            (1, _coin.Select(on => (Command)new CallBench(on))),
            (1, Gen.Constant((Command)new TellRooms("words of the bench"))),
            (1, _coin.Select(on => (Command)new SpeakToRooms(on))),
            (1, Gen.Elements(Audience.Everyone, Audience.Bench).Select(to => (Command)new SetRoomsOrder(Order.HandOut, to))),
            (1, Gen.Constant((Command)new BringFile(ExhibitKind.Document, "worksheet", "file", "c2VjcmV0"))),
            (1, Gen.Elements(0, 30).Zip(_room, (seconds, room) => (Command)new CloseRooms(seconds, room))),
            (3, Gen.Constant((Command)new TakeBack())));

        /// <summary>What people do beside it: what they write, show and raise says where it was done.</summary>
        private static readonly Command[] _doings =
        [
            new Write(new Recipient(Reach.Everyone), ""), new Write(new Recipient(Reach.Everyone), ""), new OpenScreen(""),
            new OpenSheet(""), new GiveFile("", "", 9, FileSort.Document), new RaiseHand(), new GiveFloor(), new OpenMicrophone(),
            new TurnCamera(true), new Leave(), new SetState(State.Done)
        ];

        private static readonly Gen<Command> _ofPeople = Gen.Elements(_doings);

        private static readonly Gen<Command> _ofFiles = Gen.OneOf(
            Gen.Choose(1, 5).Select(file => (Command)new TakeFile(file)),
            Gen.Choose(1, 5).Select(file => (Command)new HandOnFile(file)),
            _seat.Select(to => (Command)new GiveFile("", "", 9, FileSort.Document, to)));

        private static readonly Gen<Command> _more = Gen.OneOf(
            Gen.Choose(1, 9).Select(exhibit => (Command)new ShowExhibit(exhibit)),
            Gen.Choose(1, 9).Select(message => (Command)new PutUp(message)),
            _seat.Select(seat => (Command)new PutInFront([seat])),
            _seat.Select(seat => (Command)new GiveFloor(seat)),
            _seat.Select(seat => (Command)new HandPaging(seat)),
            _seat.Zip(Gen.Elements(Role.Attendee, Role.Presenter, Role.Deputy), (seat, role) => (Command)new GiveRole([seat], role)),
            Gen.Elements(Audience.Everyone, Audience.Bench).Select(to => (Command)new SetOrder(Order.SeePeople, to)));

        private static readonly Gen<Step> _step = Gen.Frequency(
            (5, _ofRooms.Select(wish => new Step(1, wish))),
            (3, Gen.Choose(1, People).Zip(_ofRooms, (by, wish) => new Step(by, wish))),
            (6, Gen.Choose(1, People).Zip(_ofPeople, (by, wish) => new Step(by, wish))),
            (4, Gen.Choose(1, People).Zip(_more, (by, wish) => new Step(by, wish))),
            (2, Gen.Choose(1, People).Zip(_ofFiles, (by, wish) => new Step(by, wish))),
            (3, Gen.Elements<Command>(new EnterRooms(), new EnterRooms(), new EndRooms(), new EndTurn(),
                new NotePages("file", 3)).Select(wish => new Step(0, wish))),
            (1, Gen.Choose(2, People).Select(n => new Step(0, new Announce(new PersonKey($"guest:person{n}"), $"person{n}")))));

        public static Arbitrary<Step[]> Steps() => _step.ArrayOf(70).ToArbitrary();
    }

    private static House Opened()
    {
        var house = House.Opened(DoorMode.Open);
        for (var n = 2; n <= People; n++) house.Arrives($"person{n}");
        house.Do(House.Host, new SetOrder(Order.Exhibit, Audience.Everyone));
        house.Do(House.Host, new SetOrder(Order.HandOut, Audience.Everyone));
        return house;
    }

    /// <summary>Where it is said or opened stands in it.</summary>
    private static Command Marked(Sitting sitting, Step step)
    {
        var place = step.By is > 0 and <= People ? sitting.Seats[new SeatId(step.By)].Room ?? 0 : 0;
        var secret = $"secret-of-{place}.";
        return step.Command switch
        {
            Write write => write with { Text = secret },
            OpenScreen => new OpenScreen(secret),
            OpenSheet => new OpenSheet(secret),
            GiveFile give => give with { File = $"file {sitting.Sequence}", Name = secret },
            var other => other
        };
    }

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 300)]
    public void Nobody_knows_hears_or_sees_anything_through_a_wall(Step[] steps)
    {
        var house = Opened();
        var stage = StageState.Unknown.With(StageChange.Whole(house.Sitting));
        var kept = new Dictionary<Viewpoint, WholeView>();
        foreach (var step in steps)
        {
            var (before, count) = (house.Sitting, house.Entries.Count);
            house.Do(step.By == 0 ? Actor.House : Actor.Of(new SeatId(step.By)), Marked(before, step));
            var after = house.Sitting;
            after.Here.ShouldBeNull();
            if (StageChange.Of(before, after) is { } change) stage = stage.With(change);
            var transition = new Transition(before, after, [.. house.Entries.Skip(count)]);
            foreach (var from in Viewpoint.In(after))
            {
                var whole = Projection.Whole(after, from, []);
                if (kept.TryGetValue(from, out var view))
                {
                    var told = transition.From(from);
                    // The bench reads in its ledger, wherever it is, what was done in the hall; of what people do in rooms, no words.
                    if (from.Viewer == Viewer.Bench)
                        KeepsWithin(after, new Viewpoint(Viewer.Bench), JsonSerializer.Serialize(told.Ledger, CoreJson.Options));
                    KeepsWithin(after, from, JsonSerializer.Serialize(told with { Ledger = null }, CoreJson.Options));
                    view = view with
                    {
                        Sitting = view.Sitting.With(told.Set),
                        Seats = [.. view.Seats.ToDictionary(row => row.Id).With(told).Values.OrderBy(row => row.Id)]
                    };
                    view.Sitting.ShouldBeJson(whole.Sitting);
                    view.Seats.ShouldBeJson(whole.Seats);
                }
                kept[from] = whole;
                KeepsWithin(after, from, JsonSerializer.Serialize(whole, CoreJson.Options));
            }
            foreach (var gone in kept.Keys.Except(Viewpoint.In(after)).ToList()) kept.Remove(gone);
            foreach (var seat in after.Seats) KnowsOwnPlace(after, seat);
            if (after.Sequence % 7 == 0) Snapshot.Read(Snapshot.Write(after)).ShouldBeStateOf(after);
            HearsAndSeesOwnPlace(after, stage);
        }
        house.Entries.Select(entry => JsonSerializer.Serialize(entry, CoreJson.Options))
            .Select(json => JsonSerializer.Deserialize<Entry>(json, CoreJson.Options)!)
            .Aggregate(Sitting.Empty, SittingRules.Evolve).ShouldBeStateOf(house.Sitting);
    }

    private static IEnumerable<int> Places => Enumerable.Range(0, 40);

    /// <summary>Told by hand, without a look at what the product asks: whose secrets and names may stand in what goes to a place.</summary>
    private static void KeepsWithin(Sitting sitting, Viewpoint from, string json)
    {
        foreach (var place in Places.Where(place => place != (from.Room ?? 0)))
        {
            // What was made in a room that is closed lies on the hall's shelf, for the bench to show.
            var isPast = place > 0 && from.Room is null && sitting.Rooms.Open.All(room => room.Number != place);
            if (!isPast) json.ShouldNotContain($"secret-of-{place}.");
        }
        if (from.Viewer == Viewer.Bench) return;
        var writer = sitting.Rooms.Open.FirstOrDefault(room => room.Number == from.Room)?.Scenery.PutUp ?? sitting.PutUp;
        // Whoever speaks to all rooms says who they are.
        foreach (var seat in sitting.Seats.Where(seat => seat.Id != House.Host && (from.Room is null || seat.Id != sitting.Rooms.Voice)
            && (seat.Room != from.Room || seat.Place != Place.Seated)))
            if (writer is null || sitting.Chat.Newest[writer.Value - 1].From != seat.Id) json.ShouldNotContain($"\"{seat.Name}\"");
    }

    private static void KnowsOwnPlace(Sitting sitting, Seat seat)
    {
        var me = JsonSerializer.Serialize(MeRow.Of(sitting, seat), CoreJson.Options);
        foreach (var place in Places.Where(place => place != (seat.Room ?? 0)))
            if (place == 0 || seat.Room is not null || sitting.Rooms.Open.Any(room => room.Number == place))
                me.ShouldNotContain($"secret-of-{place}.");
        foreach (var message in sitting.Chat.Newest.Where(message => message.Room != seat.Room && message.From != seat.Id))
            sitting.MayKnow(seat, new Matter.Words(message)).ShouldBeFalse();
        // Of a room that is closed: those who took it, who gave it, the bench; everybody when it was handed on.
        foreach (var row in MeRow.Of(sitting, seat).Handouts.Where(row => row.Room is not null))
        {
            var handout = sitting.Handouts.Out.Single(one => one.Number == row.Number);
            (handout.By == seat.Id || seat.Role >= Role.Deputy || handout.Taken.Contains(seat.Id)).ShouldBeTrue();
            handout.To.ShouldBeNull();
        }
        // Back in the hall nothing is open that was not open there.
        if (seat.Room is null) seat.InHall.ShouldBeNull();
        if (seat.Room is { } number)
        {
            seat.Place.ShouldBe(Place.Seated);
            sitting.Rooms.Open.ShouldContain(room => room.Number == number);
        }
    }

    private static void HearsAndSeesOwnPlace(Sitting sitting, StageState stage)
    {
        foreach (var one in sitting.Seats)
        {
            stage.RoomOf(one.Id).ShouldBe(one.Room);
            if (one.Listens) (stage.MayBeHeard(one.Id), stage.MayBeSeen(one.Id)).ShouldBe((false, false));
            if (stage.IsHeardInRooms(one.Id)) (one.Role >= Role.Deputy, one.Listens).ShouldBe((true, false));
            foreach (var other in sitting.Seats.Where(other => other.Room != one.Room))
                (stage.MayBeSeen(one.Id, other.Id), stage.MayGetScreen(one.Id, other.Id)).ShouldBe((false, false));
        }
    }
}
