using System.Collections.Immutable;
using System.Text.Json;

namespace HoldCourt.Core.Tests;

public class PeopleTests
{
    [Fact]
    public void Taking_back_a_mute_gives_back_exactly_those_who_were_open_and_are_still_here()
    {
        var house = House.Opened();
        var people = Enumerable.Range(1, 5).Select(i => house.Admits($"Warden {i}")).ToArray();
        foreach (var seat in people[..3]) house.Do(seat, new OpenMicrophone());
        var presenter = house.Admits("Presenter", Role.Presenter);
        house.Do(presenter, new OpenMicrophone());

        house.Do(House.Host, new MuteAll()).Facts.ShouldHaveSingleItem().ShouldBeOfType<Muted>().Seats.ShouldBe(people[..3]);
        house[presenter].MicrophoneOpen.ShouldBeTrue();
        house.Do(people[0], new Leave());
        house.Do(House.Host, new TakeBack());

        house.Sitting.Seats.Where(seat => seat.MicrophoneOpen).Select(seat => seat.Id).ShouldBe([people[1], people[2], presenter]);
        house.Do(House.Host, new TakeBack()).Facts.ShouldHaveSingleItem()
            .ShouldBeOfType<TakenBack>().Opposite.ShouldBeOfType<SentToLobby>();
    }

    [Fact]
    public void A_mute_of_a_thousand_and_its_taking_back_reach_every_kind_of_viewer_as_a_list_of_numbers()
    {
        var house = House.Opened();
        var people = Enumerable.Range(1, 1000).Select(i => house.Admits($"Warden {i}")).ToArray();
        foreach (var seat in people) house.Do(seat, new OpenMicrophone());

        foreach (var (command, microphone) in new (Command, MicrophoneState)[] { (new MuteAll(), MicrophoneState.Closed),
            (new TakeBack(), MicrophoneState.Open) })
        {
            var (before, count) = (house.Sitting, house.Entries.Count);
            house.Do(House.Host, command);
            foreach (var viewer in new[] { Viewer.Bench, Viewer.Presenter, Viewer.Attendee })
            {
                var change = new Transition(before, house.Sitting, [.. house.Entries.Skip(count)]).From(viewer);
                change.Put.ShouldBeNull();
                var altered = change.Altered!.Value.ShouldHaveSingleItem();
                altered.To.ToJsonString().ShouldBe($$"""{"microphone":"{{CoreJson.NameOf(microphone)}}"}""");
                altered.Seats.ShouldBe(people, ignoreOrder: true);
                JsonSerializer.SerializeToUtf8Bytes(change, CoreJson.Options).Length.ShouldBeLessThan(10_000);
            }
        }
    }

    [Fact]
    public void A_raised_hand_is_a_few_bytes_however_much_else_there_is()
    {
        var house = House.Opened();
        var people = Enumerable.Range(1, 200).Select(i => house.Admits($"Warden {i}")).ToArray();
        house.Do(House.Host, new SetRunSheet(
            [.. Enumerable.Range(1, 200)
            .Select(i => new Item(i, $"Item {i}", 5, Note: new string('x', 2_000)))])).Refusal.ShouldBeNull();
        var (before, count) = (house.Sitting, house.Entries.Count);
        house.Do(people[100], new RaiseHand());
        var change = new Transition(before, house.Sitting, [.. house.Entries.Skip(count)]).From(Viewer.Bench);
        JsonSerializer.SerializeToUtf8Bytes(change, CoreJson.Options).Length.ShouldBeLessThan(300);
        // The queue and the row are all that is sent, and the sentence.
        change.Set.ShouldBeJson(new SittingRow { Hands = new HandsFacet([people[100]]) });
        change.Altered!.Value.ShouldHaveSingleItem().To.Select(field => field.Key).ShouldBe(["hand"]);
    }

    [Fact]
    public void Of_thousands_who_have_gone_the_view_holds_the_newest_fifty_and_the_others_are_asked_for()
    {
        var house = House.Opened(DoorMode.Open);
        var held = Projection.Whole(house.Sitting, Viewer.Bench, []).Seats.ToDictionary(row => row.Id);
        var people = new List<SeatId>();
        for (var n = 1; n <= 120; n++)
        {
            var (before, count) = (house.Sitting, house.Entries.Count);
            people.Add(house.Arrives($"Guest {n}"));
            house.Do(people[^1], new Leave());
            // Now and then somebody comes back, so that an older one comes into the view again.
            if (n % 7 == 0) house.Arrives($"Guest {n - 3}");
            held = held.With(new Transition(before, house.Sitting, [.. house.Entries.Skip(count)]).From(Viewer.Bench));
            held.Values.OrderBy(row => row.Id).ToImmutableArray().ShouldBeJson(Projection.Whole(house.Sitting, Viewer.Bench, []).Seats);
        }
        var gone = held.Values.Where(row => row.Place == Place.Gone).ToList();
        gone.Count.ShouldBe(50);
        Projection.Record(house.Sitting, Viewer.Bench).Counts!.Gone.ShouldBe(103);
        var oldest = house[gone.OrderBy(row => row.Since).First().Id];
        Projection.Gone(house.Sitting, oldest).Count().ShouldBe(53);
    }

    [Fact]
    public void By_leave_attendees_speak_only_when_asked_and_a_mute_ends_the_leave()
    {
        var house = House.Opened();
        var (runa, jun) = (house.Admits("Runa"), house.Admits("Jun"));
        house.Do(runa, new OpenMicrophone());
        house.Do(House.Host, new SetOrder(Order.Speak, Audience.Presenters));
        house[runa].MicrophoneOpen.ShouldBeFalse();
        house.Do(runa, new OpenMicrophone()).Refusal.ShouldBe(new Refusal(Reason.MicrophonesByLeave, Remedy.WaitForLeave));

        house.Do(House.Host, new AskToUnmute([runa, jun]));
        house.Do(runa, new AnswerUnmute(true));
        house.Do(jun, new AnswerUnmute(false));
        house[runa].MicrophoneOpen.ShouldBeTrue();
        house.Do(jun, new OpenMicrophone()).Refusal!.Reason.ShouldBe(Reason.MicrophonesByLeave);

        house.Do(House.Host, new Mute([runa]));
        house.Do(runa, new OpenMicrophone()).Refusal!.Reason.ShouldBe(Reason.MicrophonesByLeave);
        house.Do(House.Host, new TakeBack());
        house[runa].ShouldSatisfyAllConditions(s => s.MicrophoneOpen.ShouldBeTrue(), s => s.HasLeave.ShouldBeTrue());
    }

    [Fact]
    public void Taking_back_by_leave_gives_the_microphones_back_to_those_it_closed()
    {
        var house = House.Opened();
        var (runa, jun) = (house.Admits("Runa"), house.Admits("Jun"));
        house.Do(runa, new OpenMicrophone());
        house.Do(House.Host, new SetOrder(Order.Speak, Audience.Bench));
        house.Do(House.Host, new TakeBack());
        house.Sitting.Orders.ShouldBe(StandingOrders.Usual);
        house[runa].MicrophoneOpen.ShouldBeTrue();
        house[jun].MicrophoneOpen.ShouldBeFalse();
    }

    [Fact]
    public void The_bench_opens_only_the_microphones_of_those_who_consented()
    {
        var house = House.Opened();
        var (willing, other) = (house.Admits("Willing"), house.Admits("Other"));
        house.Do(House.Host, new Unmute([willing, other])).Refusal!.Reason.ShouldBe(Reason.NobodyConsents);
        house.Do(House.Host, new AskToUnmute([willing]));
        house.Do(willing, new AnswerUnmute(true, Consent: true));
        house.Do(willing, new CloseMicrophone());
        house.Do(House.Host, new Unmute([willing, other]));
        house[willing].MicrophoneOpen.ShouldBeTrue();
        house[other].MicrophoneOpen.ShouldBeFalse();
    }

    [Fact]
    public void Deputies_do_not_touch_the_host_and_attendees_touch_nobody()
    {
        var house = House.Opened();
        var (deputy, guest) = (house.Admits("Deputy", Role.Deputy), house.Admits("Guest"));
        Command[] onHost = [new Remove([House.Host], true), new SendToLobby([House.Host]), new GiveRole([House.Host], Role.Attendee)];
        onHost.ShouldAllBe(command => house.Do(deputy, command).Refusal!.Reason == Reason.HostIsOutOfReach);
        Command[] byGuest = [new Mute([deputy]), new Admit([deputy]), new Remove([deputy], true), new LockDoor("", false),
            new SetOrder(Order.Speak, Audience.Bench), new TakeBack(), new GiveRole([guest], Role.Deputy)];
        byGuest.ShouldAllBe(command => house.Do(guest, command).Refusal!.Reason == Reason.OnlyBench);
    }

    [Fact]
    public void Demoted_people_do_not_go_on_with_what_they_may_no_longer_do()
    {
        var house = House.Opened(orders: StandingOrders.Usual with { Speak = Audience.Presenters, ShowCamera = Audience.Presenters });
        var seat = house.Admits("Presenter", Role.Presenter);
        house.Do(seat, new OpenMicrophone());
        house.Do(seat, new TurnCamera(true));
        house.Do(House.Host, new GiveRole([seat], Role.Attendee));
        house[seat].ShouldSatisfyAllConditions(s => s.MicrophoneOpen.ShouldBeFalse(), s => s.CameraOn.ShouldBeFalse());
    }

    [Fact]
    public void Each_act_of_the_bench_can_be_taken_back_and_what_has_changed_since_says_so()
    {
        var house = House.Opened();
        var (a, b) = (house.Admits("Anna"), house.Admits("Ben"));
        house.Do(a, new TurnCamera(true));
        var before = Kept(house.Sitting);
        Command[] acts =
        [
            new CamerasOff([a]), new GiveRole([a, b], Role.Presenter), new Rename(b, "Benedikt"), new HandOver(a),
            new LockDoor("Late", true),
            new SetDoor(DoorMode.Open)
        ];
        foreach (var act in acts)
        {
            house.Do(House.Host, act).Refusal.ShouldBeNull(act.ToString());
            house.Do(house.Sitting.Host!.Value, new TakeBack()).Refusal.ShouldBeNull(act.ToString());
            Kept(house.Sitting).ShouldBeStateOf(before);
        }
        foreach (var act in new Command[] { new SendToLobby([b]), new Remove([b], true) })
        {
            house.Do(House.Host, act);
            house.Do(House.Host, new TakeBack());
            house[b].IsSeated.ShouldBeTrue();
        }

        house.Do(House.Host, new Rename(b, "X"));
        house.Do(b, new Rename(b, "Y"));
        house.Do(House.Host, new TakeBack(house.Sitting.Sequence - 1)).Refusal!.Reason.ShouldBe(Reason.ChangedSince);
        house.Do(House.Host, new LockDoor("Late", true));
        Taking.Newest(house.Sitting)!.Fact.ShouldBeOfType<DoorSet>("what is stale does not stand in the way");
    }

    /// <summary>Without what counts up, and the moments at which roles were given.</summary>
    private static Sitting Kept(Sitting sitting) => sitting with
    {
        Takeable = [],
        Sequence = 0,
        Seats = Roll.Of([.. sitting.Seats.Select(seat => seat with { RoleSince = null, LoweredAt = null })])
    };
}
