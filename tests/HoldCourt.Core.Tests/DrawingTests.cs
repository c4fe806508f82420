using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>Marks over an exhibit: whose they are, who takes them away, and each person's own way back.</summary>
public class DrawingTests
{
    private static readonly Instant _now = new(1_770_000_000_000);
    private static readonly string _line = MarkLine.Write([(100, 200), (300, 400)]);

    public sealed record Act(int By, bool Keeps, MarkWish Wish);

    public static class Acts
    {
        private static readonly Gen<MarkWish> _wish = Gen.Frequency(
            (8, Gen.Choose(1, 4).Zip(Gen.Elements(Enum.GetValues<MarkShape>()), (page, shape) => (MarkWish)new Draw(page, shape,
                MarkColour.Blue, 30, shape == MarkShape.Text ? MarkLine.Write([(5, 5)]) : _line, "words"))),
            (3, Gen.Choose(0, 20).ArrayOf(3).Select(numbers => (MarkWish)new Erase([.. numbers]))),
            (2, Gen.Choose(0, 20).Select(number => (MarkWish)new Move(number, _line))),
            (6, Gen.Elements(true, false).Select(again => (MarkWish)new StepBack(again))),
            (1, Gen.Choose(0, 3).Zip(Gen.Elements(true, false), (page, own) => (MarkWish)new Clear(page == 0 ? null : page, own))));

        public static Arbitrary<Act[]> Some() => Gen.Choose(1, 3)
            .Zip(_wish, (by, wish) => new Act(by, by == 1, wish)).ArrayOf(40).ToArbitrary();
    }

    /// <summary>Each mark told as a table of who drew it; what is taken back must be what that very person did.</summary>
    [Property(Arbitrary = [typeof(Acts)], MaxTest = 500)]
    public void Nobody_but_the_bench_touches_what_others_drew_and_every_step_back_undoes_ones_own(Act[] acts)
    {
        var (layer, kept) = (MarkLayer.Empty, new List<MarkAct>());
        var seen = new Dictionary<int, int>();
        foreach (var (by, keeps, wish) in acts)
        {
            var (done, refusal) = layer.Decide(wish, new SeatId(by), keeps, pages: 3, _now);
            (done is null).ShouldBe(refusal is not null);
            if (done is null) continue;
            done.Sequence.ShouldBe(layer.Sequence + 1);
            foreach (var mark in done.Put)
            {
                mark.Page.ShouldBeInRange(1, 3);
                layer.Find(mark.Number).ShouldBeNull("it is there already");
                if (done.Deed is MarkDeed.Draw or MarkDeed.Move) mark.By.Number.ShouldBe(by);
                if (!keeps) mark.By.Number.ShouldBe(by, "only one's own comes back");
                seen[mark.Number] = mark.By.Number;
            }
            foreach (var number in done.Drop)
            {
                layer.Find(number).ShouldNotBeNull();
                if (!keeps) seen[number].ShouldBe(by, $"{wish} took another's mark away");
            }
            (done.Put.Length + done.Drop.Length).ShouldBeGreaterThan(0);
            layer = layer.After(done);
            kept.Add(done);
            layer.Marks.Select(mark => mark.Number).ShouldBeInOrder();
        }
        // From the disk it is the very same.
        var read = kept.Select(act => JsonSerializer.Serialize(act, CoreJson.Options))
            .Select(json => JsonSerializer.Deserialize<MarkAct>(json, CoreJson.Options)!)
            .Aggregate(MarkLayer.Empty, (state, act) => state.After(act));
        read.Marks.ShouldBe(layer.Marks);
        for (var by = 1; by <= 3; by++)
            JsonSerializer.Serialize(read.Decide(new StepBack(), new SeatId(by), false, 3, _now).Act)
                .ShouldBe(JsonSerializer.Serialize(layer.Decide(new StepBack(), new SeatId(by), false, 3, _now).Act));
    }

    [Fact]
    public void All_the_way_back_and_forth_again_leads_to_where_it_was()
    {
        var layer = MarkLayer.Empty;
        var (nia, teodor, host) = (new SeatId(2), new SeatId(3), new SeatId(1));
        void Does(SeatId by, MarkWish wish) => layer = layer.After(layer.Decide(wish, by, by == host, 3, _now).Act.ShouldNotBeNull());
        string There() => string.Join(' ', layer.Marks.Select(mark => $"{mark.By.Number}:{mark.Number}"));
        for (var n = 0; n < 2; n++)
        {
            Does(nia, new Draw(1, MarkShape.Pen, MarkColour.Blue, 20, _line));
            Does(teodor, new Draw(1, MarkShape.Box, MarkColour.Green, 20, _line));
        }
        Does(nia, new Move(3, _line));
        Does(nia, new Erase([1]));
        There().ShouldBe("3:2 3:4 2:5");
        for (var n = 0; n < 4; n++) Does(nia, new StepBack());
        There().ShouldBe("3:2 3:4", "what the other drew stays");
        layer.Decide(new StepBack(), nia, false, 3, _now).Refusal!.Reason.ShouldBe(Reason.NothingToUndo);
        for (var n = 0; n < 4; n++) Does(nia, new StepBack(Again: true));
        There().ShouldBe("3:2 3:4 2:5");
        // What the bench clears is not brought back by those who drew it, but by the bench.
        Does(host, new Clear(null, Own: false));
        There().ShouldBe("");
        layer.Decide(new StepBack(), nia, false, 3, _now).Refusal!.Reason.ShouldBe(Reason.NothingToUndo);
        layer.Decide(new StepBack(Again: true), teodor, false, 3, _now).Refusal!.Reason.ShouldBe(Reason.NothingToRedo);
        Does(host, new StepBack());
        There().ShouldBe("3:2 3:4 2:5");
    }

    [Fact]
    public void What_is_no_mark_is_refused_in_words()
    {
        Reason? Refused(MarkWish wish) => MarkLayer.Empty.Decide(wish, new SeatId(2), false, 3, _now).Refusal?.Reason;
        var many = MarkLine.Write(Enumerable.Range(0, 100_000).Select(n => (n % 16_000, n % 9_000)));
        Refused(new Draw(1, MarkShape.Pen, MarkColour.Blue, 20, many)).ShouldBe(Reason.MarkTooLong);
        Refused(new Draw(0, MarkShape.Pen, MarkColour.Blue, 20, _line)).ShouldBe(Reason.NoSuchPage);
        Refused(new Draw(4, MarkShape.Pen, MarkColour.Blue, 20, _line)).ShouldBe(Reason.NoSuchPage);
        string[] lines = ["", "?", "A", "////", MarkLine.Write([(1_000_000, 0)]), MarkLine.Write([(0, -20_000)]), null!];
        foreach (var line in lines)
            Refused(new Draw(1, MarkShape.Pen, MarkColour.Blue, 20, line)).ShouldBe(Reason.NotUnderstood, line);
        Refused(new Draw(1, MarkShape.Box, MarkColour.Blue, 20, MarkLine.Write([(1, 1)]))).ShouldBe(Reason.NotUnderstood);
        Refused(new Draw(1, MarkShape.Pen, MarkColour.Blue, 0, _line)).ShouldBe(Reason.NotUnderstood);
        Refused(new Draw(1, MarkShape.Pen, (MarkColour)77, 20, _line)).ShouldBe(Reason.NotUnderstood);
        Draw Words(string text) => new(1, MarkShape.Text, MarkColour.Blue, 20, MarkLine.Write([(1, 1)]), text);
        Refused(Words(" \u0000 ")).ShouldBe(Reason.NotUnderstood);
        Refused(Words(new string('x', 501))).ShouldBe(Reason.TooLong);
        Refused(new Erase([.. Enumerable.Range(1, 20_000)])).ShouldBe(Reason.TooMany);
        Refused(new Erase(default)).ShouldBe(Reason.NotUnderstood);
        Refused(new Clear(null, Own: false)).ShouldBe(Reason.OnlyBench);
    }

    private sealed record Vector(int[] Points, string Line);

    [Fact]
    public void Points_are_written_as_the_browser_writes_them()
    {
        var file = File.ReadAllText(System.IO.Path.Combine(Repository.Root, "tests", "vectors", "lines.json"));
        foreach (var vector in JsonSerializer.Deserialize<Vector[]>(file, JsonSerializerOptions.Web)!)
        {
            var points = vector.Points.Chunk(2).Select(pair => (pair[0], pair[1])).ToList();
            MarkLine.Write(points).ShouldBe(vector.Line);
            MarkLine.Read(vector.Line).ShouldBe(points);
        }
    }
}
