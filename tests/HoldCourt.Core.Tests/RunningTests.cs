namespace HoldCourt.Core.Tests;

/// <summary>The run sheet, recess, the planned end, who leads, and the picture for all.</summary>
public class RunningTests
{
    private static readonly Item _reports = new(1, "Reports", 20, "TEODOR Quíll", StandingOrders.Usual with { Speak = Audience.Presenters },
        Arrangement.Lead, "Keep it short");
    private static readonly Item _questions = new(2, "Questions", 10, Orders: StandingOrders.Usual with { React = Audience.Bench });

    private static (House House, SeatId Nia, SeatId Teodor) Assembly()
    {
        var house = House.Opened();
        var (nia, teodor) = (house.Admits("Nia"), house.Admits("Teodor Quill", Role.Presenter));
        house.Do(nia, new OpenMicrophone());
        house.Do(House.Host, new SetRunSheet([_reports, _questions])).Refusal.ShouldBeNull();
        return (house, nia, teodor);
    }

    [Fact]
    public void The_next_item_brings_orders_picture_and_lead_in_one_step_and_goes_back_in_one()
    {
        var (house, nia, teodor) = Assembly();
        var before = house.Sitting with { Takeable = [], Sequence = 0 };
        Foresight.Of(house.Sitting, new NextItem(), Actor.Of(House.Host), new Instant(0)).Does.Select(row => row.What)
            .ShouldBe(["itemTurned", "ordersSet", "arrangementSet", "floorGiven"]);

        house.Do(House.Host, new NextItem()).Facts.Length.ShouldBe(1);
        house.Sitting.RunSheet.Now.ShouldBe(_reports);
        house.Sitting.Picture.Arrangement.ShouldBe(Arrangement.Lead);
        house.Sitting.Turn!.Seat.ShouldBe(teodor);
        house[nia].MicrophoneOpen.ShouldBeFalse();

        house.Do(House.Host, new TakeBack()).Refusal.ShouldBeNull();
        (house.Sitting with { Takeable = [], Sequence = 0 }).ShouldBeStateOf(before);
    }

    [Fact]
    public void Time_is_counted_for_each_item_and_the_sheet_can_be_changed_while_one_is_on()
    {
        var (house, _, _) = Assembly();
        house.Do(House.Host, new NextItem());
        house.Do(House.Host, new SetRunSheet([new Item(3, "Welcome"), _reports, _questions])).Refusal.ShouldBeNull();
        house.Sitting.RunSheet.At.ShouldBe(1);
        house.Do(House.Host, new NextItem());
        house.Sitting.RunSheet.ShouldSatisfyAllConditions(sheet => sheet.At.ShouldBe(2), sheet => sheet.Spent[1].ShouldBe(2_000));
        house.Do(House.Host, new NextItem()).Refusal!.Reason.ShouldBe(Reason.NoItemLeft);
        house.Do(House.Host, new EndItem());
        house.Sitting.RunSheet.ShouldSatisfyAllConditions(sheet => sheet.Now.ShouldBeNull(), sheet => sheet.Following!.Id.ShouldBe(3));
        house.Do(House.Host, new TurnToItem(9)).Refusal!.Reason.ShouldBe(Reason.NoSuchItem);
        house.Do(House.Host, new SetRunSheet([new Item(1, " ")])).Refusal!.Reason.ShouldBe(Reason.ItemWithoutTitle);
        house.Do(House.Host, new SetRunSheet([new Item(1, "x", 0)])).Refusal!.Reason.ShouldBe(Reason.MinutesOutOfRange);
    }

    [Fact]
    public void In_a_recess_everybody_stays_and_only_the_bench_is_heard_by_itself()
    {
        var (house, nia, teodor) = Assembly();
        house.Do(House.Host, new OpenMicrophone());
        house.Do(House.Host, new CallRecess("Back at three", 1, true)).Refusal.ShouldBeNull();
        house.Do(House.Host, new CallRecess("Again")).Refusal!.Reason.ShouldBe(Reason.NoChange);
        house[nia].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.MicrophoneOpen.ShouldBeTrue());
        ForwardingPlan.MayBeHeard(house.Sitting, house[nia]).ShouldBeFalse();
        ForwardingPlan.MayReceive(house.Sitting, house[teodor]).ShouldBeFalse();
        ForwardingPlan.MayBeHeard(house.Sitting, house[House.Host]).ShouldBeTrue();
        house.Do(Actor.House, new EndRecess()).Facts.ShouldBeEmpty("its minute is not over");
        house.Waits(TimeSpan.FromMinutes(1));
        house.Do(Actor.House, new EndRecess()).Facts.Length.ShouldBe(1);
        ForwardingPlan.MayBeHeard(house.Sitting, house[nia]).ShouldBeTrue("as before");
        house.Do(nia, new CallRecess("")).Refusal!.Reason.ShouldBe(Reason.OnlyBench);
    }

    [Fact]
    public void The_first_deputy_in_reach_leads_when_the_host_stays_away_and_the_host_comes_back_as_a_deputy()
    {
        var (house, _, _) = Assembly();
        var (first, second) = (house.Admits("First", Role.Deputy), house.Admits("Second", Role.Deputy));
        house.Do(Actor.House, new Drop([House.Host, first]));
        house.Do(Actor.House, new Succeed()).Facts.ShouldBeEmpty();
        house.Waits(TimeSpan.FromSeconds(Sitting.UsualSuccession));
        house.Do(Actor.House, new Succeed()).Facts.ShouldBe([new HandedOver(House.Host, second, Role.Deputy, Role.Deputy)]);
        house.Sitting.Host.ShouldBe(second);
        house.Do(Actor.House, new Reconnect(House.Host));
        house[House.Host].Role.ShouldBe(Role.Deputy);
        house.Do(second, new HandOver(house.Sitting.Seats.Next)).Refusal!.Reason.ShouldBe(Reason.NotADeputyOrSeated);
        house.Do(second, new SetSuccession(null));
        house.Do(Actor.House, new Drop([second]));
        house.Waits(TimeSpan.FromHours(1));
        house.Do(Actor.House, new Succeed()).Facts.ShouldBeEmpty("nobody takes over when that is not wanted");
    }

    [Fact]
    public void The_planned_end_moves_from_where_it_stands_or_from_now()
    {
        var (house, _, _) = Assembly();
        house.Do(House.Host, new Extend(10));
        var first = house.Sitting.EndsAt!.Value;
        house.Do(House.Host, new Extend(5));
        (house.Sitting.EndsAt!.Value - first).ShouldBe(TimeSpan.FromMinutes(5));
        house.Do(House.Host, new TakeBack());
        house.Sitting.EndsAt.ShouldBe(first);
        house.Do(House.Host, new SetEnd(new Instant(5))).Refusal!.Reason.ShouldBe(Reason.EndOutOfRange);
        house.Do(House.Host, new Extend(0)).Refusal!.Reason.ShouldBe(Reason.MinutesOutOfRange);
    }

    [Fact]
    public void Those_in_front_are_seen_by_all_and_leave_the_front_when_they_go()
    {
        var (house, nia, teodor) = Assembly();
        var other = house.Admits("Other");
        house.Do(House.Host, new SetOrder(Order.SeePeople, Audience.Bench));
        SeatRow.Of(house.Sitting, house[nia], Viewer.Attendee).ShouldBeNull();
        house.Do(House.Host, new PutInFront([nia, teodor])).Refusal.ShouldBeNull();
        SeatRow.Of(house.Sitting, house[nia], Viewer.Attendee)!.Name.ShouldBe("Nia");
        house.Do(nia, new Leave());
        house.Sitting.Picture.Front.ShouldBe([teodor]);
        house.Do(House.Host, new PutInFront([nia])).Refusal!.Reason.ShouldBe(Reason.NobodySeated);
        house.Do(other, new PutInFront([other])).Refusal!.Reason.ShouldBe(Reason.OnlyBench);
        house.Do(House.Host, new SetArrangement(Arrangement.Pair));
        house.Do(House.Host, new SetArrangement(null)).Refusal.ShouldBeNull();
        house.Sitting.Picture.ShouldSatisfyAllConditions(sheet => sheet.Arrangement.ShouldBeNull(), sheet =>
            sheet.Front.ShouldBe([teodor]));
    }

    [Fact]
    public void Giving_the_floor_twice_or_to_somebody_who_has_just_left_is_refused()
    {
        var (house, nia, _) = Assembly();
        house.Do(House.Host, new GiveFloor(nia)).Refusal.ShouldBeNull();
        house.Do(House.Host, new GiveFloor(nia)).Refusal!.Reason.ShouldBe(Reason.NoChange);
        house.Do(nia, new Leave());
        house.Do(House.Host, new GiveFloor(nia)).Refusal!.Reason.ShouldBe(Reason.NobodySeated);
        house.Do(House.Host, new HandOver(nia)).Refusal!.Reason.ShouldBe(Reason.NotADeputyOrSeated);
    }
}
