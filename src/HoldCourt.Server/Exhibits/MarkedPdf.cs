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

    public static byte[] OfSheet(Pages sheet, ILookup<int, Mark> marks)
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
            for (var page = 1; page <= sheet.Count; page++)
            {
                var canvas = document.BeginPage(Wide, Wide * WhiteShape);
                MarkPaint.EmptyPage(canvas, Wide, Wide * WhiteShape, sheet.Ruling);
                MarkPaint.Draw(canvas, Wide, marks[page]);
                document.EndPage();
            }
        return to.ToArray();
    }

    /// <exception cref="PageException">The picture cannot be read.</exception>
    public static async Task<byte[]> OfPicture(string path, ILookup<int, Mark> marks, CancellationToken cancel)
    {
        using var picture = await PictureReader.Read(path, PageMaker.Widths[^1], cancel);
        using var image = SKImage.FromBitmap(picture);
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
        {
            var height = Wide * picture.Height / picture.Width;
            var canvas = document.BeginPage(Wide, height);
            canvas.DrawImage(image, new SKRect(0, 0, Wide, height), new SKSamplingOptions(SKFilterMode.Linear));
            MarkPaint.Draw(canvas, Wide, marks[1]);
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
                    MarkPaint.Draw(document.BeginPage(width, height), width, marks[page]);
                    document.EndPage();
                }
            var ran = await Sandbox.Run(path, work.FullName, _limit, cancel, "qpdf", "/in", "--overlay", "/out/marks.pdf", "--",
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

    [GeneratedRegex(@"^Page\s+(\d+)\s+size:\s+([\d.]+) x ([\d.]+)", RegexOptions.Multiline)]
    private static partial Regex PageSizes();

    [GeneratedRegex(@"^Page\s+(\d+)\s+rot:\s+(\d+)", RegexOptions.Multiline)]
    private static partial Regex PageTurns();
}
