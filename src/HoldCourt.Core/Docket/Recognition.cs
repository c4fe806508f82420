using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>How certain it is that the person at the door is somebody expected, in rising order of certainty.</summary>
public enum Match
{
    Unknown,

    /// <summary>The line is already inside, or claimed as well by somebody else who waits.</summary>
    Twice,

    /// <summary>Probably this line; wants a look.</summary>
    Likely,

    /// <summary>This line and no other, and nobody else claims it. Only these are admitted in bulk.</summary>
    Sure
}

/// <summary>Why a person is or is not thought to be a line. The words stand in the message catalogue.</summary>
public enum MatchReason
{
    PersonalLink, SameName, WordsInOtherOrder, JoinedWords, OtherSpelling, ShortForm, Initial, OneSlip, PartOfName, MoreWords,
    SlotNear, SlotFar, NearerSlot, SeveralFit, AlreadyInside, ClaimedTwice, DeviceName, NotOnDocket
}

/// <summary>A line that a person may be.</summary>
/// <param name="Score">0 to 1: how much of both names agrees, rare words weighing more.</param>
public readonly record struct Candidate(int Line, double Score, ImmutableArray<MatchReason> Reasons);

/// <summary>Who somebody at the door is thought to be.</summary>
/// <param name="Line">The docket's line; null when none comes near.</param>
/// <param name="Confidence">0 to 1.</param>
public sealed record Recognition(Match Match, int? Line, double Confidence, ImmutableArray<MatchReason> Reasons)
{
    /// <summary>There is no docket, so nobody is known and nobody is missing.</summary>
    public static Recognition NoDocket { get; } = new(Match.Unknown, null, 0, []);

    public static Recognition None { get; } = new(Match.Unknown, null, 0, [MatchReason.NotOnDocket]);

    public bool Equals(Recognition? other) =>
        other is not null && Match == other.Match && Line == other.Line && Confidence.Equals(other.Confidence)
            && Reasons.AsSpan().SequenceEqual(other.Reasons.AsSpan());

    public override int GetHashCode() => HashCode.Combine(Match, Line, Confidence);
}
