namespace HoldCourt.Core.Tests;

public class RoomTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _teodor, _nia, _jun, _pilar;

    public RoomTests()
    {
        _teodor = _house.Arrives("Teodor Quill");
        _nia = _house.Arrives("Nia Okafor");
        _jun = _house.Arrives("Jun Takeda");
        _pilar = _house.Arrives("Pilar Ortega");
    }

    private static RoomForm TwoRooms { get; } = RoomForm.Of("Aller", "Wey") with
    {
        Rooms = [new RoomSpec("Aller", "Count the gauges", ["teodor"], ["nia"]), new RoomSpec("Wey", null, [], ["jun", "pilar"])],
        Task = "Read the reports",
        Minutes = 10
    };

    private Reason? Refused(SeatId by, Command command) => _house.Do(by, command).Refusal?.Reason;

    private void InRooms(RoomForm? form = null)
    {
        Refused(House.Host, new PlanRooms(form ?? TwoRooms)).ShouldBeNull();
        Refused(House.Host, new OpenRooms()).ShouldBeNull();
        _house.Waits(RoomBook.Countdown);
        _house.Do(Actor.House, new EnterRooms());
    }

    private int? Room(SeatId seat) => _house[seat].Room is { } number ? _house.Sitting.Rooms.Find(number)!.Ordinal : null;

    [Fact]
    public void Everybody_sees_where_they_go_and_after_the_countdown_they_are_there_and_the_bench_is_in_the_hall()
    {
        Refused(House.Host, new PlanRooms(TwoRooms)).ShouldBeNull();
        MeRow.Of(_house.Sitting, _house[_nia]).OwnRoom.ShouldBeNull("a plan is the bench's");
        Projection.Record(_house.Sitting, Viewer.Attendee).Rooms!.Draft.ShouldBeNull();
        Refused(House.Host, new OpenRooms()).ShouldBeNull();
        var going = MeRow.Of(_house.Sitting, _house[_nia]).OwnRoom!;
        (going.Name, going.Task, going.Leads).ShouldBe(("Aller", "Count the gauges", false));
        going.With.ShouldBe(["Teodor Quill"]);
        _house.Do(Actor.House, new EnterRooms()).Facts.ShouldBeEmpty("the countdown has begun just now");
        _house.Waits(RoomBook.Countdown);
        _house.Do(Actor.House, new EnterRooms());
        (Room(_teodor), Room(_nia), Room(_jun), Room(_pilar), Room(House.Host)).ShouldBe((1, 1, 2, 2, null));
        var wey = Projection.Whole(_house.Sitting, Knowledge.ViewpointOf(_house.Sitting, _house[_jun]), []);
        wey.Seats.Select(seat => seat.Name).ShouldBe(["Jun Takeda", "Pilar Ortega"]);
        wey.Sitting.Rooms!.Open.Single().Task.ShouldBe("Read the reports");
        Projection.Record(_house.Sitting, Viewer.Bench).Rooms!.Open.Length.ShouldBe(2);
    }

    [Fact]
    public void Whoever_leads_a_room_is_a_presenter_there_and_nowhere_else()
    {
        bool Exhibits() => _house.Sitting.Forbids(Actor.Of(_teodor), Capability.Exhibit) is null;
        Exhibits().ShouldBeFalse();
        InRooms();
        Refused(House.Host, new VisitRoom(_house[_nia].Room)).ShouldBeNull();
        Refused(House.Host, new SetOrder(Order.Exhibit, Audience.Presenters)).ShouldBeNull("the orders of rooms are a sheet of their own");
        Exhibits().ShouldBeTrue();
        _house.Sitting.Forbids(Actor.Of(_nia), Capability.Exhibit).ShouldNotBeNull();
        _house.Sitting.Forbids(Actor.Of(_jun), Capability.Exhibit).ShouldNotBeNull("they hold in all rooms");
        Refused(House.Host, new MoveToRoom([_teodor], _house[_jun].Room)).ShouldBeNull();
        Exhibits().ShouldBeFalse("another room is not theirs");
        _house.Sitting.Orders.ShouldBe(StandingOrders.Usual, "those of the hall are what they were");
    }

    [Fact]
    public void Back_in_the_hall_nothing_is_open_that_was_not_and_nothing_opens_by_itself()
    {
        _house.Do(_nia, new OpenMicrophone());
        _house.Do(_jun, new OpenMicrophone());
        _house.Do(_jun, new TurnCamera(true));
        InRooms();
        _house.Do(_teodor, new OpenMicrophone());
        _house.Do(_teodor, new TurnCamera(true));
        _house.Do(_jun, new CloseMicrophone());
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        (_house[_nia].MicrophoneOpen, _house[_teodor].MicrophoneOpen, _house[_jun].MicrophoneOpen).ShouldBe((true, false, false));
        (_house[_teodor].CameraOn, _house[_jun].CameraOn).ShouldBe((false, true));
        _house.Sitting.Seats.ShouldAllBe(seat => seat.Room == null && seat.InHall == null);
    }

    [Fact]
    public void The_floor_with_its_lent_leave_stays_behind_when_its_holder_goes()
    {
        Refused(House.Host, new SetOrder(Order.Speak, Audience.Presenters)).ShouldBeNull();
        Refused(House.Host, new GiveFloor(_nia, 60)).ShouldBeNull();
        _house[_nia].HasLeave.ShouldBeTrue();
        InRooms();
        _house.Sitting.Turn.ShouldBeNull();
        _house[_nia].HasLeave.ShouldBeFalse();
        Refused(_nia, new OpenMicrophone()).ShouldBeNull("among few everybody speaks");
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        _house[_nia].MicrophoneOpen.ShouldBeFalse();
    }

    [Fact]
    public void Rooms_close_by_themselves_in_their_time_and_more_of_it_can_be_given_to_one_or_to_all()
    {
        InRooms();
        var (aller, wey) = (_house[_nia].Room!.Value, _house[_jun].Room!.Value);
        Refused(House.Host, new GiveRoomsTime(5, wey)).ShouldBeNull();
        _house.Waits(TimeSpan.FromMinutes(10));
        _house.Do(Actor.House, new EndRooms());
        (Room(_nia), Room(_jun)).ShouldBe((null, 2));
        Refused(House.Host, new CloseRooms(30)).ShouldBeNull();
        _house.Waits(TimeSpan.FromSeconds(20));
        _house.Do(Actor.House, new EndRooms());
        Room(_jun).ShouldBe(2, "the countdown is not over");
        Refused(House.Host, new TakeBack()).ShouldBeNull();
        _house.Waits(TimeSpan.FromSeconds(20));
        _house.Do(Actor.House, new EndRooms());
        Room(_jun).ShouldBe(2, "closing was taken back");
        _house.Waits(TimeSpan.FromMinutes(5));
        _house.Do(Actor.House, new EndRooms());
        Room(_jun).ShouldBeNull();
        _house.Sitting.Rooms.Past.Select(room => room.Number).ShouldBe([aller, wey]);
    }

    [Fact]
    public void Closing_by_mistake_is_taken_back_and_everybody_is_in_their_room_again()
    {
        InRooms();
        Refused(_nia, new Write(new Recipient(Reach.Everyone), "Seven gauges")).ShouldBeNull();
        Refused(_nia, new OpenSheet("Findings")).ShouldBeNull();
        Refused(_teodor, new GiveFile("f1", "Gauges.pdf", 2_000, FileSort.Document)).ShouldBeNull();
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        Room(_nia).ShouldBeNull();
        _house.Sitting.MayKnow(_house[_teodor], new Matter.Words(_house.Sitting.Message(1)!)).ShouldBeFalse("it was said in a room");
        Refused(House.Host, new TakeBack()).ShouldBeNull();
        (Room(_teodor), Room(_nia), Room(_jun), Room(_pilar)).ShouldBe((1, 1, 2, 2));
        var there = _house.Sitting.At(_house[_nia].Room);
        (there.Shelf.Open.Single().Title, there.Handouts.Out.Single().Name).ShouldBe(("Findings", "Gauges.pdf"));
        (_house.Sitting.Shelf.Open.Length, _house.Sitting.Handouts.Out.Length).ShouldBe((0, 0));
        _house.Sitting.MayKnow(_house[_teodor], new Matter.Words(_house.Sitting.Message(1)!)).ShouldBeTrue();
        _house.Sitting.Rooms.Rounds.ShouldBeEmpty("it is the same round that goes on");
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        _house.Sitting.Rooms.Rounds.Length.ShouldBe(1);
    }

    [Fact]
    public void During_the_countdown_rooms_are_called_off_and_the_plan_is_there_again()
    {
        Refused(House.Host, new PlanRooms(TwoRooms)).ShouldBeNull();
        Refused(House.Host, new OpenRooms()).ShouldBeNull();
        Refused(House.Host, new CloseRooms()).ShouldBeNull();
        _house.Waits(RoomBook.Countdown);
        _house.Do(Actor.House, new EnterRooms()).Facts.ShouldBeEmpty();
        _house.Sitting.Rooms.Draft!.RoomOf.Values.ShouldBe([0, 0, 1, 1]);
        _house.Sitting.Rooms.Rounds.ShouldBeEmpty();
        Refused(House.Host, new OpenRooms()).ShouldBeNull();
        Refused(House.Host, new TakeBack()).ShouldBeNull();
        _house.Sitting.Rooms.Draft.ShouldNotBeNull();
    }

    [Theory]
    [InlineData(LateRule.SmallestRoom, 2)]
    [InlineData(LateRule.Wait, null)]
    public void Whoever_comes_late_goes_where_the_plan_says(LateRule late, int? expected)
    {
        var fifth = _house.Arrives("Fay Lindqvist");
        InRooms(TwoRooms with { Late = late, Rooms = TwoRooms.Rooms.SetItem(0, TwoRooms.Rooms[0] with { People = ["nia", "fay"] }) });
        Room(fifth).ShouldBe(1);
        var sixth = _house.Arrives("Bram Aldous");
        Room(sixth).ShouldBe(expected);
        _house.Do(_nia, new Leave());
        _house.Arrives("Nia Okafor").ShouldBe(_nia);
        Room(_nia).ShouldBe(1, "whoever belongs to a room comes back into it");
        _house.Do(Actor.House, new Drop([_jun]));
        _house.Do(Actor.House, new Reconnect(_jun));
        Room(_jun).ShouldBe(2);
    }

    [Fact]
    public void Whoever_comes_after_the_plan_was_made_goes_with_the_others_and_whoever_was_taken_out_stays()
    {
        Refused(House.Host, new PlanRooms(TwoRooms)).ShouldBeNull();
        Refused(House.Host, new MoveToRoom([_pilar], null)).ShouldBeNull();
        Refused(House.Host, new PlanRooms(TwoRooms with { Seed = 3 })).ShouldBeNull();
        _house.Sitting.Rooms.Draft!.RoomOf.ShouldNotContainKey(_pilar.Number, "also when it is planned anew");
        var late = _house.Arrives("Fay Lindqvist");
        Refused(House.Host, new OpenRooms()).ShouldBeNull();
        var later = _house.Arrives("Bram Aldous");
        _house.Waits(RoomBook.Countdown);
        _house.Do(Actor.House, new EnterRooms());
        (Room(_pilar), Room(_teodor), Room(_jun)).ShouldBe((null, 1, 2));
        new[] { Room(late), Room(later) }.ShouldAllBe(room => room != null);
        _house.Do(_pilar, new Leave());
        _house.Arrives("Pilar Ortega");
        Room(_pilar).ShouldBeNull();
    }

    [Fact]
    public void A_room_calls_the_bench_which_visits_or_answers()
    {
        InRooms();
        var aller = _house[_nia].Room!.Value;
        Refused(House.Host, new CallBench()).ShouldBe(Reason.NotInRoom);
        Refused(_nia, new CallBench()).ShouldBeNull();
        Projection.Record(_house.Sitting, Viewer.Bench).Rooms!.Open[0].CalledBy.ShouldBe("Nia Okafor");
        Refused(_nia, new AnswerCall(aller)).ShouldBe(Reason.OnlyBench);
        Refused(House.Host, new VisitRoom(aller)).ShouldBeNull();
        _house.Sitting.Rooms.Find(aller)!.CalledAt.ShouldBeNull();
        Refused(House.Host, new VisitRoom(null)).ShouldBeNull();
        Refused(_teodor, new CallBench()).ShouldBeNull();
        _house.Do(_teodor, new Leave());
        _house.Sitting.Rooms.Find(aller)!.CalledAt.ShouldBeNull("whoever called is gone");
    }

    [Fact]
    public void The_bench_listens_only_where_the_plan_allows_it_and_then_seen_and_silent()
    {
        InRooms();
        Refused(House.Host, new VisitRoom(_house[_nia].Room, Listens: true)).ShouldBe(Reason.ListeningNotAllowed);
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        InRooms(TwoRooms with { MayListen = true });
        _house.Do(House.Host, new OpenMicrophone());
        Refused(House.Host, new VisitRoom(_house[_nia].Room, Listens: true)).ShouldBeNull();
        Projection.Whole(_house.Sitting, Knowledge.ViewpointOf(_house.Sitting, _house[_nia]), []).Seats
            .ShouldContain(row => row.Id == House.Host && row.Listens);
        ForwardingPlan.MayBeHeard(_house.Sitting, _house[House.Host]).ShouldBeFalse();
        Refused(House.Host, new OpenMicrophone()).ShouldBe(Reason.SpeakWhileListening);
        Refused(House.Host, new SpeakToRooms(true)).ShouldBe(Reason.SpeakWhileListening);
        Refused(House.Host, new VisitRoom(_house[_nia].Room)).ShouldBeNull();
        Refused(House.Host, new OpenMicrophone()).ShouldBeNull();
    }

    [Fact]
    public void Nobody_but_the_bench_runs_rooms_and_nobody_goes_where_they_do_not_belong()
    {
        Command[] runs =
        [
            new PlanRooms(TwoRooms), new PlanAnotherRound(), new OpenRooms(), new MoveToRoom([_jun], 1), new TellRooms("Look"),
            new SpeakToRooms(true), new GiveRoomsTime(5), new CloseRooms(0), new AnswerCall(1)
        ];
        foreach (var command in runs) Refused(_teodor, command).ShouldBe(Reason.OnlyBench, command.ToString());
        InRooms(TwoRooms with { MayGoBack = false });
        var (aller, wey) = (_house[_nia].Room!.Value, _house[_jun].Room!.Value);
        foreach (var command in runs) Refused(_teodor, command).ShouldBe(Reason.OnlyBench, command.ToString());
        Refused(_nia, new VisitRoom(wey)).ShouldBe(Reason.RoomNotYours);
        Refused(_nia, new VisitRoom(aller, Listens: true)).ShouldBe(Reason.RoomNotYours);
        Refused(_nia, new VisitRoom(null)).ShouldBe(Reason.GoingBackNotAllowed);
        var waiting = _house.Sitting.Seats.Count;
        _house.Do(House.Host, new SetDoor(DoorMode.Attended));
        var outside = _house.Arrives("Somebody");
        outside.Number.ShouldBe(waiting + 1);
        Refused(outside, new VisitRoom(aller)).ShouldBe(Reason.NotInside);
        Refused(outside, new CallBench()).ShouldBe(Reason.NotInside);
        Refused(House.Host, new Remove([_nia], MayReturn: true)).ShouldBeNull();
        (_house[_nia].Room, Refused(_nia, new VisitRoom(aller))).ShouldBe((null, Reason.NotInside));
    }

    [Fact]
    public void Bad_plans_are_refused_in_words_and_nothing_is_lost()
    {
        Refused(House.Host, new OpenRooms()).ShouldBe(Reason.NoRoomsPlanned);
        Refused(House.Host, new PlanRooms(RoomForm.Of())).ShouldBe(Reason.NoRoomsPlanned);
        Refused(House.Host, new PlanRooms(RoomForm.Of([.. Enumerable.Repeat("", 101)]))).ShouldBe(Reason.TooManyRooms);
        Refused(House.Host, new PlanRooms(RoomForm.Of("Aller", "aller "))).ShouldBe(Reason.RoomNameTwice);
        Refused(House.Host, new PlanRooms(RoomForm.Of(new string('a', 61)))).ShouldBe(Reason.RoomNameTooLong);
        Refused(House.Host, new PlanRooms(TwoRooms with { Minutes = 0 })).ShouldBe(Reason.RoomMinutesOutOfRange);
        Refused(House.Host, new PlanRooms(TwoRooms)).ShouldBeNull();
        var number = _house.Sitting.Rooms.Draft!.Number;
        Refused(House.Host, new MoveToRoom([_nia], 2)).ShouldBeNull();
        Refused(House.Host, new PlanRooms(TwoRooms, number)).ShouldBe(Reason.PlanChangedSince, "another bench has moved somebody");
        _house.Sitting.Rooms.Draft!.RoomOf[_nia.Number].ShouldBe(1);
        Refused(House.Host, new MoveToRoom([_nia], 3)).ShouldBe(Reason.NoSuchRoom);
        Refused(House.Host, new PlanRooms(TwoRooms with { Together = [new NameSet(["jun", "nobody at all"])], Seed = 2 })).ShouldBeNull();
        _house.Sitting.Rooms.Draft!.Unknown.ShouldBe(["nobody at all"]);
        _house.Sitting.Rooms.Draft!.RoomOf[_nia.Number].ShouldBe(1, "what was put by hand stays");
        Refused(House.Host, new PlanRooms(RoomForm.Of("A", "B") with
        {
            Together = [new NameSet(["nia", "jun"]), new NameSet(["jun", "pilar"])],
            Apart = [new NameSet(["pilar", "nia"])]
        }, ByHand: false)).ShouldBeNull();
        _house.Sitting.Rooms.Draft!.Clashes.ShouldContain(new RoomClash(ClashKind.ApartAndTogether, [_nia, _pilar]));
        Refused(House.Host, new PlanRooms(RoomForm.Of([.. Enumerable.Repeat("", 9)]))).ShouldBeNull();
        _house.Do(_jun, new Leave());
        Refused(House.Host, new OpenRooms()).ShouldBeNull("whoever has left goes nowhere, and empty rooms wait for those who come");
    }

    [Fact]
    public void Rooms_called_like_groups_are_theirs_and_whoever_is_of_none_goes_where_there_is_room()
    {
        var house = House.Opened(
            DoorMode.Open, null, new DocketLine("Nia Okafor", Group: "Wey"), new DocketLine("Jun Takeda", Group: "Aller"));
        string[] names = ["Nia Okafor", "Jun Takeda", "Fay One", "Bram Two", "Ida Three", "Ugo Four"];
        SeatId[] people = [.. names.Select(name => house.Arrives(name))];
        house.Do(House.Host, new PlanRooms(RoomForm.Of("Aller", "Wey") with { Spread = Spread.ByGroup })).Refusal.ShouldBeNull();
        var plan = house.Sitting.Rooms.Draft!.RoomOf;
        (plan[people[0].Number], plan[people[1].Number]).ShouldBe((1, 0));
        plan.Values.Count(room => room == 0).ShouldBe(3);
        house.Do(House.Host, new PlanRooms(RoomForm.Of("", "", "") with { Spread = Spread.ByGroup })).Refusal.ShouldBeNull();
        house.Sitting.Rooms.Draft!.RoomOf.Values.GroupBy(room => room).ShouldAllBe(room => room.Count() == 2);
        // An item of the run sheet opens what was wished, and is taken back with it.
        house.Do(House.Host, new PlanRooms(null)).Refusal.ShouldBeNull();
        house.Do(House.Host, new PlanRooms(RoomForm.Of("Aller", "Wey"))).Refusal.ShouldBeNull();
        house.Do(House.Host, new SetRunSheet([new Item(1, "In the streams", OpensRooms: true)])).Refusal.ShouldBeNull();
        house.Do(House.Host, new NextItem()).Refusal.ShouldBeNull();
        house.Sitting.Rooms.Open.Length.ShouldBe(2);
        house.Do(House.Host, new TakeBack()).Refusal.ShouldBeNull();
        house.Sitting.Rooms.Open.ShouldBeEmpty();
    }

    [Fact]
    public void A_second_round_brings_together_who_has_not_met()
    {
        InRooms();
        Refused(House.Host, new PlanAnotherRound()).ShouldBe(Reason.RoomsAreOpen);
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        Refused(House.Host, new PlanRooms(RoomForm.Of("", ""), ByHand: false)).ShouldBeNull();
        Refused(House.Host, new PlanAnotherRound()).ShouldBeNull();
        var plan = _house.Sitting.Rooms.Draft!;
        (plan.Repeated, plan.RoomOf[_nia.Number] == plan.RoomOf[_teodor.Number]).ShouldBe((0, false));
    }

    [Fact]
    public void What_a_room_made_lies_on_the_shelf_of_the_hall_and_is_before_nobody()
    {
        InRooms();
        Refused(_nia, new OpenSheet("Findings")).ShouldBeNull();
        Refused(_nia, new ShowExhibit(1)).ShouldBeNull();
        Refused(_jun, new OpenSheet("Questions")).ShouldBeNull();
        _house.Sitting.Shelf.Open.ShouldBeEmpty();
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        _house.Sitting.Shelf.Open.Select(exhibit => (exhibit.Number, exhibit.Title, exhibit.Room))
            .ShouldBe([(1, "Findings", 1), (2, "Questions", 2)]);
        _house.Sitting.Shelf.Shown.ShouldBeEmpty();
        Refused(House.Host, new ShowExhibit(1)).ShouldBeNull();
        Refused(House.Host, new OpenSheet("Next")).ShouldBeNull();
        _house.Sitting.Shelf.Last.ShouldBe(3);
    }

    [Fact]
    public void The_bench_writes_to_one_in_a_room_and_nobody_else_through_a_wall()
    {
        InRooms();
        var toJun = new Recipient(Reach.One, _jun);
        Refused(_nia, new Write(toJun, "Psst")).ShouldBe(Reason.NobodySeated);
        Refused(House.Host, new Write(toJun, "Two minutes")).ShouldBeNull();
        Refused(_nia, new Write(new Recipient(Reach.Bench), "We are done")).ShouldBeNull();
        _house.Sitting.MayKnow(_house[House.Host], new Matter.Words(_house.Sitting.Message(2)!)).ShouldBeTrue();
        Refused(_nia, new Write(new Recipient(Reach.Everyone), "Among us")).ShouldBeNull();
        _house.Sitting.MayKnow(_house[House.Host], new Matter.Words(_house.Sitting.Message(3)!)).ShouldBeFalse();
        Refused(House.Host, new PutUp(3)).ShouldBe(Reason.NoSuchMessage);
        // A message that is put up in a room, and deleted from elsewhere, stands nowhere any more.
        Refused(House.Host, new VisitRoom(_house[_nia].Room)).ShouldBeNull();
        Refused(House.Host, new PutUp(3)).ShouldBeNull();
        ChatFacet PutUpThere() => Projection.Record(_house.Sitting, Knowledge.ViewpointOf(_house.Sitting, _house[_teodor])).Chat!;
        PutUpThere().PutUp!.Text.ShouldBe("Among us");
        Refused(_nia, new VisitRoom(null)).ShouldBeNull();
        Refused(_nia, new DeleteMessage(3)).ShouldBeNull();
        PutUpThere().PutUp.ShouldBeNull();
    }
}
