namespace HoldCourt.Core.Ledger;

/// <summary>Undoes an entry of the bench: the one named, or the newest that can be. The undoing is an entry itself.</summary>
public sealed record TakeBack(long? Of = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.TakeBack) is { } refusal) return refusal;
        var entry = Of is { } sequence ? sitting.Takeable.Find(taken => taken.Sequence == sequence) : Taking.Newest(sitting);
        if (entry is null) return Decision.Refused(Reason.NothingToTakeBack);
        if (entry.Fact.ToTakeBack is { } further && sitting.Forbids(by, further) is { } notAlone) return notAlone;
        return entry.Fact.OppositeIn(sitting) is { } opposite
            ? new TakenBack(entry.Sequence, opposite)
            : Decision.Refused(Reason.ChangedSince);
    }
}
