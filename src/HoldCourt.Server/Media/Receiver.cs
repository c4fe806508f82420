using System.Net.WebSockets;

namespace HoldCourt.Server.Media;

/// <summary>
/// One browser's incoming side: a bounded queue in which sound and control go first, and pictures that are too old or
/// too many are dropped up to the next key frame.
/// </summary>
internal sealed class Receiver(SeatId seat, WebSocket socket, TimeProvider time, CancellationTokenSource ends)
{
    /// <summary>Most messages that wait for a browser that does not read; one that far behind is cut off.</summary>
    private const int MostTexts = 500;

    private static readonly TimeSpan _goodbye = TimeSpan.FromSeconds(2);

    /// <summary>From here on a browser that answers no mark counts as not reading at all.</summary>
    private static readonly TimeSpan _stuckAfter = TimeSpan.FromSeconds(4);

    /// <summary>Bounds of the picture queue, from which on everything up to the next key frame is dropped.</summary>
    private const int MostPictureBytes = 128 * 1024, OldestPictureMs = 300;

    /// <summary>At 50 frames a second and 4 voices this is 2.5 s of sound; a browser that far behind starts anew.</summary>
    private const int MostSounds = 500;
    private const int MostInOneMessage = 96 * 1024;

    private static readonly long[] _capacities = [300_000, 1_200_000, 8_000_000];
    private static readonly TimeSpan _slow = TimeSpan.FromMilliseconds(500), _quick = TimeSpan.FromMilliseconds(200), _recovery = TimeSpan.FromSeconds(6);

    private readonly Lock _gate = new();
    private readonly Queue<byte[]> _texts = new();
    private readonly Queue<(byte[] Frame, ushort Track)> _sounds = new();
    private readonly Queue<(byte[] Frame, ushort Track, long At)> _pictures = new();
    private readonly Dictionary<ushort, Track> _introduced = [];
    private readonly HashSet<ushort> _awaitKey = [];
    private readonly Dictionary<int, long> _marks = [];
    private volatile bool _hasNews, _isStuck, _hasEnded;
    private byte[] _message = new byte[8 * 1024];
    private int _ending, _pictureBytes, _mark, _level = _capacities.Length - 1, _sending, _slowMarks;
    private long _quickSince;

    public SeatId Seat => seat;

    /// <summary>What the browser shows.</summary>
    public IReadOnlyList<Wish> Wishes { get; set; } = [];

    /// <summary>What the connection seems to carry, in bits a second.</summary>
    public long Capacity => _isStuck ? _capacities[0] : _capacities[_level];

    public bool IsSlow => _isStuck || _level < _capacities.Length - 1;

    /// <summary>The tracks it gets now; replaced as a whole.</summary>
    public IReadOnlyDictionary<SeatId, Layer> Plan { get; set; } = new Dictionary<SeatId, Layer>();

    /// <summary>Closes the socket: the seat has a newer one, is gone, or the sitting is over.</summary>
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
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or ObjectDisposedException or InvalidOperationException or IOException)
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
        bool isFull;
        lock (_gate)
        {
            isFull = _texts.Count >= MostTexts;
            if (!isFull) _texts.Enqueue(text);
            _hasNews = true;
        }
        if (isFull) End();
    }

    public void TakeSound(Track track, byte[] frame)
    {
        lock (_gate)
        {
            Introduce(track);
            if (_sounds.Count >= MostSounds) _sounds.Clear();
            _sounds.Enqueue((frame, track.Id));
            _hasNews = true;
        }
    }

    /// <summary>Queues a picture.</summary>
    /// <returns>False when it was dropped and a key frame is needed to go on.</returns>
    public bool TakePicture(Track track, byte[] frame, bool isKey)
    {
        lock (_gate)
        {
            var now = time.GetTimestamp();
            if (isKey) _awaitKey.Remove(track.Id);
            else if (_awaitKey.Contains(track.Id)) return false;
            var late = _pictures.TryPeek(out var oldest) && time.GetElapsedTime(oldest.At, now).TotalMilliseconds > OldestPictureMs;
            if (late || (_pictureBytes + frame.Length > MostPictureBytes && _pictures.Count > 0))
            {
                foreach (var (_, dropped, _) in _pictures) _awaitKey.Add(dropped);
                MediaMeter.Dropped(_pictures.Count);
                _pictures.Clear();
                _pictureBytes = 0;
                if (!isKey)
                {
                    _awaitKey.Add(track.Id);
                    return false;
                }
                _awaitKey.Remove(track.Id);
            }
            Introduce(track);
            _pictures.Enqueue((frame, track.Id, now));
            _pictureBytes += frame.Length;
            _hasNews = true;
            return true;
        }
    }

    /// <summary>From here on the track starts with a key frame.</summary>
    public void AwaitKey(ushort track)
    {
        lock (_gate) _awaitKey.Add(track);
    }

    /// <summary>Sends what has gathered, unless the last sending is still under way.</summary>
    public void Flush()
    {
        if (!_hasNews || Interlocked.CompareExchange(ref _sending, 1, 0) != 0) return;
        _ = Send();
    }

    private async Task Send()
    {
        try
        {
            while (Next() is var (message, type))
            {
                await socket.SendAsync(message, type, true, CancellationToken.None);
                MediaMeter.WentOut(message.Length);
            }
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or ObjectDisposedException or InvalidOperationException or IOException)
        {
            // The reading side sees the end of the connection and cleans up.
        }
        finally
        {
            Volatile.Write(ref _sending, 0);
        }
    }

    /// <summary>What is sent next: a text, or frames one after another. Texts introduce tracks whose frames must not overtake them.</summary>
    private (ReadOnlyMemory<byte> Message, WebSocketMessageType Type)? Next()
    {
        lock (_gate)
        {
            if (_texts.TryDequeue(out var text)) return (text, WebSocketMessageType.Text);
            var length = 0;
            while (length < MostInOneMessage && _sounds.TryDequeue(out var sound)) length = Put(sound.Frame, length);
            while (length < MostInOneMessage && _pictures.TryDequeue(out var picture))
            {
                _pictureBytes -= picture.Frame.Length;
                length = Put(picture.Frame, length);
            }
            _hasNews = _sounds.Count + _pictures.Count > 0;
            return length > 0 ? (_message.AsMemory(0, length), WebSocketMessageType.Binary) : null;
        }
    }

    private int Put(byte[] frame, int at)
    {
        if (_message.Length < at + frame.Length) Array.Resize(ref _message, Math.Max(2 * _message.Length, at + frame.Length));
        frame.CopyTo(_message, at);
        return at + frame.Length;
    }

    private void Introduce(Track track)
    {
        if (_introduced.GetValueOrDefault(track.Id) == track) return;
        _introduced[track.Id] = track;
        _texts.Enqueue(new TrackMessage(track.Id, track.Owner, track.Kind).ToUtf8());
    }

    /// <summary>Drops what waits of tracks that have ended, since their numbers may be given anew.</summary>
    public void Forget(IReadOnlyCollection<ushort> tracks)
    {
        lock (_gate)
        {
            var known = tracks.Where(track => _introduced.Remove(track)).Select(track => (int)track).ToList();
            foreach (var track in tracks) _awaitKey.Remove(track);
            if (known is not [])
            {
                _texts.Enqueue(new EndedMessage(known).ToUtf8());
                _hasNews = true;
            }
            Keep(_sounds, sound => !tracks.Contains(sound.Track));
            Keep(_pictures, picture => !tracks.Contains(picture.Track));
            _pictureBytes = _pictures.Sum(picture => picture.Frame.Length);
        }
    }

    private static void Keep<T>(Queue<T> queue, Func<T, bool> holds)
    {
        for (var left = queue.Count; left > 0; left--)
            if (queue.Dequeue() is var one && holds(one)) queue.Enqueue(one);
    }

    /// <summary>Puts a mark into the stream; the browser's echo tells how far behind it is, the kernel's buffers included.</summary>
    /// <returns>True when it turned out just now that the browser does not read at all.</returns>
    public bool Mark()
    {
        lock (_gate)
        {
            if (_marks.Count > 0 && time.GetElapsedTime(_marks.Values.Min()) > _stuckAfter && !_isStuck) return _isStuck = true;
            if (_marks.Count > 20) return false;
            _marks[++_mark] = time.GetTimestamp();
            _texts.Enqueue(new MarkMessage(_mark).ToUtf8());
            _hasNews = true;
            return false;
        }
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
            else if (_quickSince != 0 && time.GetElapsedTime(_quickSince) > _recovery) (_level, _quickSince) = (Math.Min(_capacities.Length - 1, _level + 1), 0);
            return (_level, _isStuck) != before;
        }
    }
}
