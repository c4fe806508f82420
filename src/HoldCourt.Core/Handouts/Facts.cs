using System.Collections.Immutable;

namespace HoldCourt.Core.Handouts;

public sealed record HandedOut(Handout Handout) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Handouts = sitting.Handouts with { Out = [.. sitting.Handouts.Out, Handout], Last = Handout.Number }
    };

    /// <summary>Whoever is put out for good or for now hands out nothing any more.</summary>
    internal static Sitting Follow(Sitting sitting)
    {
        if (sitting.Handouts.Out is []) return sitting;
        var list = sitting.Handouts.Without(handout => sitting.Seats[handout.By].Exit is not (null or Exit.Left));
        return ReferenceEquals(list, sitting.Handouts) ? sitting : sitting with { Handouts = list };
    }

    internal override ImmutableArray<SeatId> About => [Handout.By];
    internal override Topic Topic => Topic.Files;
    internal override string NameFor(Actor by) => Handout.To is null ? "handedOut" : "handedToOne";

    /// <summary>What goes to one person is named to nobody else.</summary>
    internal override string? Detail => Handout.To is null ? Handout.Name : null;
    internal override bool IsTakeable(SeatId by) => Handout.To is null;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Handouts.Find(Handout.Number) is { } there ? new HandoutEnded(there) : null;
}

/// <param name="By">Who gave it.</param>
/// <param name="Took">Otherwise it was refused.</param>
public sealed record FileTaken(int Handout, SeatId By, SeatId Seat, bool Took) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Handouts.Find(Handout) is { } handout
        ? sitting with
        {
            Handouts = sitting.Handouts.With(Took
                ? handout with { Taken = handout.Taken.Add(Seat), Refused = handout.Refused.Remove(Seat) }
                : handout with { Refused = handout.Refused.Add(Seat) })
        }
        : sitting;

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Files;
    internal override bool StandsInLedger => false;
}

public sealed record HandoutEnded(Handout Handout) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Handouts = sitting.Handouts.Without(one => one.Number == Handout.Number) };

    internal override ImmutableArray<SeatId> About => [Handout.By];
    internal override Topic Topic => Topic.Files;
    internal override string? Detail => Handout.To is null ? Handout.Name : null;
}

/// <summary>What was handed out in a room is for everyone in the hall, or is not any more.</summary>
public sealed record FileHandedOn(int Handout, string Name, SeatId By, bool On) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Handouts.Find(Handout) is { } handout
        ? sitting with { Handouts = sitting.Handouts.With(handout with { HandedOn = On }) }
        : sitting;

    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Files;
    internal override string? Detail => Name;
    internal override bool IsTakeable(SeatId by) => On;

    internal override Fact? OppositeIn(Sitting sitting) =>
        On && sitting.Handouts.Find(Handout) is { HandedOn: true } ? this with { On = false } : null;
}

public sealed record HandoutRulesSet(HandoutRules From, HandoutRules To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Handouts = sitting.Handouts with { Rules = To } };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Files;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Handouts.Rules == To ? new HandoutRulesSet(To, From) : null;
}

public sealed record HandoutKept(int Handout, string Name, SeatId By) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Handouts.Find(Handout) is { } handout
        ? sitting with { Handouts = sitting.Handouts.With(handout with { Kept = true }) }
        : sitting;

    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Files;
    internal override string? Detail => Name;
}

public sealed record ExhibitKept(int Exhibit, string Title, SeatId By) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting;
    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Files;
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
}
