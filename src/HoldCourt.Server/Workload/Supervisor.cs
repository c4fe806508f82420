using System.Collections.Concurrent;
using System.Diagnostics.Metrics;

namespace HoldCourt.Server.Workload;

/// <summary>How something that runs beside the requests is.</summary>
/// <param name="Name">As in the message catalogue.</param>
/// <param name="Failures">Since the start of the server.</param>
/// <param name="Kind">Of the last failure: a name of an exception, and nobody's words.</param>
/// <param name="Pauses">It is begun again after a pause.</param>
public sealed record WorkRow(string Name, long Failures, Instant FailedAt, string Kind, bool Pauses);

/// <summary>
/// The one way for all that runs beside a request: it has a name; what ends by an exception is begun again after a pause, twice as long
/// each time; each failure is counted, logged, and shown to the keeper. Nothing of it ends the server, and nothing ends in silence.
/// </summary>
internal sealed partial class Supervisor : IDisposable
{
    public const string MeterName = "HoldCourt.Work";
    private static readonly TimeSpan _shortest = TimeSpan.FromSeconds(1), _longest = TimeSpan.FromMinutes(1);

    /// <summary>Of what fails at each turn one line in so long is logged.</summary>
    private static readonly TimeSpan _betweenLines = TimeSpan.FromSeconds(10);

    private readonly ConcurrentDictionary<string, Work> _works = new();
    private readonly TimeProvider _time;
    private readonly ILogger<Supervisor> _log;
    private readonly Meter _meter;
    private readonly Counter<long> _failures;

    public Supervisor(TimeProvider time, IMeterFactory meters, ILogger<Supervisor> log)
    {
        (_time, _log) = (time, log);
        _meter = meters.Create(MeterName);
        _failures = _meter.CreateCounter<long>("work.failures", description: "Failures of what runs beside the requests, by its name.");
    }

    /// <summary>What has failed since the start, the newest first.</summary>
    public IReadOnlyList<WorkRow> Failed => [.. _works.Select(pair => pair.Value.Row(pair.Key)).OfType<WorkRow>()
        .OrderByDescending(row => row.FailedAt)];

    /// <summary>Runs for as long as the server does. When it ends by itself, it is over.</summary>
    public async Task Keep(string name, Func<CancellationToken, Task> work, CancellationToken stop)
    {
        for (var pause = _shortest; !stop.IsCancellationRequested;)
        {
            var began = _time.GetTimestamp();
            try
            {
                await work(stop);
                return;
            }
            catch (Exception) when (stop.IsCancellationRequested) { return; }
            catch (Exception e) { Note(name, e, pauses: true); }
            // What ran for a while and fails then is not the same failure again.
            if (_time.GetElapsedTime(began) > _longest) pause = _shortest;
            try { await Task.Delay(pause, stop); }
            catch (OperationCanceledException) { return; }
            pause = pause * 2 < _longest ? pause * 2 : _longest;
            Of(name).GoesOn();
        }
    }

    /// <summary>Does something once, for which nobody waits.</summary>
    public void Begin(string name, Func<Task> work) => _ = Once(name, work);

    /// <summary>One turn of something that goes on whatever happens in it.</summary>
    /// <returns>Whether it was done.</returns>
    public bool Turn(string name, Action turn)
    {
        try
        {
            turn();
            return true;
        }
        catch (Exception e)
        {
            Note(name, e);
            return false;
        }
    }

    /// <inheritdoc cref="Turn(string, Action)"/>
    public async Task<bool> Once(string name, Func<Task> work)
    {
        try
        {
            // What comes before its first wait does not hold up whoever begins it either.
            await Task.Yield();
            await work();
            return true;
        }
        catch (OperationCanceledException) { return false; }
        catch (Exception e)
        {
            Note(name, e);
            return false;
        }
    }

    /// <param name="kind">What the keeper reads of it; null for the exception's own name.</param>
    public void Note(string name, Exception failure, bool pauses = false, string? kind = null)
    {
        _failures.Add(1, new KeyValuePair<string, object?>("work", name));
        var work = Of(name);
        if (work.Note(kind ?? failure.GetType().Name, _time.GetUtcNow(), pauses, _betweenLines)) LogFailed(failure, name);
    }

    private Work Of(string name) => _works.GetOrAdd(name, _ => new Work());

    public void Dispose() => _meter.Dispose();

    [LoggerMessage(LogLevel.Error, "{Work} failed")]
    private partial void LogFailed(Exception e, string work);

    private sealed class Work
    {
        private readonly Lock _gate = new();
        private long _count;
        private DateTimeOffset _at, _saidAt;
        private string _kind = "";
        private bool _pauses;

        /// <returns>Whether it should be said.</returns>
        public bool Note(string kind, DateTimeOffset now, bool pauses, TimeSpan between)
        {
            lock (_gate)
            {
                _count++;
                (_at, _kind, _pauses) = (now, kind, pauses);
                if (now - _saidAt < between) return false;
                _saidAt = now;
                return true;
            }
        }

        public void GoesOn()
        {
            lock (_gate) _pauses = false;
        }

        public WorkRow? Row(string name)
        {
            lock (_gate)
                return _count == 0 ? null : new WorkRow(name, _count, new Instant(_at.ToUnixTimeMilliseconds()), _kind, _pauses);
        }
    }
}

/// <summary>Something that runs for as long as the server does.</summary>
internal abstract class SupervisedService(Supervisor supervisor) : BackgroundService
{
    protected Supervisor Supervisor { get; } = supervisor;

    /// <summary>As in the message catalogue.</summary>
    protected abstract string Name { get; }

    protected abstract Task Work(CancellationToken stoppingToken);

    protected sealed override Task ExecuteAsync(CancellationToken stoppingToken) => Supervisor.Keep(Name, Work, stoppingToken);
}
