namespace HoldCourt.Server.Recording.Films;

/// <summary>
/// One person's pictures of one kind, out of one file or several. What nobody sees is not decoded; seen again, it goes on from the last
/// key frame.
/// </summary>
internal sealed class PictureTrack : IDisposable
{
    /// <summary>A camera that sent nothing for so long has no picture any more, in milliseconds.</summary>
    private const long Stale = 2_500;

    private readonly IEnumerator<(string Codec, WebmBlock Block)> _blocks;
    private readonly bool _staysStill;
    private readonly List<(string Codec, WebmBlock Block)> _waiting = [];
    private VpxDecoder? _decoder;
    private string? _codec;
    private Decoded? _picture;
    private bool _hasNext;
    private long _last = long.MinValue;

    public PictureTrack(IEnumerable<TrackName> files)
    {
        List<TrackName> inOrder = [.. files.OrderBy(file => file.Begins)];
        _staysStill = inOrder is [{ Service: Service.Screen }, ..];
        _blocks = Blocks(inOrder).GetEnumerator();
        _hasNext = _blocks.MoveNext();
    }

    private static IEnumerable<(string, WebmBlock)> Blocks(IReadOnlyList<TrackName> files)
    {
        foreach (var file in files)
        {
            using var reader = new WebmReader(file.Path);
            foreach (var block in reader.Blocks()) yield return (reader.Tracks[0].Codec, block with { At = file.Begins + block.At });
        }
    }

    /// <summary>There is a picture that was not there when this was last asked.</summary>
    public bool IsNew { get; private set; }

    /// <summary>The picture at a moment; null when there is none. Moments come in order.</summary>
    public Decoded? At(Instant moment)
    {
        Pass(moment);
        IsNew = false;
        foreach (var (codec, block) in _waiting)
        {
            if (codec != _codec)
            {
                _decoder?.Dispose();
                (_decoder, _codec) = (new VpxDecoder(codec), codec);
            }
            if (_decoder!.Decode(block.Frame) is not { } picture) continue;
            (_picture, IsNew) = (picture, true);
        }
        _waiting.Clear();
        return _staysStill || moment.Milliseconds - _last <= Stale ? _picture : null;
    }

    /// <summary>Goes by a moment at which nobody sees it.</summary>
    public void Pass(Instant moment)
    {
        while (_hasNext && _blocks.Current.Block.At <= moment.Milliseconds)
        {
            if (_blocks.Current.Block.IsKey) _waiting.Clear();
            _waiting.Add(_blocks.Current);
            _last = _blocks.Current.Block.At;
            _hasNext = _blocks.MoveNext();
        }
    }

    public void Dispose()
    {
        _decoder?.Dispose();
        _blocks.Dispose();
    }
}
