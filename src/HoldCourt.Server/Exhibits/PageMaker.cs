using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using System.Xml;
using SkiaSharp;

namespace HoldCourt.Server.Exhibits;

/// <summary>What is wrong with a file of which pages were to be made.</summary>
internal sealed class PageException(PageFlaw flaw) : Exception(flaw.ToString())
{
    public PageFlaw Flaw => flaw;
}

/// <param name="Count">Of the pages.</param>
/// <param name="StandIns">Fonts that the file names and does not bring, and what stands in for each.</param>
internal sealed record Bound(int Count, ImmutableArray<StandIn> StandIns);

/// <summary>
/// Makes pictures of pages, and the text that stands on them. PDFs are read by poppler's programs in the sandbox; pictures by a library
/// whose decoders browsers use, after a look at their size.
/// </summary>
internal static partial class PageMaker
{
    /// <summary>Width of a page's picture, in pixels: in a line of small ones, for all, and looked at closely.</summary>
    public static int[] Widths { get; } = [160, 1_600, 3_200];

    /// <summary>Highest picture, in pixels.</summary>
    private const int Highest = 4_000;

    /// <summary>Most pixels of a picture that is read: 80 megapixels take 320 MB while they are.</summary>
    private const long MostPixels = 80_000_000;

    private static readonly TimeSpan _look = TimeSpan.FromSeconds(15), _convert = TimeSpan.FromSeconds(60);

    /// <summary>The office program, where one is installed.</summary>
    public static bool Converts => Sandbox.Has("soffice");

    /// <summary>A look at a whole PDF.</summary>
    /// <exception cref="PageException">It is broken, locked, or too large.</exception>
    public static async Task<Bound> Look(string pdf, CancellationToken cancel)
    {
        if (!Sandbox.Has("pdfinfo") || !await Sandbox.Works) throw new PageException(PageFlaw.NoConverter);
        var ran = await Sandbox.Run(pdf, _look, cancel, "pdfinfo", "/in");
        if (ran.TooLong) throw new PageException(PageFlaw.TookTooLong);
        if (ran.Exit != 0)
            throw new PageException(ran.Error.Contains("assword", StringComparison.Ordinal) ? PageFlaw.Locked : PageFlaw.Broken);
        var count = PageCount().Match(Encoding.UTF8.GetString(ran.Output)) is { Success: true } found
            && int.TryParse(found.Groups[1].Value, CultureInfo.InvariantCulture, out var pages) ? pages : 0;
        if (count < 1) throw new PageException(PageFlaw.Broken);
        if (count > Pages.Most) throw new PageException(PageFlaw.TooManyPages);
        return new Bound(count, await MissingFonts(pdf, cancel));
    }

    /// <summary>Fonts that are named and not brought along, with what the machine puts in their place; at most five.</summary>
    private static async Task<ImmutableArray<StandIn>> MissingFonts(string pdf, CancellationToken cancel)
    {
        // A hundred pages say it for all.
        var ran = await Sandbox.Run(pdf, _look, cancel, "pdffonts", "-l", "100", "-subst", "/in");
        if (ran.Exit != 0) return [];
        return [.. Encoding.UTF8.GetString(ran.Output).Split('\n').Skip(2)
            .Select(line => SubstitutedFont().Match(line)).Where(found => found.Success)
            .Select(found => new StandIn(found.Groups[1].Value, found.Groups[2].Value)).Distinct().Take(StandIn.Most)];
    }

    /// <summary>A page of a PDF as a picture (WebP).</summary>
    /// <exception cref="PageException">The page cannot be made.</exception>
    public static async Task<byte[]> Page(string pdf, int page, int width, CancellationToken cancel)
    {
        var number = page.ToString(CultureInfo.InvariantCulture);
        var info = await Sandbox.Run(pdf, _look, cancel, "pdfinfo", "-f", number, "-l", number, "/in");
        if (PageSize().Match(Encoding.UTF8.GetString(info.Output)) is not { Success: true } size)
            throw new PageException(info.TooLong ? PageFlaw.TookTooLong : PageFlaw.Broken);
        var (wide, high) = (Points(size.Groups[1]), Points(size.Groups[2]));
        if (PageTurn().Match(Encoding.UTF8.GetString(info.Output)) is { Success: true } turn && turn.Groups[1].Value is "90" or "270")
            (wide, high) = (high, wide);
        if (wide is not (> 0 and < 100_000) || high is not (> 0 and < 100_000)) throw new PageException(PageFlaw.TooLarge);
        var height = (int)Math.Round(width * high / wide);
        if (height > Highest) (width, height) = ((int)Math.Max(1, width * (double)Highest / height), Highest);
        var ran = await Sandbox.Run(pdf, _look, cancel, "pdftoppm", "-f", number, "-l", number, "-singlefile",
            "-scale-to-x", width.ToString(CultureInfo.InvariantCulture),
            "-scale-to-y", Math.Max(1, height).ToString(CultureInfo.InvariantCulture), "/in");
        if (ran.TooLong) throw new PageException(PageFlaw.TookTooLong);
        using var picture = ReadPixmap(ran.Output) ?? throw new PageException(PageFlaw.Broken);
        return Encode(picture);
    }

    private static double Points(Group found) => double.Parse(found.Value, CultureInfo.InvariantCulture);

    /// <summary>Text on a page, with where each line stands, for screen readers and for looking for words: JSON.</summary>
    public static async Task<byte[]> Text(string pdf, int page, CancellationToken cancel)
    {
        var number = page.ToString(CultureInfo.InvariantCulture);
        var ran = await Sandbox.Run(pdf, _look, cancel, "pdftotext", "-f", number, "-l", number, "-bbox-layout", "/in", "-");
        return ran.Exit == 0 ? JsonSerializer.SerializeToUtf8Bytes(Lines(ran.Output), CoreJson.Options) : "[]"u8.ToArray();
    }

    /// <param name="X">Of the page's width, 0 to 1.</param>
    /// <param name="Y">Of the page's height, 0 to 1.</param>
    public sealed record TextLine(double X, double Y, string Text);

    private const int MostLines = 2_000, LongestLine = 1_000;

    private static List<TextLine> Lines(byte[] xhtml)
    {
        var lines = new List<TextLine>();
        try
        {
            using var reader = XmlReader.Create(new MemoryStream(xhtml),
                new XmlReaderSettings { DtdProcessing = DtdProcessing.Ignore, XmlResolver = null, MaxCharactersInDocument = 20_000_000 });
            var (width, height) = (1.0, 1.0);
            while (reader.Read() && lines.Count < MostLines)
            {
                if (reader.NodeType != XmlNodeType.Element) continue;
                if (reader.LocalName == "page") (width, height) = (Of("width"), Of("height"));
                if (reader.LocalName == "line") lines.Add(new TextLine(Share(Of("xMin"), width), Share(Of("yMin"), height), ""));
                if (reader.LocalName != "word" || lines is not [.., var line]) continue;
                var word = reader.ReadElementContentAsString();
                if (line.Text.Length + word.Length < LongestLine)
                    lines[^1] = line with { Text = line.Text.Length == 0 ? word : $"{line.Text} {word}" };
            }
            double Of(string name) => double.TryParse(reader.GetAttribute(name), CultureInfo.InvariantCulture, out var value) ? value : 0;
        }
        catch (XmlException)
        {
            // What could be read is better than nothing.
        }
        return lines;

        static double Share(double at, double of) => of > 0 ? Math.Round(Math.Clamp(at / of, 0, 1), 4) : 0;
    }

    /// <summary>A picture in another size (WebP).</summary>
    /// <exception cref="PageException">It is broken, or too large.</exception>
    public static async Task<byte[]> Picture(string path, int width, CancellationToken cancel)
    {
        using var scaled = await PictureReader.Read(path, width, cancel);
        return Encode(scaled);
    }

    /// <summary>A picture that is no wider than so, and no higher than is allowed. Only where nothing is lost if it is taken over.
    /// </summary>
    /// <exception cref="PageException">It is broken, or too large.</exception>
    internal static SKBitmap Scaled(string path, int width)
    {
        var whole = Decode(path);
        var height = (int)Math.Round(width * (double)whole.Height / whole.Width);
        if (height > Highest) (width, height) = (Math.Max(1, (int)(width * (double)Highest / height)), Highest);
        // What is smaller is not blown up.
        if (width >= whole.Width) return whole;
        using (whole)
            return whole.Resize(
                new SKImageInfo(width, Math.Max(1, height)), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear))
                ?? throw new PageException(PageFlaw.ServerFailed);
    }

    /// <exception cref="PageException">It is broken, or too large.</exception>
    private static SKBitmap Decode(string path)
    {
        using var codec = SKCodec.Create(path) ?? throw new PageException(PageFlaw.Broken);
        if ((long)codec.Info.Width * codec.Info.Height > MostPixels || codec.Info.Width < 1 || codec.Info.Height < 1)
            throw new PageException(PageFlaw.TooLarge);
        var bitmap = new SKBitmap(codec.Info.WithColorType(SKColorType.Rgba8888).WithAlphaType(SKAlphaType.Premul));
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) is SKCodecResult.Success or SKCodecResult.IncompleteInput)
            return Upright(bitmap, codec);
        bitmap.Dispose();
        throw new PageException(PageFlaw.Broken);
    }

    /// <summary>Cameras write which way up a picture is.</summary>
    private static SKBitmap Upright(SKBitmap bitmap, SKCodec codec)
    {
        var turn = codec.EncodedOrigin switch
        {
            SKEncodedOrigin.RightTop => 90,
            SKEncodedOrigin.BottomRight => 180,
            SKEncodedOrigin.LeftBottom => 270,
            _ => 0
        };
        if (turn == 0) return bitmap;
        var (width, height) = turn == 180 ? (bitmap.Width, bitmap.Height) : (bitmap.Height, bitmap.Width);
        var upright = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using (var canvas = new SKCanvas(upright))
        {
            canvas.Translate(width / 2f, height / 2f);
            canvas.RotateDegrees(turn);
            canvas.DrawBitmap(bitmap, -bitmap.Width / 2f, -bitmap.Height / 2f);
        }
        bitmap.Dispose();
        return upright;
    }

    /// <summary>Text and drawings without loss, which is smaller for them; photographs with a little.</summary>
    private static byte[] Encode(SKBitmap picture)
    {
        using var pixels = picture.PeekPixels() ?? throw new PageException(PageFlaw.ServerFailed);
        using var data = pixels.Encode(IsPhotograph(picture)
            ? new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossy, 85)
            : new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 30)) ?? throw new PageException(PageFlaw.ServerFailed);
        return data.ToArray();
    }

    /// <summary>By how many different colours stand at a few thousand places.</summary>
    private static bool IsPhotograph(SKBitmap picture)
    {
        const int places = 4_000, many = 1_200;
        var colours = new HashSet<uint>();
        var step = Math.Max(1, picture.Width * picture.Height / places);
        for (long at = step / 2; at < (long)picture.Width * picture.Height; at += step)
            colours.Add((uint)picture.GetPixel((int)(at % picture.Width), (int)(at / picture.Width)));
        return colours.Count > many;
    }

    /// <summary>A binary portable pixmap (P6) with 8 bits a colour; null when it is none.</summary>
    internal static SKBitmap? ReadPixmap(byte[] bytes)
    {
        var at = 0;
        string Word()
        {
            while (at < bytes.Length && char.IsWhiteSpace((char)bytes[at])) at++;
            var from = at;
            while (at < bytes.Length && at - from < 10 && !char.IsWhiteSpace((char)bytes[at])) at++;
            return Encoding.ASCII.GetString(bytes, from, at - from);
        }
        if (Word() != "P6" || !int.TryParse(Word(), CultureInfo.InvariantCulture, out var width)
            || !int.TryParse(Word(), CultureInfo.InvariantCulture, out var height) || Word() != "255") return null;
        at++;
        if (width < 1 || height < 1 || (long)width * height > MostPixels || bytes.Length - at < (long)width * height * 3) return null;
        var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        var pixels = bitmap.GetPixelSpan();
        var from = bytes.AsSpan(at);
        for (var to = 0; to < width * height * 4; to += 4, from = from[3..])
            (pixels[to], pixels[to + 1], pixels[to + 2], pixels[to + 3]) = (from[0], from[1], from[2], 255);
        return bitmap;
    }

    /// <summary>A PDF of what an office program reads, in the folder as source.pdf.</summary>
    /// <exception cref="PageException">There is no such program, or it cannot.</exception>
    public static async Task<string> Convert(string path, string ending, string folder, CancellationToken cancel)
    {
        if (!Converts || !await Sandbox.Works) throw new PageException(PageFlaw.NoConverter);
        var work = Directory.CreateTempSubdirectory("hold-court-pages-");
        try
        {
            // The program goes by the ending.
            File.Copy(path, Path.Combine(work.FullName, "source" + ending));
            var ran = await Sandbox.Run(path, work.FullName, _convert, cancel, "soffice", "-env:UserInstallation=file:///tmp/profile",
                "--headless", "--norestore", "--nologo", "--nodefault", "--nolockcheck", "--convert-to", "pdf", "--outdir", "/out",
                "/out/source" + ending);
            if (ran.TooLong) throw new PageException(PageFlaw.TookTooLong);
            var made = Path.Combine(work.FullName, "source.pdf");
            if (!File.Exists(made)) throw new PageException(PageFlaw.Broken);
            var kept = Path.Combine(folder, "source.pdf");
            File.Move(made, kept, overwrite: true);
            return kept;
        }
        finally
        {
            work.Delete(recursive: true);
        }
    }

    [GeneratedRegex(@"^Pages:\s+(\d+)", RegexOptions.Multiline)]
    private static partial Regex PageCount();

    [GeneratedRegex(@"^Page.*size:\s+([\d.]+) x ([\d.]+)", RegexOptions.Multiline)]
    private static partial Regex PageSize();

    [GeneratedRegex(@"^Page.*rot:\s+(\d+)", RegexOptions.Multiline)]
    private static partial Regex PageTurn();

    /// <summary>name, object id, substitute font, as `pdffonts -subst` lists them.</summary>
    [GeneratedRegex(@"^(\S.*?)\s{2,}\d+\s+\d+\s+(\S.*?)\s{2,}")]
    private static partial Regex SubstitutedFont();
}
