using System.Diagnostics;
using HoldCourt.Server.Exhibits;
using SkiaSharp;

namespace HoldCourt.Bench;

/// <summary>
/// Broken files for the maker of pages, for as many minutes as are wished: each must end in pages or in a flaw, in its time.
/// </summary>
internal static class PageFuzz
{
    public static async Task Run(double minutes, int seed)
    {
        var random = new Random(seed);
        var seeds = new List<(string Name, byte[] Bytes)>
        {
            ("document.pdf", Pdf()),
            ("picture.png", Picture(SKEncodedImageFormat.Png)), ("picture.jpg", Picture(SKEncodedImageFormat.Jpeg)),
            ("picture.webp", Picture(SKEncodedImageFormat.Webp))
        };
        var counts = new SortedDictionary<string, int>();
        var (slowest, clock) = (0.0, Stopwatch.StartNew());
        var folder = Directory.CreateTempSubdirectory("hold-court-fuzz-").FullName;
        while (clock.Elapsed.TotalMinutes < minutes)
        {
            var (name, bytes) = seeds[random.Next(10) < 7 ? 0 : random.Next(1, seeds.Count)];
            var path = Path.Combine(folder, name);
            await File.WriteAllBytesAsync(path, Broken(bytes, random));
            var start = Stopwatch.GetTimestamp();
            var outcome = await Outcome(path, name);
            slowest = Math.Max(slowest, Stopwatch.GetElapsedTime(start).TotalSeconds);
            counts[outcome] = counts.GetValueOrDefault(outcome) + 1;
            if (outcome.StartsWith("! ", StringComparison.Ordinal))
                File.Copy(path, Path.Combine(Path.GetTempPath(), $"fuzz-{Guid.NewGuid():N}-{name}"));
        }
        Numbers.Head($"Broken files for {minutes} minutes (seed {seed})");
        foreach (var (outcome, count) in counts) Numbers.Row(outcome, $"{count}");
        Numbers.Row("slowest", $"{slowest:F1} s");
        Numbers.Row("resident memory at the end", $"{Process.GetCurrentProcess().WorkingSet64 / 1e6:F0} MB");
        Directory.Delete(folder, recursive: true);
    }

    private static async Task<string> Outcome(string path, string name)
    {
        try
        {
            var kind = FileKind.Of(path, name);
            if (kind.Shows is null) return "is nothing that can be shown";
            if (kind.Shows == ExhibitKind.Picture)
            {
                await PageMaker.Picture(path, 1600, CancellationToken.None);
                return "picture made";
            }
            var bound = await PageMaker.Look(path, CancellationToken.None);
            await PageMaker.Page(path, 1, 1600, CancellationToken.None);
            await PageMaker.Text(path, bound.Count, CancellationToken.None);
            return "pages made";
        }
        catch (PageException e)
        {
            return $"flaw: {e.Flaw}";
        }
        catch (Exception e)
        {
            return $"! {e.GetType().Name}: {e.Message}";
        }
    }

    private static byte[] Broken(byte[] whole, Random random)
    {
        var bytes = whole.ToList();
        for (var changes = random.Next(1, 30); changes > 0; changes--)
        {
            var at = random.Next(bytes.Count);
            switch (random.Next(6))
            {
                case 0: bytes[at] = (byte)random.Next(256); break;
                case 1: bytes[at] ^= (byte)(1 << random.Next(8)); break;
                case 2: bytes.RemoveRange(at, Math.Min(random.Next(1, 200), bytes.Count - at - 1)); break;
                case 3: bytes.InsertRange(at, bytes.GetRange(at, Math.Min(random.Next(1, 200), bytes.Count - at))); break;
                case 4: bytes.InsertRange(at, "999999999 "u8.ToArray()); break;
                default: if (random.Next(8) == 0) bytes.RemoveRange(at, bytes.Count - at - 1); break;
            }
            if (bytes.Count < 10) break;
        }
        return [.. bytes];
    }

    private static byte[] Pdf()
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
        {
            using var font = new SKFont(SKTypeface.Default, 30);
            using var paint = new SKPaint { Color = SKColors.DarkRed };
            using var picture = SKImage.FromEncodedData(Picture(SKEncodedImageFormat.Jpeg));
            for (var page = 0; page < 4; page++)
            {
                var canvas = document.BeginPage(900, 600);
                canvas.DrawText($"Page {page}", 50, 80, font, paint);
                canvas.DrawImage(picture, 100, 100);
                canvas.DrawOval(400, 300, 90, 60, paint);
                document.EndPage();
            }
        }
        return to.ToArray();
    }

    private static byte[] Picture(SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(320, 200);
        for (var y = 0; y < 200; y++)
            for (var x = 0; x < 320; x++) bitmap.SetPixel(x, y, new SKColor((byte)x, (byte)(y * x), (byte)y));
        using var data = bitmap.Encode(format, 80);
        return data.ToArray();
    }
}
