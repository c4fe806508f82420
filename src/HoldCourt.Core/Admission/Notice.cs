namespace HoldCourt.Core.Admission;

/// <summary>A one-way message from the bench to everybody who waits.</summary>
public sealed record Notice(Instant At, string Words);
