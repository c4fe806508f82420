using HoldCourt.Server.Hosting;
using System.Runtime.InteropServices;
using SkiaSharp;

namespace HoldCourt.Server.Recording.Films;

/// <summary>A picture of a film as the coder takes it: I420 (BT.601, limited range), and what is drawn into it.</summary>
internal sealed partial class Canvas : IDisposable
{
    private const int Bilinear = 2, Box = 3;

    private readonly nint _bytes;

    /// <param name="wide">Even, in pixels.</param>
    public Canvas(int wide, int high)
    {
        Natives.Use();
        (Wide, High) = (wide, high);
        _bytes = Marshal.AllocHGlobal(Length);
        Fill(new Area(0, 0, wide, high), Ground);
    }

    /// <summary>Behind everything.</summary>
    public static SKColor Ground { get; } = new(0x14, 0x1B, 0x1F);

    public int Wide { get; }
    public int High { get; }
    public int Length => Wide * High * 3 / 2;

    public unsafe ReadOnlySpan<byte> Bytes => new((void*)_bytes, Length);

    private nint Y(int x, int y) => _bytes + (y * Wide) + x;
    private nint U(int x, int y) => _bytes + (Wide * High) + (y / 2 * (Wide / 2)) + (x / 2);
    private nint V(int x, int y) => _bytes + (Wide * High * 5 / 4) + (y / 2 * (Wide / 2)) + (x / 2);

    /// <summary>Scales a picture into an area.</summary>
    /// <param name="fills">Cuts off what does not fit; otherwise the whole picture stands in the middle.</param>
    public void Draw(in Decoded picture, Area area, bool fills)
    {
        var (x, y, wide, high) = (0, 0, picture.Wide, picture.High);
        if (fills)
        {
            var shape = (double)area.Wide / area.High;
            if (wide > high * shape) (x, wide) = (Even((wide - (high * shape)) / 2), Even(high * shape));
            else (y, high) = (Even((high - (wide / shape)) / 2), Even(wide / shape));
        }
        else
        {
            Fill(area, Ground);
            area = area.Fit(wide, high);
        }
        if (wide < 2 || high < 2 || area.Wide < 2 || area.High < 2) return;
        _ = Scale(
            picture.Y + (y * picture.StrideY) + x, picture.StrideY,
            picture.U + (y / 2 * picture.StrideU) + (x / 2), picture.StrideU,
            picture.V + (y / 2 * picture.StrideV) + (x / 2), picture.StrideV,
            wide, high, Y(area.X, area.Y), Wide, U(area.X, area.Y), Wide / 2, V(area.X, area.Y), Wide / 2, area.Wide, area.High,
            wide > area.Wide * 2 ? Box : Bilinear);
    }

    /// <param name="picture">Of the area's size, in BGRA; nothing of it is seen through.</param>
    public void Draw(SKBitmap picture, Area area) => _ = FromArgb(
        picture.GetPixels(), picture.RowBytes, Y(area.X, area.Y), Wide, U(area.X, area.Y), Wide / 2, V(area.X, area.Y), Wide / 2,
        Math.Min(picture.Width, area.Wide), Math.Min(picture.Height, area.High));

    public unsafe void Fill(Area area, SKColor colour)
    {
        var (y, u, v) = Yuv(colour);
        for (var row = 0; row < area.High; row++) new Span<byte>((void*)Y(area.X, area.Y + row), area.Wide).Fill(y);
        for (var row = 0; row < area.High; row += 2)
        {
            new Span<byte>((void*)U(area.X, area.Y + row), area.Wide / 2).Fill(u);
            new Span<byte>((void*)V(area.X, area.Y + row), area.Wide / 2).Fill(v);
        }
    }

    /// <summary>The picture, smaller.</summary>
    public unsafe SKBitmap ToBitmap(int wide, int high)
    {
        using var whole = new SKBitmap(new SKImageInfo(Wide, High, SKColorType.Bgra8888, SKAlphaType.Opaque));
        _ = ToArgb(Y(0, 0), Wide, U(0, 0), Wide / 2, V(0, 0), Wide / 2, whole.GetPixels(), whole.RowBytes, Wide, High);
        return whole.Resize(new SKImageInfo(wide, high), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
    }

    /// <summary>Lines along the inner edge of an area.</summary>
    public void Frame(Area area, int thick, SKColor colour)
    {
        Fill(area with { High = thick }, colour);
        Fill(area with { Y = area.Y + area.High - thick, High = thick }, colour);
        Fill(area with { Wide = thick }, colour);
        Fill(area with { X = area.X + area.Wide - thick, Wide = thick }, colour);
    }

    /// <summary>ITU-R BT.601, limited range.</summary>
    private static (byte Y, byte U, byte V) Yuv(SKColor colour)
    {
        var (r, g, b) = (colour.Red / 255.0, colour.Green / 255.0, colour.Blue / 255.0);
        var luma = (0.299 * r) + (0.587 * g) + (0.114 * b);
        return ((byte)Math.Round(16 + (219 * luma)), (byte)Math.Round(128 + (224 * 0.5 * (b - luma) / (1 - 0.114))),
            (byte)Math.Round(128 + (224 * 0.5 * (r - luma) / (1 - 0.299))));
    }

    private static int Even(double length) => (int)length & ~1;

    public void Dispose() => Marshal.FreeHGlobal(_bytes);

    [LibraryImport(Natives.Yuv, EntryPoint = "I420Scale")]
    private static partial int Scale(
        nint y, int strideY, nint u, int strideU, nint v, int strideV, int wide, int high,
        nint toY, int toStrideY, nint toU, int toStrideU, nint toV, int toStrideV, int toWide, int toHigh, int filter);

    [LibraryImport(Natives.Yuv, EntryPoint = "I420ToARGB")]
    private static partial int ToArgb(
        nint y, int strideY, nint u, int strideU, nint v, int strideV, nint to, int stride, int wide, int high);

    [LibraryImport(Natives.Yuv, EntryPoint = "ARGBToI420")]
    private static partial int FromArgb(
        nint from, int stride, nint y, int strideY, nint u, int strideU, nint v, int strideV, int wide, int high);
}
