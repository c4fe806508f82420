using HoldCourt.Store.Ledger;

namespace HoldCourt.Store.Polls;

/// <summary>
/// A ballot of a secret poll that is open, or was closed a moment ago. Nothing in it says whose it is, when it came, or after which:
/// its place in the table goes by <see cref="Key"/> alone (the table has no row ids), and all of a poll are of one size.
/// </summary>
public sealed class BallotRecord
{
    public Guid SittingId { get; init; }
    public int Poll { get; init; }

    /// <summary>SHA-256 of the token that the voter's browser keeps.</summary>
    public required byte[] Key { get; init; }

    /// <summary>What was chosen, enciphered with a key that is not in the database.</summary>
    public required byte[] Sealed { get; set; }
}

/// <summary>A ballot on its way into the box.</summary>
/// <param name="Again">It takes the place of one of the same key.</param>
public sealed record BallotWrite(BallotRecord Ballot, bool Again) : IStoredWith
{
    /// <summary>Of several changes of one ballot in a transaction the last one holds.</summary>
    public void Put(CourtDb db)
    {
        if (!Again) db.Ballots.Add(Ballot);
        else if (db.Ballots.Local.FirstOrDefault(other => other.SittingId == Ballot.SittingId && other.Poll == Ballot.Poll
            && other.Key.AsSpan().SequenceEqual(Ballot.Key)) is { } waiting) waiting.Sealed = Ballot.Sealed;
        else db.Ballots.Update(Ballot);
    }
}
