namespace HoldCourt.Server.Recording;

/// <summary>
/// One person's frames of one kind, in a file that begins with the first of them. Pictures of several layers stand in it one after
/// the other, each time from a key frame on. For the thread that writes alone.
/// </summary>
internal sealed class TrackFile(RecordingFolder folder, SeatId seat, Service service, string codec) : IDisposable
{
    /// <summary>A sender's clock that says something else than ours by more than this is not believed, in milliseconds.</summary>
    private const long MostApart = 500;

    /// <summary>After a pause of so many milliseconds the sender may have counted on from where it was.</summary>
    private const long Pause = 150;

    /// <summary>How much two clocks may go apart.</summary>
    private const double Drift = 0.0005;

    private WebmWriter? _writer;
    private string? _path;
    private long _begins, _last = -1, _arrived = long.MinValue;
    private double _offset;
    private bool _awaitsKey = true;
    private ushort _track;

    public string Codec => codec;

    /// <summary>In bytes, so far.</summary>
    public long Length => _writer?.Length ?? 0;

    /// <param name="arrived">In milliseconds since 1970.</param>
    /// <param name="captured">By the sender's clock, in milliseconds.</param>
    /// <returns>False when a key frame is needed to go on.</returns>
    public bool Write(ushort track, long arrived, double captured, ReadOnlySpan<byte> frame, bool isKey)
    {
        var isSound = service is Service.Voice or Service.Sound;
        if (track != _track) (_track, _awaitsKey) = (track, !isSound);
        var size = isSound ? null : Codecs.SizeOf(codec, frame);
        // What a frame says of itself counts, and not what its sender says.
        isKey = isSound || (isKey && size is not null);
        if (_awaitsKey && !isKey) return false;
        _awaitsKey = false;
        if (_writer is null) Begin(arrived, size);
        var at = Math.Max(TimeOf(arrived, captured) - _begins, _last + 1);
        _writer!.Write(1, _last = at, frame, isKey);
        return true;
    }

    private void Begin(long arrived, (int Width, int Height)? size)
    {
        // A little before, since its first frame may turn out to be older than it seemed.
        _begins = arrived - MostApart;
        Directory.CreateDirectory(folder.Tracks);
        _path = Path.Combine(folder.Tracks, TrackName.FileOf(seat, service, _begins));
        _writer = new WebmWriter(_path, [size is var (width, height)
            ? WebmTrack.Picture(codec, width, height)
            : WebmTrack.Sound(service == Service.Sound ? 2 : 1)]);
    }

    /// <summary>
    /// When it was captured, by our clock: the shortest way that a frame has had lately counts as no way at all, so that what arrives in
    /// fits and starts plays evenly.
    /// </summary>
    private long TimeOf(long arrived, double captured)
    {
        var apart = arrived - captured;
        var since = arrived - _arrived;
        _offset = since > Pause || since < 0 || Math.Abs(apart - _offset) > MostApart
            ? apart
            : Math.Min(apart, _offset + (since * Drift));
        _arrived = arrived;
        return (long)(captured + _offset);
    }

    /// <exception cref="IOException">The disk is full or broken.</exception>
    public void Flush(bool toDisk) => _writer?.Flush(toDisk);

    /// <exception cref="IOException">The disk is full or broken.</exception>
    public void Finish() => _writer?.Finish();

    public void Dispose() => _writer?.Dispose();

    /// <summary>What was written is to be forgotten.</summary>
    public void Delete()
    {
        Dispose();
        _writer = null;
        if (_path is not null) File.Delete(_path);
        (_last, _awaitsKey) = (-1, true);
    }
}
