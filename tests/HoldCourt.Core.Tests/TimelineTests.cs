using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>The time of a recording, against a strip of seconds that are in it or not.</summary>
public class TimelineTests
{
    private const int Seconds = 60;

    public sealed record Wish(ImmutableArray<(int From, int To)> Stretches, ImmutableArray<(int From, int To)> Cuts);

    public static class Wishes
    {
        private static readonly Gen<(int, int)> _pair = Gen.Choose(0, Seconds).Zip(Gen.Choose(0, Seconds), (from, to) => (from, to));

        public static Arbitrary<Wish> Some() => _pair.ListOf(6)
            .Zip(_pair.ListOf(3), (stretches, cuts) => new Wish([.. stretches], [.. cuts])).ToArbitrary();
    }

    private static Instant At(int second) => new(1_770_000_000_000 + second * 1_000L);

    private static TimeSpan Of(int seconds) => TimeSpan.FromSeconds(seconds);

    private static Timeline Made(Wish wish) => Timeline.Of(wish.Stretches.Select(one => new Stretch(At(one.From), At(one.To))));

    /// <summary>Which seconds are in it, told one by one.</summary>
    private static List<int> In(Wish wish) =>
        [.. Enumerable.Range(0, Seconds).Where(second => wish.Stretches.Any(one => one.From <= second && second < one.To))];

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 1_000)]
    public void A_moment_has_one_place_and_a_place_shows_one_moment(Wish wish)
    {
        var (timeline, seconds) = (Made(wish), In(wish));
        timeline.Length.ShouldBe(Of(seconds.Count));
        for (var second = 0; second <= Seconds; second++)
        {
            var place = seconds.IndexOf(second);
            timeline.At(At(second)).ShouldBe(place < 0 ? null : Of(place));
            // What happened while it did not run stands where it went on.
            timeline.Nearest(At(second)).ShouldBe(Of(seconds.Count(one => one < second)));
        }
        for (var place = 0; place < seconds.Count; place++) timeline.Moment(Of(place)).ShouldBe(At(seconds[place]));
        timeline.Moment(timeline.Length).ShouldBeNull();
        timeline.Moment(Of(-1)).ShouldBeNull();
        for (var at = 1; at < timeline.Stretches.Length; at++)
            timeline.Stretches[at].From.ShouldBeGreaterThan(timeline.Stretches[at - 1].To);
    }

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 1_000)]
    public void What_is_cut_out_is_gone_and_the_rest_keeps_its_order(Wish wish)
    {
        var timeline = Made(wish);
        var left = In(wish).Where((_, place) => !wish.Cuts.Any(cut => cut.From <= place && place < cut.To)).ToList();
        var cut = timeline.Without(wish.Cuts.Select(one => new Passage(Of(one.From), Of(one.To))));
        Enumerable.Range(0, Seconds).Where(second => cut.At(At(second)) is not null).ShouldBe(left);
        cut.Length.ShouldBe(Of(left.Count));
    }

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 1_000)]
    public void What_lasted_in_real_time_lasts_as_long_in_the_recording_as_that_ran(Wish wish)
    {
        var (timeline, seconds) = (Made(wish), In(wish));
        foreach (var (from, to) in wish.Cuts)
        {
            var passages = timeline.During(new Stretch(At(from), At(to))).ToList();
            passages.SelectMany(passage => Enumerable.Range((int)passage.From.TotalSeconds, (int)passage.Length.TotalSeconds))
                .ShouldBe(Enumerable.Range(0, seconds.Count).Where(place => from <= seconds[place] && seconds[place] < to));
        }
    }
}
