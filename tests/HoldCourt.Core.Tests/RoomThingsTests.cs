namespace HoldCourt.Core.Tests;

/// <summary>What goes into rooms, what they make, and the orders that hold there.</summary>
public class RoomThingsTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _teodor, _nia, _jun, _pilar;

    public RoomThingsTests()
    {
        _teodor = _house.Arrives("Teodor Quill");
        _nia = _house.Arrives("Nia Okafor");
        _jun = _house.Arrives("Jun Takeda");
        _pilar = _house.Arrives("Pilar Ortega");
    }

    private static RoomForm TwoRooms { get; } = RoomForm.Of("Aller", "Wey") with
    {
        Rooms = [new RoomSpec("Aller", null, ["teodor"], ["nia"]), new RoomSpec("Wey", null, [], ["jun", "pilar"])]
    };

    private Reason? Refused(SeatId by, Command command) => _house.Do(by, command).Refusal?.Reason;

    private void InRooms(RoomForm form)
    {
        Refused(House.Host, new PlanRooms(form)).ShouldBeNull();
        Refused(House.Host, new OpenRooms()).ShouldBeNull();
        _house.Waits(RoomBook.Countdown);
        _house.Do(Actor.House, new EnterRooms());
    }

    private void Brings(string title, int pages = 3)
    {
        Refused(House.Host, new BringFile(ExhibitKind.Document, title, $"file of {title}", "c2VjcmV0")).ShouldBeNull();
        if (pages > 0) _house.Do(Actor.House, new NotePages($"file of {title}", pages)).Refusal.ShouldBeNull();
    }

    private ExhibitRow[] SeenBy(SeatId seat) =>
        [.. Projection.Record(_house.Sitting, Knowledge.ViewpointOf(_house.Sitting, _house[seat])).Shelf!.Exhibits];

    private HandoutRow[] FilesOf(SeatId seat) => [.. MeRow.Of(_house.Sitting, _house[seat]).Handouts];

    [Fact]
    public void Each_room_has_its_own_copy_of_the_document_that_goes_with_the_task_and_turns_its_pages_by_itself()
    {
        Brings("Worksheet");
        Brings("Map of the Wey");
        var ofWey = TwoRooms.Rooms[1] with { Shows = "map of the wey.pdf" };
        InRooms(TwoRooms with { Rooms = TwoRooms.Rooms.SetItem(1, ofWey), Shows = "Worksheet" });
        var (aller, wey) = (SeenBy(_nia).Single(), SeenBy(_jun).Single());
        ((aller.Title, aller.Shown), (wey.Title, wey.Shown)).ShouldBe((("Worksheet", true), ("Map of the Wey", true)));
        (aller.Pages!.Secret is not null, aller.Pages.FreeLook).ShouldBe((true, true), "each may look ahead");
        new[] { 1, 2, aller.Number, wey.Number }.Distinct().Count().ShouldBe(4, "marks go by number");
        SeenBy(House.Host).ShouldAllBe(exhibit => !exhibit.Shown && exhibit.Number < 3, "the hall's own stay where they are");
        Refused(_nia, new TurnPage(2)).ShouldBeNull("there is nobody else to turn it");
        Refused(_jun, new TurnPage(3, aller.Number)).ShouldBe(Reason.NoPages, "of another room");
        (SeenBy(_teodor).Single().Pages!.At, SeenBy(_jun).Single().Pages!.At).ShouldBe((2, 1));
        Refused(_nia, new HandPaging(_teodor)).ShouldBe(Reason.OnlyBench, "it is not hers to give");
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        SeenBy(House.Host).Select(exhibit => (exhibit.Title, exhibit.Room, exhibit.Shown)).ShouldBe(
            [("Worksheet", null, false), ("Map of the Wey", null, false), ("Worksheet", "Aller", false), ("Map of the Wey", "Wey", false)]);
        SeenBy(_nia).ShouldBeEmpty();
        Refused(_nia, new TurnPage(3, aller.Number)).ShouldBe(Reason.NoPages, "in the hall it is before nobody");
    }

    [Fact]
    public void A_document_that_is_not_there_is_told_and_pages_that_come_late_come_into_each_room()
    {
        Brings("Worksheet", pages: 0);
        var form = TwoRooms with { Shows = "Worksheet", Rooms = TwoRooms.Rooms.SetItem(1, TwoRooms.Rooms[1] with { Shows = "Nothing" }) };
        Refused(House.Host, new PlanRooms(form)).ShouldBeNull();
        DraftRow Draft() => Projection.Record(_house.Sitting, Viewer.Bench).Rooms!.Draft!;
        Draft().Missing.ShouldBe(["Nothing"]);
        Draft().Coming.ShouldBe(["Worksheet"]);
        InRooms(form with { Rooms = TwoRooms.Rooms });
        SeenBy(_nia).ShouldBeEmpty();
        _house.Do(Actor.House, new NotePages("file of Worksheet", 4)).Refusal.ShouldBeNull();
        foreach (var one in new[] { _nia, _jun }) (SeenBy(one).Single().Shown, SeenBy(one).Single().Pages!.Count).ShouldBe((true, 4));
        SeenBy(House.Host).Single().Shown.ShouldBeFalse("in the hall nobody has shown it");
        Refused(House.Host, new PlanRooms(form with { Rooms = TwoRooms.Rooms, Shows = "Drawn" }, ByHand: false)).ShouldBeNull();
        Refused(House.Host, new OpenSheet("Drawn")).ShouldBeNull();
        Draft().Missing.ShouldBe(["Drawn"], "a copy of a sheet would be white");
        // Somebody else's exhibit of that title is not meant: anybody could give theirs any name.
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        Refused(House.Host, new CloseExhibit(1)).ShouldBeNull();
        Refused(House.Host, new SetOrder(Order.Exhibit, Audience.Everyone)).ShouldBeNull();
        Refused(_pilar, new BringFile(ExhibitKind.Document, "Other", "of pilar", "c2VjcmV0")).ShouldBeNull();
        Refused(House.Host, new PlanRooms(form with { Rooms = TwoRooms.Rooms, Shows = "Other" })).ShouldBeNull();
        Draft().Missing.ShouldBe(["Other"]);
    }

    [Fact]
    public void A_file_of_a_room_is_kept_under_its_name_for_those_who_took_it_and_the_bench_hands_it_on()
    {
        InRooms(TwoRooms);
        Refused(_teodor, new GiveFile("f1", "Gauges.pdf", 2_000, FileSort.Document)).ShouldBeNull();
        Refused(_teodor, new GiveFile("f2", "For Nia alone.pdf", 2_000, FileSort.Document, To: _nia)).ShouldBeNull();
        Refused(_nia, new TakeFile(1)).ShouldBeNull();
        (FilesOf(House.Host).Length, FilesOf(_jun).Length).ShouldBe((0, 0));
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        FilesOf(_nia).ShouldHaveSingleItem().Room.ShouldBe("Aller");
        FilesOf(House.Host).ShouldHaveSingleItem().Name.ShouldBe("Gauges.pdf", "what was between two has ended");
        FilesOf(_jun).ShouldBeEmpty("nobody else was given it");
        Refused(_jun, new TakeFile(1)).ShouldBe(Reason.NoSuchHandout);
        var rounds = RoomsExport.Of(_house.Sitting).Rooms;
        rounds.Select(room => (room.Round, room.Name, string.Join(", ", room.People), room.Files.Length)).ShouldBe(
            [(1, "Aller", "Teodor Quill, Nia Okafor", 1), (1, "Wey", "Jun Takeda, Pilar Ortega", 0)]);
        rounds[0].Leads.ShouldBe(["Teodor Quill"]);
        Refused(_nia, new HandOnFile(1)).ShouldBe(Reason.OnlyBench);
        Refused(House.Host, new HandOnFile(1)).ShouldBeNull();
        FilesOf(_jun).ShouldHaveSingleItem().State.ShouldBe(HandoutState.Offered);
        RoomsExport.Of(_house.Sitting).Rooms[0].Files.ShouldBe(["Gauges.pdf"], "it was made there all the same");
        _house.Do(House.Host, new HandOnFile(1)).Facts.ShouldBeEmpty("it is so already");
        Refused(House.Host, new TakeBack()).ShouldBeNull();
        FilesOf(_jun).ShouldBeEmpty();
    }

    [Fact]
    public void The_orders_of_rooms_are_set_from_the_hall_before_and_while_they_are_open_and_leave_the_hall_alone()
    {
        bool Open(SeatId seat) => _house[seat].MicrophoneOpen;
        Refused(_nia, new SetRoomsOrder(Order.Rename, Audience.Bench)).ShouldBe(Reason.OnlyBench);
        Refused(House.Host, new SetRoomsOrder(Order.Rename, Audience.Bench)).ShouldBeNull();
        Refused(House.Host, new SetRoomsOrder(Order.Rename, Audience.Bench)).ShouldBe(Reason.NoChange);
        Refused(House.Host, new SetRoomsOrder((Order)99, Audience.Bench)).ShouldBe(Reason.NotUnderstood);
        Projection.Record(_house.Sitting, Viewer.Bench).Rooms!.Orders!.Rename.ShouldBe(Audience.Bench);
        Projection.Record(_house.Sitting, Viewer.Attendee).Rooms!.Orders.ShouldBeNull();
        _house.Sitting.Orders.ShouldBe(StandingOrders.Usual);
        InRooms(TwoRooms);
        Refused(_nia, new Rename(_nia, "Nia of Aller")).ShouldNotBeNull();
        foreach (var seat in new[] { _nia, _jun, House.Host }) Refused(seat, new OpenMicrophone()).ShouldBeNull();
        Refused(House.Host, new SetRoomsOrder(Order.Speak, Audience.Bench)).ShouldBeNull();
        (Open(_nia), Open(_jun), Open(House.Host)).ShouldBe((false, false, true), "in all rooms");
        Refused(_jun, new OpenMicrophone()).ShouldNotBeNull();
        _house.Sitting.Orders.Speak.ShouldBe(Audience.Everyone);
        Refused(House.Host, new TakeBack()).ShouldBeNull();
        (Open(_nia), Open(_jun)).ShouldBe((true, true), "exactly those who were open");
    }

    [Fact]
    public void What_rooms_have_made_takes_no_place_on_the_shelf_of_the_hall()
    {
        InRooms(TwoRooms);
        foreach (var one in new[] { _nia, _jun })
            for (var n = 0; n < Shelf.MostOpen; n++) Refused(one, new OpenSheet($"{n}")).ShouldBeNull();
        Refused(_nia, new OpenSheet("one more")).ShouldBe(Reason.ShelfFull);
        Refused(House.Host, new CloseRooms(0)).ShouldBeNull();
        _house.Sitting.Shelf.Open.Length.ShouldBe(2 * Shelf.MostOpen);
        Refused(House.Host, new OpenSheet("Next")).ShouldBeNull();
    }

    [Fact]
    public void A_plan_that_is_taken_away_by_name_and_brought_again_is_the_same_plan()
    {
        Refused(House.Host, new PlanRooms(RoomForm.Of("Aller", "Wey") with
        {
            Rooms = [new RoomSpec("Aller", "Count", ["teo", "nobody"], []), RoomSpec.Called("Wey")],
            Seed = 5
        })).ShouldBeNull();
        Refused(House.Host, new MoveToRoom([_pilar], null)).ShouldBeNull();
        var before = _house.Sitting.Rooms.Draft!;
        var form = RoomPlanning.ByName(_house.Sitting)!;
        form.Rooms[0].Leads.ShouldBe(["Teodor Quill", "nobody"], "what could not be found is not lost");
        form.Rooms.SelectMany(room => room.People).ShouldNotContain("Pilar Ortega");
        Refused(House.Host, new PlanRooms(form with { Seed = 77 }, ByHand: false)).ShouldBeNull();
        var after = _house.Sitting.Rooms.Draft!;
        foreach (var (seat, room) in before.RoomOf) after.RoomOf[seat].ShouldBe(room);
        (after.Leads[0].Single(), after.Unknown.Single()).ShouldBe((_teodor.Number, "nobody"));
    }
}
