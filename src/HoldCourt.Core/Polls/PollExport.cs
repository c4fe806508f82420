using System.Collections.Immutable;

namespace HoldCourt.Core.Polls;

/// <summary>What somebody answered in a poll that is not secret.</summary>
public sealed record NamedVote(string Name, Choice Choice);

/// <param name="Votes">Who chose what; empty for a secret poll.</param>
/// <param name="Ballots">What was in the box of a secret poll, in the order over which its digest goes; empty for others.</param>
public sealed record ExportedPoll(PollRow Poll, ImmutableArray<NamedVote> Votes, ImmutableArray<Choice> Ballots);

/// <summary>The polls of a sitting, for the bench to take home.</summary>
public sealed record PollExport(string Title, ImmutableArray<ExportedPoll> Polls)
{
    public static PollExport Of(Sitting sitting) => new(sitting.Title, [.. sitting.Polls.Asked
        .Where(poll => poll is { IsOpen: false, IsDropped: false })
        .Select(poll => new ExportedPoll(
            PollRow.Of(poll, books: true),
            poll.Form.Secret
                ? []
                : [.. poll.Votes.Where(vote => vote.Value is not null)
                    .Select(vote => new NamedVote(sitting.Seats[new SeatId(vote.Key)].Name, vote.Value!))],
            poll.Box ?? []))]);
}
