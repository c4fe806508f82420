using System.Collections.Concurrent;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Server.Media;

/// <summary>
/// The stages of all sittings on this server, and the beat they share: gathering frames for 15 ms into one message
/// costs less than sending each.
/// </summary>
internal sealed class Stages(TimeProvider time) : BackgroundService
{
    private static readonly TimeSpan _gathering = TimeSpan.FromMilliseconds(15);
    private static readonly TimeSpan _resting = TimeSpan.FromMilliseconds(100);
    private const int BeatsBetweenChoices = 6, BeatsBetweenMarks = 66;
    private readonly ConcurrentDictionary<Guid, Stage> _stages = new();

    public Stage Of(Guid sitting) => _stages.GetOrAdd(sitting, _ => new Stage(time));

    public void Follow(Guid sitting, Sitting state)
    {
        Of(sitting).Follow(state);
        Followed?.Invoke(sitting, state);
    }

    /// <summary>Raised after each change of a sitting.</summary>
    public event Action<Guid, Sitting>? Followed;

    /// <summary>A thread of its own: the pool's would be woken and put to sleep a hundred times a second.</summary>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.Factory.StartNew(() => Beat(stoppingToken), stoppingToken, TaskCreationOptions.LongRunning, TaskScheduler.Default);

    private void Beat(CancellationToken stop)
    {
        for (var beat = 0; !stop.IsCancellationRequested; beat++)
        {
            var rests = true;
            foreach (var (sitting, stage) in _stages)
            {
                if (stage.IsEmpty)
                {
                    if (stage.Sitting.Phase == Phase.Adjourned) _stages.TryRemove(sitting, out _);
                    continue;
                }
                rests = false;
                if (beat % BeatsBetweenChoices == 0) stage.Listen();
                if (beat % BeatsBetweenMarks == 0) stage.Mark();
                stage.Flush();
            }
            stop.WaitHandle.WaitOne(rests ? _resting : _gathering);
        }
    }
}
