using System.Collections.Immutable;

namespace HoldCourt.Core.Captions;

public sealed record CaptionerNamed(SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Captions = sitting.Captions with { Captioners = sitting.Captions.Captioners.Add(Seat) } };

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Captions;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Captions.Captioners.Contains(Seat) ? new CaptionerReleased(Seat) : null;
}

public sealed record CaptionerReleased(SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at)
    {
        var desk = sitting.Captions;
        return sitting with
        {
            Captions = desk with { Captioners = desk.Captioners.Remove(Seat), Turn = desk.Turn == Seat ? null : desk.Turn }
        };
    }

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Captions;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Seats[Seat].IsSeated && !sitting.Captions.Captioners.Contains(Seat)
            && sitting.Captions.Captioners.Length < CaptionDesk.MostCaptioners
            ? new CaptionerNamed(Seat)
            : null;
}

/// <param name="From">Who wrote until then.</param>
public sealed record CaptionTurnTaken(SeatId? From, SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Captions = sitting.Captions with { Turn = Seat } };
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Captions;
    internal override bool StandsInLedger => false;
}

/// <param name="By">Who wrote it; null for a machine.</param>
/// <param name="Ago">How long before that it began to be heard, in milliseconds.</param>
public sealed record Captioned(SeatId? By, SeatId? Speaker, string Text, int Ago) : Fact
{
    internal CaptionLine ToLine(int number, Instant at, int? room = null) =>
        new(number, at, new Instant(at.Milliseconds - Ago), By, Speaker, Text, Room: room);

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Captions = sitting.Captions.Add(ToLine(sitting.Captions.Count + 1, at, sitting.Here)) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Captions;

    /// <summary>What people say is read beside the picture.</summary>
    internal override bool StandsInLedger => false;
}

public sealed record CaptionCorrected(int Line, SeatId? Speaker, string From, string To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Captions = sitting.Captions.Correct(Line, To) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Captions;
    internal override bool StandsInLedger => false;
}

public sealed record MachineCaptionsSet(bool On) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Captions = sitting.Captions with { ByMachine = On } };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Captions;
    internal override string NameFor(Actor by) => On ? "machineCaptionsOn" : "machineCaptionsOff";
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.Captions.ByMachine == On ? new MachineCaptionsSet(!On) : null;
}
