using System.Buffers.Binary;
using System.Text;

namespace HoldCourt.Server.StandIns.Extras;

/// <summary>A moving picture: VP8 frames of an IVF file.</summary>
internal sealed record PictureClip(IReadOnlyList<byte[]> Frames, double FramesPerSecond)
{
    private const int HeaderLength = 32, FrameHeaderLength = 12;

    /// <summary>VP8 marks a key frame by a zero in the lowest bit of its first byte (RFC 6386, 9.1).</summary>
    public bool IsKey(int index) => (Frames[index][0] & 1) == 0;

    /// <summary>The next key frame at or after a frame; the clip's first when there is none.</summary>
    public int NextKey(int from)
    {
        for (var i = from; i < Frames.Count; i++)
            if (IsKey(i)) return i;
        return 0;
    }

    /// <exception cref="InvalidDataException">Not an IVF file of VP8.</exception>
    public static PictureClip Read(string file)
    {
        var bytes = File.ReadAllBytes(file).AsSpan();
        if (bytes.Length < HeaderLength || !bytes[..4].SequenceEqual("DKIF"u8) || !bytes[8..12].SequenceEqual("VP80"u8))
            throw new InvalidDataException($"{file} is no VP8 clip.");
        var (rate, scale) = (BinaryPrimitives.ReadUInt32LittleEndian(bytes[16..]), BinaryPrimitives.ReadUInt32LittleEndian(bytes[20..]));
        var frames = new List<byte[]>();
        for (var rest = bytes[HeaderLength..]; rest.Length > FrameHeaderLength;)
        {
            var length = (int)BinaryPrimitives.ReadUInt32LittleEndian(rest);
            frames.Add(rest.Slice(FrameHeaderLength, length).ToArray());
            rest = rest[(FrameHeaderLength + length)..];
        }
        return new PictureClip(frames, (double)rate / scale);
    }
}

/// <summary>A spoken clip: Opus packets of 20 ms from an Ogg file (RFC 7845), and the level of each beside it.</summary>
/// <param name="Levels">In -dBov (RFC 6464), one for each packet.</param>
/// <param name="Words">What is said.</param>
internal sealed record VoiceClip(IReadOnlyList<byte[]> Packets, byte[] Levels, string Words)
{
    /// <exception cref="InvalidDataException">Not an Ogg file of Opus.</exception>
    public static VoiceClip Read(string file)
    {
        var packets = Unpack(File.ReadAllBytes(file), file);
        return new VoiceClip(packets, File.ReadAllBytes(Path.ChangeExtension(file, ".levels")),
            File.ReadAllText(Path.ChangeExtension(file, ".txt")).Trim());
    }

    private static List<byte[]> Unpack(ReadOnlySpan<byte> bytes, string file)
    {
        const int PageHeader = 27;
        var packets = new List<byte[]>();
        var packet = new MemoryStream();
        while (bytes.Length > PageHeader)
        {
            if (!bytes[..4].SequenceEqual("OggS"u8)) throw new InvalidDataException($"{file} is no Ogg file.");
            var segments = bytes.Slice(PageHeader, bytes[26]);
            var body = bytes[(PageHeader + segments.Length)..];
            foreach (var segment in segments)
            {
                packet.Write(body[..segment]);
                body = body[segment..];
                if (segment == 255) continue;
                packets.Add(packet.ToArray());
                packet.SetLength(0);
            }
            bytes = body;
        }
        if (packets.Count < 3 || !Encoding.ASCII.GetString(packets[0]).StartsWith("OpusHead", StringComparison.Ordinal))
            throw new InvalidDataException($"{file} holds no Opus.");
        return packets[2..];
    }
}

/// <summary>All clips that ship, read once.</summary>
internal sealed class ClipLibrary
{
    public ClipLibrary()
    {
        var folder = Path.Combine(AppContext.BaseDirectory, "StandIns", "Extras", "clips");
        Figures = [.. Directory.GetFiles(folder, "*-full-listen.ivf").Order(StringComparer.Ordinal).Select(Figure.Read)];
        Page = PictureClip.Read(Path.Combine(folder, "screen-gauge.ivf"));
        Voices = [.. Directory.GetFiles(folder, "*.opus").Order(StringComparer.Ordinal)
            .GroupBy(file => Path.GetFileName(file).Split('-')[0])
            .Select(group => (IReadOnlyList<VoiceClip>)[.. group.Select(VoiceClip.Read)])];
    }

    public IReadOnlyList<Figure> Figures { get; }

    /// <summary>A page that moves, as somebody shares it.</summary>
    public PictureClip Page { get; }

    /// <summary>For each voice what it says.</summary>
    public IReadOnlyList<IReadOnlyList<VoiceClip>> Voices { get; }
}

/// <summary>A drawn person, listening and talking, in both layers.</summary>
internal sealed record Figure(PictureClip FullListening, PictureClip FullTalking, PictureClip ThumbListening, PictureClip ThumbTalking)
{
    public static Figure Read(string fullListening)
    {
        PictureClip Clip(string layer, string mood) =>
            PictureClip.Read(fullListening.Replace("full-listen", $"{layer}-{mood}", StringComparison.Ordinal));
        return new Figure(Clip("full", "listen"), Clip("full", "talk"), Clip("thumb", "listen"), Clip("thumb", "talk"));
    }
}
