using System.Collections.Immutable;
using HoldCourt.Server.Live;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Planning;

/// <summary>What a browser is told of visits.</summary>
public interface IOutlookClient
{
    /// <summary>When those who wait are expected to be called.</summary>
    Task Outlook(OutlookRow outlook);
}

/// <summary>How the visits are expected to go on. Beside the views and not stored, since it changes with the clock.</summary>
/// <param name="LateMinutes">How far behind the next promised slot the host runs.</param>
/// <param name="Starts">For those who wait; others than the bench get only their own.</param>
public sealed record OutlookRow(int LateMinutes, IReadOnlyList<SeatStart> Starts);

/// <param name="From">Four times out of five it begins between this and <paramref name="To"/>.</param>
public sealed record SeatStart(SeatId Seat, Instant From, Instant At, Instant To);

/// <summary>Tells those who wait for their visit when it is expected.</summary>
internal sealed class ForecastWork : TopicWork
{
    private static readonly TimeSpan _betweenOutlooks = TimeSpan.FromSeconds(15);

    private readonly Broadcast _broadcast;

    public ForecastWork(Broadcast broadcast)
    {
        _broadcast = broadcast;
        Every(_betweenOutlooks, LookAhead);
    }

    public override string Name => "outlook";

    public override Task Tell(Sitting before, Sitting after, ImmutableArray<Entry> news) =>
        after.Docket.HasSlots && (!ReferenceEquals(before.Visits, after.Visits)
            || after.Seats.ChangedSince(before.Seats).Any(pair => pair.Before?.Place != pair.After.Place))
            ? LookAhead()
            : Task.CompletedTask;

    /// <summary>The bench sees when everybody's turn is expected; whoever waits, their own.</summary>
    private async Task LookAhead()
    {
        var sitting = Inside.Shown;
        if (!sitting.IsRunning || !sitting.Docket.HasSlots || Inside.Lines.Count == 0) return;
        var outlook = Forecast.Of(sitting, Inside.Now);
        var starts = outlook.Starts.ToDictionary(start => start.Key);
        var row = new OutlookRow((int)Math.Round(outlook.Late.TotalMinutes), [.. sitting.Seats
            .Where(seat => seat is { Place: Place.Lobby, Recognition.Line: { } line } && starts.ContainsKey(line))
            .Select(seat => (seat.Id, Start: starts[seat.Recognition.Line!.Value]))
            .Select(pair => new SeatStart(pair.Id, pair.Start.From, pair.Start.At, pair.Start.To))]);
        await _broadcast.ToBench(Inside.Id, sitting).Outlook(row);
        foreach (var start in row.Starts)
            if (Inside.Lines.TryGetValue(start.Seat, out var line)) await _broadcast.To(line).Outlook(row with { Starts = [start] });
    }
}
