using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Polls;

public sealed record PollsPrepared(ImmutableArray<PollForm> From, ImmutableArray<PollForm> To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Polls = sitting.Polls with { Prepared = To } };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string? Detail => To.Length.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Polls.Prepared.SequenceEqual(To) ? new PollsPrepared(To, From) : null;
}

/// <param name="Voters">Who may vote.</param>
public sealed record PollOpened(int Number, PollForm Form, ImmutableArray<SeatId> Voters) : Fact
{
    /// <summary>The prepared question of these words; null when there is none, somebody votes already, or nobody could.</summary>
    internal static PollOpened? Towards(Sitting sitting, string? asks)
    {
        if (asks is null || sitting.Polls.Open is not null || sitting.Polls.Asked.Count >= PollBook.MostAsked) return null;
        var form = sitting.Polls.Prepared.FirstOrDefault(form => form.Text.Equals(asks, StringComparison.OrdinalIgnoreCase));
        return form is not null && Polling.VotersOf(sitting, form) is var voters && Polling.Refuses(form, voters) is null
            ? new PollOpened(sitting.Polls.Asked.Count + 1, form, voters)
            : null;
    }

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Polls = sitting.Polls with
        {
            Asked = sitting.Polls.Asked.Add(new Poll(
                Number, Form, at, Form.Seconds is { } seconds ? at + TimeSpan.FromSeconds(seconds) : null,
                [.. Voters.Select(voter => voter.Number)]))
        }
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string NameFor(Actor by) => Form.Secret ? "secretPollOpened" : base.NameFor(by);
    internal override string? Detail => Form.Text;
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Polls.Open is { } open && open.Number == Number ? new PollDropped(Number, Form.Text) : null;
}

/// <summary>They came in while a poll was open that lets late people vote.</summary>
public sealed record VotersCame(int Number, ImmutableArray<SeatId> Voters) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Polls = sitting.Polls.With(Number, poll => poll with { Voters = poll.Voters.Union(Voters.Select(voter => voter.Number)) })
    };

    internal override ImmutableArray<SeatId> About => Voters;
    internal override Topic Topic => Topic.Polls;
    internal override bool StandsInLedger => false;
}

/// <param name="Again">It takes the place of an earlier vote.</param>
public sealed record VoteCast(int Number, SeatId Seat, Choice Choice, bool Again) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Voted(sitting, Number, Seat, Choice);

    internal static Sitting Voted(Sitting sitting, int number, SeatId seat, Choice? choice) => (sitting with
    {
        Polls = sitting.Polls.With(number, poll => poll with { Votes = poll.Votes.SetItem(seat.Number, choice) })
    }).With(seat, voter => voter with { VotedIn = number });

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Polls;
    internal override string NameFor(Actor by) => Again ? "voteChanged" : base.NameFor(by);
}

/// <summary>Somebody has voted in a secret poll. What they chose is in the box, and not here.</summary>
/// <param name="Again">It takes the place of an earlier vote.</param>
public sealed record VoteBoxed(int Number, SeatId Seat, bool Again) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => VoteCast.Voted(sitting, Number, Seat, null);
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Polls;
    internal override string NameFor(Actor by) => Again ? "voteChanged" : "voteCast";
}

/// <param name="From">Until when it was open; null for no limit.</param>
public sealed record PollTimeGiven(int Number, Instant? From, Instant To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Polls = sitting.Polls.With(Number, poll => poll with { EndsAt = To }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
}

public sealed record PollClosed(int Number, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Polls = sitting.Polls.With(Number, poll => poll with { ClosedAt = at }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string? Detail => Text;
    internal override bool IsTakeable(SeatId by) => true;

    /// <summary>A box that is being opened is not shut again.</summary>
    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Polls.Find(Number) is { IsDropped: false, ClosedAt: not null, Form.Secret: false, Shown: false }
            && sitting.Polls.Asked.Count == Number
            ? new PollReopened(Number, Text)
            : null;
}

/// <summary>On the way back: it is open again, without a limit.</summary>
public sealed record PollReopened(int Number, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Polls = sitting.Polls.With(Number, poll => poll with { ClosedAt = null, EndsAt = null }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string? Detail => Text;
}

/// <summary>It is called off. Nothing of it counts, and a box is destroyed unopened.</summary>
public sealed record PollDropped(int Number, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Polls = sitting.Polls.With(Number, poll => poll with { IsDropped = true, ClosedAt = at, Shown = false, Votes = poll.Votes.Clear() })
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string? Detail => Text;
}

/// <param name="Ballots">In the order of <see cref="SecretBox.InOrder"/>.</param>
/// <param name="Digest">Theirs, by <see cref="SecretBox.DigestOf"/>.</param>
public sealed record BoxCounted(int Number, ImmutableArray<Choice> Ballots, string Digest) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Polls = sitting.Polls.With(Number, poll => poll with { Box = Ballots, Digest = Digest }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string? Detail => Digest;
}

/// <summary>The box of a secret poll could not be opened since its key is gone, or was not, since so few voted.</summary>
public sealed record BoxLost(int Number, string Text, bool TooFew = false) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Polls = sitting.Polls.With(Number, poll => poll with { IsLost = true, HasTooFew = TooFew }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string NameFor(Actor by) => TooFew ? "boxUnopened" : base.NameFor(by);
    internal override string? Detail => Text;
}

public sealed record ResultShown(int Number, bool On, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Polls = sitting.Polls.With(Number, poll => poll with { Shown = On }) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Polls;
    internal override string NameFor(Actor by) => On ? base.NameFor(by) : "resultHidden";
    internal override string? Detail => Text;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Polls.Find(Number) is { IsCounted: true } poll && poll.Shown == On ? new ResultShown(Number, !On, Text) : null;
}
