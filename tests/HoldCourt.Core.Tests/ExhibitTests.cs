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

    private int Brings(SeatId by, string file, int pages)
    {
        _house.Do(Actor.Of(by), new BringFile(ExhibitKind.Document, "Reach map", file, "c2VjcmV0LW9mLXBhZ2Vz")).Refusal.ShouldBeNull();
        _house.Do(Actor.House, new NotePages(file, pages)).Refusal.ShouldBeNull();
        return Shelf.Last;
    }

    private Pages PagesOf(int exhibit) => Shelf.Find(exhibit)!.Pages!;

    [Fact]
    public void Pages_are_turned_by_one_person_who_hands_it_on_and_from_whom_it_is_taken()
    {
        var map = Brings(_teodor, "map", 9);
        Refused(_nia, new TurnPage(2, map)).ShouldBe(Reason.NoPages, "it is not known to her");
        Does(_teodor, new ShowExhibit(map));
        Refused(_nia, new TurnPage(2)).ShouldBe(Reason.PagingWithAnother);
        Refused(new SeatId(1), new TurnPage(2)).ShouldBe(Reason.PagingWithAnother, "the bench takes it first");
        var first = PagesOf(map).Opens;
        Does(_teodor, new TurnPage(7));
        (PagesOf(map).At, PagesOf(map).Opens == first).ShouldBe((7, false));
        Refused(_teodor, new TurnPage(10)).ShouldBe(Reason.NoSuchPage);
        Refused(_teodor, new LookAt(new PageView(double.NaN, 0, 0, 0))).ShouldBe(Reason.NotUnderstood);
        Does(_teodor, new LookAt(new PageView(3, 0.2, 0.3, 90)));
        Does(_teodor, new HandPaging(_nia));
        Refused(_teodor, new TurnPage(1)).ShouldBe(Reason.PagingWithAnother);
        Does(_nia, new TurnPage(2));
        PagesOf(map).View.ShouldBe(PageView.Whole with { Turn = 90 }, "another page is looked at whole");
        MeRow.Of(_house.Sitting, _house.Sitting.Seats[_nia]).Exhibits.ShouldHaveSingleItem().Pages!.Secret.ShouldNotBeNull();
        Does(House.Host, new HandPaging());
        Does(House.Host, new TurnPage(3));
        Refused(_nia, new HandPaging(_nia)).ShouldBe(Reason.OnlyBench);
        // Taking the taking back gives it to her again; when she goes, whoever brought it has it.
        Does(House.Host, new TakeBack(_house.Entries.Last(entry => entry.Fact is PagingHanded).Sequence));
        Does(_nia, new TurnPage(4));
        Does(_nia, new Leave());
        Does(_teodor, new TurnPage(5));
        Does(_teodor, new Leave());
        Shelf.Shown.ShouldBe([map], "whoever has just left leaves it there");
        Does(House.Host, new TurnPage(6));
        Does(House.Host, new SetFreeLook(true));
    }

    [Theory]
    [InlineData("demoted", false), InlineData("orders", false), InlineData("lobby", false), InlineData("removed", false)]
    [InlineData("demoted", true), InlineData("removed", true)]
    public void A_document_of_whoever_may_show_nothing_any_more_is_shown_only_by_the_bench(string how, bool backed)
    {
        var map = Brings(_teodor, "map", 3);
        Does(backed ? House.Host : _teodor, new ShowExhibit(map));
        Does(House.Host, how switch
        {
            "demoted" => new GiveRole([_teodor], Role.Attendee),
            "orders" => new SetOrder(Order.Exhibit, Audience.Bench),
            "lobby" => new SendToLobby([_teodor]),
            _ => new Remove([_teodor], MayReturn: true)
        });
        Shelf.Shown.ShouldBe(backed ? [map] : []);
        Shelf.Open.ShouldHaveSingleItem();
        Does(House.Host, new CloseExhibit(map));
    }

    [Fact]
    public void An_item_shows_what_is_named_in_it_and_going_back_takes_it_down_again()
    {
        var map = Brings(_teodor, "map", 3);
        Does(_teodor, new OpenSheet("Numbers"));
        Does(_teodor, new ShowExhibit(map + 1));
        Does(House.Host, new SetRunSheet([new Item(1, "Reports", Shows: "reach MAP.pdf"), new Item(2, "Nothing", Shows: "Elsewhere")]));
        string? Foreseen() => Foresight.Of(_house.Sitting, new NextItem(), Actor.Of(House.Host), new Instant(0)).Brings;
        Foreseen().ShouldBeNull("it stands on the shelf");
        Does(House.Host, new NextItem());
        Shelf.Shown.ShouldBe([map]);
        Shelf.Find(map)!.Backed.ShouldBeTrue();
        Foreseen().ShouldBe("Elsewhere");
        Does(House.Host, new NextItem());
        Shelf.Shown.ShouldBe([map], "what is not there leaves what is");
        Does(House.Host, new TakeBack());
        Does(House.Host, new TakeBack());
        Shelf.Shown.ShouldBe([map + 1]);
        // Somebody else who may show something calls it the same: that is not what the item means.
        Does(House.Host, new Except([_nia], Order.Exhibit, true));
        Brings(_nia, "false map", 3);
        Does(House.Host, new NextItem());
        Shelf.Shown.ShouldBe([map]);
        Does(House.Host, new TakeBack());
        // Brought for an item, it is shown as soon as its pages are there, if whoever brought it still leads.
        void Brought(string file) => _house.Do(Actor.Of(_teodor), new BringFile(ExhibitKind.Document, file, file, "c2VjcmV0", Shows: true));
        Brought("one");
        _house.Do(Actor.House, new NotePages("one", 2));
        Shelf.Shown.ShouldBe([map + 1], "a presenter shows by hand");
        Does(House.Host, new GiveRole([_teodor], Role.Deputy));
        Brought("two");
        _house.Do(Actor.House, new NotePages("two", 2));
        Shelf.Shown.ShouldBe([Shelf.Last]);
        Brought("three");
        Does(House.Host, new GiveRole([_teodor], Role.Presenter));
        _house.Do(Actor.House, new NotePages("three", 2));
        Shelf.Shown.ShouldBe([Shelf.Last - 1]);
    }

    [Fact]
    public void Leave_to_show_is_for_one_exhibit_until_it_is_taken_down()
    {
        Refused(_teodor, new AskToShow()).ShouldBe(Reason.MayShowAlready);
        Does(_nia, new AskToShow());
        var row = Projection.Whole(_house.Sitting, Viewer.Bench, []).Seats.Single(seat => seat.Id == _nia);
        row.Note!.WantsToShow.ShouldNotBeNull();
        Refused(_nia, new LetShowOnce([_nia], true)).ShouldBe(Reason.OnlyBench);
        Does(House.Host, new LetShowOnce([_nia], true));
        MeRow.Of(_house.Sitting, _house.Sitting.Seats[_nia]).WantsToShow.ShouldBeNull();
        Does(_nia, new OpenSheet("Numbers"));
        Does(_nia, new ShowExhibit(1));
        Does(_nia, new AddPage());
        Does(_nia, new TakeDown());
        Refused(_nia, new ShowExhibit(1)).ShouldBe(Reason.ExhibitsNotAllowed);
        Refused(_nia, new OpenSheet()).ShouldBe(Reason.ExhibitsNotAllowed);
        // The bench may still show it, and a screen would have been closed.
        Does(House.Host, new ShowExhibit(1));
        Does(House.Host, new LetShowOnce([_nia], true));
        Does(_nia, new OpenScreen());
        Does(House.Host, new TakeBack());
        Shelf.ScreenOf(_nia).ShouldBeNull("the leave was taken back");
        // What stands there from before uses up no new leave.
        Does(House.Host, new TakeDown());
        Does(House.Host, new LetShowOnce([_nia], true));
        Does(_nia, new OpenSheet("More"));
        Does(_nia, new ShowExhibit(Shelf.Last));
        Does(House.Host, new CloseExhibit(Shelf.Last));
        Refused(_nia, new OpenSheet()).ShouldBe(Reason.ExhibitsNotAllowed);
    }

    [Theory]
    [InlineData("exception"), InlineData("role"), InlineData("orders"), InlineData("once"), InlineData("no")]
    public void Whoever_may_show_by_now_asks_no_longer(string how)
    {
        Does(_nia, new AskToShow());
        Does(House.Host, how switch
        {
            "exception" => new Except([_nia], Order.Exhibit, true),
            "role" => new GiveRole([_nia], Role.Presenter),
            "orders" => new SetOrder(Order.Exhibit, Audience.Everyone),
            "once" => new LetShowOnce([_nia], true),
            _ => new LetShowOnce([_nia], false)
        });
        Projection.Whole(_house.Sitting, Viewer.Bench, []).Seats.Single(seat => seat.Id == _nia).Note!.WantsToShow.ShouldBeNull();
        MeRow.Of(_house.Sitting, _house.Sitting.Seats[_nia]).WantsToShow.ShouldBeNull();
    }

    [Fact]
    public void What_is_taken_down_comes_back_by_take_back_but_a_screen_does_not()
    {
        var map = Brings(_teodor, "map", 3);
        Does(_teodor, new OpenScreen());
        Does(_teodor, new ShowExhibit(map));
        Does(_teodor, new ShowExhibit(2, Beside: true));
        Does(House.Host, new TakeDown());
        Does(House.Host, new TakeBack());
        Shelf.Shown.ShouldBe([map]);
    }

    [Theory]
    [InlineData("lobby"), InlineData("removed"), InlineData("left")]
    public void Whoever_is_not_inside_does_nothing_to_what_they_brought(string how)
    {
        var map = Brings(_teodor, "map", 3);
        Does(House.Host, new ShowExhibit(map));
        if (how == "left") Does(_teodor, new Leave());
        else Does(House.Host, how == "lobby" ? new SendToLobby([_teodor]) : new Remove([_teodor], true));
        Shelf.Shown.ShouldBe([map], "the bench shows it");
        foreach (var wish in new Command[] { new CloseExhibit(map), new TakeDown(map), new TakeDown(), new SetFreeLook(true, map),
            new HandPaging(_nia, map), new TurnPage(2, map), new ShowExhibit(map), new OpenSheet() })
            _house.Do(_teodor, wish).Refusal!.Reason.ShouldBe(Reason.NotInside, $"{wish}");
        Shelf.Shown.ShouldBe([map]);
    }

    [Fact]
    public void Marks_are_drawn_by_those_to_whom_the_orders_give_it_on_what_they_may_know_of()
    {
        var map = Brings(_teodor, "map", 3);
        Reason? Forbidden(SeatId by) => _house.Sitting.ForbidsMarks(by, map)?.Reason;
        Forbidden(_nia).ShouldBe(Reason.MarksNotAllowed);
        // Somebody who may show something for once draws on their own sheet, and on nothing else; not when it was taken from them.
        Does(House.Host, new LetShowOnce([_nia], true));
        Does(_nia, new OpenSheet());
        Reason? OnSheet() => _house.Sitting.ForbidsMarks(_nia, map + 1)?.Reason;
        bool Told() => MeRow.Of(_house.Sitting, _house[_nia]).Exhibits.Single().MayMark;
        (OnSheet(), Told(), Forbidden(_nia)).ShouldBe((null, true, Reason.MarksNotAllowed));
        _house.Sitting.ForbidsMarks(_teodor, map + 1)!.Reason.ShouldBe(Reason.NoSuchExhibit);
        Does(House.Host, new Except([_nia], Order.Mark, false));
        (OnSheet(), Told()).ShouldBe((Reason.TakenFromYou, false));
        Does(House.Host, new Except([_nia], Order.Mark, null));
        Does(House.Host, new LetShowOnce([_nia], false));
        (OnSheet(), Told()).ShouldBe((Reason.MarksNotAllowed, false));
        Does(House.Host, new SetOrder(Order.Mark, Audience.Everyone));
        Forbidden(_nia).ShouldBe(Reason.NoSuchExhibit);
        Forbidden(_teodor).ShouldBeNull("he brought it");
        Does(_teodor, new ShowExhibit(map));
        Forbidden(_nia).ShouldBeNull();
        Does(House.Host, new Except([_nia], Order.Mark, false));
        Forbidden(_nia).ShouldBe(Reason.TakenFromYou);
        Does(House.Host, new SendToLobby([_nia]));
        Forbidden(_nia).ShouldBe(Reason.NotInside);
        Forbidden(new SeatId(99)).ShouldBe(Reason.NoSuchSeat);
    }
}
