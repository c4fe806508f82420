using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Polls;

/// <summary>Replaces the questions that are prepared.</summary>
public sealed record PreparePolls(ImmutableArray<PollForm> Polls) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunPolls) is { } refusal) return refusal;
        if (PollBook.Refuses(Polls) is { } wrong) return wrong;
        var polls = PollBook.Clean(Polls);
        return polls.SequenceEqual(sitting.Polls.Prepared)
            ? Decision.AlreadySo
            : new PollsPrepared(sitting.Polls.Prepared, polls);
    }
}

/// <summary>Puts a question to people. One is open at a time.</summary>
public sealed record OpenPoll(PollForm Form) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunPolls) is { } refusal) return refusal;
        if (sitting.Polls.Open is not null) return Decision.Refused(Reason.PollIsOpen);
        if (sitting.Polls.Asked.Count >= PollBook.MostAsked) return Decision.Refused(Reason.TooManyPolls);
        var form = Form.Clean();
        if (form.Refuses() is { } bad) return bad;
        var voters = Polling.VotersOf(sitting, form);
        return Polling.Refuses(form, voters) ?? (Decision)new PollOpened(sitting.Polls.Asked.Count + 1, form, voters);
    }
}

/// <summary>Answers the question that is open, or answers it otherwise than before.</summary>
/// <param name="Poll">The one that was seen, so that nobody answers another by mistake.</param>
/// <param name="Token">
/// Of a secret poll: 32 hexadecimal digits that the voter's browser has made and alone keeps. Whoever has it changes that ballot.
/// </param>
public sealed record Vote(int Poll, Choice Choice, string? Token = null) : SeatCommand
{
    private const int TokenLength = 32;

    /// <summary>The box has a ballot of this token. The server looks; no browser can say so.</summary>
    [JsonIgnore]
    public bool IsTokenKnown { get; init; }

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id) return Decision.Refused(Reason.NotUnderstood);
        if (sitting.Polls.Open is not { } poll || poll.Number != Poll) return Decision.Refused(Reason.PollIsClosed);
        if (!poll.Voters.Contains(id.Number)) return Decision.Refused(Reason.NotVoter);
        var (choice, refusal) = Choice.For(poll.Form);
        if (refusal is not null) return refusal;
        var again = poll.Votes.TryGetValue(id.Number, out var before);
        if (!poll.Form.Secret) return again && choice == before ? Decision.AlreadySo : new VoteCast(Poll, id, choice!, again);
        if (!IsToken(Token)) return Decision.Refused(Reason.NotUnderstood);
        if (again && !IsTokenKnown) return Decision.Refused(Reason.VotedElsewhere);
        return !again && IsTokenKnown ? Decision.Refused(Reason.NotUnderstood) : new VoteBoxed(Poll, id, again);
    }

    /// <summary>What goes into the box once <see cref="Decide"/> has let it; null where there is no such answer.</summary>
    public Choice? BallotFor(PollForm form) => Choice.For(form).Clean;

    public static bool IsToken(string? token) => token is { Length: TokenLength } && token.All(char.IsAsciiHexDigitLower);
}

/// <summary>So much longer from now, or than it would have been.</summary>
/// <param name="Seconds">10 to 86,400.</param>
public sealed record GivePollTime(int Seconds) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunPolls) is { } refusal) return refusal;
        if (Seconds is < PollForm.ShortestSeconds or > PollForm.LongestSeconds) return Decision.Refused(Reason.PollTimeOutOfRange);
        return sitting.Polls.Open is { } poll
            ? new PollTimeGiven(poll.Number, poll.EndsAt, (poll.EndsAt ?? now) + TimeSpan.FromSeconds(Seconds))
            : Decision.Refused(Reason.NoPollOpen);
    }
}

public sealed record ClosePoll : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunPolls) is { } refusal) return refusal;
        return sitting.Polls.Open is { } poll ? new PollClosed(poll.Number, poll.Form.Text) : Decision.Refused(Reason.NoPollOpen);
    }
}

/// <summary>Calls the open poll off.</summary>
public sealed record DropPoll : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunPolls) is { } refusal) return refusal;
        return sitting.Polls.Open is { } poll ? new PollDropped(poll.Number, poll.Form.Text) : Decision.Refused(Reason.NoPollOpen);
    }
}

/// <summary>Shows a result to all inside, or hides it again.</summary>
public sealed record ShowResult(int Poll, bool On) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunPolls) is { } refusal) return refusal;
        if (sitting.Polls.Find(Poll) is not { IsDropped: false } poll) return Decision.Refused(Reason.NoSuchPoll);
        if (!poll.IsCounted) return Decision.Refused(poll.IsLost ? Reason.BoxIsLost : Reason.PollNotCounted);
        return poll.Shown == On ? Decision.AlreadySo : new ResultShown(Poll, On, poll.Form.Text);
    }
}

/// <summary>The poll's time is over.</summary>
public sealed record EndPoll : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Polls.Open is { EndsAt: { } end } poll && now >= end ? new PollClosed(poll.Number, poll.Form.Text) : Decision.Of();
}

/// <summary>The box of a secret poll was opened after it was closed.</summary>
/// <param name="Ballots">Null when that could not be done.</param>
public sealed record CountBox(int Poll, ImmutableArray<Choice>? Ballots) : HouseCommand
{
    internal override bool IsForTheEnd => true;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Polls.Find(Poll) is not { WaitsForItsBox: true } poll) return Decision.Of();
        if (poll.Votes.Count < PollForm.LeastInSecret) return new BoxLost(Poll, poll.Form.Text, TooFew: true);
        // One ballot for each who has voted, or somebody has been at the box.
        if (Ballots is not { } ballots || ballots.Length != poll.Votes.Count
            || ballots.Any(ballot => ballot.For(poll.Form).Clean is null)) return new BoxLost(Poll, poll.Form.Text);
        var sorted = SecretBox.InOrder(ballots);
        return new BoxCounted(Poll, sorted, SecretBox.DigestOf(sorted));
    }
}
