using System.Collections.Immutable;

namespace HoldCourt.Core.Ledger;

/// <param name="Of">Sequence of the entry undone.</param>
/// <param name="Opposite">What undoes it, for those to whom it still applies.</param>
public sealed record TakenBack(long Of, Fact Opposite) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Opposite.Apply(sitting, at);
    internal override ImmutableArray<SeatId> About => Opposite.About;
    internal override Topic Topic => Opposite.Topic;
    internal override bool StandsInLedger => Opposite.StandsInLedger;
    internal override int? ChangedMessage => Opposite.ChangedMessage;
    internal override ChatMessage Changed(ChatMessage message) => Opposite.Changed(message);
}
