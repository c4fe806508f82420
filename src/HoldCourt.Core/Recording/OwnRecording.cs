using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <summary>
/// Records on one's own machine from now on, where the orders let one. Nothing of it comes to the server but that it goes on, which
/// everybody is told.
/// </summary>
public sealed record BeginOwnRecording : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat) return Decision.Refused(Reason.NotUnderstood);
        if (sitting.Forbids(by, Capability.RecordOwn) is { } refusal) return refusal;
        if (sitting.OwnRecorders.Contains(seat)) return Decision.AlreadySo;
        var begun = new OwnRecordingBegun(seat);
        // Whoever records agrees by that.
        return sitting.Seats[seat].RecordingAnswer is null
            ? Decision.Of(begun, new RecordingAnswered(seat, null, RecordingAnswer.Agreed))
            : begun;
    }
}

public sealed record EndOwnRecording : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        by.Seat is { } seat && sitting.OwnRecorders.Contains(seat) ? new OwnRecordingEnded(seat) : Decision.AlreadySo;
}

public sealed record OwnRecordingBegun(SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { OwnRecorders = sitting.OwnRecorders.Add(Seat) };
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Recording;
}

public sealed record OwnRecordingEnded(SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { OwnRecorders = sitting.OwnRecorders.Remove(Seat) };
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Recording;
}

internal static class OwnRecordings
{
    /// <summary>After any fact: whoever is not inside, or may not any more, records no more. Their page is told, and ends it.</summary>
    public static Sitting Follow(Sitting sitting)
    {
        bool MayNot(SeatId seat) => sitting.Forbids(Actor.Of(seat), Capability.RecordOwn) is not null;
        return sitting.OwnRecorders is [] || !sitting.OwnRecorders.Any(MayNot)
            ? sitting
            : sitting with { OwnRecorders = sitting.OwnRecorders.RemoveAll(seat => MayNot(seat)) };
    }
}
