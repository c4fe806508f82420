using System.Buffers;
using System.Buffers.Binary;
using System.Text;

namespace HoldCourt.Server.Recording;

/// <summary>The elements of WebM that we write and read (RFC 8794, RFC 9559), by their ids.</summary>
internal static class Element
{
    public const uint Ebml = 0x1A45DFA3, EbmlVersion = 0x4286, EbmlReadVersion = 0x42F7, EbmlMaxIdLength = 0x42F2,
        EbmlMaxSizeLength = 0x42F3, DocType = 0x4282, DocTypeVersion = 0x4287, DocTypeReadVersion = 0x4285,
        Segment = 0x18538067, Void = 0xEC, SeekHead = 0x114D9B74, Seek = 0x4DBB, SeekId = 0x53AB, SeekPosition = 0x53AC,
        Info = 0x1549A966, TimestampScale = 0x2AD7B1, Duration = 0x4489, MuxingApp = 0x4D80, WritingApp = 0x5741,
        Tracks = 0x1654AE6B, TrackEntry = 0xAE, TrackNumber = 0xD7, TrackUid = 0x73C5, TrackType = 0x83, FlagLacing = 0x9C,
        CodecId = 0x86, CodecPrivate = 0x63A2, CodecDelay = 0x56AA, SeekPreRoll = 0x56BB, Video = 0xE0, PixelWidth = 0xB0,
        PixelHeight = 0xBA, Audio = 0xE1, SamplingFrequency = 0xB5, Channels = 0x9F,
        Cluster = 0x1F43B675, Timestamp = 0xE7, SimpleBlock = 0xA3, BlockGroup = 0xA0, Block = 0xA1, ReferenceBlock = 0xFB,
        Cues = 0x1C53BB6B, CuePoint = 0xBB, CueTime = 0xB3, CueTrackPositions = 0xB7, CueTrack = 0xF7, CueClusterPosition = 0xF1,
        Chapters = 0x1043A770, EditionEntry = 0x45B9, ChapterAtom = 0xB6, ChapterUid = 0x73C4, ChapterTimeStart = 0x91,
        ChapterTimeEnd = 0x92, ChapterDisplay = 0x80, ChapterString = 0x85, ChapterLanguage = 0x437C;
}

/// <summary>Puts elements together in memory.</summary>
internal sealed class EbmlBuffer
{
    private readonly ArrayBufferWriter<byte> _to = new();

    public int Length => _to.WrittenCount;

    public ReadOnlySpan<byte> Bytes => _to.WrittenSpan;

    public void Clear() => _to.ResetWrittenCount();

    private void Byte(byte value)
    {
        _to.GetSpan(1)[0] = value;
        _to.Advance(1);
    }

    public EbmlBuffer Id(uint id)
    {
        Span<byte> bytes = stackalloc byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(bytes, id);
        var from = id > 0xFFFFFF ? 0 : id > 0xFFFF ? 1 : id > 0xFF ? 2 : 3;
        _to.Write(bytes[from..]);
        return this;
    }

    /// <summary>A length in as few bytes as it needs.</summary>
    public EbmlBuffer Size(long size)
    {
        var count = 1;
        // All ones would mean that it is not known.
        while (size >= (1L << (7 * count)) - 1) count++;
        return SizeOf(size, count);
    }

    /// <summary>A length in so many bytes, 1 to 8.</summary>
    public EbmlBuffer SizeOf(long size, int count)
    {
        var marked = (ulong)size | (1UL << (7 * count));
        for (var at = count - 1; at >= 0; at--) Byte((byte)(marked >> (8 * at)));
        return this;
    }

    public EbmlBuffer Put(uint id, ulong value)
    {
        var count = 1;
        while (count < 8 && value >> (8 * count) != 0) count++;
        Id(id).Size(count);
        for (var at = count - 1; at >= 0; at--) Byte((byte)(value >> (8 * at)));
        return this;
    }

    public EbmlBuffer Put(uint id, double value)
    {
        Span<byte> bytes = stackalloc byte[8];
        BinaryPrimitives.WriteDoubleBigEndian(bytes, value);
        return Put(id, bytes);
    }

    public EbmlBuffer Put(uint id, string text) => Put(id, Encoding.UTF8.GetBytes(text));

    public EbmlBuffer Put(uint id, ReadOnlySpan<byte> bytes)
    {
        Id(id).Size(bytes.Length);
        _to.Write(bytes);
        return this;
    }

    /// <summary>An element that holds others.</summary>
    public EbmlBuffer Put(uint id, EbmlBuffer inner) => Put(id, inner.Bytes);

    public EbmlBuffer Raw(ReadOnlySpan<byte> bytes)
    {
        _to.Write(bytes);
        return this;
    }
}

/// <summary>An element as it stands in a file.</summary>
/// <param name="At">Where its id begins.</param>
/// <param name="Body">Where what it holds begins.</param>
/// <param name="Size">Of what it holds, in bytes; null when that is not known.</param>
internal readonly record struct EbmlElement(uint Id, long At, long Body, long? Size)
{
    public long End => Body + (Size ?? 0);
}

/// <summary>Reads elements from a file that may end in the middle of one.</summary>
internal sealed class EbmlReader(Stream file)
{
    private readonly byte[] _head = new byte[12];

    /// <summary>The element that begins at a place; null when there is none, or not all of its head.</summary>
    public EbmlElement? At(long place)
    {
        if (place >= file.Length) return null;
        file.Position = place;
        var there = file.ReadAtLeast(_head, _head.Length, throwOnEndOfStream: false);
        var idLength = System.Numerics.BitOperations.LeadingZeroCount((uint)_head[0] << 24) + 1;
        if (idLength > 4 || there <= idLength) return null;
        uint id = 0;
        for (var at = 0; at < idLength; at++) id = (id << 8) | _head[at];
        var sizeLength = System.Numerics.BitOperations.LeadingZeroCount((uint)_head[idLength] << 24) + 1;
        if (sizeLength > 8 || there < idLength + sizeLength) return null;
        var size = (long)(_head[idLength] & (0xFF >> sizeLength));
        var unknown = size == 0xFF >> sizeLength;
        for (var at = 1; at < sizeLength; at++)
        {
            size = (size << 8) | _head[idLength + at];
            unknown &= _head[idLength + at] == 0xFF;
        }
        return new EbmlElement(id, place, place + idLength + sizeLength, unknown ? null : size);
    }

    /// <summary>What an element holds, one after the other, as far as it is whole.</summary>
    public IEnumerable<EbmlElement> Within(EbmlElement parent)
    {
        var end = Math.Min(parent.Size is null ? file.Length : parent.End, file.Length);
        for (var at = parent.Body; at < end && At(at) is { } one; at = one.End)
        {
            if (one.Size is null || one.End > end) yield break;
            yield return one;
        }
    }

    /// <exception cref="EndOfStreamException">The file ends before it does.</exception>
    public byte[] Bytes(EbmlElement element)
    {
        var bytes = new byte[element.Size ?? 0];
        file.Position = element.Body;
        file.ReadExactly(bytes);
        return bytes;
    }

    public ulong Number(EbmlElement element) => Bytes(element).Aggregate(0UL, (value, next) => (value << 8) | next);

    public string Text(EbmlElement element) => Encoding.UTF8.GetString(Bytes(element));

    public double Float(EbmlElement element) => Bytes(element) switch
    {
        { Length: 8 } bytes => BinaryPrimitives.ReadDoubleBigEndian(bytes),
        { Length: 4 } bytes => BinaryPrimitives.ReadSingleBigEndian(bytes),
        _ => 0
    };
}
