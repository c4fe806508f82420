namespace HoldCourt.Core.Admission;

/// <summary>A one-way message from the bench to everybody who waits.</summary>
public sealed record Notice(Instant At, string Words)
{
    /// <summary>In UTF-16 units.</summary>
    public const int LongestWords = 500;

    /// <summary>How many those who wait can read back.</summary>
    public const int MostKept = 20;
}
