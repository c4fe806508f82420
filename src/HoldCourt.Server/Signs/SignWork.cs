using System.Collections.Immutable;
using HoldCourt.Server.Live;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Signs;

/// <summary>What a browser is told of reactions.</summary>
public interface ISignClient
{
    /// <summary>Reactions of the last moment.</summary>
    Task Signs(IReadOnlyList<SignRow> signs);
}

/// <summary>Reactions of the last moment.</summary>
/// <param name="Names">Of the first few whose names the reader may know.</param>
public sealed record SignRow(Sign Sign, int Count, ImmutableArray<string> Names);

/// <summary>Reactions of a moment are told together; one person counts once a second.</summary>
internal sealed class SignWork : TopicWork
{
    private static readonly TimeSpan _betweenSigns = TimeSpan.FromMilliseconds(300), _counts = TimeSpan.FromSeconds(1);

    private const int MostNames = 3;

    private readonly List<(SeatId Seat, Sign Sign)> _signs = [];
    private readonly Dictionary<SeatId, Instant> _signedAt = [];
    private readonly Broadcast _broadcast;

    public SignWork(Broadcast broadcast)
    {
        _broadcast = broadcast;
        After<React>((by, react) =>
        {
            if (by.Seat is { } seat) Gather(seat, react.Sign);
            return Task.CompletedTask;
        });
    }

    public override string Name => "signs";

    private void Gather(SeatId by, Sign sign)
    {
        if (_signedAt.TryGetValue(by, out var last) && Inside.Now - last < _counts) return;
        _signedAt[by] = Inside.Now;
        _signs.Add((by, sign));
        if (_signs.Count == 1) In(_betweenSigns, TellSigns);
    }

    /// <summary>Counts for all inside, with the names that each kind of viewer may know.</summary>
    private async Task TellSigns()
    {
        var signs = _signs.ToList();
        _signs.Clear();
        var shown = Inside.Shown;
        foreach (var viewer in Viewpoint.In(shown).Where(viewer => shown.MayKnow(viewer, Matter.Inside)))
        {
            var here = signs.Where(one => shown.Seats[one.Seat].Room == viewer.Room).ToList();
            if (here is []) continue;
            SignRow[] rows = [.. here.GroupBy(one => one.Sign).OrderBy(group => group.Key)
                .Select(group => new SignRow(group.Key, group.Count(),
                [.. group.Select(one => shown.Seats[one.Seat]).Where(seat => shown.MayKnow(viewer, new Matter.Person(seat))).Take(MostNames)
                    .Select(seat => seat.Name)]))];
            await _broadcast.To(Inside.Id, viewer).Signs(rows);
        }
    }
}
