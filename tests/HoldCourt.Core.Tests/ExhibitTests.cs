namespace HoldCourt.Core.Tests;

/// <summary>What is shown to all: opened, shown, held, taken down, and never more than its owner wished.</summary>
public class ExhibitTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _teodor, _nia;

    public ExhibitTests()
    {
        _teodor = _house.Arrives("Teodor Quill");
        _nia = _house.Arrives("Nia Okafor");
        Does(House.Host, new GiveRole([_teodor], Role.Presenter));
    }

    private void Does(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal.ShouldBeNull($"{command}");

    private Shelf Shelf => _house.Sitting.Shelf;

    private Reason? Refused(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal?.Reason;

    private string? SeenBy(Viewer viewer) =>
        string.Join(' ', Projection.Whole(_house.Sitting, viewer, []).Sitting.Shelf!.Exhibits.Select(one => one.Letter + one.Title));

    [Fact]
    public void A_screen_is_opened_unseen_and_shown_by_its_owner_alone()
    {
        Refused(_nia, new OpenScreen("Mine")).ShouldBe(Reason.ExhibitsNotAllowed);
        Does(_teodor, new OpenScreen(" Gauges\n "));
        Refused(_teodor, new OpenScreen()).ShouldBe(Reason.ScreenIsOpen);
        (SeenBy(Viewer.Bench), SeenBy(Viewer.Presenter), SeenBy(Viewer.Attendee), SeenBy(Viewer.Outside)).ShouldBe(("AGauges", "", "", ""));
        MeRow.Of(_house.Sitting, _house.Sitting.Seats[_teodor]).Exhibits.ShouldHaveSingleItem().Shown.ShouldBeFalse();
        Refused(_nia, new ShowExhibit(1)).ShouldBe(Reason.NoSuchExhibit);
        Refused(_nia, new CloseExhibit(1)).ShouldBe(Reason.NoSuchExhibit);
        // Not the host either: only whoever brought it knows what stands on it.
        Refused(new SeatId(1), new ShowExhibit(1)).ShouldBe(Reason.NotYourExhibit);
        Does(_teodor, new ShowExhibit(1));
        (SeenBy(Viewer.Presenter), SeenBy(Viewer.Attendee), SeenBy(Viewer.Outside)).ShouldBe(("AGauges", "AGauges", ""));
        Refused(_nia, new TakeDown(1)).ShouldBe(Reason.OnlyBench);
        Does(House.Host, new TakeDown(1));
        // What is taken down does not come back by somebody else's hand.
        Refused(House.Host, new TakeBack(_house.Sitting.Sequence)).ShouldNotBeNull();
        Shelf.Shown.ShouldBeEmpty();
        Does(House.Host, new CloseExhibit(1));
        Shelf.Open.ShouldBeEmpty();
        Does(_teodor, new OpenScreen());
        Shelf.Open.ShouldHaveSingleItem().Letter.ShouldBe("B", "a letter is never given twice");
    }

    [Fact]
    public void The_next_one_takes_the_place_or_stands_beside_and_taking_back_only_takes_down()
    {
        Does(_teodor, new OpenScreen("One"));
        Does(House.Host, new OpenScreen("Two"));
        Does(_teodor, new ShowExhibit(1));
        Does(House.Host, new ShowExhibit(2, Beside: true));
        Shelf.Shown.ShouldBe([1, 2]);
        SeenBy(Viewer.Attendee).ShouldBe("AOne BTwo");
        Does(House.Host, new TakeBack());
        Shelf.Shown.ShouldBe([1]);
        Does(House.Host, new ShowExhibit(2));
        Shelf.Shown.ShouldBe([2]);
        Does(House.Host, new TakeBack());
        Shelf.Shown.ShouldBeEmpty("a screen is not shown again by taking back");
        Refused(_teodor, new TakeDown()).ShouldBe(Reason.NothingShown);
        Shelf.Open.Length.ShouldBe(2);
    }

    [Theory]
    [InlineData("demoted"), InlineData("orders"), InlineData("exception"), InlineData("lobby"), InlineData("removed"), InlineData("left")]
    public void Whoever_may_show_nothing_any_more_has_nothing_on_the_shelf(string how)
    {
        Does(_teodor, new OpenScreen());
        Does(_teodor, new ShowExhibit(1));
        StageRow.Of(_house.Sitting, _house.Sitting.Seats[_teodor]).Screen.ShouldBe(new ScreenRow(Shown: true, Held: false));
        Does(how == "left" ? _teodor : House.Host, how switch
        {
            "demoted" => new GiveRole([_teodor], Role.Attendee),
            "orders" => new SetOrder(Order.Exhibit, Audience.Bench),
            "exception" => new Except([_teodor], Order.Exhibit, false),
            "lobby" => new SendToLobby([_teodor]),
            "removed" => new Remove([_teodor], MayReturn: true),
            _ => new Leave()
        });
        (Shelf.Open.Length, Shelf.Shown.Length).ShouldBe((0, 0));
        StageRow.Of(_house.Sitting, _house.Sitting.Seats[_teodor]).Screen.ShouldBeNull();
    }

    [Fact]
    public void Held_is_the_owners_alone_and_goes_along_with_a_recess()
    {
        Does(_teodor, new OpenScreen());
        Does(_teodor, new ShowExhibit(1));
        Refused(new SeatId(1), new HoldScreen(true)).ShouldBe(Reason.NoScreenOpen);
        Does(_teodor, new HoldScreen(true));
        ScreenRow? Stage() => StageRow.Of(_house.Sitting, _house.Sitting.Seats[_teodor]).Screen;
        Stage().ShouldBe(new ScreenRow(Shown: true, Held: true));
        Does(House.Host, new CallRecess("Tea", 5, false));
        Stage().ShouldBeNull("during a recess nothing of a presenter is seen");
        Does(House.Host, new Resume());
        Stage().ShouldBe(new ScreenRow(Shown: true, Held: true));
    }

    [Fact]
    public void Somebody_by_exception_may_show_and_is_then_known_to_all()
    {
        Does(House.Host, new SetOrder(Order.SeePeople, Audience.Bench));
        Does(House.Host, new Except([_nia], Order.Exhibit, true));
        Does(_nia, new OpenScreen());
        bool Seen() => Projection.Whole(_house.Sitting, Viewer.Attendee, []).Seats.Any(row => row.Id == _nia);
        Seen().ShouldBeFalse();
        Does(_nia, new ShowExhibit(1));
        Seen().ShouldBeTrue();
    }

    [Fact]
    public void The_shelf_is_bounded()
    {
        var many = Enumerable.Range(0, 5).Select(n => _house.Arrives($"Somebody {n}")).ToList();
        Does(House.Host, new GiveRole([.. many], Role.Presenter));
        foreach (var one in many.Take(4)) Does(one, new OpenScreen());
        Refused(many[4], new OpenScreen()).ShouldBe(Reason.TooManyScreens);
        Refused(many[4], new OpenScreen(new string('x', 81))).ShouldBe(Reason.TooLong);
        Exhibit.LetterOf(26).ShouldBe("Z");
        Exhibit.LetterOf(27).ShouldBe("AA");
        Exhibit.LetterOf(703).ShouldBe("AAA");
    }
}
