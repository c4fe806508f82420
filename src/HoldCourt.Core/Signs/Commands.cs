namespace HoldCourt.Core.Signs;

/// <summary>Says how it goes for oneself; null takes it off.</summary>
public sealed record SetState(State? To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RaiseHand) is { } refusal) return refusal;
        if (by.Seat is not { } id || (To is { } to && !Enum.IsDefined(to))) return Decision.Refused(Reason.NotUnderstood);
        var from = sitting.Seats[id].State;
        return from == To ? Decision.Refused(Reason.NoChange) : new StateSet(id, from, To);
    }
}

/// <summary>Takes the states off everybody.</summary>
public sealed record ClearStates : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        var shown = sitting.Seats.Where(seat => sitting.IsHere(seat) && seat.State is not null).ToList();
        return shown is []
            ? Decision.Refused(Reason.NoStates)
            : new StatesCleared([.. shown.Select(seat => seat.Id)], [.. shown.Select(seat => seat.State!.Value)]);
    }
}

/// <summary>Shows a reaction. It leaves no entry, since it fades.</summary>
public sealed record React(Sign Sign) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        Enum.IsDefined(Sign) ? sitting.Forbids(by, Capability.React) ?? Decision.Of() : Decision.Refused(Reason.NotUnderstood);
}
