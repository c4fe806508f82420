using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Polls;

/// <summary>A question that was put to people.</summary>
/// <param name="Number">1, 2, 3 … in each sitting.</param>
/// <param name="Voters">Numbers of the seats that may vote.</param>
public sealed record Poll(int Number, PollForm Form, Instant OpenedAt, Instant? EndsAt, ImmutableSortedSet<int> Voters)
{
    /// <summary>Who has voted, by number of the seat, and what; a secret poll keeps no more than who.</summary>
    public ImmutableSortedDictionary<int, Choice?> Votes { get; init; } = ImmutableSortedDictionary<int, Choice?>.Empty;

    /// <summary>Null while it is open.</summary>
    public Instant? ClosedAt { get; init; }

    /// <summary>What was in the box, in an order that says nothing; null until a secret poll is counted.</summary>
    public ImmutableArray<Choice>? Box { get; init; }

    /// <summary>SHA-256 of the box, as <see cref="SecretBox.DigestOf"/> makes it.</summary>
    public string? Digest { get; init; }

    /// <summary>The box could not be opened.</summary>
    public bool IsLost { get; init; }

    /// <summary>So few have voted that it would not have stayed secret: the box was destroyed unopened.</summary>
    public bool HasTooFew { get; init; }

    /// <summary>All inside see the result.</summary>
    public bool Shown { get; init; }

    /// <summary>It was called off, and nothing of it counts.</summary>
    public bool IsDropped { get; init; }

    [JsonIgnore]
    public bool IsOpen => ClosedAt is null && !IsDropped;

    [JsonIgnore]
    public bool IsCounted => ClosedAt is not null && !IsDropped && !IsLost && (!Form.Secret || Box is not null);

    /// <summary>A secret poll that is closed, and whose box is still shut.</summary>
    [JsonIgnore]
    public bool WaitsForItsBox => Form.Secret && ClosedAt is not null && !IsDropped && !IsLost && Box is null;

    /// <summary>As it stands. Null while nobody may know, the bench included: of a secret poll until it is counted.</summary>
    [JsonIgnore]
    public PollResult? Result => _result ??= Count();

    private PollResult? _result;

    private PollResult? Count() => IsDropped || IsLost || (Form.Secret && Box is null)
        ? null
        : PollCount.Of(Form, Box ?? [.. Votes.Values.OfType<Choice>()], Voters.Count);

    /// <summary>A change counts anew.</summary>
    private Poll(Poll other)
    {
        (Number, Form, OpenedAt, EndsAt, Voters) = (other.Number, other.Form, other.OpenedAt, other.EndsAt, other.Voters);
        (Votes, ClosedAt, Box, Digest) = (other.Votes, other.ClosedAt, other.Box, other.Digest);
        (IsLost, HasTooFew, Shown, IsDropped) = (other.IsLost, other.HasTooFew, other.Shown, other.IsDropped);
    }

    public bool Equals(Poll? other) => ReferenceEquals(this, other);
    public override int GetHashCode() => Number;
}

/// <summary>The questions of a sitting.</summary>
/// <param name="Prepared">Not asked yet, or to be asked again.</param>
/// <param name="Asked">In the order in which they were opened; the last one alone may be open.</param>
public sealed record PollBook(ImmutableArray<PollForm> Prepared, ImmutableList<Poll> Asked)
{
    public const int MostPrepared = 50, MostAsked = 100;

    public static PollBook Empty { get; } = new([], []);

    /// <summary>Why these questions cannot be prepared, or null.</summary>
    public static Refusal? Refuses(ImmutableArray<PollForm> forms) => forms.IsDefault || forms.Length > MostPrepared
        ? new Refusal(Reason.TooManyPolls)
        : Clean(forms).Select(form => form.Refuses()).FirstOrDefault(bad => bad is not null);

    /// <summary>The questions as they may be kept.</summary>
    public static ImmutableArray<PollForm> Clean(ImmutableArray<PollForm> forms) => [.. forms.Select(form => form.Clean())];

    [JsonIgnore]
    public Poll? Open => Asked is [.., { IsOpen: true } last] ? last : null;

    public Poll? Find(int number) => number >= 1 && number <= Asked.Count ? Asked[number - 1] : null;

    internal PollBook With(int number, Func<Poll, Poll> change) =>
        this with { Asked = Asked.SetItem(number - 1, change(Asked[number - 1])) };
}

internal static class Polling
{
    /// <summary>Why these cannot vote in it, or null.</summary>
    public static Refusal? Refuses(PollForm form, ImmutableArray<SeatId> voters) =>
        voters is [] ? new Refusal(Reason.NobodyMayVote)
        : form.Secret && voters.Length < PollForm.LeastInSecret ? new Refusal(Reason.TooFewForSecret) : null;

    /// <summary>Those who may vote in a poll that is opened now. Whoever came twice by one personal link votes once.</summary>
    public static ImmutableArray<SeatId> VotersOf(Sitting sitting, PollForm form)
    {
        var links = new HashSet<string>(Persons.KeyComparer);
        return
        [
            .. sitting.Seats.Where(seat => form.Who.Holds(sitting, seat) && Persons.KeysOf(seat).All(links.Add)).Select(seat => seat.Id)
        ];
    }

    /// <summary>Whoever has come in and may vote late.</summary>
    public static Fact? Note(Sitting before, Sitting after)
    {
        if (after.Polls.Open is not { Form.Late: true } poll || ReferenceEquals(before.Seats, after.Seats)) return null;
        HashSet<string>? taken = null;
        var late = ImmutableArray.CreateBuilder<SeatId>();
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            if (was is { IsSeated: true } || poll.Voters.Contains(now.Id.Number) || !poll.Form.Who.Holds(after, now)) continue;
            taken ??= new HashSet<string>(
                poll.Voters.SelectMany(number => Persons.KeysOf(after.Seats[new SeatId(number)])), Persons.KeyComparer);
            if (Persons.KeysOf(now).All(taken.Add)) late.Add(now.Id);
        }
        return late.Count > 0 ? new VotersCame(poll.Number, late.ToImmutable()) : null;
    }

    /// <summary>With the session a poll ends.</summary>
    public static Sitting Follow(Sitting sitting, Instant at) => sitting is { Phase: Phase.Adjourned, Polls.Open: { } open }
        ? sitting with { Polls = sitting.Polls.With(open.Number, poll => poll with { ClosedAt = at }) }
        : sitting;
}
