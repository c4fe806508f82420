using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

public enum RecordingPhase { Running, Paused, Stopped }

/// <summary>How the pictures of a film stand.</summary>
public enum Framing
{
    /// <summary>Everybody alike.</summary>
    Even,

    /// <summary>Whoever has the floor, or speaks, large, and the others small; what is shown takes the place of the large one.</summary>
    Lead,

    /// <summary>What is shown, whole, with whoever speaks beside it.</summary>
    Exhibit,

    /// <summary>Voices alone.</summary>
    Sound
}

/// <summary>Who may see a recording afterwards, beside whoever has a link to it.</summary>
public enum Watchers
{
    /// <summary>Whose session it is.</summary>
    Bench,

    /// <summary>Those, too, who were inside.</summary>
    Present,

    /// <summary>Those, too, who were invited.</summary>
    Invited
}

public enum RecordingAnswer { Agreed, Unrecorded }

/// <summary>What the bench has laid down about recordings of this sitting.</summary>
/// <param name="Names">Stand below the pictures of a film.</param>
/// <param name="Questions">Messages that are shown to all stand in a film, too.</param>
/// <param name="AsksConsent">Nobody is in it who has not agreed; otherwise everybody is who has not said that they want to be left
/// out.</param>
/// <param name="ByPlan">It begins by itself when the session does, or where the plan of an item says so.</param>
public sealed record RecordingRules(
    Framing Framing = Framing.Lead, bool Names = true, bool Questions = true, bool AsksConsent = false, Watchers Watchers = Watchers.Bench,
    bool ByPlan = false)
{
    public static RecordingRules Usual { get; } = new();
}

/// <summary>The newest recording of a sitting.</summary>
/// <param name="Number">1 for the first of the sitting.</param>
/// <param name="Stretches">What is in it so far, the stretch that is being recorded left out; in order.</param>
/// <param name="RunsSince">Since when is recorded what goes on; null while it is paused or stopped, and while the session rests.</param>
public sealed record Recorder(
    int Number, RecordingPhase Phase, Instant Since, ImmutableArray<Stretch> Stretches, Instant? RunsSince)
{
    /// <summary>Most recordings of one sitting.</summary>
    public const int Most = 100;

    /// <summary>How much is in it, the stretch that is being recorded left out.</summary>
    public TimeSpan Recorded => Stretches.Aggregate(TimeSpan.Zero, (sum, stretch) => sum + stretch.Length);

    /// <summary>What is in it when it is looked at then.</summary>
    public Timeline TimelineAt(Instant now) =>
        Timeline.Of(RunsSince is { } since ? Stretches.Add(new Stretch(since, now)) : Stretches);

    internal Recorder Until(Instant at) => RunsSince is not { } since
        ? this
        : this with { RunsSince = null, Stretches = since < at ? Stretches.Add(new Stretch(since, at)) : Stretches };
}

/// <summary>What is asked about recordings.</summary>
public static class Recorders
{
    /// <summary>At this moment what goes on is being recorded.</summary>
    public static bool IsRecorded(this Sitting sitting) => sitting.Recorder is { RunsSince: not null };

    /// <summary>
    /// Somebody's voice and picture are being recorded. Whoever has not been asked yet is not in it where consent is asked, and whoever
    /// wants to be left out never is.
    /// </summary>
    public static bool IsRecorded(this Sitting sitting, Seat seat) =>
        sitting.IsRecorded() && seat is { IsSeated: true, Room: null } && sitting.Agrees(seat);

    /// <summary>Would be in a recording.</summary>
    public static bool Agrees(this Sitting sitting, Seat seat) => sitting.RecordingRules.AsksConsent
        ? seat.RecordingAnswer == RecordingAnswer.Agreed
        : seat.RecordingAnswer != RecordingAnswer.Unrecorded;

    /// <summary>The plan, or the item that is on, wants a recording.</summary>
    public static bool WantsRecording(this Sitting sitting) =>
        sitting.RunSheet.Now?.Records ?? (sitting.RecordingRules.ByPlan && sitting.Phase == Phase.InSession);

    /// <summary>After any fact: what is recorded is what goes on while the session does.</summary>
    internal static Sitting Follow(Sitting sitting, Instant at)
    {
        if (sitting.Recorder is not { Phase: not RecordingPhase.Stopped } recorder) return sitting;
        var followed = recorder switch
        {
            _ when sitting.Phase == Phase.Adjourned => recorder.Until(at) with { Phase = RecordingPhase.Stopped },
            { Phase: RecordingPhase.Running, RunsSince: null } when sitting.Phase == Phase.InSession => recorder with { RunsSince = at },
            _ when recorder.Phase == RecordingPhase.Running && sitting.Phase == Phase.InSession => recorder,
            _ => recorder.Until(at)
        };
        return ReferenceEquals(followed, recorder) ? sitting : sitting with { Recorder = followed };
    }
}
