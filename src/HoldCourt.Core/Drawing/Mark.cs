
namespace HoldCourt.Core.Drawing;

public enum MarkShape { Pen, Highlighter, Line, Arrow, Box, Ellipse, Text }

/// <summary>A set that people who see colours differently tell apart (Okabe and Ito, 2008).</summary>
public enum MarkColour { Black, Vermilion, Blue, Green, Orange, White }

/// <summary>Something that was drawn over an exhibit. It is never changed; what is moved is another mark in its place.</summary>
/// <param name="Number">1, 2, 3 … in the order of drawing on this exhibit; never given twice.</param>
/// <param name="Page">1 on a screen.</param>
/// <param name="Width">Of the line, in units of <see cref="MarkLine"/>.</param>
/// <param name="Line">
/// Points, as <see cref="MarkLine"/> writes them: those of a pen one after the other; of other shapes two corners; of a text where it
/// begins.
/// </param>
/// <param name="Text">Empty for all but texts.</param>
public sealed record Mark(
    int Number, SeatId By, int Page, MarkShape Shape, MarkColour Colour, int Width, string Line, string Text = "");

/// <summary>
/// Points as they are kept and sent: each as its distance from the one before, in units of a 16,384th of the page's width on both axes,
/// zigzag and in groups of seven bits (as in Protocol Buffers' sint32), in base64url.
/// </summary>
public static class MarkLine
{
    /// <summary>Of a page's width.</summary>
    public const int Units = 16_384;

    /// <summary>A page may be so many times as high as wide, and a mark may stand a little outside.</summary>
    private const int Lowest = -Units, Highest = 6 * Units;

    /// <summary>Most points of one mark.</summary>
    public const int MostPoints = 5_000;

    /// <summary>Longest line, in characters: five bytes for each number at the most.</summary>
    public const int Longest = MostPoints * 2 * 5 * 4 / 3 + 4;

    /// <summary>What is longer than this is no mark that became too long.</summary>
    public const int LongestLooked = 1_000_000;

    /// <returns>The points; null when it is none of ours.</returns>
    public static List<(int X, int Y)>? Read(string? line)
    {
        if (line is null or { Length: 0 or > Longest }) return null;
        byte[] bytes;
        try { bytes = System.Buffers.Text.Base64Url.DecodeFromChars(line); }
        catch (FormatException) { return null; }
        var (points, at, x, y) = (new List<(int, int)>(), 0, 0, 0);
        while (at < bytes.Length)
        {
            if (Number(bytes, ref at) is not { } right || Number(bytes, ref at) is not { } down || points.Count >= MostPoints) return null;
            (x, y) = (x + right, y + down);
            if (x is < Lowest or > Highest || y is < Lowest or > Highest) return null;
            points.Add((x, y));
        }
        return points;
    }

    public static string Write(IEnumerable<(int X, int Y)> points)
    {
        var (bytes, x, y) = (new List<byte>(), 0, 0);
        foreach (var point in points)
        {
            Put(point.X - x);
            Put(point.Y - y);
            (x, y) = point;
        }
        return System.Buffers.Text.Base64Url.EncodeToString([.. bytes]);

        void Put(int value)
        {
            var left = (uint)((value << 1) ^ (value >> 31));
            for (; left >= 0x80; left >>= 7) bytes.Add((byte)(left | 0x80));
            bytes.Add((byte)left);
        }
    }

    private static int? Number(byte[] bytes, ref int at)
    {
        uint value = 0;
        for (var shift = 0; shift < 21 && at < bytes.Length; shift += 7)
        {
            var next = bytes[at++];
            value |= (uint)(next & 0x7F) << shift;
            if (next < 0x80) return (int)(value >> 1) ^ -(int)(value & 1);
        }
        return null;
    }
}
