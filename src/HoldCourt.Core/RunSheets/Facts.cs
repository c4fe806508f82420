using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.RunSheets;

public sealed record RunSheetSet(ImmutableArray<Item> From, ImmutableArray<Item> To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { RunSheet = sitting.RunSheet.With(To) };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.RunSheet;
    internal override string? Detail => To.Length.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.RunSheet.Items.SequenceEqual(To) ? new RunSheetSet(To, From) : null;
}

/// <param name="Spent">Milliseconds of this turn of the item that ended.</param>
/// <param name="Title">Of the item that begins, or else of the one that ends.</param>
/// <param name="Parts">What changed with it, in order.</param>
public sealed record ItemTurned(int? From, Instant? Since, long Spent, int? To, string Title, ImmutableArray<Fact> Parts) : Fact
{
    /// <summary>What begins an item, with its orders, its picture, the floor for its lead, and what it shows.</summary>
    internal static ItemTurned Towards(Sitting sitting, Item item, Actor by, Instant now)
    {
        var parts = ImmutableArray.CreateBuilder<Fact>();
        var state = sitting;
        Add(item.Orders is { } orders ? OrdersSet.Towards(state, orders) : null);
        Add(item.Picture is { } picture ? PictureSet.Towards(state, state.Picture with { Arrangement = picture }) : null);
        if (item.LeadIn(state) is { } lead && state.Turn?.Seat != lead
            && new GiveFloor(lead).Decide(state, by, now) is { Facts: [var given] }) Add(given);
        Add(item.Shows is { } title ? ExhibitsShown.Towards(state, title) : null);
        Add(RecordingStarted.Towards(state, item.Records));
        Add(PollOpened.Towards(state, item.Asks));
        if (item.OpensRooms)
        {
            if (state.Rooms is { Draft: null, Open: [] } && RoomsPlanned.AsWished(state, by, now) is { } planned) Add(planned);
            if (new OpenRooms().Decide(state, by, now) is { Facts: [var opened] }) Add(opened);
        }
        var sheet = sitting.RunSheet;
        return new ItemTurned(sheet.Now?.Id, sheet.Since, sheet.SpentUntil(now), item.Id, item.Title, parts.ToImmutable());

        void Add(Fact? part)
        {
            if (part is null) return;
            parts.Add(part);
            state = part.Apply(state, now);
        }
    }

    internal override Sitting Apply(Sitting sitting, Instant at) => Parts.ApplyTo(sitting, at) with
    {
        RunSheet = sitting.RunSheet with { At = To, Since = To is null ? null : at, Spent = sitting.RunSheet.SpentMore(From, Spent) }
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.RunSheet;
    internal override string NameFor(Actor by) => To is null ? "itemEnded" : base.NameFor(by);
    internal override string? Detail => Title;
    internal override ImmutableArray<Fact> Within => Parts;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.RunSheet.Now?.Id == To
        ? new ItemReturned(To, From, Since, Spent, Title, Parts.OppositesIn(sitting))
        : null;
}

/// <summary>On the way back: the item before is on again, since when it was.</summary>
public sealed record ItemReturned(int? From, int? To, Instant? Since, long Spent, string Title, ImmutableArray<Fact> Parts) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Parts.ApplyTo(sitting, at) with
    {
        RunSheet = sitting.RunSheet with { At = To, Since = Since, Spent = sitting.RunSheet.SpentMore(To, -Spent) }
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.RunSheet;
    internal override string? Detail => Title;
}
