using SkiaSharp;

namespace HoldCourt.Server.Exhibits;

/// <summary>Draws sheets and marks as the pages of the browser do (web/src/drawing/paint.ts).</summary>
internal static class MarkPaint
{
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

    /// <summary>An empty page, ruled or not.</summary>
    public static void EmptyPage(SKCanvas canvas, float wide, float high, Ruling ruling)
    {
        using var white = new SKPaint { Color = SKColors.White };
        canvas.DrawRect(0, 0, wide, high, white);
        if (ruling == Ruling.Plain) return;
        using var paint = new SKPaint
        {
            Color = new SKColor(0xC9, 0xD3, 0xD9),
            StrokeWidth = MathF.Max(wide * 0.9f / 960, 1),
            Style = SKPaintStyle.Stroke
        };
        var step = wide / (ruling == Ruling.Ruled ? 1600f / 60 : 1600f / 50);
        for (var y = step; y < high; y += step) canvas.DrawLine(0, y, wide, y, paint);
        if (ruling == Ruling.Squared)
            for (var x = step; x < wide; x += step) canvas.DrawLine(x, 0, x, high, paint);
    }

    /// <param name="width">Of the page on the canvas.</param>
    public static void Draw(SKCanvas canvas, float width, IEnumerable<Mark> marks)
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
}
