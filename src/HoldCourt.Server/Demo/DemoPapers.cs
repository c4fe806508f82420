using SkiaSharp;

namespace HoldCourt.Server.Demo;

/// <summary>The made-up slides of the demo's assembly, with a map.</summary>
internal static class DemoPapers
{
    public const string Slides = "Reach map.pdf";

    private const float Wide = 1280, High = 720;

    private static readonly SKColor _felt = new(0x17, 0x3F, 0x3F), _ink = new(0x1B, 0x23, 0x30), _water = new(0x7A, 0xA7, 0xB5),
        _paper = new(0xFB, 0xFA, 0xF6), _brick = new(0xA1, 0x33, 0x1F);

    public static byte[] Make()
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
        {
            Slide(document, "What the six streams need", canvas =>
            {
                Lines(canvas, 250, "Spring Wardens’ Assembly", "Reports and the year’s priorities", "Larkmoor Rivers Trust");
                River(canvas);
            });
            Slide(document, "Gauges since the thaw", Gauges);
            Slide(document, "The reach, and what waits to be mended", Map);
            Slide(document, "The three works", canvas => Lines(canvas, 220,
                "1  Weir gate: new hinges, two days without boats", "2  Mill Lane culvert: clear and line it before autumn",
                "3  Sallow Bend bank: willow stakes, volunteers on Saturdays"));
            Slide(document, "What it takes", canvas => Lines(canvas, 220, "Eleven people for nine Saturdays",
                "One pump on loan from the upper reach", "Stakes from our own willows"));
            Slide(document, "Questions to the floor", canvas => Lines(canvas, 220, "Which work comes first?",
                "Who can lend a trailer in May?", "Is the ford safe for the school walk?"));
        }
        return to.ToArray();
    }

    private static void Slide(SKDocument document, string title, Action<SKCanvas> body)
    {
        var canvas = document.BeginPage(Wide, High);
        canvas.Clear(_paper);
        using var head = new SKPaint { Color = _felt };
        canvas.DrawRect(0, 0, Wide, 110, head);
        Text(canvas, title, 60, 74, 46, SKColors.White);
        body(canvas);
        document.EndPage();
    }

    private static void Lines(SKCanvas canvas, float top, params string[] lines)
    {
        for (var n = 0; n < lines.Length; n++) Text(canvas, lines[n], 80, top + n * 90, 34, _ink);
    }

    private static void River(SKCanvas canvas)
    {
        using var path = new SKPath();
        path.MoveTo(0, 690);
        path.CubicTo(300, 420, 560, 700, 780, 520);
        path.CubicTo(900, 430, 1100, 560, 1280, 400);
        using var water = new SKPaint { Color = _water, Style = SKPaintStyle.Stroke, StrokeWidth = 44, IsAntialias = true };
        canvas.DrawPath(path, water);
    }

    private static void Gauges(SKCanvas canvas)
    {
        using var bar = new SKPaint { Color = _water };
        (string Name, float Level)[] gauges =
            [("Upper Moor", 0.9f), ("Sallow", 0.55f), ("Mill Lane", 1.3f), ("Ford", 0.7f), ("Weir", 1.05f), ("Estuary", 0.8f)];
        for (var n = 0; n < gauges.Length; n++)
        {
            var x = 110 + n * 190;
            canvas.DrawRect(x, 600 - gauges[n].Level * 300, 110, gauges[n].Level * 300, bar);
            Text(canvas, gauges[n].Name, x, 645, 24, _ink);
            Text(canvas, FormattableString.Invariant($"{gauges[n].Level:0.00} m"), x, 590 - gauges[n].Level * 300, 24, _ink);
        }
    }

    private static void Map(SKCanvas canvas)
    {
        River(canvas);
        using var place = new SKPaint { Color = _brick, IsAntialias = true };
        (string Name, float X, float Y, float Below)[] places =
            [("Weir gate", 210, 540, -40), ("Mill Lane culvert", 610, 615, 66), ("Sallow Bend bank", 980, 478, -44)];
        foreach (var (name, x, y, below) in places)
        {
            canvas.DrawCircle(x, y, 13, place);
            Text(canvas, name, x - 60, y + below, 28, _ink);
        }
        Text(canvas, "Surveyed in February", 80, 180, 24, _ink);
    }

    private static void Text(SKCanvas canvas, string text, float x, float y, float size, SKColor colour)
    {
        using var font = new SKFont(SKTypeface.Default, size);
        using var paint = new SKPaint { Color = colour, IsAntialias = true };
        canvas.DrawText(text, x, y, font, paint);
    }
}
