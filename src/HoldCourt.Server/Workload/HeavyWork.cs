using System.Diagnostics;
using System.Runtime.InteropServices;

namespace HoldCourt.Server.Workload;

/// <summary>What stands in one line: quick things do not wait for slow ones.</summary>
public enum Lane
{
    /// <summary>A tenth of a second each: passwords, codes, how strong a password is.</summary>
    Quick,

    /// <summary>Up to seconds each: files of all that was written or done, tables that are read, scores, zips.</summary>
    Slow
}

/// <summary>The line is full: it is to be tried again.</summary>
/// <param name="seconds">When there will be room, reckoned from how long such things took lately.</param>
public sealed class BusyException(int seconds) : Exception("The server is busy.")
{
    public int Seconds => seconds;
}

/// <summary>
/// The one place for everything that costs more than a few milliseconds of a processor. Each lane has a thread of its own at low
/// priority, so that no number of such wishes takes the threads and processors of voices, live lines and clocks. Who asks stands in turn
/// with the others, whoever asked most often; each may have a few waiting, and all together not many.
/// </summary>
public sealed class HeavyWork : IDisposable
{
    /// <summary>Most that wait in a lane, and most of one who asks.</summary>
    public const int MostWaiting = 120, MostOfOne = 20;

    private readonly Line[] _lines = [.. Enum.GetValues<Lane>().Select(lane => new Line(lane))];

    /// <summary>How many wait or are under way.</summary>
    public int Waiting => _lines.Sum(line => line.Count);

    /// <summary>How many were turned away since the start.</summary>
    public long TurnedAway => _lines.Sum(line => line.TurnedAway);

    /// <param name="by">Who asks: an account, a person of a sitting, or an address.</param>
    /// <exception cref="BusyException">Too many wait already.</exception>
    public Task<T> Run<T>(Lane lane, string by, Func<T> work) => Run(lane, by, () => Task.FromResult(work()));

    /// <inheritdoc cref="Run{T}(Lane, string, Func{T})"/>
    /// <param name="work">What it waits for meanwhile holds up the lane, and nothing else.</param>
    public Task<T> Run<T>(Lane lane, string by, Func<Task<T>> work)
    {
        var done = new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
        // Whose request it is goes with it.
        var context = ExecutionContext.Capture();
        _lines[(int)lane].Add(by, () =>
        {
            Action answer = () => { };
            if (context is null) Answer();
            else ExecutionContext.Run(context, _ => Answer(), null);
            return answer;

            void Answer()
            {
                try
                {
                    var result = work().GetAwaiter().GetResult();
                    answer = () => done.SetResult(result);
                }
                catch (Exception e) { answer = () => done.SetException(e); }
            }
        });
        return done.Task;
    }

    public void Dispose()
    {
        foreach (var line in _lines) line.Dispose();
    }

    private sealed class Line : IDisposable
    {
        private readonly Lock _gate = new();
        private readonly Dictionary<string, Queue<Func<Action>>> _of = [];

        /// <summary>Whose turn it is, in this order; each that waits once.</summary>
        private readonly Queue<string> _turns = new();
        private readonly SemaphoreSlim _news = new(0);
        private volatile bool _isOver;
        private int _count;
        private long _turnedAway;

        /// <summary>What one took lately, in milliseconds.</summary>
        private double _takes = 100;

        public Line(Lane lane) => new Thread(Run) { IsBackground = true, Name = $"Heavy {lane}" }.Start();

        public int Count => Volatile.Read(ref _count);
        public long TurnedAway => Interlocked.Read(ref _turnedAway);

        public void Add(string by, Func<Action> work)
        {
            lock (_gate)
            {
                if (!_of.TryGetValue(by, out var own)) own = [];
                if (own.Count >= MostOfOne || _count >= MostWaiting)
                {
                    Interlocked.Increment(ref _turnedAway);
                    throw new BusyException((int)Math.Clamp(Math.Ceiling(_takes * _count / 1_000), 1, 60));
                }
                if (own.Count == 0)
                {
                    _of[by] = own;
                    _turns.Enqueue(by);
                }
                own.Enqueue(work);
                _count++;
            }
            _news.Release();
        }

        private void Run()
        {
            Niceness.Lower();
            while (true)
            {
                _news.Wait();
                if (_isOver) return;
                var began = Stopwatch.GetTimestamp();
                var answer = Next()();
                lock (_gate)
                {
                    _takes += (Stopwatch.GetElapsedTime(began).TotalMilliseconds - _takes) / 8;
                    _count--;
                }
                answer();
            }
        }

        private Func<Action> Next()
        {
            lock (_gate)
            {
                var by = _turns.Dequeue();
                var own = _of[by];
                var work = own.Dequeue();
                if (own.Count > 0) _turns.Enqueue(by);
                else _of.Remove(by);
                return work;
            }
        }

        public void Dispose()
        {
            _isOver = true;
            _news.Release();
        }
    }
}

/// <summary>How a thread stands beside the others of this machine.</summary>
internal static partial class Niceness
{
    /// <summary>The calling thread gets a third of what another that wants a processor gets: 5 of 19 (setpriority(2), where Linux has it
    /// for each thread). With less, nobody could sign in on a machine that is busy for long.</summary>
    public static void Lower()
    {
        if (OperatingSystem.IsLinux()) _ = SetPriority(0, 0, 5);
    }

    [LibraryImport("libc", EntryPoint = "setpriority")]
    private static partial int SetPriority(int which, uint who, int priority);
}
