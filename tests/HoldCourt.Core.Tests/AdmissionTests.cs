namespace HoldCourt.Core.Tests;

public class AdmissionTests
{
    [Fact]
    public void People_at_an_attended_door_wait_until_the_bench_admits_them()
    {
        var house = House.Opened();
        var nia = house.Arrives("Nia Okafor");
        house[nia].Place.ShouldBe(Place.Lobby);
        house.Do(nia, new OpenMicrophone()).Refusal!.Reason.ShouldBe(Reason.NotInside);

        house.Do(House.Host, new Admit([nia], Role.Presenter));

        house[nia].ShouldSatisfyAllConditions(s => s.Place.ShouldBe(Place.Seated), s => s.Role.ShouldBe(Role.Presenter));
        house.Do(House.Host, new Admit([nia])).Refusal!.Reason.ShouldBe(Reason.NobodyWaits);
    }

    [Fact]
    public void Admitting_all_sure_takes_only_people_who_are_surely_on_the_docket()
    {
        var house = House.Opened(DoorMode.Attended, null, new("Nia Okafor", Role.Presenter, Key: "line:1"), new("Zoë Ångström"),
            new("Jan Kos"), new("Jan Kos"));
        var (nia, zoe, twin, stranger) = (house.Arrives("okafor, nia", proof: "line:1"), house.Arrives("ZOE ANGSTROM"),
            house.Arrives("Jan Kos"), house.Arrives("iPad"));

        house.Do(House.Host, new AdmitSure());
        var second = house.Arrives("Nia Okafor", new PersonKey("guest:other"));

        house[nia].ShouldSatisfyAllConditions(s => s.Place.ShouldBe(Place.Seated), s => s.Role.ShouldBe(Role.Presenter));
        house[zoe].Place.ShouldBe(Place.Seated);
        house[twin].Recognition.ShouldSatisfyAllConditions(r => r.Match.ShouldBe(Match.Likely), r =>
            r.Reasons.ShouldContain(MatchReason.SeveralFit));
        house[second].Recognition.ShouldSatisfyAllConditions(r => r.Match.ShouldBe(Match.Twice), r =>
            r.Reasons.ShouldContain(MatchReason.AlreadyInside));
        new[] { twin, second, stranger }.ShouldAllBe(id => house[id].Place == Place.Lobby);
    }

    [Fact]
    public void Listed_people_walk_in_and_others_wait()
    {
        var house = House.Opened(DoorMode.Listed, null, new DocketLine("Runa Halvari", Key: "line:1"));
        house[house.Arrives("Runa Halvari", proof: "line:1")].Place.ShouldBe(Place.Seated);
        house[house.Arrives("Somebody Else", proof: "line:2")].Place.ShouldBe(Place.Lobby);
    }

    [Fact]
    public void Someone_removed_for_good_is_turned_away_at_an_open_door()
    {
        var house = House.Opened(DoorMode.Open);
        var (rude, clumsy) = (house.Arrives("Rude"), house.Arrives("Clumsy"));
        house.Do(House.Host, new Remove([rude], MayReturn: false));
        house.Do(House.Host, new Remove([clumsy], MayReturn: true));

        house.Do(Actor.House, new Announce(house[rude].Person, "Rude again")).Refusal!.Reason.ShouldBe(Reason.Barred);
        house.Arrives("Clumsy", house[clumsy].Person).ShouldBe(clumsy);
        house[clumsy].Place.ShouldBe(Place.Lobby, "somebody removed is looked at before coming back");
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_locked_door_holds_late_people_or_turns_them_away_in_the_hosts_words(bool lateWait)
    {
        var house = House.Opened(DoorMode.Open);
        house.Do(House.Host, new LockDoor("  Ring the office, please.  ", lateWait));
        var decision = house.Do(Actor.House, new Announce(new PersonKey("guest:late"), "Late"));

        if (lateWait) house[house.Sitting.SeatOf[new PersonKey("guest:late")]].Place.ShouldBe(Place.Lobby);
        else decision.Refusal.ShouldBe(new Refusal(Reason.DoorLocked, Remedy.AskHost, "Ring the office, please."));

        house.Do(House.Host, new UnlockDoor());
        house.Sitting.Door.ShouldBe(new Door(DoorMode.Open));
    }

    [Fact]
    public void A_dropped_connection_gives_back_the_same_seat_place_role_and_mute_even_when_locked()
    {
        var house = House.Opened();
        var seat = house.Admits("Ansel", Role.Presenter);
        house.Do(seat, new OpenMicrophone());
        house.Do(House.Host, new LockDoor("", false));
        house.Do(Actor.House, new Drop([seat]));
        house[seat].Connected.ShouldBeFalse();

        house.Arrives("A new name typed", house[seat].Person).ShouldBe(seat);

        house[seat].ShouldSatisfyAllConditions(s => s.Connected.ShouldBeTrue(), s => s.Name.ShouldBe("Ansel"), s =>
            s.IsSeated.ShouldBeTrue(),
            s => s.Role.ShouldBe(Role.Presenter), s => s.MicrophoneOpen.ShouldBeTrue());
    }

    [Fact]
    public void A_host_leaves_only_by_handing_over_or_alone_and_only_the_host_adjourns()
    {
        var house = House.Opened();
        var ilse = house.Admits("Ilse", Role.Deputy);
        house.Do(ilse, new Adjourn()).Refusal.ShouldBe(new Refusal(Reason.OnlyHost, Remedy.AskHost));
        house.Do(House.Host, new Leave()).Refusal!.Reason.ShouldBe(Reason.HostMustHandOver);

        house.Do(House.Host, new Leave(ilse)).Refusal.ShouldBeNull();
        house.Sitting.Host.ShouldBe(ilse);
        house[ilse].Role.ShouldBe(Role.Host);

        house.Do(ilse, new Adjourn()).Refusal.ShouldBeNull();
        house.Do(ilse, new Rename(ilse, "Too late")).Refusal!.Reason.ShouldBe(Reason.SittingOver);
    }

    [Theory]
    [InlineData("", "nameEmpty")]
    [InlineData(" \t ", "nameEmpty")]
    [InlineData("—…!", "nameEmpty")]
    [InlineData("Nia\u0007", "nameHidden")]
    [InlineData("\u202Eaif", "nameHidden")]
    [InlineData("Nia\u200B", "nameHidden")]
    [InlineData("x*10000", "nameTooLong")]
    public void A_name_that_cannot_be_shown_is_refused_with_its_reason(string name, string reason)
    {
        var text = name == "x*10000" ? new string('x', 10_000) : name;
        House.Opened().Do(Actor.House, new Announce(new PersonKey("guest:x"), text)).Refusal!.Reason.Name.ShouldBe(reason);
    }

    [Theory]
    [InlineData("  Nia \t Okafor ", "Nia Okafor")]
    [InlineData("آرش می\u200Cخواهد", "آرش می\u200Cخواهد")]
    [InlineData("Ødegård–Sørli 3", "Ødegård–Sørli 3")]
    public void A_name_is_tidied_and_otherwise_left_as_it_is_spelled(string typed, string shown)
    {
        var house = House.Opened();
        house[house.Arrives(typed)].Name.ShouldBe(shown);
    }
}
