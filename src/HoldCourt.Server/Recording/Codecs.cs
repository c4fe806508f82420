namespace HoldCourt.Server.Recording;

/// <summary>What is known of the coders of browsers here.</summary>
internal static class Codecs
{
    /// <summary>As WebM names it; null for one that is not kept.</summary>
    public static string? InWebm(string codec) => codec switch
    {
        "vp8" => "V_VP8",
        "opus" => "A_OPUS",
        _ when codec.StartsWith("vp09.", StringComparison.Ordinal) => "V_VP9",
        _ => null
    };

    /// <summary>Width and height that stand in a key frame (RFC 6386, 9.1; VP9 bitstream, 7.2); null when it is none.</summary>
    public static (int Width, int Height)? SizeOf(string codec, ReadOnlySpan<byte> frame)
    {
        var size = codec switch
        {
            "V_VP8" when frame.Length >= 10 && (frame[0] & 1) == 0 && frame[3..6].SequenceEqual((ReadOnlySpan<byte>)[0x9D, 0x01, 0x2A]) =>
                ((frame[6] | (frame[7] << 8)) & 0x3FFF, (frame[8] | (frame[9] << 8)) & 0x3FFF),
            // Profile 0, a key frame that is shown; then the sync code, the colours, and two sizes less one.
            "V_VP9" when frame.Length >= 9 && frame[0] >> 4 == 0b1000 && (frame[0] & 0b1100) == 0
                && frame[1..4].SequenceEqual((ReadOnlySpan<byte>)[0x49, 0x83, 0x42]) && frame[4] >> 5 != 7 =>
                (Bits(frame, 4) + 1, Bits(frame, 6) + 1),
            _ => (0, 0)
        };
        return size is { Item1: > 0, Item2: > 0 } ? size : null;

        static int Bits(ReadOnlySpan<byte> bytes, int at) => ((bytes[at] & 0x0F) << 12) | (bytes[at + 1] << 4) | (bytes[at + 2] >> 4);
    }
}
