using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Recording;

/// <summary>Something about the recording as a whole.</summary>
public abstract record RecordingFact : Fact
{
    internal sealed override ImmutableArray<SeatId> About => [];
    internal sealed override Topic Topic => Topic.Recording;
}

public sealed record RecordingStarted(int Number) : RecordingFact
{
    internal static Refusal? Refuses(Sitting sitting) => sitting switch
    {
        { Phase: not Phase.InSession } => new Refusal(Reason.NotInSession),
        { Recorder: { Phase: RecordingPhase.Stopped, Number: >= Recorder.Most } } => new Refusal(Reason.TooManyRecordings),
        _ => null
    };

    internal static RecordingStarted Next(Sitting sitting) => new((sitting.Recorder?.Number ?? 0) + 1);

    /// <summary>What an item that is to be recorded, or not, brings with it; null for nothing.</summary>
    internal static Fact? Towards(Sitting sitting, bool? records) => (records, sitting.Recorder) switch
    {
        (true, { Phase: RecordingPhase.Paused } paused) => new RecordingResumed(paused.Number, paused.Phase),
        (true, not { Phase: RecordingPhase.Running }) when Refuses(sitting) is null => Next(sitting),
        (false, { Phase: RecordingPhase.Running } running) => new RecordingPaused(running.Number),
        _ => null
    };

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        AskedAnew(sitting) with { Recorder = new Recorder(Number, RecordingPhase.Running, at, [], null) };

    /// <summary>Consent to one recording is none to the next; who wanted to be left out still does.</summary>
    private Sitting AskedAnew(Sitting sitting) => !sitting.RecordingRules.AsksConsent || Number == 1
        ? sitting
        : sitting.WithEach(
            [.. sitting.Seats.Where(seat => seat.RecordingAnswer == RecordingAnswer.Agreed).Select(seat => seat.Id)],
            seat => seat with { RecordingAnswer = null });

    internal override string NameFor(Actor by) => by.IsHouse ? "recordingByPlan" : base.NameFor(by);
}

public sealed record RecordingPaused(int Number) : RecordingFact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Recorder is { } recorder && recorder.Number == Number
        ? sitting with { Recorder = recorder.Until(at) with { Phase = RecordingPhase.Paused } }
        : sitting;

    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Recorder is { Phase: RecordingPhase.Paused } recorder && recorder.Number == Number
            ? new RecordingResumed(Number, RecordingPhase.Paused)
            : null;
}

/// <param name="From">Paused, or stopped.</param>
public sealed record RecordingResumed(int Number, RecordingPhase From) : RecordingFact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Recorder is { } recorder && recorder.Number == Number
        ? sitting with { Recorder = recorder with { Phase = RecordingPhase.Running } }
        : sitting;

    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Recorder is { Phase: RecordingPhase.Running } recorder && recorder.Number == Number ? new RecordingPaused(Number) : null;
}

/// <param name="From">Running, or paused.</param>
public sealed record RecordingStopped(int Number, RecordingPhase From) : RecordingFact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Recorder is { } recorder && recorder.Number == Number
        ? sitting with { Recorder = recorder.Until(at) with { Phase = RecordingPhase.Stopped } }
        : sitting;

    internal override string NameFor(Actor by) => by.IsHouse ? "recordingBrokenOff" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => true;

    /// <summary>It goes on as the same recording.</summary>
    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting is { Phase: Phase.InSession, Recorder: { Phase: RecordingPhase.Stopped } recorder } && recorder.Number == Number
            ? new RecordingResumed(Number, RecordingPhase.Stopped)
            : null;
}

/// <param name="From">Since when nothing was recorded, up to the fact itself.</param>
public sealed record RecordingInterrupted(int Number, Instant From) : RecordingFact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Recorder is { } recorder && recorder.Number == Number
        ? sitting with { Recorder = recorder.Until(From) }
        : sitting;
}

public sealed record RecordingRulesSet(RecordingRules From, RecordingRules To) : RecordingFact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { RecordingRules = To };

    internal override string NameFor(Actor by) => (From with { Watchers = To.Watchers }) == To ? "recordingWatchersSet"
        : (From with { AsksConsent = To.AsksConsent }) == To ? (To.AsksConsent ? "recordingAsks" : "recordingTells")
        : base.NameFor(by);

    internal override string? Detail => CoreJson.NameOf(From.Watchers == To.Watchers ? To.Framing : (Enum)To.Watchers);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.RecordingRules == To ? new RecordingRulesSet(To, From) : null;
}

/// <param name="Erased">The recording of which what was recorded of this person is taken out; null for none.</param>
public sealed record RecordingAnswered(SeatId Seat, RecordingAnswer? From, RecordingAnswer To, int? Erased = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Seat, seat => seat with { RecordingAnswer = To });
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Recording;

    internal override string NameFor(Actor by) =>
        Erased is not null ? "recordingErased" : To == RecordingAnswer.Agreed ? "recordingAgreed" : "recordingLeftOut";

    internal override string? Detail => Erased?.ToString(CultureInfo.InvariantCulture);
}
