namespace HoldCourt.Core.Sittings;

/// <summary>What the sitting is.</summary>
public sealed record SessionFacet(string Title, Phase Phase, Instant OpenedAt, Instant? AdjournedAt, SeatId? Host, string? HostName)
    : IFacet<SessionFacet>
{
    public static SessionFacet Of(Sitting sitting, Viewpoint from) => new(
        sitting.Title, sitting.Phase, sitting.OpenedAt, sitting.AdjournedAt, sitting.Host,
        sitting.Host is { } host ? sitting.Seats[host].Name : null);

    public static bool IsSame(Step step) =>
        (step.Before.Title, step.Before.Phase, step.Before.OpenedAt, step.Before.AdjournedAt, step.Before.Host)
            == (step.After.Title, step.After.Phase, step.After.OpenedAt, step.After.AdjournedAt, step.After.Host) && !step.Renamed;

    public static bool AltersRows(Step step) => step.Before.Phase != step.After.Phase;

    public static IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        before.Phase != after.Phase ? all : [];
}
