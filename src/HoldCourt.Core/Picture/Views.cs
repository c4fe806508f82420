namespace HoldCourt.Core.Picture;

/// <param name="Sheet">Null for those outside.</param>
public sealed record PictureFacet(PictureSheet? Sheet)
{
    internal static PictureFacet Of(Sitting sitting, Viewpoint from) => new(sitting.MayKnow(from, Matter.Inside) ? sitting.Picture : null);
}
