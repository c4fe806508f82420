namespace HoldCourt.Core.Picture;

/// <param name="Setting">Null for those outside.</param>
public sealed record PictureFacet(PictureSetting? Setting)
{
    internal static PictureFacet Of(Sitting sitting, Viewpoint from) => new(sitting.MayKnow(from, Matter.Inside) ? sitting.Picture : null);
}
