namespace HoldCourt.Server.Media;

/// <summary>Somebody who sends: a browser, or a simulated person.</summary>
internal interface IPublisher
{
    /// <summary>The numbers of the tracks that were described, in their order.</summary>
    void Numbered(IReadOnlyList<int> tracks);

    /// <summary>Which of the sender's tracks anybody needs; of the others nothing need be sent.</summary>
    void Wanted(IReadOnlyList<int> tracks);

    /// <summary>The next frame of this track should be a key frame.</summary>
    void NeedKey(ushort track);

    /// <summary>What it says comes in words, too, and need not be listened to.</summary>
    bool BringsWords => false;
}

/// <summary>A sender's tracks and how much it has sent lately.</summary>
internal sealed class Sender(SeatId seat, IPublisher publisher, TimeProvider time)
{
    /// <summary>So many times what may be sent ends the connection.</summary>
    private const int FloodFactor = 10;

    /// <summary>
    /// Most descriptions in ten seconds: each takes new numbers, of which everybody is told. A page describes once when it connects.
    /// </summary>
    private const int MostDescriptions = 10;

    private volatile bool _hasEnded;
    private volatile Track[] _tracks = [];
    private long _described;
    private int _descriptions;
    private readonly Share _voice = new(MostBytes: 48_000, MostFrames: 150), _camera = new(1_000_000, 250), _screen = new(3_000_000, 100),
        _sound = new(40_000, 120);

    public SeatId Seat => seat;

    /// <summary>A newer sender has taken its place, or it has gone; its tracks' numbers may be somebody else's.</summary>
    public bool HasEnded { get => _hasEnded; set => _hasEnded = value; }

    public IPublisher Publisher => publisher;

    /// <summary>In the order of their description; replaced as a whole.</summary>
    public IReadOnlyList<Track> Tracks { get => _tracks; set => _tracks = [.. value]; }

    /// <summary>What this sender was last told is wanted; null before it was told anything.</summary>
    public IReadOnlyList<int>? LastWanted { get; set; }

    public Track? Owns(ushort id, Service service) => Array.Find(_tracks, track => track.Id == id && track.What.Service == service);

    /// <summary>Counts a description; false when there were too many, and the connection should end.</summary>
    public bool MayDescribe()
    {
        var period = time.GetTimestamp() / (10 * time.TimestampFrequency);
        (_described, _descriptions) = period == _described ? (period, _descriptions + 1) : (period, 1);
        return _descriptions <= MostDescriptions;
    }

    /// <summary>
    /// Counts a frame against what the sender may send of its service in the present second. Voices have a narrow share of their own,
    /// since nothing of them is dropped on the way to a slow receiver; what is described as a screen gives a camera no more.
    /// </summary>
    public (bool Within, bool Floods) Spend(Service service, int bytes)
    {
        var second = time.GetTimestamp() / time.TimestampFrequency;
        var share = service switch { Service.Voice => _voice, Service.Screen => _screen, Service.Sound => _sound, _ => _camera };
        return share.Spend(second, bytes);
    }

    /// <summary>Of one service, in each second.</summary>
    private sealed record Share(int MostBytes, int MostFrames)
    {
        private long _second;
        private int _bytes, _frames;

        public (bool Within, bool Floods) Spend(long second, int bytes)
        {
            if (second != _second) (_second, _bytes, _frames) = (second, 0, 0);
            _bytes += bytes;
            _frames++;
            return (_bytes <= MostBytes && _frames <= MostFrames,
                _bytes > MostBytes * FloodFactor || _frames > MostFrames * FloodFactor);
        }
    }
}
