using System.Net;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Ledger;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>Rooms over the live line, the media socket and HTTP, with the doors that somebody could try.</summary>
public sealed class RoomLiveTests : IAsyncLifetime
{
    private Court _court = null!;
    private OpenedSitting _opened = null!;
    private Visitor _host = null!;
    private Live _bench = null!;
    private readonly Dictionary<string, (Visitor Visitor, Live Line)> _people = [];

    public async Task InitializeAsync()
    {
        _court = await Court.With("--Demo:Load", "true");
        _host = await _court.Host();
        _opened = await _host.Post<OpenedSitting>("/api/sessions", new OpenNow("In rooms"));
        _bench = await _host.Announces(_opened, "Odalys");
        await _bench.Done(new SetDoor(DoorMode.Open));
        foreach (var name in new[] { "Nia", "Ansel", "Jun" })
        {
            var visitor = _court.Visitor();
            _people[name] = (visitor, await visitor.Announces(_opened, name));
        }
    }

    public Task DisposeAsync() => _court.DisposeAsync();

    private Live Nia => _people["Nia"].Line;
    private Live Ansel => _people["Ansel"].Line;
    private Live Jun => _people["Jun"].Line;

    private static RoomForm Form { get; } = RoomForm.Of("Aller", "Wey") with
    {
        Rooms = [new RoomSpec("Aller", null, [], ["nia", "ansel"]), new RoomSpec("Wey", null, [], ["jun"])]
    };

    private async Task InRooms(RoomForm? form = null)
    {
        await _bench.Done(new PlanRooms(form ?? Form));
        await _bench.Done(new OpenRooms());
        await Eventually.Holds(() => Nia.Me!.Room is not null && Jun.Me!.Room is not null);
    }

    private static string All(Live live)
    {
        lock (live)
            return JsonSerializer.Serialize(
                new { live.Sitting, Seats = live.Seats.Values, live.Messages, live.Signs, live.Acts, live.Strokes, live.Me },
                CoreJson.Options);
    }

    private async Task<string> Text(Visitor who, string what) =>
        await (await who.Get($"/api/sittings/{_opened.Sitting}/{what}")).Content.ReadAsStringAsync();

    private async Task<HttpStatusCode> Asked(Visitor who, int exhibit) =>
        (await who.Get($"/api/sittings/{_opened.Sitting}/exhibits/{exhibit}/marks")).StatusCode;

    [Fact]
    public async Task Words_reactions_marks_and_files_of_a_room_reach_those_in_it_and_nobody_else_by_no_door()
    {
        await InRooms();
        await Eventually.Holds(() => Ansel.Seats.Count == 2 && Jun.Seats.Count == 1);
        await Nia.Done(new Write(new Recipient(Reach.Everyone), "seven-gauges"));
        await Nia.Done(new React(Sign.Applause));
        await Nia.Done(new OpenSheet("findings-of-aller"));
        await Eventually.Holds(() => Nia.Me!.Exhibits.Length == 1);
        var number = Nia.Me!.Exhibits[0].Number;
        await Nia.Done(new ShowExhibit(number));
        (await Nia.Mark(number, new Draw(1, MarkShape.Pen, MarkColour.Blue, 30, MarkLine.Write([(100, 200), (300, 400)])))).ShouldBeNull();
        await Eventually.Holds(() => Ansel.Messages.Any(row => row.Text == "seven-gauges") && Ansel.Signs.Count > 0 && Ansel.Acts.Count == 1
            && Ansel.Sitting!.Shelf!.Exhibits.Any(one => one.Title == "findings-of-aller"));
        // The other room, and the hall with the bench in it: over the line, asked for, and over HTTP.
        foreach (var (visitor, line) in new[] { _people["Jun"], (_host, _bench) })
        {
            var known = All(line);
            foreach (var word in new[] { "seven-gauges", "findings-of-aller", "applause" }) known.ShouldNotContain(word);
            line.Acts.ShouldBeEmpty();
            JsonSerializer.Serialize(await line.Ask<WholeView>("Whole"), CoreJson.Options).ShouldNotContain("findings-of-aller");
            foreach (var find in new[] { null, "seven" })
                (await line.Ask<ChatPage>("Chat", new ChatWish(null, find))).Rows.ShouldNotContain(row => row.Text == "seven-gauges");
            (await Text(visitor, "chat.json")).ShouldNotContain("seven-gauges");
            (await Asked(visitor, number)).ShouldBe(HttpStatusCode.NotFound);
            (await line.Mark(number, new Clear(null, Own: false))).ShouldNotBeNull();
            (await line.Do(new ShowExhibit(number))).ShouldNotBeNull();
            (await line.Do(new DeleteMessage(1))).ShouldNotBeNull();
        }
        (await Text(_host, "ledger.json")).ShouldNotContain("findings-of-aller");
        // Whoever moves there sees it; whoever has gone does not any more.
        await _bench.Done(new MoveToRoom([Jun.Me!.Seat], Nia.Me!.Room));
        await Eventually.Holds(() => Jun.Sitting!.Shelf!.Exhibits.Any(one => one.Title == "findings-of-aller"));
        (await Jun.Ask<ChatPage>("Chat", new ChatWish(null, null))).Rows.ShouldContain(row => row.Text == "seven-gauges");
        await _bench.Done(new MoveToRoom([Ansel.Me!.Seat], null));
        await Eventually.Holds(() => Ansel.Me!.Room is null && Ansel.Sitting!.Shelf!.Exhibits.Length == 0);
        (await Ansel.Ask<ChatPage>("Chat", new ChatWish(null, null))).Rows.ShouldNotContain(row => row.Text == "seven-gauges");
        (await Asked(_people["Ansel"].Visitor, number)).ShouldBe(HttpStatusCode.NotFound);
        // Closed, its sheet is the bench's to show, with its marks; what was said stays there.
        await _bench.Done(new CloseRooms(0));
        await Eventually.Holds(() => _bench.Sitting!.Shelf!.Exhibits.Any(one => one.Title == "findings-of-aller"));
        Jun.Sitting!.Shelf!.Exhibits.ShouldBeEmpty();
        (await _bench.Ask<ChatPage>("Chat", new ChatWish(null, null))).Rows.ShouldNotContain(row => row.Text == "seven-gauges");
        await _bench.Done(new ShowExhibit(number));
        (await _host.Get<MarksRow>($"/api/sittings/{_opened.Sitting}/exhibits/{number}/marks")).Marks.Length.ShouldBe(1);
    }

    [Fact]
    public async Task A_voice_is_heard_in_its_room_and_by_no_second_line_old_cookie_or_wish_of_somebody_elsewhere()
    {
        await InRooms();
        await Nia.Done(new OpenMicrophone());
        await Nia.Done(new TurnCamera(true));
        using var sends = await Nia.Media();
        using var inside = await Ansel.Media();
        using var outside = await Jun.Media();
        using var hall = await _bench.Media();
        foreach (var media in new[] { inside, outside, hall }) await media.Wishes((Nia.Me!.Seat, 90));
        await Eventually.Succeeds(async () =>
        {
            await sends.Speak();
            await sends.Send(Kind.Thumb, sends.Own.Thumb, [1], key: true);
            inside.Frames(Kind.Audio).ShouldBeGreaterThan(5);
            inside.Frames(Kind.Thumb).ShouldBeGreaterThan(0);
        });
        (outside.Frames(Kind.Audio), outside.Frames(Kind.Thumb), hall.Frames(Kind.Audio), hall.Frames(Kind.Thumb)).ShouldBe((0, 0, 0, 0));
        // A second line of the same browser is in the same room, and nobody is in two.
        await using var second = await _people["Jun"].Visitor.Connects(_opened);
        second.Seats.Keys.ShouldBe([second.Me!.Seat]);
        (await second.Do(new VisitRoom(Nia.Me!.Room)))!.Reason.ShouldBe(Reason.RoomNotYours);
        (await second.Do(new MoveToRoom([second.Me.Seat], Nia.Me.Room)))!.Reason.ShouldBe(Reason.OnlyBench);
        using var again = await second.Media();
        await again.Wishes((Nia.Me.Seat, 90));
        for (var n = 0; n < 10; n++) await sends.Speak();
        again.Frames(Kind.Audio).ShouldBe(0);
        // Put out of the room and the session, nothing comes any more; as nobody, nothing is known of rooms.
        await _bench.Done(new Remove([Ansel.Me!.Seat], MayReturn: true));
        await Eventually.Holds(() => Ansel.Me!.Place == Place.Gone);
        // What was on its way has come.
        await Task.Delay(500);
        var before = inside.Frames(Kind.Audio);
        for (var n = 0; n < 10; n++) await sends.Speak();
        await Task.Delay(500);
        inside.Frames(Kind.Audio).ShouldBe(before);
        All(Ansel).ShouldNotContain("Aller");
        (await Ansel.Do(new CallBench()))!.Reason.ShouldBe(Reason.NotInside);
        foreach (var odd in new object[]
        {
            new { @do = "visitRoom", room = int.MaxValue }, new { @do = "visitRoom", room = -1, listens = true },
            new { @do = "moveToRoom", seats = new[] { 1, 1, 99 }, room = 0 },
            new { @do = "planRooms", form = new { rooms = (object?)null } },
            new { @do = "enterRooms" }, new { @do = "roomsEntered", seats = new[] { 1 } }
        }) (await second.Send(odd)).ShouldNotBeNull(odd.ToString());
    }

    [Fact]
    public async Task A_killed_server_goes_on_with_the_countdown_the_rooms_and_the_time_that_is_left()
    {
        await _bench.Done(new PlanRooms(Form with { Minutes = 1 }));
        await _bench.Done(new OpenRooms());
        await _court.Restart();
        await using var bench = await _host.Connects(_opened);
        await using var nia = await _people["Nia"].Visitor.Connects(_opened);
        await Eventually.Holds(() => nia.Me!.Room is not null && nia.Sitting!.Rooms!.Open.Length == 1);
        var ends = nia.Sitting!.Rooms!.Open[0].EndsAt!.Value;
        await nia.DisposeAsync();
        await _court.Restart();
        await using var again = await _people["Nia"].Visitor.Connects(_opened);
        again.Me!.Room.ShouldBe(1);
        again.Sitting!.Rooms!.Open[0].EndsAt.ShouldBe(ends);
        await using var back = await _host.Connects(_opened);
        _court.Time.Forward(TimeSpan.FromMinutes(1));
        await Eventually.Succeeds(() =>
        {
            (again.Me!.Room, back.Sitting!.Rooms!.AnyOpen).ShouldBe((null, false));
            return Task.CompletedTask;
        }, seconds: 30);
    }

    [Fact]
    public async Task A_database_that_is_locked_during_the_countdown_loses_nobody_and_everybody_goes_when_it_is_free()
    {
        await _bench.Done(new PlanRooms(Form));
        await using (var disk = new SqliteConnection($"Data Source={Path.Combine(_court.Folder, "hold-court.db")};Pooling=False"))
        {
            await disk.OpenAsync();
            await using var hold = disk.CreateCommand();
            await _bench.Done(new OpenRooms());
            hold.CommandText = "BEGIN IMMEDIATE";
            await hold.ExecuteNonQueryAsync();
            await Task.Delay(RoomBook.Countdown + TimeSpan.FromSeconds(10));
            (Nia.Me!.Room, Jun.Me!.Room).ShouldBe((null, null), "nothing that is not stored is told");
        }
        await Eventually.Succeeds(async () =>
        {
            foreach (var line in new[] { Nia, Jun, _bench })
                if (line.IsClosed) await line.Again();
            (Nia.Me!.Room, Jun.Me!.Room).ShouldBe((1, 2));
            await _bench.Done(new TellRooms("We go on"));
        }, seconds: 60);
    }

    [Fact]
    public async Task Rooms_that_close_while_two_benches_move_people_leave_everybody_in_the_hall_once()
    {
        await InRooms();
        await _bench.Done(new GiveRole([Ansel.Me!.Seat], Role.Deputy));
        SeatId[] people = [Nia.Me!.Seat, Jun.Me!.Seat];
        var wishes = Enumerable.Range(0, 40).Select(n => (n % 2 == 0 ? _bench : Ansel)
            .Do(n == 20 ? new CloseRooms(0) : new MoveToRoom([people[n / 2 % 2]], (n % 3) == 0 ? null : (n % 3)))).ToList();
        wishes.Add(Nia.Do(new VisitRoom(null)));
        wishes.Add(Jun.Do(new CallBench()));
        var answers = await Task.WhenAll(wishes);
        answers.OfType<Refusal>().Select(refusal => refusal.Reason).Distinct()
            .ShouldBeSubsetOf([
                Reason.NoRoomsOpen, Reason.NoSuchRoom, Reason.NobodySeated, Reason.OutOfReach, Reason.NotInRoom, Reason.TooMany
            ]);
        await Eventually.Holds(() => Nia.Me!.Room is null && Jun.Me!.Room is null && !_bench.Sitting!.Rooms!.AnyOpen);
        Chain.FirstBreak(await _court.Services.GetRequiredService<EntryReader>().Read(_opened.Sitting)).ShouldBeNull();
        await Eventually.Holds(() => Jun.Seats.Count == 4);
    }

    [Fact]
    public async Task Two_benches_that_plan_at_once_make_one_plan_and_the_other_reads_that_it_was_changed()
    {
        await _bench.Done(new GiveRole([Ansel.Me!.Seat], Role.Deputy));
        await Eventually.Holds(() => Ansel.Me!.Role == Role.Deputy);
        var answers = await Task.WhenAll(_bench.Do(new PlanRooms(Form, 0)), Ansel.Do(new PlanRooms(RoomForm.Of("Other"), 0)));
        answers.OfType<Refusal>().ShouldHaveSingleItem().Reason.ShouldBe(Reason.PlanChangedSince);
    }

    /// <summary>From the session's papers to the room's page, without being before anybody in the hall.</summary>
    [Fact]
    public async Task A_paper_goes_with_the_task_into_each_room_and_its_pages_and_marks_stay_there()
    {
        var plan = await _host.Post<KeptPlan>("/api/plans", Made.Planned("With a worksheet"));
        using var png = new SkiaSharp.SKBitmap(80, 60);
        await _host.Does(HttpMethod.Post, $"/api/plans/{plan.Id}/papers/Worksheet.png",
            png.Encode(SkiaSharp.SKEncodedImageFormat.Png, 100).ToArray());
        var opened = await _host.Post<OpenedSitting>($"/api/sessions/{plan.Id}/open");
        await using var bench = await _host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        var (one, two) = (_court.Visitor(), _court.Visitor());
        await using var nia = await one.Announces(opened, "Nia");
        await using var jun = await two.Announces(opened, "Jun");
        await bench.Done(new PlanRooms(Form with
        {
            Rooms = [new RoomSpec("Aller", null, [], ["nia"]), new RoomSpec("Wey", null, [], ["jun"])],
            Shows = "Worksheet"
        }));
        await Eventually.Holds(() => bench.Sitting!.Rooms!.Draft is { Missing: [], Coming: [] });
        (nia.Sitting!.Shelf!.Exhibits.Length, bench.Sitting!.Shelf!.Exhibits.Single().Shown).ShouldBe((0, false));
        await bench.Done(new OpenRooms());
        await Eventually.Holds(() =>
            nia.Sitting!.Shelf!.Exhibits is [{ Shown: true }] && jun.Sitting!.Shelf!.Exhibits is [{ Shown: true }]);
        var (here, there) = (nia.Sitting!.Shelf!.Exhibits[0].Number, jun.Sitting!.Shelf!.Exhibits[0].Number);
        string Page(int number) => $"/api/sittings/{opened.Sitting}/exhibits/{number}/pages/1/160";
        (await nia.Mark(here, new Draw(1, MarkShape.Pen, MarkColour.Blue, 30, MarkLine.Write([(100, 200), (300, 400)])))).ShouldBeNull();
        await Eventually.Succeeds(async () => (await one.Get(Page(here))).StatusCode.ShouldBe(HttpStatusCode.OK));
        (await two.Get(Page(here))).StatusCode.ShouldBe(HttpStatusCode.NotFound, "the copy of the other room");
        (await two.Get(Page(1))).StatusCode.ShouldBe(HttpStatusCode.NotFound, "that of the hall");
        (await one.Get(Page(there))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        jun.Acts.ShouldBeEmpty();
        await bench.Done(new CloseRooms(0));
        await Eventually.Holds(() => bench.Sitting!.Shelf!.Exhibits.Count(exhibit => exhibit.Room == "Aller") == 1);
        (await one.Get(Page(here))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await (await _host.Get($"/api/sittings/{opened.Sitting}/rounds.csv")).Content.ReadAsStringAsync())
            .ShouldContain("1,Aller,,person,Nia\r\n1,Aller,,exhibit,B Worksheet\r\n1,Wey,,person,Jun\r\n");
        await bench.Done(new ShowExhibit(here));
        await Eventually.Succeeds(async () => (await two.Get(Page(here))).StatusCode.ShouldBe(HttpStatusCode.OK));
        (await two.Get<MarksRow>($"/api/sittings/{opened.Sitting}/exhibits/{here}/marks")).Marks.Length.ShouldBe(1);
    }
}
