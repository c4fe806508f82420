namespace HoldCourt.Server.Recording;

/// <summary>A frame as it stands in a file.</summary>
/// <param name="At">In milliseconds from the beginning.</param>
internal readonly record struct WebmBlock(int Track, long At, bool IsKey, byte[] Frame);

/// <summary>
/// Reads a WebM file, whole or torn: what comes after the last whole cluster is passed over. Knows plain blocks and groups, which other
/// programs write; no lacing.
/// </summary>
internal sealed class WebmReader : IDisposable
{
    private readonly FileStream _file;
    private readonly EbmlReader _elements;
    private readonly EbmlElement _segment;

    /// <exception cref="InvalidDataException">It is no WebM file, or ends before its first frame could begin.</exception>
    public WebmReader(string path, bool writes = false)
    {
        _file = new FileStream(path, FileMode.Open, writes ? FileAccess.ReadWrite : FileAccess.Read,
            writes ? FileShare.Read : FileShare.ReadWrite);
        try
        {
            _elements = new EbmlReader(_file);
            if (_elements.At(0) is not { Id: Element.Ebml, Size: not null } head
                || _elements.At(head.End) is not { Id: Element.Segment } segment)
                throw new InvalidDataException($"{path} is no WebM file.");
            _segment = segment;
            var list = Top().FirstOrDefault(one => one.Id == Element.Tracks);
            if (list.Id == 0) throw new InvalidDataException($"{path} ends before its first frame.");
            Tracks = [.. _elements.Within(list).Where(one => one.Id == Element.TrackEntry).Select(Entry)];
            var info = Needed(Top(), Element.Info);
            Duration = (long)_elements.Within(info).Where(one => one.Id == Element.Duration).Select(_elements.Float).FirstOrDefault();
        }
        catch
        {
            _file.Dispose();
            throw;
        }
    }

    public IReadOnlyList<WebmTrack> Tracks { get; }

    /// <summary>In milliseconds; 0 while it is being written.</summary>
    public long Duration { get; }

    /// <summary>It was ended as it should be.</summary>
    public bool IsWhole => _segment.Size is not null;

    public IEnumerable<WebmBlock> Blocks() => Top().Where(one => one.Id == Element.Cluster).SelectMany(BlocksOf);

    public IReadOnlyList<WebmChapter> Chapters() =>
    [
        .. Top().Where(one => one.Id == Element.Chapters).SelectMany(_elements.Within).SelectMany(_elements.Within)
            .Where(one => one.Id == Element.ChapterAtom).Select(atom =>
            {
                var parts = _elements.Within(atom).ToList();
                return new WebmChapter(
                    (long)(_elements.Number(Needed(parts, Element.ChapterTimeStart)) / 1_000_000),
                    parts.Where(one => one.Id == Element.ChapterDisplay).SelectMany(_elements.Within)
                        .Where(one => one.Id == Element.ChapterString).Select(_elements.Text).FirstOrDefault() ?? "");
            })
    ];

    /// <summary>
    /// Ends a file that was not ended: cuts off what is torn, and writes what players seek by. Nothing is done to one that is whole.
    /// </summary>
    /// <returns>False when nothing of it can be read.</returns>
    public static bool Repair(string path)
    {
        try
        {
            using var reader = new WebmReader(path, writes: true);
            if (!reader.IsWhole) reader.End();
            return true;
        }
        catch (InvalidDataException)
        {
            return false;
        }
    }

    private void End()
    {
        var (cues, last, end) = (new List<WebmCue>(), 0L, _segment.Body);
        foreach (var one in Top())
        {
            // Killed while it was being ended: that is done anew.
            if (one.Id is Element.Cues or Element.Chapters) break;
            end = one.End;
            if (one.Id != Element.Cluster) continue;
            var isCued = false;
            foreach (var block in BlocksOf(one))
            {
                last = Math.Max(last, block.At);
                if (isCued || !block.IsKey || block.Track < 1 || block.Track > Tracks.Count
                    || (Tracks[block.Track - 1].IsSound && Tracks.Any(track => !track.IsSound))) continue;
                isCued = true;
                cues.Add(new WebmCue(block.At, block.Track, one.At));
            }
        }
        _file.SetLength(end);
        var top = Top().ToList();
        var info = Needed(top, Element.Info);
        var layout = new WebmLayout(_segment.Body, _segment.Body, info.At,
            Needed(_elements.Within(info), Element.Duration).Body, Needed(top, Element.Tracks).At);
        WebmLayout.Finish(_file, layout, cues, last, []);
        _file.Flush(flushToDisk: true);
    }

    private IEnumerable<EbmlElement> Top() => _elements.Within(_segment);

    private WebmTrack Entry(EbmlElement entry)
    {
        var parts = _elements.Within(entry).ToList();
        ulong Of(uint within, uint id) => parts.Where(one => one.Id == within).SelectMany(_elements.Within)
            .Where(one => one.Id == id).Select(_elements.Number).FirstOrDefault();
        return new WebmTrack(
            _elements.Text(Needed(parts, Element.CodecId)), (int)Of(Element.Video, Element.PixelWidth),
            (int)Of(Element.Video, Element.PixelHeight), (int)Of(Element.Audio, Element.Channels));
    }

    private IEnumerable<WebmBlock> BlocksOf(EbmlElement cluster)
    {
        var time = 0L;
        foreach (var one in _elements.Within(cluster))
            switch (one.Id)
            {
                case Element.Timestamp:
                    time = (long)_elements.Number(one);
                    break;
                case Element.SimpleBlock:
                    var bytes = _elements.Bytes(one);
                    yield return BlockOf(bytes, time, bytes is [_, _, _, >= 0x80, ..]);
                    break;
                case Element.BlockGroup:
                    var parts = _elements.Within(one).ToList();
                    foreach (var block in parts.Where(part => part.Id == Element.Block))
                        yield return BlockOf(_elements.Bytes(block), time, parts.TrueForAll(part => part.Id != Element.ReferenceBlock));
                    break;
            }
    }

    private static EbmlElement Needed(IEnumerable<EbmlElement> of, uint id) =>
        of.FirstOrDefault(one => one.Id == id) is { Id: not 0 } found ? found : throw new InvalidDataException("A part is missing.");

    private static WebmBlock BlockOf(byte[] bytes, long cluster, bool isKey) => bytes.Length < 4
        ? throw new InvalidDataException("A block is cut.")
        : new(bytes[0] & 0x7F, cluster + (short)((bytes[1] << 8) | bytes[2]), isKey, bytes[4..]);

    public void Dispose() => _file.Dispose();
}
