using System.Collections.Concurrent;
using System.Diagnostics;

namespace HoldCourt.Server.Workload;

/// <summary>
/// Where requests are answered: a few at a time, and the others in turn, so that a rush of them takes neither all processors nor all
/// threads from voices, live lines and clocks. One that waits for something with its thread, as for a locked database, is not counted
/// after a moment, and another goes on beside it.
/// </summary>
internal sealed class RequestTurns : TaskScheduler, IDisposable
{
    /// <summary>Whoever has a thread for so long waits for something.</summary>
    private static readonly TimeSpan _waits = TimeSpan.FromMilliseconds(50), _betweenLooks = TimeSpan.FromMilliseconds(25);

    private readonly ConcurrentQueue<Task> _queue = new();
    private readonly Lock _gate = new();

    /// <summary>Since when each that has a thread has had it.</summary>
    private readonly Dictionary<Task, long> _running = [];
    private readonly int _atOnce, _most;
    private readonly Timer _looks;
    private bool _isOver;

    /// <param name="atOnce">How many have a thread, those aside that wait with it.</param>
    /// <param name="most">How many have a thread, those that wait with it counted in.</param>
    public RequestTurns(int atOnce, int most)
    {
        (_atOnce, _most) = (atOnce, most);
        _looks = new Timer(_ => Begin(), null, Timeout.InfiniteTimeSpan, Timeout.InfiniteTimeSpan);
    }

    public override int MaximumConcurrencyLevel => _most;

    /// <summary>How many stand in the line.</summary>
    public int Waiting => _queue.Count;

    /// <summary>All of it, with what it goes on with later.</summary>
    public Task Run(Func<Task> work) =>
        Task.Factory.StartNew(work, CancellationToken.None, TaskCreationOptions.DenyChildAttach, this).Unwrap();

    protected override void QueueTask(Task task)
    {
        _queue.Enqueue(task);
        Begin();
    }

    /// <summary>Only what has its turn already goes on at once.</summary>
    protected override bool TryExecuteTaskInline(Task task, bool taskWasPreviouslyQueued) =>
        !taskWasPreviouslyQueued && Current == this && TryExecuteTask(task);

    protected override IEnumerable<Task> GetScheduledTasks() => _queue;

    private void Begin()
    {
        lock (_gate)
        {
            while (!_queue.IsEmpty && HasRoom() && _queue.TryDequeue(out var next))
            {
                _running[next] = Stopwatch.GetTimestamp();
                // At the end of the pool's own queue, so that whatever else came meanwhile comes first.
                ThreadPool.UnsafeQueueUserWorkItem(Do, next, preferLocal: false);
            }
            // What was cut off ends when the server has stopped already.
            if (!_isOver) _looks.Change(_queue.IsEmpty ? Timeout.InfiniteTimeSpan : _betweenLooks, Timeout.InfiniteTimeSpan);
        }
    }

    private bool HasRoom() => _running.Count < _atOnce
        || (_running.Count < _most && _running.Values.Count(since => Stopwatch.GetElapsedTime(since) < _waits) < _atOnce);

    private void Do(Task task)
    {
        TryExecuteTask(task);
        lock (_gate) _running.Remove(task);
        Begin();
    }

    public void Dispose()
    {
        lock (_gate) _isOver = true;
        _looks.Dispose();
    }
}
