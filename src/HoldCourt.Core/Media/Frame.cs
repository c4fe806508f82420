using System.Buffers.Binary;

namespace HoldCourt.Core.Media;

[Flags]
public enum FrameMarks : byte { None = 0, Key = 1, Discardable = 2, Silence = 4 }

/// <summary>
/// The header before each encoded chunk on the media socket: 24 bytes, little-endian. Frames stand one after another
/// in a binary message.
/// </summary>
/// <param name="Length">Of the whole frame, header included, in bytes.</param>
/// <param name="Track">Given by the server; it says who sends and what.</param>
/// <param name="Sequence">Counts the track's chunks.</param>
/// <param name="Level">0 (full scale) to 127 (silence), in -dBov (RFC 6464); voices only.</param>
/// <param name="Rotation">Quarter turns clockwise, 0 to 3; video only.</param>
/// <param name="Duration">In 0.1 ms.</param>
/// <param name="CaptureTime">Of the sender's clock, in µs.</param>
public readonly record struct FrameHeader(
    int Length, Service Service, FrameMarks Flags, ushort Track, uint Sequence, byte Level, byte Rotation, ushort Duration,
    ulong CaptureTime)
{
    public const int Size = 24;

    /// <summary>Largest frame accepted, header included, in bytes: a key frame of a sharp screen.</summary>
    public const int LargestFrame = 512 * 1024;

    public bool IsKey => (Flags & FrameMarks.Key) != 0;

    /// <summary>Reads the header at the start of <paramref name="bytes"/>; false when it is cut off or makes no sense.</summary>
    public static bool TryRead(ReadOnlySpan<byte> bytes, out FrameHeader header)
    {
        header = default;
        if (bytes.Length < Size) return false;
        var length = BinaryPrimitives.ReadUInt32LittleEndian(bytes);
        if (length is < Size or > LargestFrame || length > bytes.Length) return false;
        var service = (Service)bytes[4];
        if (service is < Service.Voice or > Service.Sound || bytes[12] > 127 || bytes[13] > 3) return false;
        header = new FrameHeader(
            (int)length, service, (FrameMarks)bytes[5], BinaryPrimitives.ReadUInt16LittleEndian(bytes[6..]),
            BinaryPrimitives.ReadUInt32LittleEndian(bytes[8..]), bytes[12], bytes[13],
            BinaryPrimitives.ReadUInt16LittleEndian(bytes[14..]), BinaryPrimitives.ReadUInt64LittleEndian(bytes[16..]));
        return true;
    }

    /// <exception cref="ArgumentOutOfRangeException"><paramref name="bytes"/> is shorter than <see cref="Size"/>.</exception>
    public void Write(Span<byte> bytes)
    {
        BinaryPrimitives.WriteUInt64LittleEndian(bytes[16..], CaptureTime);
        BinaryPrimitives.WriteUInt32LittleEndian(bytes, (uint)Length);
        bytes[4] = (byte)Service;
        bytes[5] = (byte)Flags;
        BinaryPrimitives.WriteUInt16LittleEndian(bytes[6..], Track);
        BinaryPrimitives.WriteUInt32LittleEndian(bytes[8..], Sequence);
        bytes[12] = Level;
        bytes[13] = Rotation;
        BinaryPrimitives.WriteUInt16LittleEndian(bytes[14..], Duration);
    }
}
