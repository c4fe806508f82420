using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Timing;

public sealed record RecessCalled(string Words, Instant Since, Instant? Until, bool EndsItself) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Phase = Phase.Recess, Recess = new Recess(Words, Since, Until, EndsItself) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
    internal override string? Detail => Words;
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Recess is { } recess && recess.Since == Since ? new RecessEnded(recess) : null;
}

public sealed record RecessEnded(Recess Was) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Phase = Phase.InSession, Recess = null };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Phase == Phase.InSession ? new RecessCalled(Was.Words, Was.Since, Was.Until, false) : null;
}

public sealed record EndSet(Instant? From, Instant? To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { EndsAt = To };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
    internal override string NameFor(Actor by) => To is null ? "endOpened" : base.NameFor(by);
    internal override string? Detail => To?.Milliseconds.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.EndsAt == To ? new EndSet(To, From) : null;
}

public sealed record SuccessionSet(int? From, int? To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Succession = To };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
    internal override string NameFor(Actor by) => To is null ? "successionOff" : base.NameFor(by);
    internal override string? Detail => To?.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.Succession == To ? new SuccessionSet(To, From) : null;
}
