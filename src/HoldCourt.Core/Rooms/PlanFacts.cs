using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Rooms;

/// <summary>A plan was made, made anew, or dropped.</summary>
/// <param name="From">As it was; null for none.</param>
/// <param name="To">Null for none.</param>
public sealed record RoomsPlanned(RoomDraft? From, RoomDraft? To) : Fact
{
    /// <summary>A plan with the wishes that were kept, or for another round; null when there are none.</summary>
    internal static Fact? AsWished(Sitting sitting, Actor by, Instant now)
    {
        var form = sitting.Rooms.Rounds is [] ? sitting.Rooms.Form : PlanAnotherRound.FormIn(sitting);
        return form is not null && new PlanRooms(form).Decide(sitting, by, now) is { Facts: [var planned] } ? planned : null;
    }

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Rooms = sitting.Rooms with { Draft = To, Drafts = sitting.Rooms.Drafts + 1 }
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Rooms;
    internal override string NameFor(Actor by) => To is null ? "roomPlanDropped" : base.NameFor(by);
    internal override string? Detail => To?.Form.Rooms.Length.ToString(CultureInfo.InvariantCulture);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.Rooms.Draft?.Number == To?.Number
        ? new RoomsPlanned(To, From is null ? null : From with { Number = sitting.Rooms.Drafts + 1 })
        : null;
}

/// <summary>People were put into another room of the plan by hand.</summary>
/// <param name="From">For each the room from 0; null for whoever was in none.</param>
/// <param name="To">Null takes them out of the plan.</param>
public sealed record RoomChosen(ImmutableArray<SeatId> Seats, ImmutableArray<int?> From, int? To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Chosen(sitting, Seats.Select(seat => (seat, To)));

    internal static Sitting Chosen(Sitting sitting, IEnumerable<(SeatId Seat, int? Room)> choices)
    {
        if (sitting.Rooms.Draft is not { } draft) return sitting;
        foreach (var (seat, room) in choices)
            draft = room is { } to
                ? draft with { RoomOf = draft.RoomOf.SetItem(seat.Number, to), ByHand = draft.ByHand.SetItem(seat.Number, to) }
                : draft with { RoomOf = draft.RoomOf.Remove(seat.Number), ByHand = draft.ByHand.SetItem(seat.Number, RoomDraft.Out) };
        var number = sitting.Rooms.Drafts + 1;
        return sitting with { Rooms = sitting.Rooms with { Draft = draft with { Number = number }, Drafts = number } };
    }

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
    internal override string? Detail => To is { } to ? (to + 1).ToString(CultureInfo.InvariantCulture) : null;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (sitting.Rooms.Draft is not { } draft) return null;
        var pairs = Seats.Zip(From)
            .Where(pair => (draft.RoomOf.TryGetValue(pair.First.Number, out var room) ? room : (int?)null) == To
                && (pair.Second is null || pair.Second < draft.Form.Rooms.Length)).ToList();
        return pairs is [] ? null : new RoomUnchosen([.. pairs.Select(pair => pair.First)], [.. pairs.Select(pair => pair.Second)]);
    }
}

/// <summary>On the way back: each is in the plan where they were.</summary>
public sealed record RoomUnchosen(ImmutableArray<SeatId> Seats, ImmutableArray<int?> To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => RoomChosen.Chosen(sitting, Seats.Zip(To));
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Rooms;
}
