using System.Globalization;
using HoldCourt.Store.Planning;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;

namespace HoldCourt.Server.Planning;

/// <summary>Local times in zones, and the occurrences of a rule.</summary>
internal static class PlanTimes
{
    /// <summary>So many steps of a rule without an occurrence, and it counts as one that never fires.</summary>
    private const int MostEmptySteps = 2_000;

    private const int MostOccurrences = 10_000;

    public static TimeZoneInfo? Zone(string? name) =>
        name is not null && TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone : null;

    /// <summary>"2027-03-28T02:30" in a zone. Of a time that exists twice, the first.</summary>
    /// <returns>The moment, or the reason why there is none; and whether the time exists twice.</returns>
    public static (Instant? At, string? Flaw, bool Twice) Resolve(string? local, TimeZoneInfo zone)
    {
        if (!DateTime.TryParseExact(local, "yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var time))
            return (null, "timeNotUnderstood", false);
        if (time.Year is < 2020 or > 2100) return (null, "timeNotUnderstood", false);
        if (zone.IsInvalidTime(time)) return (null, "timeSkipped", false);
        var twice = zone.IsAmbiguousTime(time);
        var offset = twice ? zone.GetAmbiguousTimeOffsets(time).Max() : zone.GetUtcOffset(time);
        return (new Instant(new DateTimeOffset(time, offset).ToUnixTimeMilliseconds()), null, twice);
    }

    public static DateTime Local(Instant at, TimeZoneInfo zone) =>
        TimeZoneInfo.ConvertTime(DateTimeOffset.FromUnixTimeMilliseconds(at.Milliseconds), zone).DateTime;

    /// <summary>The rule as the library understands it, or null.</summary>
    public static RecurrenceRule? Rule(string? text)
    {
        if (text is null || text.Length > 300) return null;
        try
        {
            var rule = new RecurrenceRule(text);
            // Several times a day, or until the end of all days, is no session.
            if (rule.BySecond.Count + rule.ByMinute.Count + rule.ByHour.Count > 0 || rule.Count > MostOccurrences
                || rule.Until?.Value.Year > 2100) return null;
            return rule.Interval is >= 1 and <= 1_000 && rule.Frequency is Ical.Net.FrequencyType.Daily or Ical.Net.FrequencyType.Weekly
                or Ical.Net.FrequencyType.Monthly or Ical.Net.FrequencyType.Yearly ? rule : null;
        }
        catch (Exception e) when (e is ArgumentException or FormatException or InvalidOperationException
            or System.Runtime.Serialization.SerializationException)
        {
            return null;
        }
    }

    /// <summary>The starts of a session's occurrences from a moment on, in order; one at most unless it is recurring.</summary>
    public static IEnumerable<Instant> Occurrences(Session session, Instant from)
    {
        if (session.StartsAt is not { } start) yield break;
        if (session.Kind != SessionKind.Recurring || Rule(session.Rule) is null)
        {
            if (start >= from.Milliseconds) yield return new Instant(start);
            yield break;
        }
        var series = Event(session);
        var zone = Zone(session.Zone) ?? TimeZoneInfo.Utc;
        var begin = new CalDateTime(Local(from, zone), session.Zone, true);
        using var occurrences = series.GetOccurrences(begin, new EvaluationOptions { MaxUnmatchedIncrementsLimit = MostEmptySteps })
            .GetEnumerator();
        while (Advance(occurrences))
        {
            var at = new Instant(new DateTimeOffset(occurrences.Current.Period.StartTime.AsUtc, TimeSpan.Zero).ToUnixTimeMilliseconds());
            if (at >= from) yield return at;
        }

        static bool Advance(IEnumerator<Occurrence> occurrences)
        {
            try { return occurrences.MoveNext(); }
            catch (Exception e) when (e is EvaluationLimitExceededException or ArgumentOutOfRangeException) { return false; }
        }
    }

    /// <summary>The session as an event of a calendar, with its rule and the dates left out.</summary>
    public static CalendarEvent Event(Session session)
    {
        var zone = Zone(session.Zone) ?? TimeZoneInfo.Utc;
        var local = Local(new Instant(session.StartsAt!.Value), zone);
        var planned = new CalendarEvent { Start = new CalDateTime(local, session.Zone, true), Summary = session.Title };
        if (session.Minutes is { } minutes) planned.Duration = Duration.FromMinutes(minutes);
        if (session.Kind != SessionKind.Recurring || Rule(session.Rule) is not { } rule) return planned;
        planned.RecurrenceRule = rule;
        foreach (var date in ExceptionsOf(session))
            planned.ExceptionDates.Add(new CalDateTime(date.ToDateTime(TimeOnly.FromDateTime(local)), session.Zone, true));
        return planned;
    }

    public static IReadOnlyList<DateOnly> ExceptionsOf(Session session) =>
        [.. (System.Text.Json.JsonSerializer.Deserialize<string[]>(session.Exceptions) ?? [])
            .Select(date => DateOnly.ParseExact(date, "yyyy-MM-dd", CultureInfo.InvariantCulture))];

    /// <summary>How long an occurrence counts as being on; an open-ended one for an hour.</summary>
    public static Instant EndOf(Session session, Instant start) => start + TimeSpan.FromMinutes(session.Minutes ?? 60);

    /// <summary>
    /// When a sitting opened now is planned to end: with the occurrence that is on or about to begin, otherwise after
    /// the planned length; null when open-ended.
    /// </summary>
    public static Instant? PlannedEnd(Session session, Instant now)
    {
        if (session.Minutes is not { } minutes) return null;
        var length = TimeSpan.FromMinutes(minutes);
        return Next(session, now) is { } start && start <= now + TimeSpan.FromMinutes(30) && start + length > now + TimeSpan.FromMinutes(5)
            ? start + length
            : now + length;
    }

    /// <summary>The occurrence that is on or comes next; null when there is none any more.</summary>
    public static Instant? Next(Session session, Instant now) =>
        session.CancelledAt is not null || session.Kind == SessionKind.Standing ? null
        : Occurrences(session, now + TimeSpan.FromMinutes(-(session.Minutes ?? 60))).Select(at => (Instant?)at).FirstOrDefault();
}
