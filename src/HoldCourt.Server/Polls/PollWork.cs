using System.Collections.Immutable;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Polls;

namespace HoldCourt.Server.Polls;

/// <summary>What is asked of the polls of a sitting.</summary>
internal interface ISittingPolls : IGrainExtension
{
    /// <summary>The polls that are over, for the bench; null for everybody else.</summary>
    Task<PollExport?> Export(PersonKey person);
}

/// <summary>Secret polls: who has voted goes into the ledger, and what they chose into a box.</summary>
internal sealed partial class PollWork : TopicWork, ISittingPolls
{
    private static readonly TimeSpan _betweenLooks = TimeSpan.FromSeconds(10);

    private readonly BallotBoxes _boxes;
    private readonly Supervisor _supervisor;
    private readonly ILogger<PollWork> _log;
    private readonly HashSet<int> _destroyed = [];

    /// <summary>Keys of the ballots in the box of the secret poll that is open, those too that are on their way.</summary>
    private (int Poll, Task<HashSet<string>> Keys)? _box;

    public PollWork(BallotBoxes boxes, Supervisor supervisor, ILogger<PollWork> log)
    {
        (_boxes, _supervisor, _log) = (boxes, supervisor, log);
        Before<Vote>((_, vote, _) => Known(vote));
        AtDecision<Vote>(KnownNow);
        StoreWith<Vote>(BallotOf);
        At(sitting => sitting.IsRunning ? sitting.Polls.Open?.EndsAt : null, new EndPoll());
        // The database may have been locked when the poll was closed.
        Every(_betweenLooks, () => Inside.Shown is { IsRunning: true, Polls: var polls } && polls.Asked.Any(poll => poll.WaitsForItsBox)
            ? CountBoxes()
            : Task.CompletedTask);
    }

    public override string Name => "boxes";

    public override Task Woke() => CountBoxes();

    public override void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (!ReferenceEquals(before.Polls, after.Polls)) _supervisor.Begin(Name, CountBoxes);
    }

    /// <summary>What may be known of a vote before it is decided: whether its token's ballot is in the box.</summary>
    private async Task<Prepared> Known(Vote vote)
    {
        if (vote.Token is not { } token || Inside.Latest.Polls.Open is not { Form.Secret: true } poll
            || poll.Number != vote.Poll || !Vote.IsToken(token)) return new Prepared(vote);
        if (_box?.Poll != poll.Number) _box = (poll.Number, _boxes.KeysOf(Inside.Id, poll.Number));
        try
        {
            return new Prepared(vote with { IsTokenKnown = (await _box.Value.Keys).Contains(BallotBoxes.KeyOf(token)) });
        }
        catch (Exception)
        {
            // The database was locked, or the disk is broken: the next vote looks again.
            _box = null;
            throw;
        }
    }

    /// <summary>Between the look and the decision somebody else may have put in the same token.</summary>
    private Vote KnownNow(Vote vote) => vote.Token is { } token && _box is { Keys: { IsCompletedSuccessfully: true } keys }
        ? vote with { IsTokenKnown = keys.Result.Contains(BallotBoxes.KeyOf(token)) }
        : vote;

    /// <summary>The ballot that goes with the facts, or why it could not be counted; neither where none goes with them.</summary>
    private StoredWith BallotOf(Vote vote, Decision decision)
    {
        if (vote.Token is not { } token || decision.Facts is not [VoteBoxed { Again: var again }]) return StoredWith.Nothing;
        var poll = Inside.Latest.Polls.Find(vote.Poll)!;
        try
        {
            if (_boxes.KeyFor(Inside.Id, poll) is not { } key) return new StoredWith(Refusal: new Refusal(Reason.BoxIsLost));
            var ballot = BallotBoxes.Seal(key, Inside.Id, poll, token, vote.BallotFor(poll.Form)!);
            _box!.Value.Keys.Result.Add(BallotBoxes.KeyOf(token));
            return new StoredWith(new BallotWrite(ballot, again));
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            LogBoxNotCounted(e, Inside.Id);
            return new StoredWith(Refusal: new Refusal(Reason.NotStored, Remedy.TryAgain));
        }
    }

    /// <summary>Opens the boxes of polls that are closed, and destroys those that nobody needs any more.</summary>
    private async Task CountBoxes()
    {
        try
        {
            foreach (var poll in Inside.Latest.Polls.Asked.Where(poll => poll.WaitsForItsBox))
                await Inside.Wish(Actor.House, new CountBox(poll.Number, await _boxes.Open(Inside.Id, poll.Number)));
            // Only what is on disk: a key is not destroyed for a count that may still be lost.
            var over = Inside.Shown.Polls.Asked.Where(poll => poll is { Form.Secret: true, IsOpen: false, WaitsForItsBox: false });
            foreach (var poll in over.ToList())
                if (_destroyed.Add(poll.Number)) await _boxes.Destroy(Inside.Id, poll.Number);
        }
        catch (Exception e)
        {
            LogBoxNotCounted(e, Inside.Id);
        }
    }

    public Task<PollExport?> Export(PersonKey person)
    {
        var sitting = Inside.Shown;
        return Task.FromResult(sitting.KnowsBooks(person) ? PollExport.Of(sitting) : null);
    }

    [LoggerMessage(LogLevel.Error, "Sitting {Sitting}: a box could not be counted")]
    private partial void LogBoxNotCounted(Exception e, Guid sitting);
}
