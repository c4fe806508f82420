namespace HoldCourt.Core.Chat;

/// <summary>Whom a message reaches.</summary>
public enum Reach { Everyone, Bench, One }

/// <param name="Seat">Set exactly when <paramref name="Reach"/> is <see cref="Reach.One"/>.</param>
public sealed record Recipient(Reach Reach, SeatId? Seat = null)
{
    internal bool IsMeaningful => Enum.IsDefined(Reach) && (Reach == Reach.One) == Seat.HasValue;

    /// <summary>What one must be allowed to do to write so.</summary>
    internal Capability ToWrite => Reach switch
    {
        Reach.Everyone => Capability.WriteToAll,
        Reach.Bench => Capability.WriteToBench,
        _ => Capability.WriteToOne
    };
}

public enum Question { None, Asked, Answered }

public enum Deletion { None, BySender, ByBench }

/// <param name="Number">1, 2, 3 … in each sitting.</param>
/// <param name="Text">Empty once it is deleted.</param>
/// <param name="Room">Where it was written; null for the hall.</param>
public sealed record ChatMessage(
    int Number, Instant At, SeatId From, Recipient To, string Text, Question Question = Question.None, bool Edited = false,
    Deletion Deleted = Deletion.None, int Edits = 0, int? Room = null)
{
    /// <summary>Longest text, in UTF-16 units after its ends are trimmed.</summary>
    public const int LongestText = 4_000;

    internal static Refusal? RefusesText(string? text) =>
        Bounds.Clean(text) is not { Length: > 0 } clean ? new Refusal(Reason.MessageEmpty)
        : clean.Length > LongestText ? new Refusal(Reason.MessageTooLong, Remedy.Shorten)
        : null;
}
