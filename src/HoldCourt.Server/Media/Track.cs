namespace HoldCourt.Server.Media;

/// <summary>Somebody who sends: a browser, or a simulated person.</summary>
internal interface IPublisher
{
    /// <summary>Which tracks anybody needs.</summary>
    void Wanted(bool audio, bool full, bool thumb);

    /// <summary>The next frame of this track should be a key frame.</summary>
    void NeedKey(ushort track);
}

/// <summary>One stream of encoded chunks of one sender.</summary>
internal sealed class Track(ushort id, SeatId owner, FrameType kind, IPublisher publisher, TimeProvider time)
{
    private static readonly TimeSpan _leastBetweenKeys = TimeSpan.FromMilliseconds(400);
    private long _askedAt;

    public ushort Id => id;
    public SeatId Owner => owner;
    public FrameType Kind => kind;

    /// <summary>Who gets it now; replaced as a whole, so that it is read without a lock.</summary>
    public Receiver[] Receivers { get; set; } = [];

    /// <summary>Asks the sender for a key frame, at most once in 400 ms however many ask.</summary>
    public void AskForKey()
    {
        var now = time.GetTimestamp();
        if (_askedAt != 0 && time.GetElapsedTime(_askedAt, now) < _leastBetweenKeys) return;
        _askedAt = now;
        publisher.NeedKey(id);
    }
}

/// <summary>A sender's tracks and how much it has sent lately.</summary>
internal sealed class Sender(SeatId seat, IPublisher publisher, Track audio, Track full, Track thumb, TimeProvider time)
{
    /// <summary>What a sender may send in a second; ten times as much ends the connection.</summary>
    private const int MostBytes = 1_000_000, MostFrames = 250, FloodFactor = 10;

    private volatile bool _hasEnded;
    private long _second;
    private int _bytes, _frames;

    public SeatId Seat => seat;

    /// <summary>A newer sender has taken its place, or it has gone; its tracks' numbers may be somebody else's.</summary>
    public bool HasEnded { get => _hasEnded; set => _hasEnded = value; }

    public IPublisher Publisher => publisher;
    public Track Audio => audio;
    public Track Full => full;
    public Track Thumb => thumb;

    /// <summary>What this sender was last told is wanted.</summary>
    public (bool Audio, bool Full, bool Thumb) Told { get; set; }

    public Track? Owns(ushort track, FrameType kind) =>
        track == audio.Id && kind == FrameType.Audio ? audio
        : track == full.Id && kind == FrameType.Full ? full
        : track == thumb.Id && kind == FrameType.Thumb ? thumb
        : null;

    /// <summary>Counts a frame against the sender's share of the present second.</summary>
    public (bool Within, bool Floods) Spend(int bytes)
    {
        var second = time.GetTimestamp() / time.TimestampFrequency;
        if (second != _second) (_second, _bytes, _frames) = (second, 0, 0);
        _bytes += bytes;
        _frames++;
        return (_bytes <= MostBytes && _frames <= MostFrames, _bytes > MostBytes * FloodFactor || _frames > MostFrames * FloodFactor);
    }
}
