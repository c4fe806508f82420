using System.Globalization;
using HoldCourt.Server.Exhibits;
using SkiaSharp;

namespace HoldCourt.Server.Recording.Films;

/// <summary>Draws what is no moving picture: names, people without a camera, pages with their marks, messages.</summary>
internal sealed class Painter(FilmJob job) : IDisposable
{
    private static readonly SKColor _paper = new(0xF4, 0xF1, 0xEA), _plate = new(0x1B, 0x3A, 0x40), _soft = new(0x24, 0x2E, 0x33);

    private readonly SKTypeface _letters = SKFontManager.Default.MatchFamily("DejaVu Sans") ?? SKTypeface.Default;
    private readonly Dictionary<string, SKBitmap> _made = [];
    private readonly Dictionary<int, (MarkLayer Layer, int Acts)> _layers = [];

    /// <summary>The mark of whoever speaks.</summary>
    public static SKColor Speaks { get; } = new(0xC9, 0x9A, 0x3D);

    /// <summary>A name, to stand in the lower corner of its picture.</summary>
    public (SKBitmap Picture, Area Area) Name(string name, Area of, bool large)
    {
        var height = large ? 34 : 22;
        var picture = Made($"name {height} {of.Wide} {name}", () =>
        {
            using var font = new SKFont(_letters, height * 0.56f);
            var text = Shortened(name, font, of.Wide - height);
            var made = New(Math.Min(of.Wide, (int)(font.MeasureText(text) + (height * 0.8f)) & ~1), height, _plate);
            using var canvas = new SKCanvas(made);
            Write(canvas, text, height * 0.4f, height * 0.7f, font, _paper);
            return made;
        });
        return (picture, new Area(of.X, of.Y + of.High - height, picture.Width, height));
    }

    /// <summary>Somebody without a picture.</summary>
    public SKBitmap Person(string name, Area of) => Made($"person {of.Wide}x{of.High} {name}", () =>
    {
        var made = New(of.Wide, of.High, _soft);
        using var canvas = new SKCanvas(made);
        using var font = new SKFont(_letters, of.High * 0.3f);
        var words = name.Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(2);
        var initials = string.Concat(words.Select(word => StringInfo.GetNextTextElement(word))).ToUpperInvariant();
        Write(canvas, initials, (of.Wide - font.MeasureText(initials)) / 2, of.High * 0.58f, font, _paper);
        return made;
    });

    /// <summary>Nobody is there: what it is called.</summary>
    public SKBitmap Title(string title, int wide, int high) => Made($"title {title}", () =>
    {
        var made = New(wide, high, Canvas.Ground);
        using var canvas = new SKCanvas(made);
        using var font = new SKFont(_letters, 40);
        var text = Shortened(title, font, wide - 160);
        Write(canvas, text, (wide - font.MeasureText(text)) / 2, high / 2f, font, _paper);
        return made;
    });

    public SKBitmap Message(SceneMessage message, int wide) => Made($"message {wide} {message.Name}: {message.Text}", () =>
    {
        using var font = new SKFont(_letters, 24);
        using var small = new SKFont(_letters, 18);
        var lines = Wrapped(message.Text.ReplaceLineEndings(" "), font, wide - 48).Take(3).ToList();
        var made = New(wide, 46 + (lines.Count * 32), _plate);
        using var canvas = new SKCanvas(made);
        Write(canvas, message.Name, 24, 28, small, Speaks);
        foreach (var (line, at) in lines.Select((line, at) => (line, at))) Write(canvas, line, 24, 58 + (at * 32), font, _paper);
        return made;
    });

    /// <summary>Takes in the marks of an exhibit up to a moment; false when nothing of it is different from last time.</summary>
    public bool PageChanged(SceneExhibit exhibit, Instant moment)
    {
        var acts = job.Marks.FirstOrDefault(marks => marks.Exhibit == exhibit.Number)?.Acts ?? [];
        var (layer, done) = _layers.GetValueOrDefault(exhibit.Number, (MarkLayer.Empty, 0));
        var before = done;
        while (done < acts.Length && acts[done].At <= moment) layer = layer.After(acts[done++]);
        _layers[exhibit.Number] = (layer, done);
        return done != before;
    }

    public SKBitmap Page(SceneExhibit exhibit, Area area)
    {
        var made = New(area.Wide, area.High, Canvas.Ground);
        using var canvas = new SKCanvas(made);
        var pages = exhibit.Pages!;
        var file = FilmJob.PageOf(job.Output, exhibit.Number, pages.At);
        using var page = pages.File is not null && File.Exists(file) ? SKBitmap.Decode(file) : null;
        var (wide, high) = page is null ? (16f, 9f) : (page.Width, (float)page.Height);
        var turned = pages.View.Turn is 90 or 270;
        var fit = turned ? area.Fit(high, wide) : area.Fit(wide, high);
        var (view, x, y) = (pages.View, fit.X - area.X, fit.Y - area.Y);
        canvas.ClipRect(new SKRect(0, 0, area.Wide, area.High));
        // What stands in the middle of the view comes to the middle of the area.
        canvas.Translate(area.Wide / 2f, area.High / 2f);
        canvas.Scale((float)view.Scale);
        canvas.Translate(-(float)(x + (view.X * fit.Wide)), -(float)(y + (view.Y * fit.High)));
        canvas.Translate(x + (fit.Wide / 2f), y + (fit.High / 2f));
        canvas.RotateDegrees(view.Turn);
        var (pageWide, pageHigh) = turned ? (fit.High, fit.Wide) : (fit.Wide, fit.High);
        canvas.Translate(-pageWide / 2f, -pageHigh / 2f);
        canvas.ClipRect(new SKRect(0, 0, pageWide, pageHigh));
        if (page is null) MarkPaint.EmptyPage(canvas, pageWide, pageHigh, pages.Ruling);
        else
            using (var image = SKImage.FromBitmap(page))
                canvas.DrawImage(image, new SKRect(0, 0, pageWide, pageHigh),
                    new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        MarkPaint.Draw(canvas, pageWide, _layers.GetValueOrDefault(exhibit.Number, (MarkLayer.Empty, 0)).Item1.Marks
            .Where(mark => mark.Page == pages.At));
        return made;
    }

    private SKBitmap Made(string key, Func<SKBitmap> make) => _made.TryGetValue(key, out var made) ? made : _made[key] = make();

    private static SKBitmap New(int wide, int high, SKColor ground)
    {
        var made = new SKBitmap(new SKImageInfo(wide, high, SKColorType.Bgra8888, SKAlphaType.Premul));
        made.Erase(ground);
        return made;
    }

    private static void Write(SKCanvas canvas, string text, float x, float y, SKFont font, SKColor colour)
    {
        using var paint = new SKPaint { Color = colour, IsAntialias = true };
        canvas.DrawText(text, x, y, font, paint);
    }

    private static string Shortened(string text, SKFont font, float wide)
    {
        if (font.MeasureText(text) <= wide) return text;
        var letters = StringInfo.ParseCombiningCharacters(text);
        for (var n = letters.Length - 1; n > 0; n--)
            if (text[..letters[n]].TrimEnd() + "…" is var shorter && font.MeasureText(shorter) <= wide) return shorter;
        return "";
    }

    private static IEnumerable<string> Wrapped(string text, SKFont font, float wide)
    {
        var line = "";
        foreach (var word in text.Split(' '))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (font.MeasureText(longer) > wide && line.Length > 0)
            {
                yield return line;
                line = Shortened(word, font, wide);
            }
            else line = Shortened(longer, font, wide);
        }
        if (line.Length > 0) yield return line;
    }

    public void Dispose()
    {
        foreach (var made in _made.Values) made.Dispose();
    }
}
