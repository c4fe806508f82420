using System.Collections.Immutable;

namespace HoldCourt.Core.Picture;

/// <summary>How people stand in the picture: all equal, one large, or two large side by side.</summary>
public enum Arrangement { Even, Lead, Pair }

/// <summary>What the bench has set for everybody's picture.</summary>
/// <param name="Arrangement">Null leaves it to each reader.</param>
/// <param name="Front">Those who stand first and large for all, at most <see cref="PictureRules.MostInFront"/>.</param>
public sealed record PictureSheet(Arrangement? Arrangement, ImmutableArray<SeatId> Front)
{
    public static PictureSheet Free { get; } = new(null, []);

    public bool Is(PictureSheet other) => Arrangement == other.Arrangement && Front.SequenceEqual(other.Front);
}

/// <summary>Sets the arrangement for all; null frees it.</summary>
public sealed record SetArrangement(Arrangement? To) : SeatCommand;

/// <summary>Puts people in front for all, in place of those who were; nobody frees it.</summary>
public sealed record PutInFront(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

public sealed record PictureSet(PictureSheet From, PictureSheet To) : Fact;

internal static class PictureRules
{
    public const int MostInFront = 4;

    public static Decision Decide(Sitting sitting, SetArrangement set, Actor by)
    {
        if (sitting.Forbids(by, Capability.SetPicture) is { } refusal) return refusal;
        if (set.To is { } to && !Enum.IsDefined(to)) return Decision.Refused(Reason.NotUnderstood);
        return To(sitting, sitting.Picture with { Arrangement = set.To }) is { } change ? change : Decision.Refused(Reason.NoChange);
    }

    public static Decision Decide(Sitting sitting, PutInFront put, Actor by)
    {
        if (sitting.Forbids(by, Capability.SetPicture) is { } refusal) return refusal;
        var seats = sitting.Those(put.Seats, seat => seat.IsSeated);
        if (seats is [] && !put.Seats.IsDefaultOrEmpty) return Decision.Refused(Reason.NobodySeated);
        if (seats.Length > MostInFront) return Decision.Refused(Reason.TooManyInFront);
        return To(sitting, sitting.Picture with { Front = seats }) is { } change ? change : Decision.Refused(Reason.NoChange);
    }

    /// <summary>What brings the sitting to this picture; null when it has it already.</summary>
    public static PictureSet? To(Sitting sitting, PictureSheet to) => to.Is(sitting.Picture) ? null : new PictureSet(sitting.Picture, to);

    public static PictureSet? Opposite(Sitting sitting, PictureSet set) => sitting.Picture.Is(set.To)
        ? To(sitting, set.From with { Front = sitting.Those(set.From.Front, seat => seat.IsSeated) })
        : null;

    /// <summary>Whoever goes out is not in front any more.</summary>
    public static Sitting Follow(Sitting sitting) => sitting.Picture.Front is [] || sitting.Picture.Front.All(id => sitting.Seats[id].IsSeated)
        ? sitting
        : sitting with { Picture = sitting.Picture with { Front = sitting.Those(sitting.Picture.Front, seat => seat.IsSeated) } };
}
