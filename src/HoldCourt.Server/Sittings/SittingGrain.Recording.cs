using System.Collections.Immutable;

namespace HoldCourt.Server.Sittings;

/// <summary>What a sitting says of its recordings to those who keep them.</summary>
internal sealed partial class SittingGrain
{
    public Task<Presence> WasInside(PersonKey? person, string? proof)
    {
        ImmutableArray<Seat> seats = person is { } key
            ? _shown.Find(key) is { } seat ? Persons.SeatsOf(_shown, seat, null) : []
            : Persons.SeatsOf(_shown, null, proof);
        return Task.FromResult(seats is [] ? Presence.NeverCame : Knowledge.PresenceOf(seats) switch
        {
            (true, true) => Presence.Bench,
            (true, false) => Presence.Inside,
            _ => Presence.Outside
        });
    }

    public Task<bool> HasVisits() => Task.FromResult(_shown.Docket.HasSlots);

    private OnRecord OnRecordNow() => _shown switch
    {
        { Recorder: null or { Phase: RecordingPhase.Stopped }, OwnRecorders: [] } => OnRecord.No,
        { RecordingRules.AsksConsent: true } => OnRecord.Asked,
        _ => OnRecord.Told
    };

    private void FollowRecording(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (before.Recorder != after.Recorder || before.RecordingRules != after.RecordingRules) recordings.Follow(Id, after);
        foreach (var entry in news)
            if (entry.Fact is RecordingAnswered { Erased: { } number, Seat: var seat }) recordings.Erase(Id, number, seat);
    }

    /// <summary>The plan wants a recording, and the session has just begun.</summary>
    private Task RecordByPlan() =>
        Core.Recording.RecordByPlan.IsDue(_sitting) ? Commit(Actor.House, new RecordByPlan()) : Task.CompletedTask;

    /// <summary>It was recorded when the server stopped: what is between is a gap.</summary>
    private async Task NoteRecordingGap()
    {
        if (_sitting is { Recorder: { RunsSince: { } since, Number: var number } })
            await Commit(Actor.House, new NoteRecordingGap(recordings.WrittenUntil(Id, number) ?? since));
    }
}
