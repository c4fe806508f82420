namespace HoldCourt.Core.Floor;

/// <summary>Who wants to speak, in order.</summary>
public static class Hands
{
    /// <summary>The raised hands in the order in which they would be given the floor.</summary>
    public static IEnumerable<Seat> InOrder(Sitting sitting)
    {
        var hands = sitting.Seats.Where(seat => seat.HandSince is not null && sitting.IsHere(seat));
        return sitting.Floor.Order == FloorOrder.Fair
            ? hands.OrderBy(seat => seat.TalkTime).ThenBy(seat => seat.FloorTime).ThenBy(seat => seat.HandSince).ThenBy(seat => seat.Id)
            : hands.OrderBy(seat => seat.HandSince).ThenBy(seat => seat.Id);
    }
}
