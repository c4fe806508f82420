namespace HoldCourt.Core.Picture;

/// <param name="Setting">Null for those outside.</param>
public sealed record PictureFacet(PictureSetting? Setting) : IFacet<PictureFacet>
{
    public static PictureFacet Of(Sitting sitting, Viewpoint from) => new(sitting.MayKnow(from, Matter.Inside) ? sitting.Picture : null);

    public static bool IsSame(Step step) => ReferenceEquals(step.Before.Picture, step.After.Picture);

    public static bool AltersRows(Step step) => !ReferenceEquals(step.Before.Picture, step.After.Picture);
}
