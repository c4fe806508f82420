using System.Collections.Immutable;

namespace HoldCourt.Core.Floor;

/// <summary>Raises one's own hand.</summary>
public sealed record RaiseHand : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RaiseHand) is { } refusal) return refusal;
        return by.Seat is { } id && sitting.Seats[id].HandSince is null && sitting.Turn?.Seat != id
            ? new HandRaised(id)
            : Decision.Refused(Reason.NoChange);
    }
}

public sealed record LowerHand : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        by.Seat is { } id && sitting.Seats[id].HandSince is { } since ? new HandsLowered([id], [since]) : Decision.Refused(Reason.NoChange);
}

/// <summary>Lowers others' hands.</summary>
public sealed record LowerHands(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        var up = sitting.Those(Seats, seat => seat.HandSince is not null);
        return up is [] ? Decision.Refused(Reason.NoHands) : new HandsLowered(up, [.. up.Select(id => sitting.Seats[id].HandSince!.Value)]);
    }
}

/// <param name="Seat">Null gives it to the first of the queue.</param>
/// <param name="Seconds">Instead of the usual length of a turn.</param>
public sealed record GiveFloor(SeatId? Seat = null, int? Seconds = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        if (Seconds is < FloorRule.ShortestTurn or > FloorRule.LongestTurn) return Decision.Refused(Reason.NotUnderstood);
        if ((Seat ?? Hands.InOrder(sitting).FirstOrDefault()?.Id) is not { } to) return Decision.Refused(Reason.NoHands);
        if (!sitting.Seats.TryGet(to, out var seat) || !sitting.IsHere(seat)) return Decision.Refused(Reason.NobodySeated);
        if (sitting.Turn?.Seat == to) return Decision.Refused(Reason.NoChange);
        return (sitting.Turn?.End(sitting, now) ?? FloorTurned.ToNobody) with
        {
            To = to,
            Seconds = Seconds ?? sitting.Floor.Seconds,
            Lends = !sitting.MaySpeak(seat),
            Opens = !seat.MicrophoneOpen && seat.Consents,
            Asks = seat is { MicrophoneOpen: false, Consents: false } && by.Seat != to,
            Hand = seat.HandSince
        };
    }
}

/// <summary>Ends the turn of whoever has the floor.</summary>
public sealed record TakeFloor : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) => sitting.Forbids(by, Capability.KeepFloor)
        ?? (sitting.Turn is { } turn ? turn.End(sitting, now) : Decision.Refused(Reason.NobodyOnFloor));
}

/// <summary>Ends one's own turn.</summary>
public sealed record YieldFloor : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Turn is { } turn && by.Seat == turn.Seat ? turn.End(sitting, now) : Decision.Refused(Reason.NobodyOnFloor);
}

/// <summary>A turn's time is over.</summary>
public sealed record EndTurn : HouseCommand
{
    /// <summary>When the next turn ends by itself, in whatever place; null when none does.</summary>
    public static Instant? Due(Sitting sitting) => !sitting.Floor.EndsItself ? null
        : sitting.Rooms.Open.Select(room => room.Scenery.Turn).Append(sitting.Turn).OfType<Turn>()
            .Select(turn => turn.Seconds is { } seconds ? turn.Since + TimeSpan.FromSeconds(seconds) : (Instant?)null).Min();

    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting is { Turn: { Seconds: { } seconds } turn, Floor.EndsItself: true } && now - turn.Since >= TimeSpan.FromSeconds(seconds)
            ? turn.End(sitting, now)
            : Decision.Of();
}

public sealed record SetFloor(FloorRule To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        if (!Enum.IsDefined(To.Order) || To.Seconds is < FloorRule.ShortestTurn or > FloorRule.LongestTurn)
            return Decision.Refused(Reason.NotUnderstood);
        return To == sitting.Floor ? Decision.Refused(Reason.NoChange) : new FloorSet(sitting.Floor, To);
    }
}

/// <summary>Voices that were heard since the last count.</summary>
public sealed record CountTalk(ImmutableArray<SeatId> Seats, ImmutableArray<long> Milliseconds) : HouseCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        var heard = Seats.Zip(Milliseconds).Where(pair => pair.Second > 0 && sitting.Seats.TryGet(pair.First, out _)).ToList();
        return heard is [] ? Decision.Of() : new Talked([.. heard.Select(pair => pair.First)], [.. heard.Select(pair => pair.Second)]);
    }
}
