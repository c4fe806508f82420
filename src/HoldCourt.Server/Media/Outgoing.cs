using System.Net.WebSockets;

namespace HoldCourt.Server.Media;

/// <summary>
/// What waits for one receiver, bounded: messages and voices go first; of cameras what is too old or too much is dropped up to the next
/// key frame; of screens the newest key frame always stays.
/// </summary>
internal sealed class Outgoing(TimeProvider time)
{
    /// <summary>Most messages that wait for a browser that does not read; one that far behind is cut off.</summary>
    private const int MostTexts = 500;

    /// <summary>Bounds of what waits of all cameras, from which on everything up to the next key frame is dropped.</summary>
    private const int MostCameraBytes = 128 * 1024, OldestCameraMs = 300;

    /// <summary>Bounds of what waits of one screen after its newest key frame.</summary>
    private const int MostScreenBytes = 512 * 1024, OldestScreenMs = 1_000;

    /// <summary>At 50 frames a second and 4 voices this is 2.5 s of sound; a browser that far behind starts anew.</summary>
    private const int MostVoices = 500;
    private const int MostInOneMessage = 96 * 1024;

    private readonly Lock _gate = new();
    private readonly Queue<byte[]> _texts = new();
    private readonly Queue<Frame> _voices = new(), _cameras = new();
    private readonly List<Frame> _screens = [];
    private readonly Dictionary<ushort, Track> _introduced = [];
    private readonly HashSet<ushort> _awaitKey = [];
    private volatile bool _hasNews;
    private byte[] _message = new byte[8 * 1024];
    private int _cameraBytes;

    private readonly record struct Frame(byte[] Bytes, ushort Track, long At, bool IsKey);

    public bool HasNews => _hasNews;

    /// <returns>False when too many wait already.</returns>
    public bool Say(byte[] text)
    {
        lock (_gate)
        {
            _hasNews = true;
            if (_texts.Count >= MostTexts) return false;
            _texts.Enqueue(text);
            return true;
        }
    }

    /// <returns>False when it was dropped, and a key frame is needed to go on.</returns>
    public bool Take(Track track, byte[] bytes, bool isKey)
    {
        lock (_gate)
        {
            var frame = new Frame(bytes, track.Id, time.GetTimestamp(), isKey);
            var taken = track.What.Service switch
            {
                Service.Voice or Service.Sound => TakeVoice(frame),
                Service.Screen => TakeScreen(frame),
                _ => TakeCamera(frame)
            };
            if (!taken) return false;
            if (_introduced.GetValueOrDefault(track.Id) != track)
            {
                _introduced[track.Id] = track;
                _texts.Enqueue(new Introduced(track.Id, track.Owner, track.What).ToUtf8());
            }
            return _hasNews = true;
        }
    }

    private bool TakeVoice(Frame frame)
    {
        if (_voices.Count >= MostVoices) _voices.Clear();
        _voices.Enqueue(frame);
        return true;
    }

    private bool TakeCamera(Frame frame)
    {
        if (!Continues(frame)) return false;
        var late = _cameras.TryPeek(out var oldest) && IsOlder(oldest, frame, OldestCameraMs);
        if (late || (_cameraBytes + frame.Bytes.Length > MostCameraBytes && _cameras.Count > 0))
        {
            foreach (var dropped in _cameras) _awaitKey.Add(dropped.Track);
            MediaMeter.Dropped(_cameras.Count);
            _cameras.Clear();
            _cameraBytes = 0;
            if (!frame.IsKey)
            {
                _awaitKey.Add(frame.Track);
                return false;
            }
            _awaitKey.Remove(frame.Track);
        }
        _cameras.Enqueue(frame);
        _cameraBytes += frame.Bytes.Length;
        return true;
    }

    private bool TakeScreen(Frame frame)
    {
        if (!Continues(frame)) return false;
        // Whatever waits of this screen is older than a whole picture of it.
        if (frame.IsKey) MediaMeter.Dropped(_screens.RemoveAll(older => older.Track == frame.Track));
        else
        {
            var waits = _screens.Where(older => older.Track == frame.Track && !older.IsKey).ToList();
            if (waits.Sum(older => older.Bytes.Length) + frame.Bytes.Length > MostScreenBytes
                || (waits is [var oldest, ..] && IsOlder(oldest, frame, OldestScreenMs)))
            {
                MediaMeter.Dropped(_screens.RemoveAll(older => older.Track == frame.Track && !older.IsKey));
                _awaitKey.Add(frame.Track);
                return false;
            }
        }
        _screens.Add(frame);
        return true;
    }

    /// <summary>It can be decoded after what was taken before.</summary>
    private bool Continues(Frame frame)
    {
        if (frame.IsKey) _awaitKey.Remove(frame.Track);
        return !_awaitKey.Contains(frame.Track);
    }

    private bool IsOlder(Frame oldest, Frame newest, int milliseconds) =>
        time.GetElapsedTime(oldest.At, newest.At).TotalMilliseconds > milliseconds;

    public void AwaitKey(ushort track)
    {
        lock (_gate) _awaitKey.Add(track);
    }

    /// <summary>Drops what waits of tracks that have ended.</summary>
    public void Forget(IReadOnlyCollection<ushort> tracks)
    {
        lock (_gate)
        {
            var known = tracks.Where(track => _introduced.Remove(track)).Select(track => (int)track).ToList();
            foreach (var track in tracks) _awaitKey.Remove(track);
            if (known is not [])
            {
                _texts.Enqueue(new Ended(known).ToUtf8());
                _hasNews = true;
            }
            Keep(_voices, frame => !tracks.Contains(frame.Track));
            Keep(_cameras, frame => !tracks.Contains(frame.Track));
            _screens.RemoveAll(frame => tracks.Contains(frame.Track));
            _cameraBytes = _cameras.Sum(frame => frame.Bytes.Length);
        }
    }

    /// <summary>What is sent next: a text, or frames one after another.
    /// Texts introduce tracks whose frames must not overtake them.</summary>
    /// <returns>Good until it is asked again; null when nothing waits.</returns>
    public (ReadOnlyMemory<byte> Message, WebSocketMessageType Type)? Next()
    {
        lock (_gate)
        {
            if (_texts.TryDequeue(out var text)) return (text, WebSocketMessageType.Text);
            var length = 0;
            while (length < MostInOneMessage && _voices.TryDequeue(out var voice)) length = Put(voice, length);
            for (; length < MostInOneMessage && _screens.Count > 0; _screens.RemoveAt(0)) length = Put(_screens[0], length);
            while (length < MostInOneMessage && _cameras.TryDequeue(out var picture))
            {
                _cameraBytes -= picture.Bytes.Length;
                length = Put(picture, length);
            }
            _hasNews = _voices.Count + _screens.Count + _cameras.Count > 0;
            return length > 0 ? (_message.AsMemory(0, length), WebSocketMessageType.Binary) : null;
        }
    }

    private int Put(Frame frame, int at)
    {
        if (_message.Length < at + frame.Bytes.Length) Array.Resize(ref _message, Math.Max(2 * _message.Length, at + frame.Bytes.Length));
        frame.Bytes.CopyTo(_message, at);
        return at + frame.Bytes.Length;
    }

    private static void Keep(Queue<Frame> queue, Func<Frame, bool> holds)
    {
        for (var left = queue.Count; left > 0; left--)
            if (queue.Dequeue() is var one && holds(one)) queue.Enqueue(one);
    }
}
