using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>A visit still to come.</summary>
/// <param name="Key">The caller's own number for it.</param>
/// <param name="Slot">When it was promised; null for people without a slot, who come after the others.</param>
/// <param name="Planned">Its planned length, above zero.</param>
/// <param name="IsHere">The person waits already and could be called early.</param>
public readonly record struct Upcoming(int Key, Instant? Slot, TimeSpan Planned, bool IsHere);

/// <summary>When a visit is expected to begin.</summary>
/// <param name="From">Four times out of five it begins between this and <paramref name="To"/>.</param>
public readonly record struct ExpectedStart(int Key, Instant From, Instant At, Instant To);

/// <param name="Late">How far behind the next promised slot the host runs; never below zero.</param>
public sealed record Outlook(TimeSpan Late, ImmutableArray<ExpectedStart> Starts);

/// <summary>
/// Foretells when each person's turn comes. The length of a visit blends the planned one with what today shows: the
/// ratio of actual to planned lengths is shrunk towards 1 as if three visits had gone to plan (a normal mean with a
/// normal prior; Efron and Morris, "Stein's paradox in statistics", 1977).
/// </summary>
public static class Forecast
{
    private const double PriorVisits = 3;

    /// <summary>Relative spread of a visit's length before anything is known of today.</summary>
    private const double PriorSpread = 0.25;

    /// <summary>Half the width of the interval that holds four of five values of a normal distribution, in standard deviations.</summary>
    private const double FourOfFive = 1.2816;

    /// <param name="ended">Planned and actual lengths of the visits that ended today.</param>
    /// <param name="current">Since when the present visit is on, and its planned length; null when nobody is inside.</param>
    /// <param name="takesEarly">The host calls people before their slot when they are here.</param>
    public static Outlook Of(
        IReadOnlyList<(TimeSpan Planned, TimeSpan Actual)> ended, (Instant Since, TimeSpan Planned)? current,
        IEnumerable<Upcoming> upcoming, Instant now, bool takesEarly)
    {
        var (ratio, spread) = Learn(ended);
        var (at, variance) = (now, 0.0);
        if (current is { } visit)
        {
            var (elapsed, expected) = (now - visit.Since, visit.Planned * ratio);
            // A visit beyond its time goes on for a while yet: a fifth of its length, as far as anybody knows.
            at = now + (elapsed < expected * 0.8 ? expected - elapsed : expected * 0.2);
            variance = Square(visit.Planned.TotalMinutes * spread) * Math.Clamp(1 - (elapsed / expected), 0.2, 1);
        }
        var starts = ImmutableArray.CreateBuilder<ExpectedStart>();
        var late = TimeSpan.Zero;
        foreach (var next in upcoming.OrderBy(next => next.Slot ?? new Instant(long.MaxValue)).ThenBy(next => next.Key))
        {
            var mayBeEarly = next.Slot is null || (takesEarly && next.IsHere);
            var begin = !mayBeEarly && next.Slot is { } slot && slot > at ? slot : at;
            if (starts.Count == 0 && next.Slot is { } promised && begin > promised) late = begin - promised;
            // Waiting for a slot takes up what went before it.
            if (begin > at) variance *= 0.5;
            var half = TimeSpan.FromMinutes(FourOfFive * Math.Sqrt(variance));
            var from = begin + (-half);
            if (!mayBeEarly && next.Slot is { } notBefore && from < notBefore) from = notBefore;
            if (from < now) from = now;
            starts.Add(new ExpectedStart(next.Key, from, begin, begin + half));
            at = begin + (next.Planned * ratio);
            variance += Square(next.Planned.TotalMinutes * spread);
        }
        return new Outlook(late, starts.ToImmutable());
    }

    private static (double Ratio, double Spread) Learn(IReadOnlyList<(TimeSpan Planned, TimeSpan Actual)> ended)
    {
        var ratios = ended.Where(visit => visit.Planned > TimeSpan.Zero)
            .Select(visit => Math.Clamp(visit.Actual / visit.Planned, 0.1, 5)).ToList();
        var ratio = (PriorVisits + ratios.Sum()) / (PriorVisits + ratios.Count);
        var variance = ((PriorVisits * Square(PriorSpread)) + ratios.Sum(one => Square(one - ratio))) / (PriorVisits + ratios.Count);
        return (ratio, Math.Sqrt(variance));
    }

    private static double Square(double value) => value * value;

    /// <summary>The outlook of a sitting; the key of each start is the docket's line.</summary>
    public static Outlook Of(Sitting sitting, Instant now)
    {
        var docket = sitting.Docket;
        TimeSpan PlannedOf(int line) => TimeSpan.FromMinutes(docket.MinutesOf(line));
        var ended = sitting.Visits.Where(visit => visit.To is not null)
            .Select(visit => (PlannedOf(visit.Line), visit.To!.Value - visit.From)).ToList();
        var current = sitting.Visits.FindLast(visit => visit.To is null);
        var (done, here) = (sitting.Visits.Select(visit => visit.Line).ToHashSet(),
            sitting.Seats.Where(seat => seat.Place == Place.Lobby).Select(seat => seat.Recognition.Line).OfType<int>().ToHashSet());
        var upcoming = docket.Lines.Select((line, at) => (line, at)).Where(pair => pair.line.Slot is { } slot && !done.Contains(pair.at)
                // Who has not come long after the slot will hardly come.
                && (here.Contains(pair.at) || slot + PlannedOf(pair.at) > now))
            .Select(pair => new Upcoming(pair.at, pair.line.Slot, PlannedOf(pair.at), here.Contains(pair.at)));
        return Of(ended, current is null ? null : (current.From, PlannedOf(current.Line)), upcoming, now, takesEarly: false);
    }
}
