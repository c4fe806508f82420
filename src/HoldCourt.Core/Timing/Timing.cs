namespace HoldCourt.Core.Timing;

/// <summary>Everybody stays, and pictures and voices rest.</summary>
/// <param name="Words">What stands on the holding picture.</param>
/// <param name="Until">Null when it has no planned end.</param>
/// <param name="EndsItself">The session goes on when the time is over; otherwise that is only said.</param>
public sealed record Recess(string Words, Instant Since, Instant? Until, bool EndsItself);

/// <param name="Minutes">1 to 1,440; null leaves the end open.</param>
public sealed record CallRecess(string Words, int? Minutes = null, bool EndsItself = false) : SeatCommand;

/// <summary>Ends the recess.</summary>
public sealed record Resume : SeatCommand;

/// <summary>Sets when the session is planned to end; null leaves it open.</summary>
public sealed record SetEnd(Instant? To) : SeatCommand;

/// <param name="Minutes">1 to 1,440, from the planned end, or from now when that has passed or there is none.</param>
public sealed record Extend(int Minutes) : SeatCommand;

/// <summary>How long a host's connection may be lost before the first deputy leads.</summary>
/// <param name="Seconds">30 to 3,600; null lets nobody take over by themselves.</param>
public sealed record SetSuccession(int? Seconds) : SeatCommand;

/// <summary>A recess's time is over.</summary>
public sealed record EndRecess : HouseCommand;

/// <summary>The host's connection has been lost for long.</summary>
public sealed record Succeed : HouseCommand;

public sealed record RecessCalled(string Words, Instant Since, Instant? Until, bool EndsItself) : Fact;
public sealed record RecessEnded(Recess Was) : Fact;
public sealed record EndSet(Instant? From, Instant? To) : Fact;
public sealed record SuccessionSet(int? From, int? To) : Fact;

public static class TimingRules
{
    internal const int LongestMinutes = 1_440, ShortestSuccession = 30, LongestSuccession = 3_600, LongestWords = 500;

    internal static Decision Decide(Sitting sitting, CallRecess call, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (sitting.Phase != Phase.InSession) return Decision.Refused(sitting.Phase == Phase.Recess ? Reason.NoChange : Reason.NotInSession);
        if (call.Words.Length > LongestWords) return Decision.Refused(Reason.WordsTooLong, Remedy.Shorten);
        if (call.Minutes is < 1 or > LongestMinutes) return Decision.Refused(Reason.MinutesOutOfRange);
        var until = call.Minutes is { } minutes ? now + TimeSpan.FromMinutes(minutes) : (Instant?)null;
        return new RecessCalled(Bounds.Clean(call.Words), now, until, call.EndsItself && until is not null);
    }

    internal static Decision DecideResume(Sitting sitting, Actor by) =>
        sitting.Forbids(by, Capability.KeepTime) ?? (sitting.Recess is { } recess ? new RecessEnded(recess) : Decision.Refused(Reason.NoChange));

    internal static Decision DecideEndRecess(Sitting sitting, Instant now) =>
        sitting.Recess is { EndsItself: true, Until: { } until } recess && now >= until ? new RecessEnded(recess) : Decision.Of();

    internal static Decision Decide(Sitting sitting, SetEnd set, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (set.To is { } to && (to <= now || to - now > TimeSpan.FromMinutes(LongestMinutes))) return Decision.Refused(Reason.EndOutOfRange);
        return set.To == sitting.EndsAt ? Decision.Refused(Reason.NoChange) : new EndSet(sitting.EndsAt, set.To);
    }

    internal static Decision Decide(Sitting sitting, Extend extend, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (extend.Minutes is < 1 or > LongestMinutes) return Decision.Refused(Reason.MinutesOutOfRange);
        var from = sitting.EndsAt is { } end && end > now ? end : now;
        return new EndSet(sitting.EndsAt, from + TimeSpan.FromMinutes(extend.Minutes));
    }

    internal static Decision Decide(Sitting sitting, SetSuccession set, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (set.Seconds is < ShortestSuccession or > LongestSuccession) return Decision.Refused(Reason.MinutesOutOfRange);
        return set.Seconds == sitting.Succession ? Decision.Refused(Reason.NoChange) : new SuccessionSet(sitting.Succession, set.Seconds);
    }

    /// <summary>The deputy who came first among those in reach leads; nobody when there is none.</summary>
    internal static Decision DecideSucceed(Sitting sitting, Instant now) =>
        SuccessionDue(sitting) is { } due && now >= due && FirstDeputy(sitting) is { } deputy
            ? new People.HandedOver(sitting.Host!.Value, deputy.Id, deputy.Role, Role.Deputy)
            : Decision.Of();

    /// <summary>When a host who is out of reach loses the lead; null while nobody would take over.</summary>
    public static Instant? SuccessionDue(Sitting sitting) =>
        sitting is { IsRunning: true, Host: { } host, Succession: { } seconds } && sitting.Seats[host] is { Connected: false, DroppedAt: { } dropped } && FirstDeputy(sitting) is not null
            ? dropped + TimeSpan.FromSeconds(seconds)
            : null;

    /// <summary>Who would lead next; null when no deputy is there.</summary>
    public static Seat? FirstDeputy(Sitting sitting) => sitting.Seats.FirstOrDefault(seat => seat is { IsSeated: true, Role: Role.Deputy, Connected: true });

    internal static Fact? Opposite(Sitting sitting, Fact fact) => fact switch
    {
        RecessCalled called => sitting.Recess is { } recess && recess.Since == called.Since ? new RecessEnded(recess) : null,
        RecessEnded ended => sitting.Phase == Phase.InSession ? new RecessCalled(ended.Was.Words, ended.Was.Since, ended.Was.Until, false) : null,
        EndSet set => sitting.EndsAt == set.To ? new EndSet(set.To, set.From) : null,
        SuccessionSet set => sitting.Succession == set.To ? new SuccessionSet(set.To, set.From) : null,
        _ => null
    };

    internal static Sitting Apply(Sitting sitting, Fact fact) => fact switch
    {
        RecessCalled called => sitting with { Phase = Phase.Recess, Recess = new Recess(called.Words, called.Since, called.Until, called.EndsItself) },
        RecessEnded => sitting with { Phase = Phase.InSession, Recess = null },
        EndSet set => sitting with { EndsAt = set.To },
        SuccessionSet set => sitting with { Succession = set.To },
        _ => sitting
    };
}
