using HoldCourt.Server.Hosting;
using System.Runtime.InteropServices;

namespace HoldCourt.Server.Recording.Films;

/// <summary>A decoded picture, as its decoder holds it until it decodes the next.</summary>
internal readonly record struct Decoded(nint Y, nint U, nint V, int StrideY, int StrideU, int StrideV, int Wide, int High);

/// <summary>Decodes VP8 and VP9 (libvpx). What it is given comes from browsers: it is used in a process of its own alone.</summary>
internal sealed partial class VpxDecoder : IDisposable
{
    /// <summary>The shape of the interface that is spoken here.</summary>
    private const int Abi = 12;

    /// <summary>Room for what the library keeps of a decoder, in bytes; it needs 56.</summary>
    private const int Room = 128;

    private const int I420 = 0x102;
    private const int LargestSide = 4_096;

    private nint _context = Marshal.AllocHGlobal(Room);
    private readonly bool _isReady;

    /// <param name="codec">V_VP8 or V_VP9.</param>
    public VpxDecoder(string codec)
    {
        Natives.Use();
        unsafe { new Span<byte>((void*)_context, Room).Clear(); }
        _isReady = Init(_context, codec == "V_VP9" ? Vp9() : Vp8(), nint.Zero, 0, Abi) == 0;
    }

    /// <summary>The picture after this frame; null when it makes none, or is broken.</summary>
    public Decoded? Decode(ReadOnlySpan<byte> frame)
    {
        if (!_isReady || frame.IsEmpty) return null;
        unsafe
        {
            fixed (byte* data = frame)
                if (Decode(_context, data, (uint)frame.Length, nint.Zero, 0) != 0) return null;
            nint at = 0;
            Decoded? decoded = null;
            while (GetFrame(_context, ref at) is var found && found != nint.Zero)
            {
                var image = (Image*)found;
                if (image->Format != I420 || image->ShownWide > LargestSide || image->ShownHigh > LargestSide) return null;
                decoded = new Decoded(image->Y, image->U, image->V, image->StrideY, image->StrideU, image->StrideV,
                    (int)image->ShownWide, (int)image->ShownHigh);
            }
            return decoded;
        }
    }

    public void Dispose()
    {
        if (_context == nint.Zero) return;
        if (_isReady) _ = Destroy(_context);
        Marshal.FreeHGlobal(_context);
        _context = nint.Zero;
    }

    [StructLayout(LayoutKind.Sequential)]
    private readonly struct Image
    {
        public readonly int Format, Space, Range;
        public readonly uint Wide, High, Depth, ShownWide, ShownHigh, RenderWide, RenderHigh, ShiftX, ShiftY;
        public readonly nint Y, U, V, Alpha;
        public readonly int StrideY, StrideU, StrideV, StrideAlpha;
    }

    [LibraryImport(Natives.Vpx, EntryPoint = "vpx_codec_vp8_dx")] private static partial nint Vp8();
    [LibraryImport(Natives.Vpx, EntryPoint = "vpx_codec_vp9_dx")] private static partial nint Vp9();

    [LibraryImport(Natives.Vpx, EntryPoint = "vpx_codec_dec_init_ver")]
    private static partial int Init(nint context, nint codec, nint settings, nint flags, int abi);

    [LibraryImport(Natives.Vpx, EntryPoint = "vpx_codec_decode")]
    private static unsafe partial int Decode(nint context, byte* data, uint length, nint own, nint deadline);

    [LibraryImport(Natives.Vpx, EntryPoint = "vpx_codec_get_frame")]
    private static partial nint GetFrame(nint context, ref nint at);

    [LibraryImport(Natives.Vpx, EntryPoint = "vpx_codec_destroy")] private static partial int Destroy(nint context);
}
