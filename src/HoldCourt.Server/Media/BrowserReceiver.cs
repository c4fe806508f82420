using System.Net.WebSockets;

namespace HoldCourt.Server.Media;

/// <summary>One browser's incoming side: what waits for it, its socket, and how much that carries.</summary>
internal sealed class BrowserReceiver(SeatId seat, WebSocket socket, TimeProvider time, CancellationTokenSource ends) : IReceiver
{
    private static readonly TimeSpan _goodbye = TimeSpan.FromSeconds(2);

    /// <summary>From here on a browser that answers no mark counts as not reading at all.</summary>
    private static readonly TimeSpan _stuckAfter = TimeSpan.FromSeconds(4);

    private static readonly long[] _capacities = [300_000, 1_200_000, 8_000_000];
    private static readonly TimeSpan _slow = TimeSpan.FromMilliseconds(500), _quick = TimeSpan.FromMilliseconds(200),
    _recovery = TimeSpan.FromSeconds(6);

    private readonly Outgoing _outgoing = new(time);
    private readonly Lock _gate = new();
    private readonly Dictionary<int, long> _marks = [];
    private volatile bool _isStuck, _hasEnded;
    private int _ending, _mark, _level = _capacities.Length - 1, _sending, _slowMarks;
    private long _quickSince;

    public SeatId Seat => seat;
    public long Capacity => _isStuck ? _capacities[0] : _capacities[_level];
    public bool IsSlow => _isStuck || _level < _capacities.Length - 1;

    /// <summary>Closes the socket.</summary>
    public void End()
    {
        if (Interlocked.Exchange(ref _ending, 1) == 0) _ = SayGoodbye();
    }

    /// <summary>A browser that reads has the close in a moment; one that does not is cut off.</summary>
    private async Task SayGoodbye()
    {
        try
        {
            using var patience = new CancellationTokenSource(_goodbye, time);
            await socket.CloseOutputAsync(WebSocketCloseStatus.NormalClosure, "over", patience.Token);
            await Task.Delay(_goodbye, time);
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or ObjectDisposedException
            or InvalidOperationException or IOException)
        {
            // Then it is cut off.
        }
        try
        {
            if (!_hasEnded) await ends.CancelAsync();
        }
        catch (ObjectDisposedException)
        {
            // It ended at this very moment.
        }
    }

    /// <summary>The socket has ended, and can be cut no more.</summary>
    public void HasEnded() => _hasEnded = true;

    public void Say(ToBrowser message) => Say(message.ToUtf8());

    public void Say(byte[] text)
    {
        if (!_outgoing.Say(text)) End();
    }

    public bool Take(Track track, byte[] frame, bool isKey) => _outgoing.Take(track, frame, isKey);
    public void AwaitKey(ushort track) => _outgoing.AwaitKey(track);
    public void Forget(IReadOnlyCollection<ushort> tracks) => _outgoing.Forget(tracks);

    /// <summary>Sends what has gathered, unless the last sending is still under way.</summary>
    public void Flush()
    {
        if (!_outgoing.HasNews || Interlocked.CompareExchange(ref _sending, 1, 0) != 0) return;
        _ = Send();
    }

    private async Task Send()
    {
        try
        {
            while (_outgoing.Next() is var (message, type))
            {
                await socket.SendAsync(message, type, true, CancellationToken.None);
                MediaMeter.WentOut(message.Length);
            }
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or ObjectDisposedException
            or InvalidOperationException or IOException)
        {
            // The reading side sees the end of the connection and cleans up.
        }
        finally
        {
            Volatile.Write(ref _sending, 0);
        }
    }

    /// <summary>Puts a mark into the stream; the browser's echo tells how far behind it is, the kernel's buffers included.</summary>
    public bool Mark()
    {
        lock (_gate)
        {
            if (_marks.Count > 0 && time.GetElapsedTime(_marks.Values.Min()) > _stuckAfter && !_isStuck) return _isStuck = true;
            if (_marks.Count > 20) return false;
            _marks[++_mark] = time.GetTimestamp();
        }
        Say(new Marked(_mark));
        return false;
    }

    /// <summary>Takes in an echo.</summary>
    /// <returns>True when the connection turned out to carry less or more than thought.</returns>
    public bool Echo(int mark)
    {
        lock (_gate)
        {
            if (!_marks.Remove(mark, out var at)) return false;
            var behind = time.GetElapsedTime(at);
            var before = (_level, _isStuck);
            if (_marks.Count == 0 || time.GetElapsedTime(_marks.Values.Min()) < _stuckAfter) _isStuck = false;
            _slowMarks = behind > _slow ? _slowMarks + 1 : 0;
            if (behind > _quick) _quickSince = 0;
            else if (_quickSince == 0) _quickSince = time.GetTimestamp();
            if (_slowMarks >= 2) (_level, _slowMarks) = (Math.Max(0, _level - 1), 0);
            else if (_quickSince != 0 && time.GetElapsedTime(_quickSince) > _recovery)
                (_level, _quickSince) = (Math.Min(_capacities.Length - 1, _level + 1), 0);
            return (_level, _isStuck) != before;
        }
    }
}
