using System.Collections.Immutable;

namespace HoldCourt.Server.Media;

/// <summary>One stream of encoded chunks of one sender.</summary>
internal sealed class Track(ushort id, SeatId owner, TrackDescription what, IPublisher publisher, TimeProvider time)
{
    private static readonly TimeSpan _leastBetweenKeys = TimeSpan.FromMilliseconds(400);

    /// <summary>Most that is kept of a screen, in bytes; beyond it nothing is kept up to the next key frame.</summary>
    private const int MostKept = 4_000_000;

    private readonly Lock _keptGate = new();
    private ImmutableList<(byte[] Frame, bool IsKey)> _kept = [];
    private int _keptBytes;
    private readonly Lock _askGate = new();
    private long _askedAt;
    private ITimer? _asksAgain;

    public ushort Id => id;
    public SeatId Owner => owner;
    public TrackDescription What => what;

    /// <summary>Who gets its pictures now; replaced as a whole, so that it is read without a lock.</summary>
    public IReceiver[] Receivers { get; set; } = [];

    /// <summary>What makes the picture as it stands: the newest key frame, and what came after it.</summary>
    public IReadOnlyList<(byte[] Frame, bool IsKey)> Kept
    {
        get { lock (_keptGate) return _kept; }
    }

    public void Keep(byte[] frame, bool isKey)
    {
        lock (_keptGate)
        {
            if (isKey) (_kept, _keptBytes) = ([], 0);
            else if (_kept.Count == 0) return;
            _keptBytes += frame.Length;
            _kept = _keptBytes > MostKept ? [] : _kept.Add((frame, isKey));
        }
    }

    public void LetGo()
    {
        lock (_keptGate) (_kept, _keptBytes) = ([], 0);
    }

    /// <summary>Asks the sender for a key frame, at most once in 400 ms however many ask. Who asks sooner is not
    /// forgotten: what was sent on the first asking may have gone by before they were there.</summary>
    public void AskForKey()
    {
        lock (_askGate)
        {
            if (_asksAgain is not null) return;
            var now = time.GetTimestamp();
            var since = _askedAt == 0 ? _leastBetweenKeys : time.GetElapsedTime(_askedAt, now);
            if (since < _leastBetweenKeys)
            {
                _asksAgain = time.CreateTimer(_ => AskAgain(), null, _leastBetweenKeys - since, Timeout.InfiniteTimeSpan);
                return;
            }
            _askedAt = now;
        }
        publisher.NeedKey(id);
    }

    private void AskAgain()
    {
        lock (_askGate)
        {
            _asksAgain?.Dispose();
            _asksAgain = null;
            _askedAt = time.GetTimestamp();
        }
        if (Receivers is not []) publisher.NeedKey(id);
    }
}
