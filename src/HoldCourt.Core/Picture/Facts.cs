using System.Collections.Immutable;

namespace HoldCourt.Core.Picture;

public sealed record PictureSet(PictureSetting From, PictureSetting To) : Fact
{
    /// <summary>What brings the sitting to this picture; null when it has it already.</summary>
    internal static PictureSet? Towards(Sitting sitting, PictureSetting to) =>
        to.Is(sitting.Picture) ? null : new PictureSet(sitting.Picture, to);

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Picture = To };
    internal override ImmutableArray<SeatId> About => To.Front is [] ? From.Front : To.Front;
    internal override Topic Topic => Topic.Picture;

    internal override string NameFor(Actor by) => From.Front.SequenceEqual(To.Front)
        ? To.Arrangement is null ? "arrangementFreed" : "arrangementSet"
        : To.Front is [] ? "frontFreed" : "frontSet";

    internal override string? Detail => To.Arrangement is { } arrangement ? CoreJson.NameOf(arrangement) : null;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.Picture.Is(To)
        ? Towards(sitting, From with { Front = sitting.Those(From.Front, sitting.IsHere) })
        : null;

    /// <summary>Whoever goes out is not in front any more.</summary>
    internal static Sitting Follow(Sitting sitting) =>
        sitting.Picture.Front is [] || sitting.Picture.Front.All(sitting.IsHere)
        ? sitting
        : sitting with { Picture = sitting.Picture with { Front = sitting.Those(sitting.Picture.Front, sitting.IsHere) } };
}
