namespace HoldCourt.Server.Recording;

/// <summary>One stream in a file.</summary>
/// <param name="Codec">As in WebM: V_VP8, V_VP9, A_OPUS.</param>
/// <param name="Width">Of pictures, in pixels; 0 for sound.</param>
/// <param name="Channels">Of sound, 1 or 2; 0 for pictures.</param>
internal sealed record WebmTrack(string Codec, int Width, int Height, int Channels)
{
    public static WebmTrack Picture(string codec, int width, int height) => new(codec, width, height, 0);

    public static WebmTrack Sound(int channels = 1) => new("A_OPUS", 0, 0, channels);

    public bool IsSound => Channels > 0;
}

/// <param name="At">In milliseconds from the beginning.</param>
internal sealed record WebmChapter(long At, string Title);

/// <summary>
/// Writes a WebM file piece by piece, so that at any moment what was written up to a second ago can be played: clusters of known length
/// are put together in memory and written whole, each in one go. At the end come what players seek by, and the length.
/// Not for several threads at once.
/// </summary>
internal sealed class WebmWriter : IDisposable
{
    /// <summary>Longest cluster, in milliseconds, and its largest size, in bytes.</summary>
    private const int LongestCluster = 1_000, LargestCluster = 4_000_000;

    private readonly FileStream _file;
    private readonly WebmLayout _layout;
    private readonly IReadOnlyList<WebmTrack> _tracks;
    private readonly EbmlBuffer _blocks = new();
    private readonly List<WebmCue> _cues = [];
    private readonly List<WebmCue> _cuesOfCluster = [];
    private long _clusterAt = -1, _last;

    /// <exception cref="IOException">It cannot be written there.</exception>
    public WebmWriter(string path, IReadOnlyList<WebmTrack> tracks)
    {
        _tracks = tracks;
        // Each write goes to the system at once: what is torn is the last piece, and nothing before it.
        _file = new FileStream(path, FileMode.Create, FileAccess.ReadWrite, FileShare.Read, bufferSize: 1);
        var (head, layout) = WebmLayout.Head(tracks);
        _layout = layout;
        _file.Write(head.Bytes);
    }

    /// <summary>In bytes, what is still in memory left out.</summary>
    public long Length => _file.Length;

    /// <param name="track">1 for the first.</param>
    /// <param name="at">In milliseconds from the beginning; those of one track in order.</param>
    /// <param name="isKey">Can be shown without those before it; always so for sound.</param>
    public void Write(int track, long at, ReadOnlySpan<byte> frame, bool isKey)
    {
        var picture = !_tracks[track - 1].IsSound;
        // Where nothing was for long a new one begins, too: times in a cluster have two bytes.
        if (_clusterAt >= 0 && (at - _clusterAt is >= LongestCluster or <= -LongestCluster || (picture && isKey)
            || _blocks.Length + frame.Length > LargestCluster)) Flush();
        if (_clusterAt < 0) _clusterAt = at;
        if (isKey && (picture || _tracks.All(one => one.IsSound)) && _cuesOfCluster.Count == 0)
            _cuesOfCluster.Add(new WebmCue(at, track, 0));
        var relative = (short)(at - _clusterAt);
        _blocks.Id(Element.SimpleBlock).Size(frame.Length + 4).SizeOf(track, 1)
            .Raw([(byte)(relative >> 8), (byte)relative, (byte)(isKey ? 0x80 : 0)]).Raw(frame);
        _last = Math.Max(_last, at);
    }

    /// <summary>Writes what is in memory.</summary>
    /// <param name="toDisk">Waits until a loss of power would not lose it either.</param>
    /// <exception cref="IOException">The disk is full or broken; what was written before stays.</exception>
    public void Flush(bool toDisk = false)
    {
        if (_clusterAt >= 0)
        {
            var time = new EbmlBuffer().Put(Element.Timestamp, (ulong)_clusterAt);
            var cluster = new EbmlBuffer().Id(Element.Cluster).Size(time.Length + _blocks.Length).Raw(time.Bytes).Raw(_blocks.Bytes);
            var place = _file.Length;
            _file.Position = place;
            try { _file.Write(cluster.Bytes); }
            catch (IOException)
            {
                // Half a cluster is none.
                _file.SetLength(place);
                throw;
            }
            foreach (var cue in _cuesOfCluster) _cues.Add(cue with { Cluster = place });
            _cuesOfCluster.Clear();
            _blocks.Clear();
            _clusterAt = -1;
        }
        if (toDisk) _file.Flush(flushToDisk: true);
    }

    /// <summary>Ends it: from here on players seek and know its length.</summary>
    public void Finish(IReadOnlyList<WebmChapter>? chapters = null)
    {
        Flush();
        WebmLayout.Finish(_file, _layout, _cues, _last, chapters ?? []);
        _file.Flush(flushToDisk: true);
    }

    public void Dispose() => _file.Dispose();
}

/// <summary>From where a player can begin.</summary>
/// <param name="Cluster">Where in the file, from its beginning.</param>
internal readonly record struct WebmCue(long At, int Track, long Cluster);

/// <summary>Where in a file of ours that stands which is written at its end.</summary>
/// <param name="Segment">Where the segment's content begins.</param>
/// <param name="Room">Where there is room for what says where all is.</param>
/// <param name="Duration">Where the eight bytes of the length stand.</param>
internal sealed record WebmLayout(long Segment, long Room, long Info, long Duration, long Tracks)
{
    private const int RoomLength = 128;

    /// <summary>Before the first word of an Opus stream, in samples of 48 kHz (RFC 7845), and in nanoseconds.</summary>
    private const ushort PreSkip = 312;

    private const string Program = "Hold Court";

    public static (EbmlBuffer Head, WebmLayout Layout) Head(IReadOnlyList<WebmTrack> tracks)
    {
        var to = new EbmlBuffer();
        to.Put(Element.Ebml, new EbmlBuffer().Put(Element.EbmlVersion, 1).Put(Element.EbmlReadVersion, 1)
            .Put(Element.EbmlMaxIdLength, 4).Put(Element.EbmlMaxSizeLength, 8).Put(Element.DocType, "webm")
            .Put(Element.DocTypeVersion, 4).Put(Element.DocTypeReadVersion, 2));
        to.Id(Element.Segment).Raw([0x01, 0xFF, 0xFF, 0xFF, 0xFF, 0xFF, 0xFF, 0xFF]);
        var segment = to.Length;
        to.Id(Element.Void).SizeOf(RoomLength - 2, 1).Raw(new byte[RoomLength - 2]);
        var info = to.Length;
        var about = new EbmlBuffer().Put(Element.TimestampScale, 1_000_000).Put(Element.MuxingApp, Program)
            .Put(Element.WritingApp, Program).Put(Element.Duration, 0.0);
        to.Put(Element.Info, about);
        var duration = to.Length - sizeof(double);
        var list = to.Length;
        var entries = new EbmlBuffer();
        for (var at = 0; at < tracks.Count; at++) entries.Put(Element.TrackEntry, Entry(tracks[at], at + 1));
        to.Put(Element.Tracks, entries);
        return (to, new WebmLayout(segment, segment, info, duration, list));
    }

    private static EbmlBuffer Entry(WebmTrack track, int number)
    {
        var entry = new EbmlBuffer().Put(Element.TrackNumber, (ulong)number).Put(Element.TrackUid, (ulong)number)
            .Put(Element.TrackType, track.IsSound ? 2ul : 1ul).Put(Element.FlagLacing, 0).Put(Element.CodecId, track.Codec);
        return track.IsSound
            ? entry.Put(Element.CodecPrivate, OpusHead(track.Channels)).Put(Element.CodecDelay, PreSkip * 1_000_000_000UL / 48_000)
                .Put(Element.SeekPreRoll, 80_000_000)
                .Put(Element.Audio, new EbmlBuffer().Put(Element.SamplingFrequency, 48_000.0).Put(Element.Channels, (ulong)track.Channels))
            : entry.Put(Element.Video,
                new EbmlBuffer().Put(Element.PixelWidth, (ulong)track.Width).Put(Element.PixelHeight, (ulong)track.Height));
    }

    /// <summary>The identification header of Opus (RFC 7845, section 5.1).</summary>
    private static byte[] OpusHead(int channels)
    {
        var head = new byte[19];
        "OpusHead"u8.CopyTo(head);
        (head[8], head[9]) = (1, (byte)channels);
        System.Buffers.Binary.BinaryPrimitives.WriteUInt16LittleEndian(head.AsSpan(10), PreSkip);
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32LittleEndian(head.AsSpan(12), 48_000);
        return head;
    }

    /// <summary>Writes cues, chapters, where they stand, and the lengths.</summary>
    /// <param name="last">When the last frame begins, in milliseconds.</param>
    public static void Finish(
        FileStream file, WebmLayout layout, IReadOnlyList<WebmCue> cues, long last, IReadOnlyList<WebmChapter> chapters)
    {
        var tail = new EbmlBuffer();
        var seeks = new EbmlBuffer();
        void Seek(uint id, long place) => seeks.Put(Element.Seek, new EbmlBuffer().Put(Element.SeekId, new EbmlBuffer().Id(id).Bytes)
            .Put(Element.SeekPosition, (ulong)(place - layout.Segment)));
        Seek(Element.Info, layout.Info);
        Seek(Element.Tracks, layout.Tracks);
        if (chapters.Count > 0)
        {
            Seek(Element.Chapters, file.Length);
            tail.Put(Element.Chapters, Edition(chapters, last));
        }
        if (cues.Count > 0)
        {
            Seek(Element.Cues, file.Length + tail.Length);
            var points = new EbmlBuffer();
            foreach (var cue in cues)
                points.Put(Element.CuePoint, new EbmlBuffer().Put(Element.CueTime, (ulong)cue.At)
                    .Put(Element.CueTrackPositions, new EbmlBuffer().Put(Element.CueTrack, (ulong)cue.Track)
                        .Put(Element.CueClusterPosition, (ulong)(cue.Cluster - layout.Segment))));
            tail.Put(Element.Cues, points);
        }
        file.Position = file.Length;
        file.Write(tail.Bytes);
        var length = new byte[sizeof(double)];
        System.Buffers.Binary.BinaryPrimitives.WriteDoubleBigEndian(length, last);
        file.Position = layout.Duration;
        file.Write(length);
        var head = new EbmlBuffer().Put(Element.SeekHead, seeks);
        // What is left of the room stays void; less than two bytes cannot be.
        var rest = RoomLength - head.Length - 2;
        head.Id(Element.Void).SizeOf(rest, 1).Raw(new byte[rest]);
        file.Position = layout.Room;
        file.Write(head.Bytes);
        // The very last: a segment of known length is a whole one.
        file.Position = layout.Segment - 8;
        file.Write(new EbmlBuffer().SizeOf(file.Length - layout.Segment, 8).Bytes);
    }

    private static EbmlBuffer Edition(IReadOnlyList<WebmChapter> chapters, long last)
    {
        var atoms = new EbmlBuffer();
        for (var at = 0; at < chapters.Count; at++)
        {
            var end = at + 1 < chapters.Count ? chapters[at + 1].At : Math.Max(last, chapters[at].At);
            atoms.Put(Element.ChapterAtom, new EbmlBuffer().Put(Element.ChapterUid, (ulong)(at + 1))
                .Put(Element.ChapterTimeStart, (ulong)chapters[at].At * 1_000_000).Put(Element.ChapterTimeEnd, (ulong)end * 1_000_000)
                .Put(Element.ChapterDisplay, new EbmlBuffer().Put(Element.ChapterString, chapters[at].Title)
                    .Put(Element.ChapterLanguage, "und")));
        }
        return new EbmlBuffer().Put(Element.EditionEntry, atoms);
    }
}
