using System.Collections.Concurrent;

namespace HoldCourt.Server.Media;

/// <summary>
/// The stages of all sittings on this server, and the beat they share: gathering frames for 15 ms into one message
/// costs less than sending each.
/// </summary>
internal sealed class Stages(TimeProvider time) : BackgroundService
{
    private static readonly TimeSpan _gathering = TimeSpan.FromMilliseconds(15);

    /// <summary>The beat while nobody sends; a frame ends it at once.</summary>
    private static readonly TimeSpan _resting = TimeSpan.FromMilliseconds(60);
    private static readonly TimeSpan _betweenChoices = TimeSpan.FromMilliseconds(90), _betweenMarks = TimeSpan.FromSeconds(1), _quiet = TimeSpan.FromMilliseconds(500);
    private readonly AutoResetEvent _woken = new(false);
    private volatile bool _rests;
    private readonly ConcurrentDictionary<Guid, Stage> _stages = new();

    public Stage Of(Guid sitting) => _stages.GetOrAdd(sitting, _ => new Stage(time, Wake));

    public void Follow(Guid sitting, Sitting state)
    {
        Of(sitting).Follow(state);
        Followed?.Invoke(sitting, state);
    }

    /// <summary>The sittings that run, as they stand now.</summary>
    public IReadOnlyList<(Guid Sitting, Sitting State)> Running() => [.. _stages.Select(pair => (pair.Key, pair.Value.Sitting)).Where(pair => pair.Sitting.IsRunning)];

    /// <summary>Raised after each change of a sitting.</summary>
    public event Action<Guid, Sitting>? Followed;

    private void Wake()
    {
        if (!_rests) return;
        _rests = false;
        _woken.Set();
    }

    public override void Dispose()
    {
        _woken.Dispose();
        base.Dispose();
    }

    /// <summary>A thread of its own: the pool's would be woken and put to sleep a hundred times a second.</summary>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.Factory.StartNew(() => Beat(stoppingToken), stoppingToken, TaskCreationOptions.LongRunning, TaskScheduler.Default);

    private void Beat(CancellationToken stop)
    {
        var (chosen, marked) = (time.GetTimestamp(), time.GetTimestamp());
        WaitHandle[] ends = [_woken, stop.WaitHandle];
        while (!stop.IsCancellationRequested)
        {
            var now = time.GetTimestamp();
            var (chooses, marks, rests) = (IsDue(ref chosen, _betweenChoices), IsDue(ref marked, _betweenMarks), true);
            foreach (var (sitting, stage) in _stages)
            {
                if (stage.IsEmpty)
                {
                    if (stage.Sitting.Phase == Phase.Adjourned) _stages.TryRemove(sitting, out _);
                    continue;
                }
                rests &= time.GetElapsedTime(stage.LastFrameAt, now) > _quiet;
                if (chooses) stage.Listen();
                if (marks) stage.Mark();
                stage.Flush();
            }
            _rests = rests;
            if (rests) WaitHandle.WaitAny(ends, _resting);
            else stop.WaitHandle.WaitOne(_gathering);
            _rests = false;

            bool IsDue(ref long last, TimeSpan span)
            {
                if (time.GetElapsedTime(last, now) < span) return false;
                last = now;
                return true;
            }
        }
    }
}
