using System.Collections.Immutable;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Media;

/// <summary>What the relay is told of a sitting, and what it tells: who was heard, and whose connection is slow.</summary>
internal sealed class StageWork : TopicWork
{
    private static readonly TimeSpan _betweenCounts = TimeSpan.FromSeconds(10);

    private readonly IRelay _relay;
    private readonly Trouble _trouble;
    private readonly Supervisor _supervisor;
    private bool _isBehind;

    public StageWork(IRelay relay, Trouble trouble, Supervisor supervisor)
    {
        (_relay, _trouble, _supervisor) = (relay, trouble, supervisor);
        Every(_betweenCounts, LookAtMedia);
    }

    public override string Name => "relay";

    public override Task Woke()
    {
        if (Inside.Latest.IsRunning) _relay.Follow(Inside.Id, StageChange.Whole(Inside.Latest));
        return Task.CompletedTask;
    }

    /// <summary>The relay must not go on by what was: whatever it missed, it is told the whole.</summary>
    public override void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (!_isBehind && StageChange.Of(before, after) is not { }) return;
        _isBehind = !_supervisor.Turn(Name, () =>
            _relay.Follow(Inside.Id, _isBehind ? StageChange.Whole(after) : StageChange.Of(before, after)!))
            && !_supervisor.Turn(Name, () => _relay.Follow(Inside.Id, StageChange.Whole(after)));
    }

    public override Joined Welcome(Seat seat, Joined joined) =>
        Inside.Shown.MayKnow(Knowledge.ViewpointOf(Inside.Shown, seat), Matter.Books) ? joined with { Trouble = _trouble.Now } : joined;

    private async Task LookAtMedia()
    {
        if (!Inside.Latest.IsRunning) return;
        var (talked, slow) = _relay.Report(Inside.Id);
        if (talked.Count > 0) await Inside.Wish(Actor.House, new CountTalk([.. talked.Keys], [.. talked.Values]));
        await _trouble.Become(Inside, _trouble.Now with { Slow = slow });
    }
}
