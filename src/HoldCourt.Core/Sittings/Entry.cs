using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

/// <summary>Something that happened. Each topic's folder holds its own; what all of them must answer is abstract here.</summary>
[Union("what")]
public abstract record Fact
{
    /// <summary>The state after it. Never fails for a fact that was decided for that state.</summary>
    internal abstract Sitting Apply(Sitting sitting, Instant at);

    /// <summary>The seats that it is about.</summary>
    internal abstract ImmutableArray<SeatId> About { get; }

    internal abstract Topic Topic { get; }

    /// <summary>Under what its sentence stands in the message catalogue.</summary>
    internal virtual string NameFor(Actor by) => CoreJson.NameOf(GetType());

    /// <summary>What the sentence says beside the names of people.</summary>
    internal virtual string? Detail => null;

    /// <summary>There is a sentence about it in the ledger.</summary>
    internal virtual bool StandsInLedger => true;

    /// <summary>An act on others or on the session, which the bench may
    /// take back, while <see cref="OppositeIn"/> finds something.</summary>
    internal virtual bool IsTakeable(SeatId by) => false;

    /// <summary>What would undo it now, for those to whom it still applies; null when nothing is left of it.</summary>
    internal virtual Fact? OppositeIn(Sitting sitting) => null;

    /// <summary>Whoever takes it back must be allowed to do this, too.</summary>
    internal virtual Capability? ToTakeBack => null;

    /// <summary>What happened, wherever it did.</summary>
    public virtual Fact Bare() => this;

    /// <summary>The facts it is made of, in order.</summary>
    internal virtual ImmutableArray<Fact> Within => [];

    /// <summary>The message that it changed; null when it changed none, or made a new one.</summary>
    internal virtual int? ChangedMessage => null;

    /// <summary>What the message is after it.</summary>
    internal virtual ChatMessage Changed(ChatMessage message) => message;
}

/// <summary>A fact with its place in the ledger: when, and by whom.</summary>
/// <param name="Sequence">1, 2, 3 … without gaps in each sitting.</param>
/// <param name="Wish">The id of the wish it answers, so that a wish whose answer was lost is not done twice; null for most.</param>
/// <param name="Follows">
/// What was judged because of it, and holds from then on: who is thought to be whom, whose visit is on. Null in entries of before it
/// was noted.
/// </param>
public sealed record Entry(
    long Sequence,
    Instant At,
    Actor By,
    Fact Fact,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Wish = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ImmutableArray<Fact>? Follows = null);
