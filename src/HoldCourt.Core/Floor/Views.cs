using System.Collections.Immutable;

namespace HoldCourt.Core.Floor;

/// <summary>Who has the floor, since when, and for how many seconds at most.</summary>
public sealed record TurnRow(SeatId Seat, string Name, Instant Since, int? Seconds);

/// <summary>How the floor is given, and who has it; nothing for those outside.</summary>
public sealed record FloorFacet(FloorRule? Rule, TurnRow? Turn) : IFacet<FloorFacet>
{
    public static FloorFacet Of(Sitting sitting, Viewpoint from)
    {
        if (!sitting.MayKnow(from, Matter.Inside)) return new FloorFacet(null, null);
        var turn = sitting.Turn is { } on ? new TurnRow(on.Seat, sitting.Seats[on.Seat].Name, on.Since, on.Seconds) : null;
        return new FloorFacet(sitting.Floor, turn);
    }

    public static bool IsSame(Step step) => step.Before.Floor == step.After.Floor && step.Before.Turn == step.After.Turn && !step.Renamed;

    public static bool AltersRows(Step step) => step.Before.Turn?.Seat != step.After.Turn?.Seat;
}

/// <param name="Queue">The raised hands in the order of the floor; for the bench alone.</param>
public sealed record HandsFacet(ImmutableArray<SeatId>? Queue) : IFacet<HandsFacet>
{
    public static HandsFacet Of(Sitting sitting, Viewpoint from) =>
        new(sitting.MayKnow(from, Matter.Books) ? [.. Hands.InOrder(sitting).Select(seat => seat.Id)] : null);

    public static bool IsSame(Step step) => step.Before.Floor == step.After.Floor
        && !step.Changed.Any(pair => pair.Before?.HandSince != pair.After.HandSince || pair.After.HandSince is not null);

    public bool Equals(HandsFacet? other) =>
        other is not null && Queue.HasValue == other.Queue.HasValue && (Queue is not { } queue || queue.SequenceEqual(other.Queue!.Value));

    public override int GetHashCode() => Queue?.Length ?? -1;
}
