using System.Collections.Immutable;

namespace HoldCourt.Core.Tests;

/// <summary>A tile's place in the area, in the area's pixels.</summary>
internal readonly record struct Tile(int X, int Y, int Width, int Height);

/// <summary>
/// Places tiles in an area, as the browser does; written a second time from the rule, so that the one holds the other to the vectors in
/// <c>tests/vectors/picture.json</c>.
/// </summary>
internal static class Placement
{
    /// <summary>Shape of a camera picture, width by height.</summary>
    public const double Shape = 16.0 / 9;

    /// <summary>
    /// Equal tiles, as large as the area allows: every number of columns is tried. The last row stands in the middle.
    /// </summary>
    /// <param name="count">0 to 1,000 tiles.</param>
    /// <param name="gap">Between tiles, in pixels.</param>
    /// <param name="caption">Height of the name below each picture, in pixels.</param>
    public static ImmutableArray<Tile> Even(int count, int width, int height, int gap, int caption)
    {
        if (count <= 0 || width <= 0 || height <= 0) return [];
        var (columns, best) = (1, 0);
        for (var tried = 1; tried <= count; tried++)
        {
            var rows = (count + tried - 1) / tried;
            var across = (width - (gap * (tried - 1))) / tried;
            var down = ((height - (gap * (rows - 1))) / rows) - caption;
            var size = Math.Min(across, (int)Math.Floor(down * Shape));
            if (size > best) (columns, best) = (tried, size);
        }
        var tileHeight = (int)Math.Floor(best / Shape) + caption;
        var rowCount = (count + columns - 1) / columns;
        var top = (height - (rowCount * tileHeight) - ((rowCount - 1) * gap)) / 2;
        var tiles = ImmutableArray.CreateBuilder<Tile>(count);
        for (var i = 0; i < count; i++)
        {
            var row = i / columns;
            var inRow = row == rowCount - 1 ? count - (row * columns) : columns;
            var left = (width - (inRow * best) - ((inRow - 1) * gap)) / 2;
            tiles.Add(new Tile(left + ((i % columns) * (best + gap)), top + (row * (tileHeight + gap)), best, tileHeight));
        }
        return tiles.MoveToImmutable();
    }

    /// <summary>
    /// One large tile, and the others in a row below it or in a column beside it, whichever leaves the larger picture;
    /// as many as fit at a readable width.
    /// </summary>
    /// <param name="least">Narrowest small tile, in pixels.</param>
    /// <returns>First the large tile, then the small ones; those that find no room are left out.</returns>
    public static ImmutableArray<Tile> Lead(int count, int width, int height, int gap, int caption, int least)
    {
        if (count <= 0 || width <= 0 || height <= 0) return [];
        if (count == 1) return [new Tile(0, 0, width, height)];
        var (below, beside) = (LeadAboveRow(count, width, height, gap, caption, least),
            LeadBesideColumn(count, width, height, gap, caption, least));
        return PictureWidth(beside[0]) > PictureWidth(below[0]) ? beside : below;

        int PictureWidth(Tile tile) => Math.Min(tile.Width, (int)Math.Floor((tile.Height - caption) * Shape));
    }

    /// <summary>Some large tiles, as large as they can be beside each other, and the others in a row below.</summary>
    /// <param name="large">How many stand in front; a pair has 2.</param>
    /// <returns>First the large tiles, then the small ones; those that find no room are left out.</returns>
    public static ImmutableArray<Tile> Front(int count, int large, int width, int height, int gap, int caption, int least)
    {
        if (count <= 0 || width <= 0 || height <= 0) return [];
        if (count <= large) return Even(count, width, height, gap, caption);
        if (large <= 1) return Lead(count, width, height, gap, caption, least);
        var lead = LeadAboveRow(count - large + 1, width, height, gap, caption, least);
        return [.. Even(large, lead[0].Width, lead[0].Height, gap, caption), .. lead.Skip(1)];
    }

    private static ImmutableArray<Tile> LeadAboveRow(int count, int width, int height, int gap, int caption, int least)
    {
        var shown = Math.Clamp((width + gap) / (least + gap), 1, count - 1);
        var across = Math.Min((width - (gap * (shown - 1))) / shown, width / 5);
        var rowHeight = Math.Min((int)Math.Floor(across / Shape) + caption, height / 2);
        var left = (width - (shown * across) - ((shown - 1) * gap)) / 2;
        return
        [
            new Tile(0, 0, width, height - rowHeight - gap),
            .. Enumerable.Range(0, shown).Select(i => new Tile(left + (i * (across + gap)), height - rowHeight, across, rowHeight))
        ];
    }

    private static ImmutableArray<Tile> LeadBesideColumn(int count, int width, int height, int gap, int caption, int least)
    {
        var shown = Math.Clamp((height + gap) / ((int)Math.Floor(least / Shape) + caption + gap), 1, count - 1);
        var down = (height - (gap * (shown - 1))) / shown;
        var across = Math.Max(Math.Min((int)Math.Floor((down - caption) * Shape), width / 5), 0);
        var tileHeight = Math.Min((int)Math.Floor(across / Shape) + caption, down);
        return
        [
            new Tile(0, 0, width - across - gap, height),
            .. Enumerable.Range(0, shown).Select(i => new Tile(width - across, i * (tileHeight + gap), across, tileHeight))
        ];
    }
}
