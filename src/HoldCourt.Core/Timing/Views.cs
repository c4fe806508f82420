namespace HoldCourt.Core.Timing;

/// <param name="Recess">Null for those outside.</param>
/// <param name="Succession">Seconds after which the first deputy leads when the host's connection is lost; for the bench alone.</param>
public sealed record TimeFacet(Instant? EndsAt, Recess? Recess, int? Succession) : IFacet<TimeFacet>
{
    public static TimeFacet Of(Sitting sitting, Viewpoint from) => new(
        sitting.EndsAt,
        sitting.MayKnow(from, Matter.Inside) ? sitting.Recess : null,
        sitting.MayKnow(from, Matter.Books) ? sitting.Succession : null);

    public static bool IsSame(Step step) =>
        (step.Before.EndsAt, step.Before.Recess, step.Before.Succession)
            == (step.After.EndsAt, step.After.Recess, step.After.Succession);
}
