using System.Collections.Immutable;
using HoldCourt.Server.Media;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Recording;

/// <summary>What a sitting says of its recordings to those who keep them.</summary>
internal interface ISittingRecording : IGrainExtension
{
    /// <summary>How a person was here, for what is kept of the sitting; whoever was put out was not.</summary>
    /// <param name="proof">In place of a person, the key of the line whose link they showed.</param>
    Task<Presence> WasInside(PersonKey? person, string? proof);

    /// <summary>People come for visits one at a time: what one says is not for the next.</summary>
    Task<bool> HasVisits();
}

/// <summary>How somebody was in a sitting.</summary>
public enum Presence
{
    NeverCame,

    /// <summary>Waited and was not let in, or was put out.</summary>
    Outside,
    Inside,
    Bench
}

/// <summary>Recordings: what a plan wishes, what stands still, and what is missing.</summary>
internal sealed class RecordingWork : TopicWork, ISittingRecording
{
    /// <summary>A recording that stands still is said at once.</summary>
    private static readonly TimeSpan _betweenGlances = TimeSpan.FromSeconds(1), _betweenLooks = TimeSpan.FromSeconds(10);

    private readonly RecordingRegister _register;
    private readonly IRelay _relay;
    private readonly Trouble _trouble;

    /// <summary>There was too little room for a recording at the last look, and it was written all the same.</summary>
    private bool _wasLow;

    /// <summary>What is still to be noted as missing.</summary>
    private Instant? _gap;

    public RecordingWork(RecordingRegister register, IRelay relay, Trouble trouble)
    {
        (_register, _relay, _trouble) = (register, relay, trouble);
        After<Open>((_, _) => RecordByPlan());
        After<Begin>((_, _) => RecordByPlan());
        Every(_betweenGlances, LookAtGaps);
        Every(_betweenLooks, LookAtRoom);
    }

    public override string Name => "recordings";

    /// <summary>It was recorded when the server stopped: what is between is a gap. Up to when there is something is known only until
    /// something is written again.</summary>
    public override async Task Woke()
    {
        _register.Follow(Inside.Id, Inside.Latest);
        if (Inside.Latest is { IsRunning: true, Recorder: { RunsSince: { } since, Number: var number } })
            await Inside.Wish(Actor.House, new NoteRecordingGap(_register.WrittenUntil(Inside.Id, number) ?? since));
    }

    public override void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (before.Recorder != after.Recorder || before.RecordingRules != after.RecordingRules) _register.Follow(Inside.Id, after);
        foreach (var entry in news)
            if (entry.Fact is RecordingAnswered { Erased: { } number, Seat: var seat }) _register.Erase(Inside.Id, number, seat);
    }

    /// <summary>The plan wants a recording, and the session has just begun.</summary>
    private Task RecordByPlan() =>
        Core.Recording.RecordByPlan.IsDue(Inside.Latest) ? Inside.Wish(Actor.House, new RecordByPlan()) : Task.CompletedTask;

    /// <summary>A disk that fills slowly ends it in order. One that is full at once may be free again at once: it stands still, and goes
    /// on.</summary>
    private async Task LookAtRoom()
    {
        if (!Inside.Latest.IsRunning) return;
        var isLow = _register.HasNoRoom(Inside.Latest) && _trouble.Now.StandsSince is null;
        if (_relay.CannotRecord(Inside.Id) || (isLow && _wasLow)) await Inside.Wish(Actor.House, new BreakOffRecording());
        _wasLow = isLow;
        await _trouble.Become(Inside, _trouble.Now with { RoomFor = _register.RoomFor() });
    }

    /// <summary>Says when a recording stands still for want of room, and notes what is missing once it goes on.</summary>
    private async Task LookAtGaps()
    {
        if (Inside.Latest.Recorder?.RunsSince is null && _trouble.Now.StandsSince is null) return;
        var (stands, gap) = _relay.RecordingOf(Inside.Id);
        _gap = gap ?? _gap;
        if (_gap is { } from && await Inside.Wish(Actor.House, new NoteRecordingGap(from)) is null) _gap = null;
        await _trouble.Become(Inside, _trouble.Now with { StandsSince = stands });
    }

    public Task<Presence> WasInside(PersonKey? person, string? proof)
    {
        var sitting = Inside.Shown;
        ImmutableArray<Seat> seats = person is { } key
            ? sitting.Find(key) is { } seat ? Persons.SeatsOf(sitting, seat, null) : []
            : Persons.SeatsOf(sitting, null, proof);
        return Task.FromResult(seats is [] ? Presence.NeverCame : Knowledge.PresenceOf(seats) switch
        {
            (true, true) => Presence.Bench,
            (true, false) => Presence.Inside,
            _ => Presence.Outside
        });
    }

    public Task<bool> HasVisits() => Task.FromResult(Inside.Shown.Docket.HasSlots);
}
