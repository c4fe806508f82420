namespace HoldCourt.Core.Tests;

public class VisitTests
{
    private static readonly Instant _ten = new(1_770_000_000_000);

    private static Instant At(double minutes) => _ten + TimeSpan.FromMinutes(minutes);

    private static TimeSpan Minutes(double minutes) => TimeSpan.FromMinutes(minutes);

    private static DocketLine Line(string name, double minutes) => new(name, Slot: At(minutes), Minutes: 15);

    [Fact]
    public void Next_closes_the_visit_and_calls_by_slot_then_by_arrival_and_is_taken_back_in_one()
    {
        var house = House.Opened(DoorMode.Attended, null, Line("Gwen Ashdown", 0), Line("Bartosz Wilk", 15), Line("Lieselotte Hamm", 30));
        var (hamm, stranger, gwen, wilk) = (house.Arrives("Lilo Hamm"), house.Arrives("A neighbour"), house.Arrives("Gwen Ashdown"),
            house.Arrives("B. Wilk"));

        house.Do(House.Host, new Next());
        house[gwen].IsSeated.ShouldBeTrue("her slot comes first, though others came before her");
        house.Do(gwen, new OpenMicrophone());
        house.Do(House.Host, new Next());
        house[gwen].ShouldSatisfyAllConditions(seat => seat.Exit.ShouldBe(Exit.VisitOver), seat => seat.MicrophoneOpen.ShouldBeFalse());
        house[wilk].IsSeated.ShouldBeTrue();
        house.Sitting.Visits.Select(visit => (visit.Seat, visit.To is null)).ShouldBe([(gwen, false), (wilk, true)]);

        house.Do(House.Host, new TakeBack());
        house[gwen].IsSeated.ShouldBeTrue();
        house[wilk].Place.ShouldBe(Place.Lobby);
        house.Sitting.Visits.Where(visit => visit.To is null).Select(visit => visit.Seat).ShouldBe([gwen], "the same visit goes on");

        house.Do(House.Host, new Next());
        house.Do(House.Host, new Next());
        house[hamm].IsSeated.ShouldBeTrue();
        house.Do(House.Host, new Next()).Facts.ShouldHaveSingleItem().ShouldBeOfType<VisitsTurned>().Called.ShouldBeEmpty();
        house[stranger].Place.ShouldBe(Place.Lobby, "nobody unknown walks into a private visit");
        house.Do(House.Host, new Next()).Refusal!.Reason.ShouldBe(Reason.NobodyNext);
        house.Do(stranger, new Next()).Refusal!.Reason.ShouldBe(Reason.NotInside);
    }

    [Fact]
    public void Somebody_sent_back_to_the_lobby_is_still_recognized_and_comes_again_when_called()
    {
        var house = House.Opened(DoorMode.Attended, null, Line("Gwen Ashdown", 0), Line("Bartosz Wilk", 15));
        var gwen = house.Arrives("Gwen Ashdown");
        house.Do(House.Host, new Next());
        house.Do(House.Host, new SendToLobby([gwen]));
        house[gwen].Recognition.ShouldSatisfyAllConditions(found => found.Match.ShouldBe(Match.Sure), found => found.Line.ShouldBe(0));
        house.Do(House.Host, new Next());
        house[gwen].IsSeated.ShouldBeTrue();
    }

    [Fact]
    public void Who_waits_is_judged_anew_when_a_name_a_place_or_the_docket_changes()
    {
        var house = House.Opened(DoorMode.Attended, null, new DocketLine("Nia Okafor"));
        var (tablet, first) = (house.Arrives("Tablet 7"), house.Arrives("Nia Okafor"));
        house[tablet].Recognition.Reasons.ShouldBe([MatchReason.DeviceName]);
        house.Do(House.Host, new Rename(tablet, "nia okafor"));
        new[] { tablet, first }.ShouldAllBe(seat => house[seat].Match == Match.Twice);
        house.Do(House.Host, new Admit([first]));
        house[tablet].Recognition.Reasons.ShouldContain(MatchReason.AlreadyInside);
        house.Do(House.Host, new Remove([first], MayReturn: true));
        house[tablet].Match.ShouldBe(Match.Sure);

        var invited = house.Arrives("Marise Delacroix");
        house[invited].Match.ShouldBe(Match.Unknown);
        house.Do(House.Host, new Expect(new DocketLine("Marise Delacroix", Role.Presenter))).Refusal.ShouldBeNull();
        house[invited].Match.ShouldBe(Match.Sure);
        house.Do(House.Host, new Expect(new DocketLine(" "))).Refusal!.Reason.ShouldBe(Reason.NameEmpty);
    }

    [Fact]
    public void While_the_bench_prepares_only_expected_presenters_walk_in_and_can_talk()
    {
        var house = new House();
        house.Do(Actor.House, new Open("Early", new PersonKey("account:odalys"), new Door(DoorMode.Open), Core.Orders.StandingOrders.Usual,
            [new DocketLine("Teodor Quill", Role.Presenter, Key: "line:1")], Prepare: true));
        var (host, presenter, guest) = (house.Arrives("Odalys", new PersonKey("account:odalys")),
            house.Arrives("Teodor Quill", proof: "line:1"), house.Arrives("Runa"));
        house.Sitting.Phase.ShouldBe(Phase.Prepare);
        house[presenter].ShouldSatisfyAllConditions(seat => seat.IsSeated.ShouldBeTrue(), seat => seat.Role.ShouldBe(Role.Presenter));
        house.Do(presenter, new OpenMicrophone()).Refusal.ShouldBeNull();
        house[guest].Place.ShouldBe(Place.Lobby, "the open door opens with the session");
        house.Do(presenter, new Begin()).Refusal!.Reason.ShouldBe(Reason.OnlyBench);
        house.Do(host, new Begin());
        house.Sitting.Phase.ShouldBe(Phase.InSession);
        house[guest].IsSeated.ShouldBeTrue("who came early comes in when it opens");
        house[house.Arrives("Late")].IsSeated.ShouldBeTrue();
        house.Do(host, new Begin()).Refusal!.Reason.ShouldBe(Reason.NoChange);
    }

    [Theory]
    [InlineData(DoorMode.Attended, false, false)]
    [InlineData(DoorMode.Listed, true, false)]
    [InlineData(DoorMode.Open, true, true)]
    public void When_it_opens_those_come_in_who_would_walk_in_then(DoorMode door, bool listed, bool unknown)
    {
        var house = new House();
        house.Do(Actor.House, new Open("Early", new PersonKey("account:odalys"), new Door(door), Core.Orders.StandingOrders.Usual,
            [new DocketLine("Runa Halvari", Key: "line:1")], Prepare: true));
        var (host, runa, guest) = (house.Arrives("Odalys", new PersonKey("account:odalys")), house.Arrives("Runa Halvari", proof: "line:1"),
            house.Arrives("Tilda Brook"));
        house.Do(host, new Begin()).Refusal.ShouldBeNull();
        (house[runa].IsSeated, house[guest].IsSeated).ShouldBe((listed, unknown));
    }

    [Fact]
    public void Next_leaves_those_inside_who_are_there_for_the_whole_session()
    {
        var house = House.Opened(DoorMode.Attended, null, new DocketLine("Gwen Ashdown", Slot: new Instant(1_770_000_000_000)),
            new DocketLine("Ilse Vantorre"));
        var (gwen, ilse, neighbour) = (house.Admits("Gwen Ashdown"), house.Admits("Ilse Vantorre"), house.Admits("Tilda Brook"));
        house.Do(House.Host, new Next()).Refusal.ShouldBeNull();
        (house[gwen].Exit, house[neighbour].Exit, house[ilse].IsSeated).ShouldBe((Exit.VisitOver, Exit.VisitOver, true));
    }

    [Fact]
    public void A_notice_reaches_those_who_wait_and_the_newest_twenty_are_kept()
    {
        var house = House.Opened();
        house.Do(House.Host, new SendNotice("  ")).Refusal!.Reason.ShouldBe(Reason.NoticeEmpty);
        house.Do(House.Host, new SendNotice(new string('x', 501))).Refusal!.Reason.ShouldBe(Reason.WordsTooLong);
        for (var n = 1; n <= 25; n++) house.Do(House.Host, new SendNotice($"Notice {n}"));
        house.Sitting.Notices.Select(notice => notice.Words).ShouldBe(Enumerable.Range(6, 20).Select(n => $"Notice {n}"));
    }

    [Fact]
    public void The_forecast_trusts_the_plan_at_first_and_today_more_and_more()
    {
        Upcoming[] two = [new(1, At(15), Minutes(15), true), new(2, At(30), Minutes(15), true)];
        var first = Forecast.Of([], (At(0), Minutes(15)), two, At(5), takesEarly: false);
        first.Late.ShouldBe(TimeSpan.Zero);
        first.Starts.Select(start => start.At).ShouldBe([At(15), At(30)], "never before the slot");

        var slow = Enumerable.Repeat((Minutes(15), Minutes(30)), 6).ToList();
        var later = Forecast.Of(slow, (At(0), Minutes(15)), two, At(5), takesEarly: false);
        // Three visits to plan and six of double length: 1.67 times the plan.
        later.Starts[0].At.ShouldBe(At(25));
        later.Starts[1].At.ShouldBe(At(50));
        later.Late.ShouldBe(Minutes(10));
        later.Starts.ShouldAllBe(start => start.From <= start.At && start.At <= start.To && start.From >= At(5));
        (later.Starts[1].To - later.Starts[1].From)
            .ShouldBeGreaterThan(later.Starts[0].To - later.Starts[0].From, "the further off, the less is known");
    }

    [Fact]
    public void A_visit_beyond_its_time_makes_the_host_late_and_early_people_are_called_only_where_the_host_takes_them()
    {
        Upcoming[] next = [new(7, At(15), Minutes(15), true), new(8, null, Minutes(15), true)];
        Forecast.Of([], (At(0), Minutes(15)), next, At(20), takesEarly: false).Late.ShouldBe(Minutes(8));
        var early = Forecast.Of([], null, next, At(2), takesEarly: true);
        early.Starts[0].At.ShouldBe(At(2));
        early.Starts[1].ShouldSatisfyAllConditions(start => start.Key.ShouldBe(8), start => start.At.ShouldBe(At(17)));
        Forecast.Of([], null, next, At(2), takesEarly: false).Starts[0].At.ShouldBe(At(15));
    }

    [Fact]
    public void The_forecast_of_a_sitting_follows_its_visits()
    {
        var house = House.Opened(DoorMode.Attended, null, Line("Gwen Ashdown", 0), Line("Bartosz Wilk", 15), Line("Lieselotte Hamm", 30));
        house.Arrives("Gwen Ashdown");
        house.Arrives("Bartosz Wilk");
        house.Do(House.Host, new Next());
        var outlook = Forecast.Of(house.Sitting, At(12));
        outlook.Starts.Select(start => start.Key).ShouldBe([1, 2]);
        Forecast.Of(house.Sitting, At(29)).Late.TotalMinutes.ShouldBeInRange(16, 18);
    }
}
