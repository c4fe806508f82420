namespace HoldCourt.Core.Timing;

/// <summary>Everybody stays, and pictures and voices rest.</summary>
/// <param name="Words">What stands on the holding picture.</param>
/// <param name="Until">Null when it has no planned end.</param>
/// <param name="EndsItself">The session goes on when the time is over; otherwise that is only said.</param>
public sealed record Recess(string Words, Instant Since, Instant? Until, bool EndsItself)
{
    /// <summary>In UTF-16 units.</summary>
    public const int LongestWords = 500;
}
