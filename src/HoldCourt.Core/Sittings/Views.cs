namespace HoldCourt.Core.Sittings;

/// <summary>What the sitting is.</summary>
public sealed record SessionFacet(string Title, Phase Phase, Instant OpenedAt, Instant? AdjournedAt, SeatId? Host, string? HostName)
{
    internal static SessionFacet Of(Sitting sitting) => new(
        sitting.Title, sitting.Phase, sitting.OpenedAt, sitting.AdjournedAt, sitting.Host,
        sitting.Host is { } host ? sitting.Seats[host].Name : null);
}
