using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <summary>A stretch of real time.</summary>
/// <param name="To">Later than <paramref name="From"/>, and not in it.</param>
public readonly record struct Stretch(Instant From, Instant To)
{
    public TimeSpan Length => To - From;

    public bool Contains(Instant moment) => From <= moment && moment < To;

    /// <summary>What both have; null when that is nothing.</summary>
    public Stretch? With(Stretch other)
    {
        var (from, to) = (From > other.From ? From : other.From, To < other.To ? To : other.To);
        return from < to ? new Stretch(from, to) : null;
    }
}

/// <summary>A passage of a recording, in its own time.</summary>
public readonly record struct Passage(TimeSpan From, TimeSpan To)
{
    public TimeSpan Length => To - From;
}

/// <summary>
/// The time of a recording: the stretches of real time that are in it, one after the other, what lies between them taken out. Pauses,
/// gaps of a server that was down, and cuts are all the same to it.
/// </summary>
public sealed class Timeline
{
    private readonly ImmutableArray<TimeSpan> _begins;

    private Timeline(ImmutableArray<Stretch> stretches)
    {
        Stretches = stretches;
        var begins = ImmutableArray.CreateBuilder<TimeSpan>(stretches.Length);
        foreach (var stretch in stretches)
        {
            begins.Add(Length);
            Length += stretch.Length;
        }
        _begins = begins.MoveToImmutable();
    }

    /// <summary>Of any stretches: those that are empty or turned round are left out, those that overlap or meet become one.</summary>
    public static Timeline Of(IEnumerable<Stretch> stretches)
    {
        var joined = ImmutableArray.CreateBuilder<Stretch>();
        foreach (var stretch in stretches.Where(one => one.From < one.To).OrderBy(one => one.From.Milliseconds))
            if (joined.Count > 0 && stretch.From <= joined[^1].To)
            {
                if (stretch.To > joined[^1].To) joined[^1] = joined[^1] with { To = stretch.To };
            }
            else joined.Add(stretch);
        return new Timeline(joined.ToImmutable());
    }

    /// <summary>In order, none of them touching the next.</summary>
    public ImmutableArray<Stretch> Stretches { get; }

    public TimeSpan Length { get; }

    /// <summary>When in the recording a moment is; null when it is not in it.</summary>
    public TimeSpan? At(Instant moment) =>
        Find(moment) is var at and >= 0 && Stretches[at].Contains(moment) ? _begins[at] + (moment - Stretches[at].From) : null;

    /// <summary>When in the recording a moment is, or the place where it would be: what happened in a pause stands at its end.</summary>
    public TimeSpan Nearest(Instant moment)
    {
        var at = Find(moment);
        if (at < 0) return TimeSpan.Zero;
        return Stretches[at].Contains(moment) ? _begins[at] + (moment - Stretches[at].From) : _begins[at] + Stretches[at].Length;
    }

    /// <summary>Which moment a place of the recording shows; null when it is not in it.</summary>
    public Instant? Moment(TimeSpan place)
    {
        if (place < TimeSpan.Zero || place >= Length) return null;
        var at = _begins.BinarySearch(place);
        if (at < 0) at = ~at - 1;
        return Stretches[at].From + (place - _begins[at]);
    }

    /// <summary>The passages of the recording during which something lasted that had its place in real time.</summary>
    public IEnumerable<Passage> During(Stretch stretch)
    {
        for (var at = 0; at < Stretches.Length; at++)
            if (Stretches[at].With(stretch) is { } both)
                yield return new Passage(_begins[at] + (both.From - Stretches[at].From), _begins[at] + (both.To - Stretches[at].From));
    }

    /// <summary>The recording without some passages, as they lie in it now.</summary>
    public Timeline Without(IEnumerable<Passage> passages)
    {
        IEnumerable<Stretch> left = Stretches;
        foreach (var passage in passages.Where(passage => passage.From < passage.To))
        {
            var outs = Stretches.SelectMany((stretch, at) => InStretch(at, passage) is { } one ? [one] : Array.Empty<Stretch>()).ToList();
            left = outs.Aggregate(left, (stretches, gone) => stretches.SelectMany(stretch => Outside(stretch, gone)));
        }
        return Of(left);
    }

    /// <summary>The real time that a passage covers within one stretch; null when it covers nothing of it.</summary>
    private Stretch? InStretch(int at, Passage passage)
    {
        var stretch = Stretches[at];
        var (from, to) = (passage.From - _begins[at], passage.To - _begins[at]);
        if (to <= TimeSpan.Zero || from >= stretch.Length) return null;
        return new Stretch(stretch.From + (from > TimeSpan.Zero ? from : TimeSpan.Zero),
            stretch.From + (to < stretch.Length ? to : stretch.Length));
    }

    private static IEnumerable<Stretch> Outside(Stretch stretch, Stretch gone)
    {
        if (stretch.With(gone) is not { } both) return [stretch];
        return new[] { stretch with { To = both.From }, stretch with { From = both.To } }.Where(one => one.From < one.To);
    }

    /// <summary>The last stretch that has begun by then; -1 when none has.</summary>
    private int Find(Instant moment)
    {
        var (low, high) = (0, Stretches.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (Stretches[middle].From <= moment) low = middle + 1;
            else high = middle;
        }
        return low - 1;
    }
}
