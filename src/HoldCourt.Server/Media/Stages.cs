using System.Collections.Concurrent;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Media;

/// <summary>How the relay of this process is set up.</summary>
public sealed class MediaOptions
{
    /// <summary>Threads that pass on frames, 1 to 64; null for half of the processors, and two at least.</summary>
    public int? Threads { get; set; }

    internal int Count => Math.Clamp(Threads ?? Math.Max(2, Environment.ProcessorCount / 2), 1, 64);
}

/// <summary>The stages of all sittings whose relay is in this process.</summary>
internal sealed class Stages : IRelay, IHostedService, IDisposable
{
    private static readonly TimeSpan _betweenChoices = TimeSpan.FromMilliseconds(90), _betweenMarks = TimeSpan.FromSeconds(1);
    private readonly TimeProvider _time;
    private readonly Beats _beats;
    private readonly ConcurrentDictionary<Guid, Stage> _stages = new();
    private long _chosen, _marked;

    private readonly ITaps _taps;

    private readonly SpeechToText _speech;
    private readonly Supervisor _supervisor;

    public Stages(TimeProvider time, ITaps taps, SpeechToText speech, Supervisor supervisor,
        Microsoft.Extensions.Options.IOptions<MediaOptions> options)
    {
        (_time, _taps, _speech, _supervisor) = (time, taps, speech, supervisor);
        _beats = new Beats(time, options.Value.Count, supervisor) { OnTurn = Turn };
        (_chosen, _marked) = (time.GetTimestamp(), time.GetTimestamp());
    }

    public Stage Of(Guid sitting) => _stages.GetOrAdd(
        sitting, id => new Stage(_time, _beats, number => _taps.Open(id, number), _speech.EarOf(id)));

    public void Follow(Guid sitting, StageChange change) => Of(sitting).Follow(change);

    public StageReport Report(Guid sitting) => Of(sitting).Report();

    public bool CannotRecord(Guid sitting) => Of(sitting).CannotRecord;

    public (Instant? StandsSince, Instant? Gap) RecordingOf(Guid sitting) => Of(sitting).Recording;

    public Task StartAsync(CancellationToken cancellationToken)
    {
        _beats.Start();
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public void Dispose() => _beats.Dispose();

    private void Turn()
    {
        var now = _time.GetTimestamp();
        var (chooses, marks) = (IsDue(ref _chosen, _betweenChoices), IsDue(ref _marked, _betweenMarks));
        if (!chooses && !marks) return;
        foreach (var (sitting, stage) in _stages)
        {
            // What one stage does wrong is its own sitting's.
            _supervisor.Turn("relay", () =>
            {
                if (stage.IsDone) _stages.TryRemove(sitting, out _);
                if (stage.IsEmpty) return;
                if (chooses) stage.Listen();
                if (marks) stage.Mark();
            });
        }

        bool IsDue(ref long last, TimeSpan span)
        {
            if (_time.GetElapsedTime(last, now) < span) return false;
            last = now;
            return true;
        }
    }
}
