using System.Collections.Immutable;

namespace HoldCourt.Core.Floor;

/// <summary>Whose hand comes first: the one that was raised first, or of those who spoke least.</summary>
public enum FloorOrder { ByHand, Fair }

/// <summary>How the floor is given.</summary>
/// <param name="Seconds">Length of a turn, 10 to 3,600; null when it is not limited.</param>
/// <param name="EndsItself">The floor is taken when a turn's time is over; otherwise that is only said.</param>
public sealed record FloorSheet(FloorOrder Order, int? Seconds, bool EndsItself)
{
    public static FloorSheet Usual { get; } = new(FloorOrder.ByHand, null, false);
}

/// <summary>Somebody has the floor.</summary>
/// <param name="LentLeave">May speak only while having it.</param>
public sealed record Turn(SeatId Seat, Instant Since, int? Seconds, bool LentLeave);

/// <summary>Raises one's own hand.</summary>
public sealed record RaiseHand : SeatCommand;

public sealed record LowerHand : SeatCommand;

/// <summary>Lowers others' hands.</summary>
public sealed record LowerHands(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

/// <param name="Seat">Null gives it to the first of the queue.</param>
/// <param name="Seconds">Instead of the usual length of a turn.</param>
public sealed record GiveFloor(SeatId? Seat = null, int? Seconds = null) : SeatCommand;

/// <summary>Ends the turn of whoever has the floor.</summary>
public sealed record TakeFloor : SeatCommand;

/// <summary>Ends one's own turn.</summary>
public sealed record YieldFloor : SeatCommand;

public sealed record SetFloor(FloorSheet To) : SeatCommand;

/// <summary>A turn's time is over.</summary>
public sealed record EndTurn : HouseCommand;

/// <summary>Voices that were heard since the last count.</summary>
public sealed record CountTalk(ImmutableArray<SeatId> Seats, ImmutableArray<long> Milliseconds) : HouseCommand, ISeats;

/// <summary>How long each of these was heard, in milliseconds. Nobody's deed, and left out of the ledger's sentences.</summary>
public sealed record Talked(ImmutableArray<SeatId> Seats, ImmutableArray<long> Milliseconds) : Fact;

public sealed record HandRaised(SeatId Seat) : Fact;
public sealed record HandsLowered(ImmutableArray<SeatId> Seats, ImmutableArray<Instant> Since) : Fact;

/// <summary>On the way back: hands are up again, each since when it was.</summary>
public sealed record HandsBack(ImmutableArray<SeatId> Seats, ImmutableArray<Instant> Since) : Fact;

/// <param name="From">The turn that ended; null when nobody had the floor.</param>
/// <param name="Mutes">Whoever had it may not go on speaking.</param>
/// <param name="Spent">In milliseconds, the length of the turn that ended.</param>
/// <param name="To">Null when nobody has the floor now.</param>
/// <param name="Lends">May speak only while having it.</param>
/// <param name="Opens">The microphone opens at once, by consent.</param>
/// <param name="Asks">The person is asked to open it.</param>
/// <param name="Hand">Since when the hand was up that this answers.</param>
public sealed record FloorTurned(Turn? From, bool Mutes, long Spent, SeatId? To, int? Seconds, bool Lends, bool Opens, bool Asks, Instant? Hand) : Fact;

/// <summary>On the way back: whoever had the floor has it again, and the other's hand is up again.</summary>
/// <param name="From">Who has it now; null when nobody has.</param>
public sealed record FloorReturned(Turn? From, bool Mutes, Instant? Hand, Turn? To, bool Opens, long Spent) : Fact;

public sealed record FloorSet(FloorSheet From, FloorSheet To) : Fact;
