using System.Collections.Immutable;

namespace HoldCourt.Core.Signs;

public sealed record StateSet(SeatId Seat, State? From, State? To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Seat, seat => seat with { State = To });
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Floor;
    internal override string NameFor(Actor by) => To is null ? "stateOff" : base.NameFor(by);
    internal override string? Detail => To is { } state ? CoreJson.NameOf(state) : null;
}

public sealed record StatesCleared(ImmutableArray<SeatId> Seats, ImmutableArray<State> States) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithEach(Seats, seat => seat with { State = null });
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Floor;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var pairs = Seats.Zip(States).Where(pair => sitting.Seats[pair.First] is { IsSeated: true, State: null }).ToList();
        return pairs is [] ? null : new StatesBack([.. pairs.Select(pair => pair.First)], [.. pairs.Select(pair => pair.Second)]);
    }
}

/// <summary>On the way back: each has the state it had.</summary>
public sealed record StatesBack(ImmutableArray<SeatId> Seats, ImmutableArray<State> States) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Seats.Zip(States).Aggregate(sitting, (state, pair) =>
        state.With(pair.First, seat => seat with { State = pair.Second }));

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Floor;
}
