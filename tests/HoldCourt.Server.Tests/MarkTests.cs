using System.Net;
using HoldCourt.Server.Api;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Ledger;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Server.Tests;

/// <summary>Marks over the live line: stored before told, told to those who may know, and by nobody drawn who may not.</summary>
public class MarkTests(Court court) : IClassFixture<Court>
{
    private static readonly string _line = MarkLine.Write([(100, 200), (300, 400), (500, 450)]);

    private static Draw Pen(int page = 1) => new(page, MarkShape.Pen, MarkColour.Blue, 30, _line);

    private async Task<(OpenedSitting Opened, Visitor Host, Live Bench, Visitor Nia, Live Seat)> Open(string title)
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        var nia = court.Visitor();
        var seat = await nia.Announces(opened, "Nia");
        await bench.Done(new OpenSheet("Numbers"));
        return (opened, host, bench, nia, seat);
    }

    private static async Task<MarksRow> Marks(Visitor who, OpenedSitting opened, int exhibit = 1) =>
        await who.Get<MarksRow>($"/api/sittings/{opened.Sitting}/exhibits/{exhibit}/marks");

    private static async Task<HttpStatusCode> Asked(Visitor who, OpenedSitting opened, int exhibit = 1) =>
        (await who.Get($"/api/sittings/{opened.Sitting}/exhibits/{exhibit}/marks")).StatusCode;

    [Fact]
    public async Task What_two_people_draw_is_seen_by_all_kept_after_a_kill_and_undone_by_each_alone()
    {
        var (opened, host, bench, nia, seat) = await Open("Two draw");
        await bench.Done(new ShowExhibit(1));
        await bench.Done(new SetOrder(Order.Mark, Audience.Everyone));
        (await bench.Mark(1, Pen())).ShouldBeNull();
        (await seat.Mark(1, Pen())).ShouldBeNull();
        await Eventually.Holds(() => bench.Acts.Count == 2 && seat.Acts.Count == 2);
        bench.Acts.Select(act => act.Sequence).ShouldBe([1, 2]);
        (await seat.Mark(1, new Erase([1])))!.Reason.ShouldBe(Reason.NotYourMark);
        (await seat.Mark(1, new Clear(null, Own: false)))!.Reason.ShouldBe(Reason.OnlyBench);
        // Many at once: each is told once and in its order.
        await Task.WhenAll(Enumerable.Range(0, 20).SelectMany(_ => new[] { bench.Mark(1, Pen()), seat.Mark(1, Pen()) }));
        await Eventually.Holds(() => seat.Acts.Count == 42);
        seat.Acts.Select(act => act.Sequence).ShouldBe(Enumerable.Range(1, 42).Select(n => (long)n));
        (await Marks(nia, opened)).Marks.Length.ShouldBe(42);

        await bench.DisposeAsync();
        await seat.DisposeAsync();
        await court.Restart();
        await using var again = await host.Connects(opened);
        await using var back = await nia.Connects(opened);
        var kept = await Marks(nia, opened);
        (kept.Marks.Length, kept.Sequence).ShouldBe((42, 42));
        (await back.Mark(1, new StepBack())).ShouldBeNull();
        var after = await Marks(host, opened);
        after.Marks.Length.ShouldBe(41);
        after.Marks.Count(mark => mark.By == back.Me!.Seat).ShouldBe(20, "one's own went");
        (await again.Mark(1, new Clear(1, Own: false))).ShouldBeNull();
        (await Marks(nia, opened)).Marks.ShouldBeEmpty();
        (await again.Ask<LedgerPage>("Ledger", new LedgerWish(null, [], null, false, null, null))).Rows[^1].What.ShouldBe("marksCleared");
    }

    [Fact]
    public async Task Nobody_draws_sees_or_points_who_may_not()
    {
        var (opened, host, bench, nia, seat) = await Open("Not theirs");
        await using var _ = bench;
        await using var __ = seat;
        (await bench.Mark(1, Pen())).ShouldBeNull("the bench draws on what it prepares");
        (await seat.Mark(1, Pen()))!.Reason.ShouldBe(Reason.MarksNotAllowed);
        await bench.Done(new Except([seat.Me!.Seat], Order.Mark, true));
        (await seat.Mark(1, Pen()))!.Reason.ShouldBe(Reason.NoSuchExhibit, "it is not shown");
        (await Asked(nia, opened)).ShouldBe(HttpStatusCode.NotFound);
        await seat.Stroke(new StrokeWish(1, 1, 1, MarkShape.Pen, MarkColour.Blue, 30, _line));
        await bench.Stroke(new StrokeWish(1, 1, 1, null, MarkColour.Blue, 30, MarkLine.Write([(5, 5)])));
        await Eventually.Holds(() => bench.Strokes.Count == 1);
        bench.Strokes.ShouldHaveSingleItem().Shape.ShouldBeNull("what she may not draw is told to nobody");
        (seat.Strokes.Count, seat.Acts.Count).ShouldBe((0, 0), "what is not shown is told to nobody else");

        await bench.Done(new ShowExhibit(1));
        (await Asked(nia, opened)).ShouldBe(HttpStatusCode.OK);
        (await seat.Mark(1, Pen())).ShouldBeNull();
        await seat.Stroke(new StrokeWish(1, 1, 1, MarkShape.Pen, MarkColour.Blue, 30, _line));
        await Eventually.Holds(() => bench.Strokes.Count == 2);
        bench.Strokes[^1].By.ShouldBe(seat.Me.Seat);
        using var stranger = court.Visitor();
        (await Asked(stranger, opened)).ShouldBe(HttpStatusCode.NotFound);
        await bench.Done(new SetDoor(DoorMode.Attended));
        await bench.Done(new SetOrder(Order.Mark, Audience.Everyone));
        using var comer = court.Visitor();
        await using var waits = await comer.Announces(opened, "Jun");
        (await Asked(comer, opened)).ShouldBe(HttpStatusCode.NotFound);
        (await waits.Mark(1, Pen()))!.Reason.ShouldBe(Reason.NotInside);
        await bench.Mark(1, Pen());
        await Eventually.Holds(() => seat.Acts.Count == 2);
        (waits.Acts.Count, waits.Strokes.Count).ShouldBe((0, 0));

        // Whose right has just ended draws nothing more, nor what was on its way.
        await bench.Done(new Except([seat.Me.Seat], Order.Mark, false));
        (await seat.Mark(1, Pen()))!.Reason.ShouldBe(Reason.TakenFromYou);
        (await seat.Mark(1, new StepBack()))!.Reason.ShouldBe(Reason.TakenFromYou);
        // A second connection takes the seat; the first one does nothing more.
        await bench.Done(new Except([seat.Me.Seat], Order.Mark, null));
        await using var second = await nia.Connects(opened);
        (await Should.ThrowAsync<Exception>(async () =>
        {
            if (await seat.Mark(1, Pen()) is { Reason: var reason } && reason == Reason.Superseded) throw new InvalidOperationException();
        })).ShouldNotBeNull();
        await bench.Done(new Remove([seat.Me.Seat], MayReturn: true));
        (await second.Mark(1, Pen()))!.Reason.ShouldBe(Reason.NotInside);
        (await Asked(nia, opened)).ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_flood_and_odd_values_end_in_a_sentence_and_the_room_goes_on()
    {
        var (opened, _, bench, _, seat) = await Open("Flood");
        await using var __ = bench;
        await using var ___ = seat;
        await bench.Done(new ShowExhibit(1));
        await bench.Done(new SetOrder(Order.Mark, Audience.Everyone));
        var answers = await Task.WhenAll(Enumerable.Range(0, 1_000).Select(_ => seat.Mark(1, Pen())));
        answers.Count(answer => answer?.Reason == Reason.TooMany).ShouldBeGreaterThan(800);
        for (var n = 0; n < 500; n++)
            await seat.Stroke(new StrokeWish(1, 1, n, MarkShape.Pen, MarkColour.Blue, 30, _line));
        (await bench.Mark(1, Pen())).ShouldBeNull("others draw on");
        foreach (var odd in new object?[] { null, 5, "pen", new { mark = "draw" }, new { mark = "draw", page = 1, shape = 99 }, new { } })
            (await seat.Ask<Refusal?>("Mark", 1, odd))!.Reason.Name.ShouldBeOneOf("notUnderstood", "tooMany");
        foreach (var exhibit in new[] { 0, -1, 2, int.MaxValue })
            (await bench.Mark(exhibit, Pen()))!.Reason.ShouldBe(Reason.NoSuchExhibit);
        (await bench.Mark(1, Pen() with { Page = int.MaxValue }))!.Reason.ShouldBe(Reason.NoSuchPage);
        bench.Strokes.Count.ShouldBeLessThan(200);
        await bench.Done(new MuteAll());
    }

    [Fact]
    public async Task What_one_draws_or_undoes_again_and_again_does_not_flood_the_others()
    {
        var (opened, _, bench, _, seat) = await Open("Ink");
        await using var __ = bench;
        await using var ___ = seat;
        await bench.Done(new ShowExhibit(1));
        await bench.Done(new SetOrder(Order.Mark, Audience.Everyone));
        var large = MarkLine.Write(Enumerable.Range(0, 5_000).Select(n => ((n * 977) % 16_000, (n * 613) % 9_000)));
        Reason? last = null;
        for (var n = 0; n < 60 && last is null; n++) last = (await seat.Mark(1, Pen() with { Line = large }))?.Reason;
        last.ShouldBe(Reason.TooMany);
        await Eventually.Holds(() => bench.Acts.Count > 5);
        bench.Acts.Sum(act => act.Put.Sum(mark => mark.Line.Length)).ShouldBeLessThan(1_500_000);
        // Cleared and brought back again and again, it is no more.
        await Task.Delay(3_000);
        lock (bench) bench.Acts.Clear();
        for (var n = 0; n < 40; n++)
        {
            await seat.Mark(1, new Clear(null, Own: true));
            await seat.Mark(1, new StepBack());
        }
        bench.Acts.Sum(act => act.Put.Sum(mark => mark.Line.Length)).ShouldBeLessThan(1_500_000);
        (await bench.Mark(1, Pen())).ShouldBeNull("others draw on");
        // A stroke that is no line, or wider than any, is told to nobody.
        foreach (var (line, width) in new[] { ("????", 30), (_line, 1_000_000), (_line, 0) })
            await seat.Stroke(new StrokeWish(1, 1, 1, MarkShape.Pen, MarkColour.Blue, width, line));
        await Task.Delay(200);
        bench.Strokes.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_could_not_be_stored_is_told_to_nobody()
    {
        var (opened, host, bench, _, seat) = await Open("Locked");
        await using var __ = bench;
        await using var ___ = seat;
        await bench.Done(new ShowExhibit(1));
        (await bench.Mark(1, Pen())).ShouldBeNull();
        await using (var other = new SqliteConnection($"Data Source={Path.Combine(court.Folder, "hold-court.db")};Pooling=false"))
        {
            await other.OpenAsync();
            await using var locks = other.CreateCommand();
            locks.CommandText = "BEGIN IMMEDIATE";
            await locks.ExecuteNonQueryAsync();
            (await bench.Mark(1, Pen()))!.Reason.ShouldBe(Reason.NotStored);
        }
        (await Marks(host, opened)).Marks.Length.ShouldBe(1);
        seat.Acts.Count.ShouldBe(1);
        (await bench.Mark(1, Pen())).ShouldBeNull();
        await Eventually.Holds(() => seat.Acts.Count == 2);
        (await Marks(host, opened)).Marks.Length.ShouldBe(2);
    }

    /// <summary>Seen: marks on pages that were not turned to went to everybody, and everybody could draw there.</summary>
    [Fact]
    public async Task Marks_of_a_page_are_for_whoever_may_see_that_page()
    {
        var (opened, host, bench, nia, seat) = await Open("Two pages");
        await using var _ = bench;
        await using var __ = seat;
        await bench.Done(new ShowExhibit(1));
        await bench.Done(new AddPage(1));
        await bench.Done(new TurnPage(1, 1));
        await bench.Done(new SetOrder(Order.Mark, Audience.Everyone));
        (await bench.Mark(1, Pen(page: 2))).ShouldBeNull();
        (await bench.Mark(1, Pen(page: 1))).ShouldBeNull();
        await bench.Stroke(new StrokeWish(1, 2, 1, MarkShape.Pen, MarkColour.Blue, 30, _line));
        await bench.Stroke(new StrokeWish(1, 1, 2, MarkShape.Pen, MarkColour.Blue, 30, _line));
        await Eventually.Holds(() => seat.Acts.Count == 2 && seat.Strokes.Count >= 1 && bench.Strokes.Count == 2);
        seat.Acts.ConvertAll(act => act.Put.Length).ShouldBe([0, 1], "that something was drawn is told, and not what");
        seat.Strokes.ShouldAllBe(stroke => stroke.Page == 1);
        (await Marks(nia, opened)).ShouldSatisfyAllConditions(
            row => row.Sequence.ShouldBe(2), row => row.Marks.ShouldAllBe(mark => mark.Page == 1));
        (await Marks(host, opened)).Marks.Length.ShouldBe(2);

        (await seat.Mark(1, Pen(page: 2)))!.Reason.ShouldBe(Reason.NoSuchPage);
        await seat.Stroke(new StrokeWish(1, 2, 1, MarkShape.Pen, MarkColour.Blue, 30, _line));
        (await seat.Mark(1, Pen(page: 1))).ShouldBeNull();
        await Eventually.Holds(() => bench.Acts.Count == 3);
        bench.Strokes.Count.ShouldBe(2, "nor points where she does not look");

        await bench.Done(new TurnPage(2, 1));
        (await Marks(nia, opened)).Marks.ShouldAllBe(mark => mark.Page == 2);
        (await seat.Mark(1, new Move(3, _line)))!.Reason.ShouldBe(Reason.NoSuchPage);
        (await seat.Mark(1, new StepBack())).ShouldBeNull("what one drew oneself one takes away");
        await bench.Done(new HandPaging(seat.Me!.Seat, 1));
        (await Marks(nia, opened)).Marks.Length.ShouldBe(2, "who turns the pages sees all");
        (await seat.Mark(1, Pen(page: 1))).ShouldBeNull();
    }
}
