namespace HoldCourt.Core.Floor;

/// <summary>Whose hand comes first: the one that was raised first, or of those who spoke least.</summary>
public enum FloorOrder { ByHand, Fair }

/// <summary>How the floor is given.</summary>
/// <param name="Seconds">Length of a turn, <see cref="ShortestTurn"/> to <see cref="LongestTurn"/>; null when it is not limited.</param>
/// <param name="EndsItself">The floor is taken when a turn's time is over; otherwise that is only said.</param>
public sealed record FloorRule(FloorOrder Order, int? Seconds, bool EndsItself)
{
    /// <summary>In seconds.</summary>
    public const int ShortestTurn = 10, LongestTurn = 3_600;

    public static FloorRule Usual { get; } = new(FloorOrder.ByHand, null, false);
}

/// <summary>Somebody has the floor.</summary>
/// <param name="LentLeave">May speak only while having it.</param>
public sealed record Turn(SeatId Seat, Instant Since, int? Seconds, bool LentLeave)
{
    /// <summary>Without the floor the person may not go on speaking.</summary>
    internal bool EndSilences(Sitting sitting) =>
        LentLeave && sitting.Seats[Seat].MicrophoneOpen
        && sitting.With(Seat, seat => seat with { HasLeave = false }) is var without && !without.MaySpeak(without.Seats[Seat]);

    /// <summary>What ends it, and gives the floor to nobody else.</summary>
    internal FloorTurned End(Sitting sitting, Instant now) => FloorTurned.ToNobody with
    {
        From = this,
        Mutes = EndSilences(sitting),
        Spent = (long)(now - Since).TotalMilliseconds
    };
}
