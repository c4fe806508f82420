namespace HoldCourt.Core.Tests;

public class FloorTests
{
    private static readonly StandingOrders _byLeave = StandingOrders.Usual with { Speak = Audience.Presenters };

    private static (House House, SeatId A, SeatId B, SeatId C) Three(StandingOrders? orders = null)
    {
        var house = House.Opened(DoorMode.Attended, orders);
        return (house, house.Admits("Ansel"), house.Admits("Kwabena"), house.Admits("Runa"));
    }

    [Fact]
    public void Hands_stand_in_the_order_in_which_they_were_raised_and_the_floor_goes_to_the_first()
    {
        var (house, a, b, c) = Three(_byLeave);
        foreach (var seat in new[] { b, c, a }) house.Do(seat, new RaiseHand()).Refusal.ShouldBeNull();
        house.Do(b, new RaiseHand()).Refusal!.Reason.ShouldBe(Reason.NoChange);
        Hands.InOrder(house.Sitting).Select(seat => seat.Id).ShouldBe([b, c, a]);
        house.Do(a, new GiveFloor()).Refusal!.Reason.ShouldBe(Reason.OnlyBench);

        house.Do(House.Host, new GiveFloor()).Refusal.ShouldBeNull();
        house.Sitting.Turn!.Seat.ShouldBe(b);
        house[b].ShouldSatisfyAllConditions(seat => seat.HandSince.ShouldBeNull(), seat => seat.Asked.ShouldBeTrue(), seat =>
            seat.HasLeave.ShouldBeTrue());
        house.Do(b, new OpenMicrophone()).Refusal.ShouldBeNull();
        house.Do(House.Host, new GiveFloor(c)).Refusal.ShouldBeNull();
        house[b].ShouldSatisfyAllConditions(seat => seat.MicrophoneOpen.ShouldBeFalse("the floor is not theirs any more"), seat =>
            seat.HasLeave.ShouldBeFalse());
        Hands.InOrder(house.Sitting).Select(seat => seat.Id).ShouldBe([a]);
        house.Do(House.Host, new GiveFloor(House.Host)).Refusal.ShouldBeNull();
        house[House.Host].Asked.ShouldBeFalse("nobody asks oneself");
        house.Do(House.Host, new LowerHands(House.Seats(a, b)));
        house.Do(House.Host, new GiveFloor()).Refusal!.Reason.ShouldBe(Reason.NoHands);
    }

    [Fact]
    public void In_fair_order_those_come_first_who_spoke_least()
    {
        var (house, a, b, _) = Three();
        house.Do(House.Host, new SetFloor(FloorRule.Usual with { Order = FloorOrder.Fair }));
        house.Do(House.Host, new GiveFloor(a));
        var given = house.Sitting.Sequence;
        house.Do(a, new YieldFloor()).Refusal.ShouldBeNull();
        house[a].FloorTime.ShouldBe(TimeSpan.FromSeconds(1));
        foreach (var seat in new[] { a, b }) house.Do(seat, new RaiseHand());
        Hands.InOrder(house.Sitting).Select(seat => seat.Id).ShouldBe([b, a]);
        house.Do(House.Host, new TakeBack(given)).Refusal!.Reason.ShouldBe(Reason.ChangedSince, "the turn is over");
        house.Do(Actor.House, new CountTalk([a, b], [500, 90_000]));
        Hands.InOrder(house.Sitting).Select(seat => seat.Id).ShouldBe([a, b], "a voice counts, and not the turn alone");
        house.Do(b, new YieldFloor()).Refusal!.Reason.ShouldBe(Reason.NobodyOnFloor);
    }

    [Fact]
    public void Taking_back_gives_the_floor_the_microphone_and_the_hand_back()
    {
        var (house, a, b, _) = Three(_byLeave);
        house.Do(b, new RaiseHand());
        var since = house[b].HandSince;
        house.Do(House.Host, new GiveFloor(a, 60));
        house.Do(a, new OpenMicrophone());
        var turn = house.Sitting.Turn;
        house.Do(House.Host, new GiveFloor());
        house.Sitting.Turn!.Seat.ShouldBe(b);
        house.Do(House.Host, new TakeBack()).Refusal.ShouldBeNull();
        house.Sitting.Turn.ShouldBe(turn);
        house[a].ShouldSatisfyAllConditions(seat => seat.MicrophoneOpen.ShouldBeTrue(), seat => seat.FloorTime.ShouldBe(TimeSpan.Zero));
        house[b].ShouldSatisfyAllConditions(seat => seat.HandSince.ShouldBe(since), seat => seat.HasLeave.ShouldBeFalse());

        house.Do(House.Host, new TakeFloor());
        house.Sitting.Turn.ShouldBeNull();
        house.Do(House.Host, new TakeBack());
        house.Sitting.Turn!.Seat.ShouldBe(a);
        house.Do(House.Host, new Remove([a], MayReturn: true));
        house.Sitting.Turn.ShouldBeNull("whoever goes out does not have the floor");
        house.Do(House.Host, new TakeFloor()).Refusal!.Reason.ShouldBe(Reason.NobodyOnFloor);
    }

    [Fact]
    public void A_turn_ends_by_itself_only_when_its_time_is_over_and_the_sheet_says_so()
    {
        var (house, a, _, _) = Three();
        house.Do(House.Host, new SetFloor(new FloorRule(FloorOrder.ByHand, 5, true))).Refusal!.Reason.ShouldBe(Reason.NotUnderstood);
        house.Do(House.Host, new SetFloor(new FloorRule(FloorOrder.ByHand, 10, false)));
        house.Do(House.Host, new GiveFloor(a));
        for (var n = 0; n < 12; n++) house.Do(Actor.House, new EndTurn());
        house.Sitting.Turn.ShouldNotBeNull("the end is only said");
        house.Do(House.Host, new SetFloor(new FloorRule(FloorOrder.ByHand, 10, true)));
        house.Do(Actor.House, new EndTurn());
        house.Sitting.Turn.ShouldBeNull();
        Sentences.Of(house.Sitting, house.Entries[^1]).What.ShouldBe("turnOver");
    }

    [Fact]
    public void Whoever_has_the_floor_is_seen_by_all_and_not_muted_with_the_others()
    {
        var (house, a, b, _) = Three(_byLeave with { SeePeople = Audience.Bench });
        Projection.Whole(house.Sitting, Viewer.Attendee, []).Seats.Select(row => row.Id).ShouldBe([House.Host]);
        house.Do(House.Host, new GiveFloor(a));
        house.Do(a, new OpenMicrophone());
        var view = Projection.Whole(house.Sitting, Viewer.Attendee, []);
        view.Seats.Select(row => row.Id).ShouldBe([House.Host, a]);
        view.Sitting.Floor!.Turn!.Name.ShouldBe("Ansel");
        house.Do(House.Host, new MuteAll()).ShouldBe(Decision.AlreadySo);
        house.Do(House.Host, new MuteAll(Presenters: true)).Refusal.ShouldBeNull();
        house[a].MicrophoneOpen.ShouldBeFalse();
        house.Do(House.Host, new GiveFloor(b));
        house.Do(b, new AnswerUnmute(false));
        house.Do(b, new OpenMicrophone()).Refusal.ShouldBeNull("who does not want to be asked still has the floor");
    }
}
