using System.Buffers.Binary;
using System.Globalization;
using SkiaSharp;

namespace HoldCourt.Server.Exhibits;

/// <summary>
/// Reads pictures that somebody brought, in a process of its own in the sandbox: this program, started once more. What crosses back is
/// nothing but a width, a height, and as many pixels.
/// </summary>
internal static class PictureReader
{
    /// <summary>The word with which this program is started for it: <c>picture PATH WIDTH</c>.</summary>
    public const string Command = "picture";

    private static readonly TimeSpan _limit = TimeSpan.FromSeconds(20);

    /// <summary>The managed part alone; the picture itself is outside of it.</summary>
    private const string MostManaged = "0x10000000";

    /// <summary>Pixels of a picture, as wide as is wished or as it is.</summary>
    /// <exception cref="PageException">It is broken, too large, or cannot be read here.</exception>
    public static async Task<SKBitmap> Read(string path, int width, CancellationToken cancel)
    {
        if (!Sandbox.IsThere) throw new PageException(PageFlaw.NoConverter);
        var ran = await Sandbox.RunOwn(path, _limit, [("DOTNET_GCHeapHardLimit", MostManaged)], cancel,
            Command, "/in", width.ToString(CultureInfo.InvariantCulture));
        if (ran.TooLong) throw new PageException(PageFlaw.TookTooLong);
        if (ran.Exit != 0) throw new PageException(ran.Exit == ExitTooLarge ? PageFlaw.TooLarge : PageFlaw.Broken);
        return Pixels(ran.Output) ?? throw new PageException(PageFlaw.Broken);
    }

    private const int ExitTooLarge = 3, Head = 8;

    private static SKBitmap? Pixels(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < Head) return null;
        var (width, height) = (BinaryPrimitives.ReadInt32LittleEndian(bytes), BinaryPrimitives.ReadInt32LittleEndian(bytes[4..]));
        if (width < 1 || height < 1 || (long)width * height * 4 != bytes.Length - Head) return null;
        var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        bytes[Head..].CopyTo(bitmap.GetPixelSpan());
        return bitmap;
    }

    /// <summary>The other side: in the process that may be taken over by what it reads.</summary>
    public static int Run(string path, string width)
    {
        try
        {
            using var picture = PageMaker.Scaled(path, int.Parse(width, CultureInfo.InvariantCulture));
            Span<byte> head = stackalloc byte[Head];
            BinaryPrimitives.WriteInt32LittleEndian(head, picture.Width);
            BinaryPrimitives.WriteInt32LittleEndian(head[4..], picture.Height);
            using var to = Console.OpenStandardOutput();
            to.Write(head);
            to.Write(picture.GetPixelSpan());
            return 0;
        }
        catch (PageException e) { return e.Flaw == PageFlaw.TooLarge ? ExitTooLarge : 1; }
    }
}
