using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Ledger;

/// <summary>What an entry is about, for those who look for it.</summary>
public enum Topic
{
    Door, People, Microphones, Cameras, Orders, Floor, Chat, Picture, RunSheet, Time, Connections, Exhibits, Files, Recording,
    Captions, Polls, Rooms
}

/// <summary>An entry for a sentence: what happened, by whom, to how many, and the names in it. Person keys stay out.</summary>
/// <param name="By">Null when it was the house.</param>
/// <param name="Room">The room in which it happened, by its name or place; null for the hall.</param>
public sealed record LedgerRow(
    long Sequence,
    Instant At,
    string What,
    int Count,
    ImmutableArray<string> Names,
    Topic Topic,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? By = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Detail = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] LedgerRow? Undone = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Room = null)
{
    public bool Equals(LedgerRow? other) =>
        other is not null && Sequence == other.Sequence && At == other.At && By == other.By && What == other.What && Count == other.Count
        && Names.SequenceEqual(other.Names) && Detail == other.Detail && Undone == other.Undone && Topic == other.Topic
        && Room == other.Room;

    public override int GetHashCode() => HashCode.Combine(Sequence, What, Count);
}

/// <summary>What "take back" would undo.</summary>
public sealed record TakeableRow(long Sequence, LedgerRow Row);

/// <param name="Newest">For the bench alone.</param>
public sealed record TakeBackFacet(TakeableRow? Newest) : IFacet<TakeBackFacet>
{
    public static TakeBackFacet Of(Sitting sitting, Viewpoint from) =>
        new(sitting.MayKnow(from, Matter.Books) && Taking.Newest(sitting) is { } newest
            ? new TakeableRow(newest.Sequence, Sentences.Of(sitting, newest))
            : null);

    // Whether something is left to take back depends on all that has happened since.
    public static bool IsSame(Step step) => step.Before.Takeable.IsEmpty && step.After.Takeable.IsEmpty;
}

/// <param name="Sequences">The entries that may still be taken back, newest first; for the bench alone.</param>
public sealed record TakeableFacet(ImmutableArray<long>? Sequences) : IFacet<TakeableFacet>
{
    public static TakeableFacet Of(Sitting sitting, Viewpoint from) =>
        new(sitting.MayKnow(from, Matter.Books) ? [.. sitting.Takeable.Select(entry => entry.Sequence)] : null);

    public static bool IsSame(Step step) => ReferenceEquals(step.Before.Takeable, step.After.Takeable);
}
