using System.Collections.Concurrent;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Server.Media;

/// <summary>
/// The stages of all sittings on this server, and the beat they share: gathering frames for 10 ms into one message
/// costs less than sending each.
/// </summary>
internal sealed class Stages(TimeProvider time) : BackgroundService
{
    private static readonly TimeSpan _gathering = TimeSpan.FromMilliseconds(10);
    private const int BeatsBetweenChoices = 10, BeatsBetweenMarks = 100;
    private readonly ConcurrentDictionary<Guid, Stage> _stages = new();

    public Stage Of(Guid sitting) => _stages.GetOrAdd(sitting, _ => new Stage(time));

    public void Follow(Guid sitting, Sitting state)
    {
        Of(sitting).Follow(state);
        Followed?.Invoke(sitting, state);
    }

    /// <summary>Raised after each change of a sitting.</summary>
    public event Action<Guid, Sitting>? Followed;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(_gathering);
        for (var beat = 0; await timer.WaitForNextTickAsync(stoppingToken); beat++)
            foreach (var (sitting, stage) in _stages)
            {
                if (beat % BeatsBetweenChoices == 0) stage.Listen();
                if (beat % BeatsBetweenMarks == 0) stage.Mark();
                stage.Flush();
                if (beat % 1_000 == 999 && stage.IsEmpty && stage.Sitting.Phase == Phase.Adjourned) _stages.TryRemove(sitting, out _);
            }
    }
}
