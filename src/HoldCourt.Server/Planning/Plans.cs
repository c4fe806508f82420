using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using HoldCourt.Server.Security;
using HoldCourt.Server.Texts;
using HoldCourt.Store.Planning;

namespace HoldCourt.Server.Planning;

/// <summary>What the host plans, as the page sends and shows it.</summary>
/// <param name="Start">Local time in the zone, "2027-04-05T14:30"; null for a standing session.</param>
/// <param name="Minutes">Planned length; null when open-ended.</param>
/// <param name="Rule">An RRULE of RFC 5545 without its name; null unless recurring.</param>
/// <param name="Language">Of its messages: the one in which the host works.</param>
/// <param name="Except">Local dates, "2027-04-05", on which a recurring session does not take place.</param>
public sealed record Plan(
    string Title, string Description, SessionKind Kind, string? Start, int? Minutes, string Zone, string? Rule,
    IReadOnlyList<string> Except, bool EarlyEntry,
    DoorMode Door, StandingOrders Orders, bool RecordsItself, ImmutableArray<Item>? RunSheet = null, string? Language = null,
    bool DoorByName = false, ImmutableArray<PollForm>? Polls = null, RoomForm? Rooms = null);

/// <summary>A plan as it is kept.</summary>
/// <param name="Next">The next occurrences, at most five.</param>
/// <param name="TimeTwice">The planned time exists twice on that day, because the clocks change; it is the first of the two.</param>
public sealed record KeptPlan(
    Guid Id, string Link, Plan Plan, bool HasPasscode, bool HasHostKey, bool Cancelled, int Invited, IReadOnlyList<Instant> Next,
    bool TimeTwice);

/// <summary>Checks plans and brings them into sessions and back.</summary>
internal static class Plans
{
    public const int LongestDescription = 4_000, LongestMinutes = 24 * 60, MostExceptions = 500;

    /// <summary>How rooms are wished; null when they are not.</summary>
    public static RoomForm? RoomsOf(Session session) =>
        session.Rooms is { } rooms ? JsonSerializer.Deserialize<RoomForm>(rooms, CoreJson.Options) : null;

    /// <summary>Why the plan cannot be kept, as the name of a sentence; null when it was brought into the session.</summary>
    public static string? Into(Session session, Plan plan)
    {
        var title = Bounds.Clean(plan.Title, lines: false);
        if (title.Length == 0) return "titleEmpty";
        if (title.Length > Session.LongestTitle) return "titleTooLong";
        if ((plan.Description?.Length ?? 0) > LongestDescription) return "descriptionTooLong";
        if (!Enum.IsDefined(plan.Kind) || !Enum.IsDefined(plan.Door) || plan.Orders is not { IsMeaningful: true }) return "notUnderstood";
        if (Bounds.Refuses(plan) is { } beyond) return beyond.Reason.Name;
        if (RunSheet.Refuses(plan.RunSheet ?? []) is { } bad) return bad.Reason.Name;
        if (PollBook.Refuses(plan.Polls ?? []) is { } wrong) return wrong.Reason.Name;
        if (RoomForm.Refuses(plan.Rooms) is { } unfit) return unfit.Reason.Name;
        if (PlanTimes.Zone(plan.Zone) is not { } zone) return "zoneUnknown";
        if (plan.Minutes is < 1 or > LongestMinutes) return "lengthOutOfRange";
        long? start = null;
        if (plan.Kind != SessionKind.Standing)
        {
            var (at, flaw, _) = PlanTimes.Resolve(plan.Start, zone);
            if (flaw is not null) return flaw;
            start = at!.Value.Milliseconds;
        }
        if (plan.Kind == SessionKind.Recurring && PlanTimes.Rule(plan.Rule) is null) return "ruleNotUnderstood";
        var except = plan.Except ?? [];
        if (except.Count > MostExceptions
            || except.Any(date => !DateOnly.TryParseExact(date, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None,
            out _))) return "exceptionNotUnderstood";

        var probe = new Session
        {
            OwnerId = "",
            Title = title,
            Link = "",
            Orders = "",
            Kind = plan.Kind,
            StartsAt = start,
            Minutes = plan.Minutes,
            Zone = plan.Zone,
            Rule = plan.Kind == SessionKind.Recurring ? plan.Rule : null,
            Exceptions = JsonSerializer.Serialize(except)
        };
        if (plan.Kind == SessionKind.Recurring && !PlanTimes.Occurrences(probe, new Instant(start!.Value)).Any()) return "ruleNeverFires";

        (session.Title, session.Description, session.Kind, session.StartsAt, session.Minutes) =
            (title, Bounds.Clean(plan.Description), plan.Kind, start, plan.Minutes);
        (session.Zone, session.Rule, session.Exceptions, session.EarlyEntry) = (plan.Zone, probe.Rule, probe.Exceptions, plan.EarlyEntry);
        session.DoorByName = plan.DoorByName && plan.Door == DoorMode.Listed;
        (session.Door, session.Orders, session.RecordsItself) =
            (plan.Door, JsonSerializer.Serialize(plan.Orders, CoreJson.Options), plan.RecordsItself);
        if (plan.Language is { } language && ServerTexts.Knows(language)) session.Language = language;
        session.RunSheet = JsonSerializer.Serialize(RunSheet.Clean(plan.RunSheet ?? []), CoreJson.Options);
        session.Rooms = RoomForm.Clean(plan.Rooms) is { } rooms ? JsonSerializer.Serialize(rooms, CoreJson.Options) : null;
        session.Polls = JsonSerializer.Serialize(PollBook.Clean(plan.Polls ?? []), CoreJson.Options);
        return null;
    }

    public static KeptPlan Of(Session session, int invited, Instant now)
    {
        var zone = PlanTimes.Zone(session.Zone) ?? TimeZoneInfo.Utc;
        var local = session.StartsAt is { } start ? PlanTimes.Local(new Instant(start), zone) : (DateTime?)null;
        var plan = new Plan(
            Title: session.Title, Description: session.Description, Kind: session.Kind,
            Start: local?.ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture), Minutes: session.Minutes, Zone: session.Zone,
            Rule: session.Rule, Except: JsonSerializer.Deserialize<string[]>(session.Exceptions)!, EarlyEntry: session.EarlyEntry,
            Door: session.Door, Orders: JsonSerializer.Deserialize<StandingOrders>(session.Orders, CoreJson.Options)!,
            RecordsItself: session.RecordsItself,
            RunSheet: JsonSerializer.Deserialize<ImmutableArray<Item>>(session.RunSheet, CoreJson.Options), Language: session.Language,
            DoorByName: session.DoorByName, Polls: JsonSerializer.Deserialize<ImmutableArray<PollForm>>(session.Polls, CoreJson.Options),
            Rooms: RoomsOf(session));
        return new KeptPlan(session.Id, session.Link, plan, session.PasscodeHash is not null, session.HostKeyHash is not null,
            session.CancelledAt is not null, invited,
            [.. PlanTimes.Occurrences(session, now).Take(5)], local is { } time && zone.IsAmbiguousTime(time));
    }

    /// <summary>A passcode or host key that can be read out: letters and digits that are not mistaken for each other.</summary>
    public static string NewCode(int length) =>
        System.Security.Cryptography.RandomNumberGenerator.GetString("abcdefghjkmnpqrstuvwxyz23456789", length);

    public static Session Copy(Session from, long now) => new()
    {
        OwnerId = from.OwnerId,
        Title = from.Title,
        Description = from.Description,
        Kind = from.Kind,
        StartsAt = from.StartsAt,
        Minutes = from.Minutes,
        Zone = from.Zone,
        Rule = from.Rule,
        Exceptions = from.Exceptions,
        EarlyEntry = from.EarlyEntry,
        RecordsItself = from.RecordsItself,
        Link = SeatCookies.Random128(),
        Door = from.Door,
        DoorByName = from.DoorByName,
        Orders = from.Orders,
        RunSheet = from.RunSheet,
        Polls = from.Polls,
        Rooms = from.Rooms,
        Language = from.Language,
        CreatedAt = now
    };
}
