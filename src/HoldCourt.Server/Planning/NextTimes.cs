using System.Collections.Concurrent;
using HoldCourt.Store.Planning;

namespace HoldCourt.Server.Planning;

/// <summary>
/// When each session comes next, remembered until that time has passed or the plan has changed: evaluating a rule takes
/// a third of a millisecond, and a host may have thousands.
/// </summary>
internal sealed class NextTimes
{
    private const int MostRemembered = 50_000;

    private readonly ConcurrentDictionary<Guid, (Planned Plan, Instant From, Instant? Next)> _remembered = new();

    /// <summary>The occurrence that is on or comes next; null when there is none any more.</summary>
    public Instant? Of(Session session, Instant now)
    {
        if (session.Kind != SessionKind.Recurring) return PlanTimes.Next(session, now);
        var plan = new Planned(session.StartsAt, session.Minutes, session.Zone, session.Rule, session.Exceptions, session.CancelledAt);
        if (_remembered.TryGetValue(session.Id, out var kept) && kept.Plan == plan && now >= kept.From
            && (kept.Next is not { } next || now < PlanTimes.EndOf(session, next))) return kept.Next;
        var found = PlanTimes.Next(session, now);
        if (_remembered.Count >= MostRemembered) _remembered.Clear();
        _remembered[session.Id] = (plan, now, found);
        return found;
    }

    /// <summary>All that an occurrence depends on.</summary>
    private sealed record Planned(long? Start, int? Minutes, string Zone, string? Rule, string Exceptions, long? CancelledAt);
}
