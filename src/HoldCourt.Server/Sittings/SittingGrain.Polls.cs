using HoldCourt.Server.Polls;
using HoldCourt.Store.Polls;

namespace HoldCourt.Server.Sittings;

/// <summary>Secret polls: who has voted goes into the ledger, and what they chose into a box.</summary>
internal sealed partial class SittingGrain
{
    /// <summary>Keys of the ballots in the box of the secret poll that is open, those too that are on their way.</summary>
    private (int Poll, Task<HashSet<string>> Keys)? _box;

    /// <summary>What may be known of a vote before it is decided: whether its token's ballot is in the box.</summary>
    private async Task<Command> Known(Command command)
    {
        if (command is not Vote { Token: { } token } vote || _sitting.Polls.Open is not { Form.Secret: true } poll
            || poll.Number != vote.Poll || !Vote.IsToken(token)) return command;
        if (_box?.Poll != poll.Number) _box = (poll.Number, boxes.KeysOf(Id, poll.Number));
        try
        {
            return vote with { IsTokenKnown = (await _box.Value.Keys).Contains(BallotBoxes.KeyOf(token)) };
        }
        catch (Exception)
        {
            // The database was locked, or the disk is broken: the next vote looks again.
            _box = null;
            throw;
        }
    }

    /// <summary>Between the look and the decision somebody else may have put in the same token.</summary>
    private Command KnownNow(Command command) =>
        command is Vote { Token: { } token } vote && _box is { Keys: { IsCompletedSuccessfully: true } keys }
            ? vote with { IsTokenKnown = keys.Result.Contains(BallotBoxes.KeyOf(token)) }
            : command;

    /// <summary>The ballot that goes with the facts, or why it could not be counted; neither where none goes with them.</summary>
    private (BallotWrite? Ballot, Refusal? Refusal) BallotOf(Command command, Decision decision)
    {
        if (command is not Vote { Token: { } token } vote || decision.Facts is not [VoteBoxed { Again: var again }]) return (null, null);
        var poll = _sitting.Polls.Find(vote.Poll)!;
        try
        {
            if (boxes.KeyFor(Id, poll) is not { } key) return (null, new Refusal(Reason.BoxIsLost));
            var ballot = BallotBoxes.Seal(key, Id, poll, token, vote.BallotFor(poll.Form)!);
            _box!.Value.Keys.Result.Add(BallotBoxes.KeyOf(token));
            return (new BallotWrite(ballot, again), null);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            LogBoxNotCounted(e, Id);
            return (null, _notStored);
        }
    }

    /// <summary>Opens the boxes of polls that are closed, and destroys those that nobody needs any more.</summary>
    private async Task CountBoxes()
    {
        try
        {
            foreach (var poll in _sitting.Polls.Asked.Where(poll => poll.WaitsForItsBox))
                await Commit(Actor.House, new CountBox(poll.Number, await boxes.Open(Id, poll.Number)));
            // Only what is on disk: a key is not destroyed for a count that may still be lost.
            foreach (var poll in _shown.Polls.Asked.Where(poll => poll is { Form.Secret: true, IsOpen: false, WaitsForItsBox: false }))
                if (_destroyed.Add(poll.Number)) await boxes.Destroy(Id, poll.Number);
        }
        catch (Exception e)
        {
            LogBoxNotCounted(e, Id);
        }
    }

    private readonly HashSet<int> _destroyed = [];

    public async Task<PollExport?> ExportPolls(PersonKey person)
    {
        var sitting = _shown;
        return await ReadsLedger(person) ? PollExport.Of(sitting) : null;
    }

    [LoggerMessage(LogLevel.Error, "Sitting {Sitting}: a box could not be counted")]
    private partial void LogBoxNotCounted(Exception e, Guid sitting);
}
