namespace HoldCourt.Server.Media;

/// <summary>One stream of encoded chunks of one sender.</summary>
internal sealed class Track(ushort id, SeatId owner, TrackDescription what, IPublisher publisher, TimeProvider time)
{
    private static readonly TimeSpan _leastBetweenKeys = TimeSpan.FromMilliseconds(400);
    private long _askedAt;

    public ushort Id => id;
    public SeatId Owner => owner;
    public TrackDescription What => what;

    /// <summary>Who gets its pictures now; replaced as a whole, so that it is read without a lock.</summary>
    public IReceiver[] Receivers { get; set; } = [];

    /// <summary>Asks the sender for a key frame, at most once in 400 ms however many ask.</summary>
    public void AskForKey()
    {
        var now = time.GetTimestamp();
        if (_askedAt != 0 && time.GetElapsedTime(_askedAt, now) < _leastBetweenKeys) return;
        _askedAt = now;
        publisher.NeedKey(id);
    }
}
