namespace HoldCourt.Core.Timing;

/// <param name="Minutes">1 to 1,440; null leaves the end open.</param>
public sealed record CallRecess(string Words, int? Minutes = null, bool EndsItself = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (sitting.Phase != Phase.InSession)
            return Decision.Refused(sitting.Phase == Phase.Recess ? Reason.NoChange : Reason.NotInSession);
        if (Words.Length > Recess.LongestWords) return Decision.Refused(Reason.WordsTooLong, Remedy.Shorten);
        if (Minutes is < 1 or > Extend.LongestMinutes) return Decision.Refused(Reason.MinutesOutOfRange);
        var until = Minutes is { } minutes ? now + TimeSpan.FromMinutes(minutes) : (Instant?)null;
        return new RecessCalled(Bounds.Clean(Words), now, until, EndsItself && until is not null);
    }
}

/// <summary>Ends the recess.</summary>
public sealed record Resume : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Forbids(by, Capability.KeepTime)
            ?? (sitting.Recess is { } recess ? new RecessEnded(recess) : Decision.Refused(Reason.NoChange));
}

/// <summary>A recess's time is over.</summary>
public sealed record EndRecess : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Recess is { EndsItself: true, Until: { } until } recess && now >= until ? new RecessEnded(recess) : Decision.Of();

    /// <summary>When a recess ends by itself; null for never.</summary>
    public static Instant? Due(Sitting sitting) => sitting.Recess is { EndsItself: true, Until: { } until } ? until : null;
}

/// <summary>Sets when the session is planned to end; null leaves it open.</summary>
public sealed record SetEnd(Instant? To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (To is { } to && (to <= now || to - now > TimeSpan.FromMinutes(Extend.LongestMinutes)))
            return Decision.Refused(Reason.EndOutOfRange);
        return To == sitting.EndsAt ? Decision.Refused(Reason.NoChange) : new EndSet(sitting.EndsAt, To);
    }
}

/// <param name="Minutes">1 to 1,440, from the planned end, or from now when that has passed or there is none.</param>
public sealed record Extend(int Minutes) : SeatCommand
{
    internal const int LongestMinutes = 1_440;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (Minutes is < 1 or > LongestMinutes) return Decision.Refused(Reason.MinutesOutOfRange);
        var from = sitting.EndsAt is { } end && end > now ? end : now;
        return new EndSet(sitting.EndsAt, from + TimeSpan.FromMinutes(Minutes));
    }
}

/// <summary>How long a host's connection may be lost before the first deputy leads.</summary>
/// <param name="Seconds">30 to 3,600; null lets nobody take over by themselves.</param>
public sealed record SetSuccession(int? Seconds) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepTime) is { } refusal) return refusal;
        if (Seconds is < Succession.Shortest or > Succession.Longest) return Decision.Refused(Reason.MinutesOutOfRange);
        return Seconds == sitting.Succession ? Decision.Refused(Reason.NoChange) : new SuccessionSet(sitting.Succession, Seconds);
    }
}

/// <summary>The host's connection has been lost for long: the deputy who came first among those in reach leads.</summary>
public sealed record Succeed : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        Succession.Due(sitting) is { } due && now >= due && Succession.FirstDeputy(sitting) is { } deputy
            ? new HandedOver(sitting.Host!.Value, deputy.Id, deputy.Role, Role.Deputy)
            : Decision.Of();
}
