using System.Globalization;
using System.Text;
using HoldCourt.Server.Api;

namespace HoldCourt.Server.Recording;

/// <summary>Writes WebVTT (W3C, 2019).</summary>
internal static class WebVtt
{
    /// <param name="length">Of the film, in milliseconds.</param>
    public static string Of(IReadOnlyList<ChapterRow> chapters, long length)
    {
        var text = new StringBuilder("WEBVTT\n");
        for (var at = 0; at < chapters.Count; at++)
        {
            var end = at + 1 < chapters.Count ? chapters[at + 1].At : Math.Max(length, chapters[at].At + 1);
            text.Append(CultureInfo.InvariantCulture, $"\n{TimeOf(chapters[at].At)} --> {TimeOf(end)}\n")
                .Append(Escaped(chapters[at].Title)).Append('\n');
        }
        return text.ToString();
    }

    /// <summary>What is said, with who says it.</summary>
    public static string Of(IReadOnlyList<Cue> cues)
    {
        var text = new StringBuilder("WEBVTT\n");
        foreach (var cue in cues)
            text.Append(CultureInfo.InvariantCulture,
                    $"\n{TimeOf((long)cue.From.TotalMilliseconds)} --> {TimeOf((long)cue.To.TotalMilliseconds)}\n")
                .Append(cue.Name.Length > 0 ? $"<v {Escaped(cue.Name)}>" : "").Append(Escaped(cue.Text)).Append('\n');
        return text.ToString();
    }

    private static string TimeOf(long at) => TimeSpan.FromMilliseconds(at) is var time
        ? string.Create(CultureInfo.InvariantCulture,
            $"{(int)time.TotalHours:00}:{time.Minutes:00}:{time.Seconds:00}.{time.Milliseconds:000}")
        : "";

    private static string Escaped(string text) => text.ReplaceLineEndings(" ").Replace("&", "&amp;", StringComparison.Ordinal)
        .Replace("<", "&lt;", StringComparison.Ordinal).Replace(">", "&gt;", StringComparison.Ordinal);
}
