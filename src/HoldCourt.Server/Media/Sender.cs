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
}

/// <summary>A sender's tracks and how much it has sent lately.</summary>
internal sealed class Sender(SeatId seat, IPublisher publisher, TimeProvider time)
{
    /// <summary>What a sender may send in a second, with a screen more; ten times as much ends the connection.</summary>
    private const int MostBytes = 1_000_000, MoreWithScreen = 3_000_000, MostFrames = 250, FloodFactor = 10;

    private volatile bool _hasEnded;
    private volatile Track[] _tracks = [];
    private long _second;
    private int _bytes, _frames;

    public SeatId Seat => seat;

    /// <summary>A newer sender has taken its place, or it has gone; its tracks' numbers may be somebody else's.</summary>
    public bool HasEnded { get => _hasEnded; set => _hasEnded = value; }

    public IPublisher Publisher => publisher;

    /// <summary>In the order of their description; replaced as a whole.</summary>
    public IReadOnlyList<Track> Tracks { get => _tracks; set => _tracks = [.. value]; }

    /// <summary>What this sender was last told is wanted; null before it was told anything.</summary>
    public IReadOnlyList<int>? LastWanted { get; set; }

    public Track? Owns(ushort id, Service service) => Array.Find(_tracks, track => track.Id == id && track.What.Service == service);

    /// <summary>Counts a frame against the sender's share of the present second.</summary>
    public (bool Within, bool Floods) Spend(int bytes)
    {
        var second = time.GetTimestamp() / time.TimestampFrequency;
        if (second != _second) (_second, _bytes, _frames) = (second, 0, 0);
        _bytes += bytes;
        _frames++;
        var most = MostBytes + (Array.Exists(_tracks, track => track.What.Service == Service.Screen) ? MoreWithScreen : 0);
        return (_bytes <= most && _frames <= MostFrames, _bytes > most * FloodFactor || _frames > MostFrames * FloodFactor);
    }
}
