using System.Collections.Immutable;

namespace HoldCourt.Core.Floor;

/// <summary>How long each of these was heard, in milliseconds. Nobody's deed, and left out of the ledger's sentences.</summary>
public sealed record Talked(ImmutableArray<SeatId> Seats, ImmutableArray<long> Milliseconds) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Seats.Zip(Milliseconds).Aggregate(sitting, (state, pair) =>
        state.With(pair.First, seat => seat with { TalkTime = seat.TalkTime + TimeSpan.FromMilliseconds(pair.Second) })
            .Heard(pair.First, at));

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Floor;
    internal override bool StandsInLedger => false;
}

public sealed record HandRaised(SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Seat, seat => seat with { HandSince = at });
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Floor;
}

public sealed record HandsLowered(ImmutableArray<SeatId> Seats, ImmutableArray<Instant> Since) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithEach(Seats, seat => seat with { HandSince = null });
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Floor;
    internal override string NameFor(Actor by) => Seats.IsOnly(by.Seat) ? "handLowered" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => !Seats.IsOnly(by);

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var pairs = Seats.Zip(Since)
            .Where(pair => sitting.Seats[pair.First].HandSince is null && sitting.IsHere(pair.First)
                && sitting.Turn?.Seat != pair.First).ToList();
        return pairs is [] ? null : new HandsBack([.. pairs.Select(pair => pair.First)], [.. pairs.Select(pair => pair.Second)]);
    }
}

/// <summary>On the way back: hands are up again, each since when it was.</summary>
public sealed record HandsBack(ImmutableArray<SeatId> Seats, ImmutableArray<Instant> Since) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Seats.Zip(Since).Aggregate(sitting, (state, pair) =>
        state.With(pair.First, seat => seat with { HandSince = pair.Second }));

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Floor;
}

/// <param name="From">The turn that ended; null when nobody had the floor.</param>
/// <param name="Mutes">Whoever had it may not go on speaking.</param>
/// <param name="Spent">In milliseconds, the length of the turn that ended.</param>
/// <param name="To">Null when nobody has the floor now.</param>
/// <param name="Lends">May speak only while having it.</param>
/// <param name="Opens">The microphone opens at once, by consent.</param>
/// <param name="Asks">The person is asked to open it.</param>
/// <param name="Hand">Since when the hand was up that this answers.</param>
public sealed record FloorTurned(
    Turn? From, bool Mutes, long Spent, SeatId? To, int? Seconds, bool Lends, bool Opens, bool Asks, Instant? Hand) : Fact
{
    /// <summary>Nobody had it, and nobody has it.</summary>
    internal static FloorTurned ToNobody { get; } =
        new(From: null, Mutes: false, Spent: 0, To: null, Seconds: null, Lends: false, Opens: false, Asks: false, Hand: null);

    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var free = Without(sitting, From, Mutes, null, Spent);
        return To is not { } to ? free : (free with { Turn = new Turn(to, at, Seconds, Lends) }).With(to, seat => seat with
        {
            HandSince = null,
            HasLeave = seat.HasLeave || Lends,
            MicrophoneOpen = seat.MicrophoneOpen || Opens,
            Asked = Asks
        });
    }

    internal override ImmutableArray<SeatId> About => To is { } to ? [to] : From is { } from ? [from.Seat] : [];
    internal override Topic Topic => Topic.Floor;

    internal override string NameFor(Actor by) =>
        To is not null ? "floorGiven" : by.IsHouse ? "turnOver" : by.Seat == From?.Seat ? "floorYielded" : "floorTaken";

    internal override bool IsTakeable(SeatId by) => From?.Seat != by || To is not null;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (sitting.Turn?.Seat != To) return null;
        var back = From is { } before && sitting.IsHere(before.Seat) ? before : null;
        if (back is null && sitting.Turn is null) return null;
        return new FloorReturned(sitting.Turn, sitting.Turn?.EndSilences(sitting) == true, Hand, back, back is not null && Mutes, Spent);
    }

    /// <summary>Nobody has the floor any more.</summary>
    internal static Sitting Without(Sitting sitting, Turn? turn, bool mutes, Instant? hand, long spent) => turn is null
        ? sitting
        : (sitting with { Turn = null }).With(turn.Seat, seat => seat with
        {
            HasLeave = seat.HasLeave && !turn.LentLeave,
            Asked = false,
            MicrophoneOpen = seat.MicrophoneOpen && !mutes,
            HandSince = hand,
            FloorTime = seat.FloorTime + TimeSpan.FromMilliseconds(spent)
        });

    /// <summary>Whoever goes out, or to another place, does not have the floor any more, nor the leave that came with it.</summary>
    internal static Sitting Follow(Sitting sitting) => sitting.Turn is not { } turn || sitting.IsHere(turn.Seat) ? sitting
        : sitting.Seats[turn.Seat].IsSeated ? Without(sitting, turn, mutes: false, hand: null, spent: 0)
        : sitting with { Turn = null };
}

/// <summary>On the way back: whoever had the floor has it again, and the other's hand is up again.</summary>
/// <param name="From">Who has it now; null when nobody has.</param>
public sealed record FloorReturned(Turn? From, bool Mutes, Instant? Hand, Turn? To, bool Opens, long Spent) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var free = FloorTurned.Without(sitting, From, Mutes, Hand, 0);
        return To is not { } turn ? free : (free with { Turn = turn }).With(turn.Seat, seat => seat with
        {
            HandSince = null,
            HasLeave = seat.HasLeave || turn.LentLeave,
            MicrophoneOpen = seat.MicrophoneOpen || Opens,
            FloorTime = seat.FloorTime - TimeSpan.FromMilliseconds(Spent)
        });
    }

    internal override ImmutableArray<SeatId> About => To is { } again ? [again.Seat] : From is { } former ? [former.Seat] : [];
    internal override Topic Topic => Topic.Floor;
}

public sealed record FloorSet(FloorRule From, FloorRule To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Floor = To };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Floor;
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.Floor == To ? new FloorSet(To, From) : null;
}
