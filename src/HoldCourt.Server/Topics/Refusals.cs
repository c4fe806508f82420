namespace HoldCourt.Server.Topics;

/// <summary>Why the server itself does not do something.</summary>
internal static class Refusals
{
    public static Refusal NotStored { get; } = new(Reason.NotStored, Remedy.TryAgain);
}
