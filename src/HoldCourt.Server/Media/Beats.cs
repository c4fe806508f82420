using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Media;

/// <summary>
/// The threads that pass on what has gathered: gathering frames for 15 ms into one message costs less than sending each. Receivers are
/// shared out among the threads whatever sitting they belong to, so that one large sitting uses several, and holds up no other.
/// </summary>
internal sealed class Beats : IDisposable
{
    private static readonly TimeSpan _gathering = TimeSpan.FromMilliseconds(15);

    /// <summary>The beat while nobody sends; a frame ends it at once.</summary>
    private static readonly TimeSpan _resting = TimeSpan.FromMilliseconds(60), _quiet = TimeSpan.FromMilliseconds(500);

    private readonly TimeProvider _time;
    private readonly Supervisor _supervisor;
    private readonly Beat[] _beats;
    private readonly CancellationTokenSource _stop = new();
    private long _lastFrameAt;
    private int _isDisposed;

    /// <param name="count">How many threads, at least 1.</param>
    public Beats(TimeProvider time, int count, Supervisor supervisor)
    {
        (_time, _supervisor) = (time, supervisor);
        _beats = [.. Enumerable.Range(0, count).Select(number => new Beat(this, number))];
    }

    /// <summary>Called on each turn of the first thread, with the time that has gone by.</summary>
    public Action? OnTurn { get; set; }

    public void Start()
    {
        foreach (var beat in _beats) beat.Start();
    }

    public void Add(IReceiver receiver) => _beats.MinBy(beat => beat.Count)!.Add(receiver);

    public void Remove(IReceiver receiver)
    {
        foreach (var beat in _beats) beat.Remove(receiver);
    }

    /// <summary>A frame came in.</summary>
    public void Wake()
    {
        Volatile.Write(ref _lastFrameAt, _time.GetTimestamp());
        foreach (var beat in _beats) beat.Wake();
    }

    /// <summary>May be called more than once: it is known under several names.</summary>
    public void Dispose()
    {
        if (Interlocked.Exchange(ref _isDisposed, 1) != 0) return;
        _stop.Cancel();
        foreach (var beat in _beats) beat.Dispose();
        _stop.Dispose();
    }

    private bool IsQuiet => _time.GetElapsedTime(Volatile.Read(ref _lastFrameAt)) > _quiet;

    /// <summary>A thread of its own: the pool's would be woken and put to sleep a hundred times a second.</summary>
    private sealed class Beat(Beats beats, int number) : IDisposable
    {
        private readonly Lock _gate = new();
        private readonly AutoResetEvent _woken = new(false);
        private volatile IReceiver[] _receivers = [];
        private volatile bool _rests;
        private Thread? _thread;

        public int Count => _receivers.Length;

        public void Add(IReceiver receiver)
        {
            lock (_gate) _receivers = [.. _receivers, receiver];
        }

        public void Remove(IReceiver receiver)
        {
            lock (_gate)
                if (_receivers.Contains(receiver)) _receivers = [.. _receivers.Where(other => other != receiver)];
        }

        public void Start()
        {
            _thread = new Thread(Run) { IsBackground = true, Name = $"Media {number}" };
            _thread.Start();
        }

        public void Wake()
        {
            if (!_rests) return;
            _rests = false;
            _woken.Set();
        }

        private void Run()
        {
            WaitHandle[] ends = [_woken, beats._stop.Token.WaitHandle];
            while (!beats._stop.IsCancellationRequested)
            {
                if (number == 0 && beats.OnTurn is { } turn) beats._supervisor.Turn(Name, turn);
                foreach (var receiver in _receivers) Flush(receiver);
                var rests = beats.IsQuiet;
                _rests = rests;
                if (rests) WaitHandle.WaitAny(ends, _resting);
                else beats._stop.Token.WaitHandle.WaitOne(_gathering);
                _rests = false;
            }
        }

        /// <summary>What one receiver does wrong is its own.</summary>
        private void Flush(IReceiver receiver)
        {
            try { receiver.Flush(); }
            catch (Exception e) { beats._supervisor.Note(Name, e); }
        }

        private const string Name = "relay";

        public void Dispose()
        {
            _thread?.Join(TimeSpan.FromSeconds(2));
            _woken.Dispose();
        }
    }
}
