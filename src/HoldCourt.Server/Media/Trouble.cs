using System.Collections.Immutable;
using HoldCourt.Server.Live;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Media;

/// <summary>What a browser of the bench is told beside the views.</summary>
public interface ITroubleClient
{
    /// <summary>Whose connections are slow.</summary>
    Task Trouble(TroubleRow trouble);
}

/// <summary>Whose connections carry less than they might. Beside the views and not stored; for the bench alone.</summary>
/// <param name="RoomFor">Minutes of recording for which the disk has room, in quarters of an hour; null for more than a day.</param>
/// <param name="StandsSince">Since when nothing of the recording that runs is written, since the disk is full.</param>
public sealed record TroubleRow(ImmutableArray<SeatId> Slow, int? RoomFor = null, Instant? StandsSince = null);

/// <summary>What the bench of one sitting is told beside the views.</summary>
internal sealed class Trouble(Broadcast broadcast)
{
    public TroubleRow Now { get; private set; } = new([]);

    public async Task Become(ISittingInside inside, TroubleRow row)
    {
        if (row.Slow.SequenceEqual(Now.Slow) && row with { Slow = Now.Slow } == Now) return;
        Now = row;
        await broadcast.ToBench(inside.Id, inside.Shown).Trouble(row);
    }
}
