namespace HoldCourt.Core.Tests;

public class OrdersTests
{
    private static readonly StandingOrders _quiet = StandingOrders.Usual
        with
    { Speak = Audience.Presenters, ShowCamera = Audience.Bench, React = Audience.Bench };

    private static (House House, SeatId Anna, SeatId Ben) Two()
    {
        var house = House.Opened();
        var (a, b) = (house.Admits("Anna"), house.Admits("Ben"));
        foreach (var seat in new[] { a, b })
        {
            house.Do(seat, new OpenMicrophone());
            house.Do(seat, new TurnCamera(true));
        }
        return (house, a, b);
    }

    [Fact]
    public void An_exception_holds_for_its_seat_whatever_the_orders_say_and_ends_with_what_it_allowed()
    {
        var (house, a, b) = Two();
        house.Do(House.Host, new Except([a], Order.Speak, true)).Refusal.ShouldBeNull();
        house.Do(House.Host, new SetOrder(Order.Speak, Audience.Presenters));
        house[a].MicrophoneOpen.ShouldBeTrue();
        house[b].MicrophoneOpen.ShouldBeFalse();

        house.Do(House.Host, new Except([a], Order.Speak, null));
        house[a].MicrophoneOpen.ShouldBeFalse();
        house.Do(House.Host, new TakeBack());
        house[a].MicrophoneOpen.ShouldBeTrue();

        house.Do(House.Host, new Except([b], Order.ShowCamera, false));
        house[b].CameraOn.ShouldBeFalse();
        house.Do(b, new TurnCamera(true)).Refusal!.Reason.ShouldBe(Reason.TakenFromYou);
        house.Do(House.Host, new AskToUnmute([b]));
        house.Do(b, new AnswerUnmute(true)).Refusal.ShouldBeNull("leave is given to one person now, and stronger than an order");
    }

    [Fact]
    public void Neither_the_bench_nor_what_all_of_a_kind_see_together_takes_exceptions()
    {
        var (house, a, _) = Two();
        house.Do(House.Host, new Except([House.Host], Order.Speak, false)).Refusal!.Reason.ShouldBe(Reason.BenchNotExcepted);
        house.Do(House.Host, new Except([a], Order.SeePeople, false)).Refusal!.Reason.ShouldBe(Reason.NoExceptions);
        house.Do(a, new Except([a], Order.Speak, true)).Refusal!.Reason.ShouldBe(Reason.OnlyBench);
    }

    [Fact]
    public void What_is_foreseen_names_who_loses_and_gains_and_is_what_then_happens()
    {
        var (house, a, _) = Two();
        house.Do(House.Host, new Except([a], Order.Speak, true));
        var command = new TakePreset("Hearing", DoorMode.Listed, _quiet);

        var foreseen = Foresight.Of(house.Sitting, command, Actor.Of(House.Host), new Instant(0));
        foreseen.Shifts.Select(shift => (shift.Capability, shift.Gains, string.Join('+', shift.Names))).ShouldBe(
            [(Capability.Speak, false, "Ben"), (Capability.ShowCamera, false, "Anna+Ben"), (Capability.React, false, "Anna+Ben")],
            ignoreOrder: true);
        foreseen.Touches.ShouldBe(2);
        foreseen.Does.Select(row => row.What).ShouldBe(["presetTaken", "ordersSet", "doorSet"]);
        house[a].CameraOn.ShouldBeTrue("nothing has happened yet");

        house.Do(House.Host, command);
        house[a].CameraOn.ShouldBeFalse();
        house.Sitting.Door.Mode.ShouldBe(DoorMode.Listed);
        Foresight.Of(house.Sitting, command, Actor.Of(House.Host), new Instant(0)).Refusal!.Reason.ShouldBe(Reason.NoChange);
        Foresight.Of(house.Sitting, command, Actor.Of(a), new Instant(0)).Refusal!.Reason.ShouldBe(Reason.OnlyBench);
    }

    [Fact]
    public void A_preset_is_taken_back_in_one_step_and_leaves_alone_what_was_changed_since()
    {
        var (house, a, b) = Two();
        house.Do(House.Host, new TakePreset("Hearing", DoorMode.Listed, _quiet));
        var taken = house.Sitting.Sequence;
        house.Do(House.Host, new SetOrder(Order.React, Audience.Everyone));
        house.Do(House.Host, new TakeBack(taken)).Refusal.ShouldBeNull();

        house.Sitting.Orders.ShouldBe(StandingOrders.Usual);
        house.Sitting.Door.Mode.ShouldBe(DoorMode.Attended);
        house[a].CameraOn.ShouldBeTrue();
        house[b].MicrophoneOpen.ShouldBeTrue();
        ForwardingPlan.MayBeHeard(house.Sitting, house[b]).ShouldBeTrue();
    }

    [Fact]
    public void Two_deputies_who_act_on_the_same_person_at_once_leave_a_right_state_and_are_both_named()
    {
        var (house, a, _) = Two();
        var (first, second) = (house.Admits("First", Role.Deputy), house.Admits("Second", Role.Deputy));
        house.Do(first, new Mute([a])).Refusal.ShouldBeNull();
        house.Do(second, new Mute([a])).ShouldBe(Decision.AlreadySo);
        house.Do(first, new Remove([a], true)).Refusal.ShouldBeNull();
        house.Do(second, new GiveRole([a], Role.Presenter)).Refusal!.Reason.ShouldBe(Reason.NoChange, "nobody who is gone is promoted");
        house.Do(second, new TakeBack()).Refusal.ShouldBeNull();
        house[a].IsSeated.ShouldBeTrue();
        house.Entries.Where(entry => entry.Fact is Removed or TakenBack).Select(entry => entry.By)
            .ShouldBe([Actor.Of(first), Actor.Of(second)]);
    }
}
