using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using SkiaSharp;

namespace HoldCourt.Server.Exhibits;

/// <summary>
/// All pages of an exhibit with their marks, as a PDF: marks are lines and letters in it, and the pages stay as they were.
/// </summary>
internal static partial class MarkedPdf
{
    /// <summary>Width of a page of a sheet or a picture, in points.</summary>
    private const float Wide = 960;

    /// <summary>Height of a white page by its width.</summary>
    private const float WhiteShape = 9f / 16;

    private static readonly TimeSpan _limit = TimeSpan.FromSeconds(30);

    /// <summary>As the pages of the browser draw them (web/src/drawing/paint.ts).</summary>
    private static readonly Dictionary<MarkColour, SKColor> _colours = new()
    {
        [MarkColour.Black] = new(0x11, 0x11, 0x11),
        [MarkColour.Vermilion] = new(0xD5, 0x5E, 0x00),
        [MarkColour.Blue] = new(0x00, 0x72, 0xB2),
        [MarkColour.Green] = new(0x00, 0x9E, 0x73),
        [MarkColour.Orange] = new(0xE6, 0x9F, 0x00),
        [MarkColour.White] = SKColors.White
    };

    /// <summary>Letters of a text are so many widths of its line high.</summary>
    private const float Letters = 9;

    public static byte[] OfSheet(Pages sheet, ILookup<int, Mark> marks)
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
            for (var page = 1; page <= sheet.Count; page++)
            {
                var canvas = document.BeginPage(Wide, Wide * WhiteShape);
                Rule(canvas, sheet.Ruling);
                Draw(canvas, Wide, marks[page]);
                document.EndPage();
            }
        return to.ToArray();
    }

    /// <exception cref="PageException">The picture cannot be read.</exception>
    public static byte[] OfPicture(string path, ILookup<int, Mark> marks)
    {
        using var picture = PageMaker.Decode(path);
        using var image = SKImage.FromBitmap(picture);
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
        {
            var height = Wide * picture.Height / picture.Width;
            var canvas = document.BeginPage(Wide, height);
            canvas.DrawImage(image, new SKRect(0, 0, Wide, height), new SKSamplingOptions(SKFilterMode.Linear));
            Draw(canvas, Wide, marks[1]);
            document.EndPage();
        }
        return to.ToArray();
    }

    /// <summary>Lays the marks over the pages of a PDF (qpdf).</summary>
    /// <exception cref="PageException">It cannot be done, or took too long.</exception>
    public static async Task<byte[]> OfPdf(string path, ILookup<int, Mark> marks, CancellationToken cancel)
    {
        var info = await Sandbox.Run(path, _limit, cancel, "pdfinfo", "-f", "1", "-l", "100000", "/in");
        var sizes = PageSizes().Matches(Encoding.UTF8.GetString(info.Output)).Select(found => (
            Page: int.Parse(found.Groups[1].Value, CultureInfo.InvariantCulture),
            Wide: float.Parse(found.Groups[2].Value, CultureInfo.InvariantCulture),
            High: float.Parse(found.Groups[3].Value, CultureInfo.InvariantCulture))).ToList();
        if (info.Exit != 0 || sizes is []) throw new PageException(info.TooLong ? PageFlaw.TookTooLong : PageFlaw.Broken);
        var aside = PageTurns().Matches(Encoding.UTF8.GetString(info.Output)).Where(found => found.Groups[2].Value is "90" or "270")
            .Select(found => int.Parse(found.Groups[1].Value, CultureInfo.InvariantCulture)).ToHashSet();
        var work = Directory.CreateTempSubdirectory("hold-court-export-");
        try
        {
            using (var to = File.Create(Path.Combine(work.FullName, "marks.pdf")))
            using (var document = SKDocument.CreatePdf(to))
                foreach (var (page, wide, high) in sizes)
                {
                    var (width, height) = aside.Contains(page) ? (high, wide) : (wide, high);
                    Draw(document.BeginPage(width, height), width, marks[page]);
                    document.EndPage();
                }
            var ran = await Sandbox.Run(path, work.FullName, _limit, 0, cancel, "qpdf", "/in", "--overlay", "/out/marks.pdf", "--",
                "/out/marked.pdf");
            if (ran.TooLong) throw new PageException(PageFlaw.TookTooLong);
            var made = Path.Combine(work.FullName, "marked.pdf");
            // 3: with warnings about the file as it came.
            return ran.Exit is 0 or 3 && File.Exists(made)
                ? await File.ReadAllBytesAsync(made, cancel)
                : throw new PageException(PageFlaw.Broken);
        }
        finally
        {
            work.Delete(recursive: true);
        }
    }

    private static void Rule(SKCanvas canvas, Ruling ruling)
    {
        canvas.Clear(SKColors.White);
        if (ruling == Ruling.Plain) return;
        using var paint = new SKPaint { Color = new SKColor(0xC9, 0xD3, 0xD9), StrokeWidth = 0.9f, Style = SKPaintStyle.Stroke };
        var step = Wide / (ruling == Ruling.Ruled ? 1600f / 60 : 1600f / 50);
        for (var y = step; y < Wide * WhiteShape; y += step) canvas.DrawLine(0, y, Wide, y, paint);
        if (ruling == Ruling.Squared)
            for (var x = step; x < Wide; x += step) canvas.DrawLine(x, 0, x, Wide * WhiteShape, paint);
    }

    private static void Draw(SKCanvas canvas, float width, IEnumerable<Mark> marks)
    {
        canvas.Save();
        canvas.Scale(width / MarkLine.Units);
        foreach (var mark in marks)
            if (MarkLine.Read(mark.Line) is { Count: > 0 } points) Draw(canvas, mark, points);
        canvas.Restore();
    }

    private static void Draw(SKCanvas canvas, Mark mark, List<(int X, int Y)> points)
    {
        var marker = mark.Shape == MarkShape.Highlighter;
        using var paint = new SKPaint
        {
            Color = _colours[mark.Colour].WithAlpha(marker ? (byte)97 : (byte)255),
            Style = mark.Shape == MarkShape.Text ? SKPaintStyle.Fill : SKPaintStyle.Stroke,
            StrokeWidth = marker ? mark.Width * 4 : mark.Width,
            StrokeCap = marker ? SKStrokeCap.Butt : SKStrokeCap.Round,
            StrokeJoin = SKStrokeJoin.Round,
            IsAntialias = true
        };
        var (x, y) = points[0];
        var (toX, toY) = points[^1];
        switch (mark.Shape)
        {
            case MarkShape.Box:
                canvas.DrawRect(new SKRect(Math.Min(x, toX), Math.Min(y, toY), Math.Max(x, toX), Math.Max(y, toY)), paint);
                break;
            case MarkShape.Ellipse:
                canvas.DrawOval(new SKRect(Math.Min(x, toX), Math.Min(y, toY), Math.Max(x, toX), Math.Max(y, toY)), paint);
                break;
            case MarkShape.Text:
                using (var font = new SKFont(SKTypeface.Default, mark.Width * Letters))
                    foreach (var (line, at) in mark.Text.Split('\n').Select((line, at) => (line, at)))
                        canvas.DrawText(line, x, y + font.Size * (0.8f + at * 1.25f), font, paint);
                break;
            default:
                using (var path = Curve(points))
                    canvas.DrawPath(path, paint);
                if (mark.Shape == MarkShape.Arrow) Head(canvas, paint, points[0], points[^1], mark.Width);
                break;
        }
    }

    private static SKPath Curve(List<(int X, int Y)> points)
    {
        var path = new SKPath();
        path.MoveTo(points[0].X, points[0].Y);
        for (var at = 1; at + 1 < points.Count; at++)
            path.QuadTo(points[at].X, points[at].Y, (points[at].X + points[at + 1].X) / 2f, (points[at].Y + points[at + 1].Y) / 2f);
        path.LineTo(points[^1].X + (points.Count == 1 ? 0.1f : 0), points[^1].Y);
        return path;
    }

    private static void Head(SKCanvas canvas, SKPaint paint, (int X, int Y) from, (int X, int Y) to, int width)
    {
        var size = Math.Min(width * 5, Math.Sqrt(Math.Pow(to.X - from.X, 2) + Math.Pow(to.Y - from.Y, 2)) / 2);
        var turn = Math.Atan2(to.Y - from.Y, to.X - from.X);
        foreach (var side in new[] { -0.5, 0.5 })
            canvas.DrawLine(to.X, to.Y, (float)(to.X - size * Math.Cos(turn + side)), (float)(to.Y - size * Math.Sin(turn + side)), paint);
    }

    [GeneratedRegex(@"^Page\s+(\d+)\s+size:\s+([\d.]+) x ([\d.]+)", RegexOptions.Multiline)]
    private static partial Regex PageSizes();

    [GeneratedRegex(@"^Page\s+(\d+)\s+rot:\s+(\d+)", RegexOptions.Multiline)]
    private static partial Regex PageTurns();
}
