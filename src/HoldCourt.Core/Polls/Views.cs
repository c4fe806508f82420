using System.Collections.Immutable;

namespace HoldCourt.Core.Polls;

/// <summary>A poll as it may be seen.</summary>
/// <param name="Form">Who may vote is for the bench alone; to others it says that everybody may.</param>
/// <param name="Turnout">How many have voted; for the bench, and with a result that is shown.</param>
/// <param name="Result">For the bench, and for all once it is shown; of a secret poll only when it is counted.</param>
/// <param name="TooFew">It was not counted, since so few voted that it would not have stayed secret.</param>
/// <param name="Digest">Of a secret poll's box, once it is counted.</param>
public sealed record PollRow(
    int Number, PollForm Form, Instant OpenedAt, Instant? EndsAt, Instant? ClosedAt, int? Voters, int? Turnout, PollResult? Result,
    bool Shown, bool Lost, bool TooFew, string? Digest)
{
    internal static PollRow Of(Poll poll, bool books)
    {
        var known = books || poll.Shown;
        return new PollRow(
            Number: poll.Number,
            Form: books ? poll.Form : poll.Form with { Who = Electorate.Everybody, Quorum = known ? poll.Form.Quorum : null },
            OpenedAt: poll.OpenedAt,
            EndsAt: poll.EndsAt,
            ClosedAt: poll.ClosedAt,
            Voters: known ? poll.Voters.Count : null,
            Turnout: known ? poll.Votes.Count : null,
            Result: known ? poll.Result : null,
            Shown: poll.Shown,
            Lost: books && poll.IsLost,
            TooFew: books && poll.HasTooFew,
            Digest: known ? poll.Digest : null);
    }
}

/// <summary>Questions that are put to people.</summary>
/// <param name="Open">The one that is open; null for those outside, too.</param>
/// <param name="Over">Those that are closed, newest last: to the bench all of them, to others those whose result is shown.</param>
/// <param name="Prepared">For the bench alone.</param>
public sealed record PollsFacet(PollRow? Open, ImmutableArray<PollRow> Over, ImmutableArray<PollForm> Prepared)
    : IFacet<PollsFacet>
{
    private static readonly PollsFacet _none = new(null, [], []);

    public static PollsFacet Of(Sitting sitting, Viewpoint from)
    {
        var book = sitting.Polls;
        if (!sitting.MayKnow(from, Matter.Inside) || (book.Asked.IsEmpty && book.Prepared.IsEmpty)) return _none;
        var books = sitting.MayKnow(from, Matter.Books);
        // Where people come for visits, what one visitor was shown is not for the next.
        var since = sitting.Docket.HasSlots && !books ? sitting.Visits.LastOrDefault()?.From : null;
        return new PollsFacet(
            book.Open is { } open ? PollRow.Of(open, books) : null,
            [.. book.Asked.Where(poll => poll is { IsOpen: false, IsDropped: false } && (books || poll.Shown)
                    && (since is not { } begun || poll.OpenedAt >= begun))
                .Select(poll => PollRow.Of(poll, books))],
            books ? book.Prepared : []);
    }

    public static bool IsSame(Step step) => ReferenceEquals(step.Before.Polls, step.After.Polls)
        && ReferenceEquals(step.Before.Visits, step.After.Visits);

    public static bool AltersRows(Step step) => !ReferenceEquals(step.Before.Polls.Open?.Voters, step.After.Polls.Open?.Voters);

    public static IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        before.Polls.Open?.Number == after.Polls.Open?.Number ? [] : all;

    public bool Equals(PollsFacet? other) =>
        other is not null && Open == other.Open && Over.SequenceEqual(other.Over) && Prepared.SequenceEqual(other.Prepared);

    public override int GetHashCode() => HashCode.Combine(Open?.Number, Over.Length, Prepared.Length);
}

/// <summary>One's own vote in the poll that is open.</summary>
/// <param name="May">One may vote in it.</param>
/// <param name="Choice">What one has answered; null in a secret poll, where nobody knows.</param>
public sealed record BallotRow(int Poll, bool May, bool Voted, Choice? Choice)
{
    internal static BallotRow? Of(Sitting sitting, Seat seat) => seat.IsSeated && sitting.Polls.Open is { } poll
        ? new BallotRow(
            poll.Number, poll.Voters.Contains(seat.Id.Number), poll.Votes.ContainsKey(seat.Id.Number),
            poll.Votes.GetValueOrDefault(seat.Id.Number))
        : null;
}
