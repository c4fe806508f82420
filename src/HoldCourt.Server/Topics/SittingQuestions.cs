namespace HoldCourt.Server.Topics;

/// <summary>What several topics ask of a sitting.</summary>
internal static class SittingQuestions
{
    /// <summary>The seat of somebody who is inside a sitting that runs; null for others.</summary>
    public static Seat? SeatInside(this Sitting sitting, PersonKey person) =>
        sitting.IsRunning && sitting.Find(person) is { IsSeated: true } seat ? seat : null;

    /// <summary>The seat is of the bench, and so may know what the ledger tells.</summary>
    public static bool KnowsBooks(this Sitting sitting, SeatId id) =>
        sitting.Seats.TryGet(id, out var seat) && sitting.MayKnow(seat, Matter.Books);

    /// <inheritdoc cref="KnowsBooks(Sitting, SeatId)"/>
    public static bool KnowsBooks(this Sitting sitting, PersonKey person) =>
        sitting.Find(person) is { } seat && sitting.MayKnow(seat, Matter.Books);
}
