using System.Collections.Immutable;

namespace HoldCourt.Core.Picture;

/// <summary>Sets the arrangement for all; null frees it.</summary>
public sealed record SetArrangement(Arrangement? To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetPicture) is { } refusal) return refusal;
        if (To is { } to && !Enum.IsDefined(to)) return Decision.Refused(Reason.NotUnderstood);
        return PictureSet.Towards(sitting, sitting.Picture with { Arrangement = To }) is { } change
            ? change
            : Decision.Refused(Reason.NoChange);
    }
}

/// <summary>Puts people in front for all, in place of those who were; nobody frees it.</summary>
public sealed record PutInFront(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetPicture) is { } refusal) return refusal;
        var seats = sitting.Those(Seats, sitting.IsHere);
        if (seats is [] && !Seats.IsDefaultOrEmpty) return Decision.Refused(Reason.NobodySeated);
        if (seats.Length > PictureSetting.MostInFront) return Decision.Refused(Reason.TooManyInFront);
        return PictureSet.Towards(sitting, sitting.Picture with { Front = seats }) is { } change
            ? change
            : Decision.Refused(Reason.NoChange);
    }
}
