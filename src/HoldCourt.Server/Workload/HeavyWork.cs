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
/// with the others, whoever asked most often; each may have a few waiting, and all together not many. Strangers, of whom there may be any
/// number, stand behind those whom the house knows, and leave them room.
/// </summary>
public sealed class HeavyWork : IDisposable
{
    /// <summary>Most that wait in a lane, most of them of strangers, and most of one who asks.</summary>
    public const int MostWaiting = 120, MostOfStrangers = 80, MostOfOne = 20;

    /// <summary>Of so many turns one is a stranger's, however many others wait.</summary>
    private const int StrangersTurn = 4;

    private readonly Line[] _lines = [.. Enum.GetValues<Lane>().Select(lane => new Line(lane))];

    /// <summary>How many wait or are under way.</summary>
    public int Waiting => _lines.Sum(line => line.Count);

    /// <summary>How many were turned away since the start.</summary>
    public long TurnedAway => _lines.Sum(line => line.TurnedAway);

    /// <param name="by">Who asks: an account, a person of a sitting, or an address.</param>
    /// <param name="isStranger">Nobody has signed in; it may be anybody.</param>
    /// <exception cref="BusyException">Too many wait already.</exception>
    public Task<T> Run<T>(Lane lane, string by, Func<T> work, bool isStranger = false) =>
        Run(lane, by, () => Task.FromResult(work()), isStranger);

    /// <inheritdoc cref="Run{T}(Lane, string, Func{T}, bool)"/>
    /// <param name="work">What it waits for meanwhile holds up the lane, and nothing else.</param>
    public Task<T> Run<T>(Lane lane, string by, Func<Task<T>> work, bool isStranger = false)
    {
        var done = new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
        // Whose request it is goes with it.
        var context = ExecutionContext.Capture();
        _lines[(int)lane].Add(by, isStranger, () =>
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
        private readonly Turns _known = new(), _strangers = new();
        private readonly SemaphoreSlim _news = new(0);
        private volatile bool _isOver;
        private int _count, _turn;
        private long _turnedAway;

        /// <summary>What one took lately, in milliseconds.</summary>
        private double _takes = 100;

        public Line(Lane lane) => new Thread(Run) { IsBackground = true, Name = $"Heavy {lane}" }.Start();

        public int Count => Volatile.Read(ref _count);
        public long TurnedAway => Interlocked.Read(ref _turnedAway);

        public void Add(string by, bool isStranger, Func<Action> work)
        {
            lock (_gate)
            {
                var turns = isStranger ? _strangers : _known;
                if (_count >= MostWaiting || (isStranger && _strangers.Count >= MostOfStrangers) || !turns.Add(by, work))
                {
                    Interlocked.Increment(ref _turnedAway);
                    throw new BusyException((int)Math.Clamp(Math.Ceiling(_takes * _count / 1_000), 1, 60));
                }
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
                var stranger = _known.Count == 0 || (_strangers.Count > 0 && ++_turn % StrangersTurn == 0);
                return (stranger ? _strangers : _known).Next();
            }
        }

        public void Dispose()
        {
            _isOver = true;
            _news.Release();
        }
    }
}

/// <summary>What waits, one of each who asks after the other.</summary>
internal sealed class Turns
{
    private readonly Dictionary<string, Queue<Func<Action>>> _of = [];

    /// <summary>Whose turn it is, in this order; each that waits once.</summary>
    private readonly Queue<string> _order = new();

    public int Count { get; private set; }

    /// <returns>False when this one has enough waiting.</returns>
    public bool Add(string by, Func<Action> work)
    {
        if (!_of.TryGetValue(by, out var own)) own = [];
        if (own.Count >= HeavyWork.MostOfOne) return false;
        if (own.Count == 0)
        {
            _of[by] = own;
            _order.Enqueue(by);
        }
        own.Enqueue(work);
        Count++;
        return true;
    }

    /// <exception cref="InvalidOperationException">Nothing waits.</exception>
    public Func<Action> Next()
    {
        var by = _order.Dequeue();
        var own = _of[by];
        var work = own.Dequeue();
        if (own.Count > 0) _order.Enqueue(by);
        else _of.Remove(by);
        Count--;
        return work;
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
