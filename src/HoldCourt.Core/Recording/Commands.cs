namespace HoldCourt.Core.Recording;

/// <summary>Begins a recording by the rules as they stand; goes on with one that is paused.</summary>
public sealed record StartRecording : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Record) is { } refusal) return refusal;
        if (RecordingStarted.Refuses(sitting) is { } reason) return reason;
        return sitting.Recorder switch
        {
            { Phase: RecordingPhase.Running } => Decision.AlreadySo,
            { Phase: RecordingPhase.Paused } paused => new RecordingResumed(paused.Number, paused.Phase),
            _ => Begun(sitting, by, now)
        };
    }

    /// <summary>Whoever begins it need not be asked.</summary>
    private static Decision Begun(Sitting sitting, Actor by, Instant now)
    {
        var started = RecordingStarted.Next(sitting);
        return by.Seat is { } seat && started.Apply(sitting, now).Seats[seat].RecordingAnswer is var answer
            && answer != RecordingAnswer.Agreed
            ? Decision.Of(started, new RecordingAnswered(seat, answer, RecordingAnswer.Agreed))
            : started;
    }
}

public sealed record PauseRecording : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Record) is { } refusal) return refusal;
        return sitting.Recorder switch
        {
            { Phase: RecordingPhase.Running } recorder => new RecordingPaused(recorder.Number),
            { Phase: RecordingPhase.Paused } => Decision.AlreadySo,
            _ => Decision.Refused(Reason.NothingRecorded)
        };
    }
}

/// <summary>Goes on with the same recording, paused or stopped: it becomes one film.</summary>
public sealed record ResumeRecording : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Record) is { } refusal) return refusal;
        return sitting.Recorder switch
        {
            null => Decision.Refused(Reason.NothingRecorded),
            { Phase: RecordingPhase.Running } => Decision.AlreadySo,
            _ when sitting.Phase != Phase.InSession => Decision.Refused(Reason.NotInSession),
            var recorder => new RecordingResumed(recorder.Number, recorder.Phase)
        };
    }
}

public sealed record StopRecording : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Record) is { } refusal) return refusal;
        return sitting.Recorder switch
        {
            null => Decision.Refused(Reason.NothingRecorded),
            { Phase: RecordingPhase.Stopped } => Decision.AlreadySo,
            var recorder => new RecordingStopped(recorder.Number, recorder.Phase)
        };
    }
}

/// <summary>Says how it is recorded and for whom, before or while it is.</summary>
public sealed record SetRecordingRules(RecordingRules To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Record) is { } refusal) return refusal;
        // What one visitor says is not for the next.
        if (To.Watchers != Watchers.Bench && sitting.Docket.HasSlots) return Decision.Refused(Reason.VisitsStayApart);
        return To == sitting.RecordingRules ? Decision.AlreadySo : new RecordingRulesSet(sitting.RecordingRules, To);
    }
}

/// <summary>Says whether one wants to be in the recordings of this sitting.</summary>
/// <param name="Whole">What was recorded of oneself in the present one is taken out of it, too.</param>
public sealed record AnswerRecording(RecordingAnswer Answer, bool Whole = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat) return Decision.Refused(Reason.NotUnderstood);
        var whole = Whole && Answer == RecordingAnswer.Unrecorded && sitting.Recorder is not null;
        var was = sitting.Seats[seat].RecordingAnswer;
        return was == Answer && !whole
            ? Decision.AlreadySo
            : new RecordingAnswered(seat, was, Answer, whole ? sitting.Recorder!.Number : null);
    }
}

/// <summary>The session has begun, and the plan wants a recording.</summary>
public sealed record RecordByPlan : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) => IsDue(sitting)
        ? RecordingStarted.Next(sitting)
        : Decision.Of();

    /// <summary>Once in a sitting: whoever stops it wants it so.</summary>
    public static bool IsDue(Sitting sitting) =>
        sitting is { RecordingRules.ByPlan: true, Recorder: null, Phase: Phase.InSession };
}

/// <summary>The server was down, and for a time nothing was recorded.</summary>
/// <param name="From">Up to when there is something.</param>
public sealed record NoteRecordingGap(Instant From) : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Recorder is { RunsSince: { } since } recorder && now > From
            ? new RecordingInterrupted(recorder.Number, From > since ? From : since)
            : Decision.Of();
}

/// <summary>Nothing more can be written: the disk is full, or fails.</summary>
public sealed record BreakOffRecording : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Recorder is { Phase: not RecordingPhase.Stopped } recorder
            ? new RecordingStopped(recorder.Number, recorder.Phase)
            : Decision.Of();
}
