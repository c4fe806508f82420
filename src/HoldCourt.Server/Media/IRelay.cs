using System.Collections.Immutable;

namespace HoldCourt.Server.Media;

/// <summary>What the relay has to tell of a sitting's stage.</summary>
/// <param name="Talked">How long each was heard since this was last asked, in milliseconds.</param>
/// <param name="Slow">Those whose connection carries less than it might.</param>
internal sealed record StageReport(IReadOnlyDictionary<SeatId, long> Talked, ImmutableArray<SeatId> Slow);

/// <summary>
/// All that a sitting and the relay of its pictures and voices tell each other. What crosses are values, so that the relay may run in
/// another process.
/// </summary>
internal interface IRelay
{
    /// <summary>Who may be heard and seen by whom from now on. In the order of the changes of one sitting.</summary>
    void Follow(Guid sitting, StageChange change);

    StageReport Report(Guid sitting);

    /// <summary>What should be recorded can be written no more.</summary>
    bool CannotRecord(Guid sitting);

    /// <summary>Since when nothing of a recording that runs is written, for want of room; and, once it goes on, up to when there was
    /// something before that.</summary>
    (Instant? StandsSince, Instant? Gap) RecordingOf(Guid sitting);
}
