namespace HoldCourt.Core.Tests;

/// <summary>Who is let in, and who is not, as somebody tries who should not be.</summary>
public class ThresholdTests
{
    private static readonly DocketLine _deputy = new("Ilse Vantorre", Role.Deputy, Key: "line:1"),
    _warden = new("Runa Halvari", Key: "line:2");

    private static PersonKey Person(string name) => new($"guest:{name}");

    [Fact]
    public void Leaving_the_lobby_and_coming_back_is_not_coming_in()
    {
        var house = House.Opened();
        var nia = house.Arrives("Nia");
        house.Do(nia, new Leave()).Refusal.ShouldBeNull();
        house.Arrives("Nia").ShouldBe(nia);
        house[nia].Place.ShouldBe(Place.Lobby);
    }

    [Theory]
    [InlineData(DoorMode.Attended)]
    [InlineData(DoorMode.Listed)]
    [InlineData(DoorMode.Open)]
    public void Whoever_was_put_out_comes_in_again_only_by_the_bench(DoorMode door)
    {
        Action<House, SeatId>[] ways =
        [
            (house, seat) => house.Do(House.Host, new SendToLobby([seat])),
            (house, seat) => house.Do(House.Host, new Remove([seat], MayReturn: true)),
            (house, seat) => { house.Do(House.Host, new SendToLobby([seat])); house.Do(House.Host, new Decline([seat])); },
            (house, seat) => { house.Do(House.Host, new SendToLobby([seat])); house.Do(Actor.House, new Drop([seat])); house.Do(seat,
                new Leave()); }
        ];
        foreach (var putOut in ways)
        {
            var house = House.Opened(door, null, _warden);
            var runa = house.Arrives("Runa Halvari", proof: "line:2");
            if (!house[runa].IsSeated) house.Do(House.Host, new Admit([runa]));
            putOut(house, runa);
            house.Do(runa, new Leave());
            house.Arrives("Runa Halvari", proof: "line:2");
            house[runa].Place.ShouldBe(Place.Lobby);

            house.Do(House.Host, new Admit([runa])).Refusal.ShouldBeNull();
            house.Do(runa, new Leave());
            house.Arrives("Runa Halvari");
            house[runa].IsSeated.ShouldBeTrue("who was let in and leaves comes back as before");
        }
    }

    [Fact]
    public void A_typed_name_gives_no_role_and_opens_a_listed_door_only_where_the_host_chose_so()
    {
        var house = House.Opened(DoorMode.Listed, null, _deputy, _warden);
        var typed = house.Arrives("Ilse Vantorre");
        house[typed].ShouldSatisfyAllConditions(seat => seat.Place.ShouldBe(Place.Lobby), seat => seat.Match.ShouldBe(Match.Sure), seat =>
            seat.Role.ShouldBe(Role.Attendee));
        house.Do(House.Host, new AdmitSure());
        house[typed].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Attendee));

        house.Do(House.Host, new Remove([typed], MayReturn: true));
        house.Do(House.Host, new SetDoor(DoorMode.Listed, ByName: true));
        var again = house.Arrives("Ilse Vantorre", Person("another"));
        house[again].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Attendee));
    }

    [Theory]
    [InlineData(DoorMode.Listed)]
    [InlineData(DoorMode.Open)]
    public void A_personal_link_gives_the_lines_role_once_whatever_name_is_typed(DoorMode door)
    {
        var house = House.Opened(door, null, _deputy);
        var ilse = house.Arrives("I. V.", proof: "line:1");
        house[ilse].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Deputy));

        var second = house.Arrives("Somebody with her link", proof: "line:1");
        house[second].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBe(door == DoorMode.Open), seat =>
            seat.Role.ShouldBe(Role.Attendee));

        house.Do(House.Host, new GiveRole([ilse], Role.Attendee));
        house.Arrives("I. V.", proof: "line:1");
        house[ilse].Role.ShouldBe(Role.Attendee, "what the bench took does not come back by the link");
    }

    [Fact]
    public void A_personal_link_counts_also_for_somebody_who_waits_already_and_is_noted_for_somebody_inside()
    {
        var house = House.Opened(DoorMode.Listed, null, _warden, _deputy);
        var runa = house.Arrives("R.");
        house[runa].Place.ShouldBe(Place.Lobby);
        house.Arrives("R.", proof: "line:2").ShouldBe(runa);
        house[runa].IsSeated.ShouldBeTrue();

        var guest = house.Admits("Guest");
        house.Arrives("Guest", proof: "line:1").ShouldBe(guest);
        house[guest].ShouldSatisfyAllConditions(seat => seat.Proof.ShouldBe("line:1"), seat => seat.Role.ShouldBe(Role.Attendee));
    }

    [Fact]
    public void What_the_bench_did_to_somebody_holds_in_another_browser_with_the_same_personal_link()
    {
        var house = House.Opened(DoorMode.Listed, null, _deputy, _warden);
        var ilse = house.Arrives("Ilse", proof: "line:1");
        house.Do(House.Host, new GiveRole([ilse], Role.Attendee));
        house.Do(ilse, new Leave());
        house[house.Arrives("Ilse", Person("private window"), proof: "line:1")]
            .ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Attendee));

        var runa = house.Arrives("Runa", proof: "line:2");
        house.Do(House.Host, new Remove([runa], MayReturn: true));
        house[house.Arrives("Runa", Person("second window"), proof: "line:2")].Place.ShouldBe(Place.Lobby);
        house.Do(House.Host, new Remove([house.Sitting.SeatOf[Person("second window")]], MayReturn: false));
        house.Do(Actor.House, new Announce(Person("third window"), "Runa", "line:2")).Refusal!.Reason.ShouldBe(Reason.Barred);
    }

    [Fact]
    public void A_lock_holds_for_everybody_but_the_benchs_own()
    {
        var house = House.Opened(DoorMode.Open, null, _warden);
        var (guest, deputy) = (house.Arrives("Guest"), house.Arrives("Ansel"));
        house.Do(House.Host, new GiveRole([deputy], Role.Deputy));
        foreach (var seat in new[] { guest, deputy }) house.Do(seat, new Leave());
        house.Do(House.Host, new LockDoor("Shut", LateWait: false));

        house.Do(Actor.House, new Announce(Person("Guest"), "Guest")).Refusal!.Reason.ShouldBe(Reason.DoorLocked);
        house.Do(Actor.House, new Announce(Person("late"), "Late", Proof: "line:2")).Refusal!.Reason.ShouldBe(Reason.DoorLocked);
        house.Arrives("Ansel").ShouldBe(deputy);
        house[deputy].IsSeated.ShouldBeTrue();
    }

    [Fact]
    public void A_declined_deputy_loses_the_role_and_stays_out_and_taking_back_gives_both_again()
    {
        var house = House.Opened();
        var ilse = house.Admits("Ilse", Role.Deputy);
        house.Do(House.Host, new SendToLobby([ilse]));
        house.Do(House.Host, new Decline([ilse]));
        house.Do(House.Host, new LockDoor("", LateWait: true));
        house.Arrives("Ilse");
        house[ilse].ShouldSatisfyAllConditions(seat => seat.Place.ShouldBe(Place.Lobby), seat => seat.Role.ShouldBe(Role.Attendee));

        house.Do(House.Host, new Decline([ilse]));
        house.Do(House.Host, new GiveRole([ilse], Role.Deputy));
        house.Do(House.Host, new TakeBack());
        house[ilse].Place.ShouldBe(Place.Lobby);
        var other = house.Admits("Other", Role.Presenter);
        house.Do(House.Host, new SendToLobby([other]));
        house.Do(House.Host, new Decline([other]));
        house[other].Role.ShouldBe(Role.Attendee);
        house.Do(House.Host, new TakeBack());
        house[other].ShouldSatisfyAllConditions(seat => seat.Place.ShouldBe(Place.Lobby), seat => seat.Role.ShouldBe(Role.Presenter));
    }

    [Fact]
    public void The_host_key_lets_in_but_not_somebody_removed_for_good()
    {
        var house = House.Opened();
        house.Do(Actor.House, new Announce(Person("key"), "Key", HostKey: true));
        house[house.Sitting.SeatOf[Person("key")]].Role.ShouldBe(Role.Deputy);
        var rude = house.Admits("Rude");
        house.Do(House.Host, new Remove([rude], MayReturn: false));
        house.Do(Actor.House, new Announce(Person("Rude"), "Rude", HostKey: true)).Refusal!.Reason.ShouldBe(Reason.Barred);
    }

    [Fact]
    public void The_gone_leave_no_entries_by_connecting_and_disconnecting()
    {
        var house = House.Opened();
        var gone = house.Arrives("Nia");
        house.Do(House.Host, new Decline([gone]));
        var before = house.Entries.Count;
        for (var n = 0; n < 100; n++)
        {
            house.Do(Actor.House, new Reconnect(gone));
            house.Do(Actor.House, new Drop([gone]));
        }
        house.Entries.Count.ShouldBe(before);
    }

    /// <summary>Found by the porter of <see cref="IntruderTests"/>: the link
    /// named the line, and the line's name was taken for typed.</summary>
    [Fact]
    public void The_link_of_somebody_put_out_lets_nobody_in_by_name_either_in_another_browser()
    {
        var house = House.Opened(DoorMode.Listed, null, new DocketLine("Nia Okafor", Key: "line:1"));
        house.Do(House.Host, new SetDoor(DoorMode.Listed, ByName: true));
        var nia = house.Arrives("Nia Okafor", proof: "line:1");
        house[nia].IsSeated.ShouldBeTrue();
        house.Do(House.Host, new Remove([nia], MayReturn: true));
        house[house.Arrives("Somebody Else", new PersonKey("guest:another"), "line:1")].Place.ShouldBe(Place.Lobby);
        house[house.Arrives("Nia Okafor", new PersonKey("guest:third"), "line:1")].Place.ShouldBe(Place.Lobby);
    }

    /// <summary>Seen: whoever showed a second link kept the first, which counted in a new browser as if nothing had happened.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void What_was_done_to_somebody_holds_for_every_key_they_ever_showed(bool whileInside)
    {
        var house = House.Opened(DoorMode.Listed, null, _deputy, _warden);
        var ilse = house.Arrives("Ilse", Person("first"), "line:1");
        if (whileInside) house.Arrives("Ilse", Person("first"), "line:2");
        house.Do(House.Host, new Remove([ilse], MayReturn: true));
        if (!whileInside) house.Arrives("Ilse", Person("first"), "line:2");
        foreach (var (browser, link) in new[] { ("second", "line:1"), ("third", "line:2") })
            house[house.Arrives("Ilse", Person(browser), link)].ShouldSatisfyAllConditions(
                seat => seat.Place.ShouldBe(Place.Lobby), seat => seat.Role.ShouldBe(Role.Attendee));

        house.Arrives("Ilse", Person("first"));
        house.Do(House.Host, new Admit([ilse])).Refusal.ShouldBeNull();
        house.Do(House.Host, new Remove([ilse], MayReturn: false)).Refusal.ShouldBeNull();
        foreach (var link in new[] { "line:1", "line:2" })
            house.Do(Actor.House, new Announce(Person("fourth"), "Ilse", link)).Refusal!.Reason.ShouldBe(Reason.Barred);
        house.Do(House.Host, new AdmitSure());
        house.Sitting.Seats.Count(seat => seat.IsSeated).ShouldBe(1, "nor with all who are expected");
        house.Do(House.Host, new Admit([house.Sitting.SeatOf[Person("second")]])).Refusal.ShouldBeNull("the bench may choose them");
    }

    [Fact]
    public void At_an_open_door_a_link_of_somebody_put_out_waits_and_a_role_taken_in_one_browser_is_taken_in_the_other()
    {
        var house = House.Opened(DoorMode.Open, null, _deputy, _warden);
        var runa = house.Arrives("Runa", proof: "line:2");
        house.Do(House.Host, new Remove([runa], MayReturn: true));
        house[house.Arrives("Runa", Person("another"), "line:2")].Place.ShouldBe(Place.Lobby);

        var ilse = house.Arrives("Ilse", proof: "line:1");
        house.Do(ilse, new Leave());
        var other = house.Arrives("Ilse", Person("other"), "line:1");
        house[other].Role.ShouldBe(Role.Deputy);
        house.Do(House.Host, new GiveRole([other], Role.Attendee));
        house.Do(other, new Leave());
        house.Arrives("Ilse").ShouldBe(ilse);
        house[ilse].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Attendee));
    }

    /// <summary>Seen: the holder of the link was taken for a double, and waited where nobody could let her in.</summary>
    [Theory]
    [InlineData("waits")]
    [InlineData("declined")]
    [InlineData("inside")]
    public void A_typed_name_does_not_shut_out_the_holder_of_the_link(string typed)
    {
        var house = House.Opened(DoorMode.Listed, null, _deputy);
        var claims = house.Arrives("Ilse Vantorre", Person("typed"));
        if (typed == "declined") house.Do(House.Host, new Decline([claims]));
        if (typed == "inside") house.Do(House.Host, new Admit([claims]));
        house[house.Arrives("Ilse Vantorre", Person("linked"), "line:1")].ShouldSatisfyAllConditions(
            seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Deputy), seat => seat.Match.ShouldBe(Match.Sure));
        if (typed != "declined") house[claims].Match.ShouldBe(Match.Twice, "who only typed the name is the one in doubt");
        house[house.Arrives("Ilse Vantorre", Person("second"), "line:1")].Place.ShouldBe(Place.Lobby, "a link lets in once");
    }
}
