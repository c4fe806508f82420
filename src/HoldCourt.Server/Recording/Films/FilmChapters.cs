namespace HoldCourt.Server.Recording.Films;

/// <summary>The chapters of a film, in its own time.</summary>
internal static class FilmChapters
{
    /// <summary>Chapters nearer than this are one, in milliseconds.</summary>
    private const long Near = 1_000;

    /// <param name="beginning">What the first is called when nothing else is on then.</param>
    /// <param name="goesOn">What one after a pause is called.</param>
    public static IReadOnlyList<WebmChapter> Of(Score score, Timeline timeline, string beginning, string goesOn)
    {
        var chapters = new List<(WebmChapter Chapter, ChapterKind Kind)>();
        foreach (var chapter in score.Chapters)
        {
            var at = (long)timeline.Nearest(chapter.At).TotalMilliseconds;
            if (at >= (long)timeline.Length.TotalMilliseconds && at > 0) continue;
            var title = chapter.Kind switch { ChapterKind.Begin => beginning, ChapterKind.Part => goesOn, _ => chapter.Title };
            // Of several at once the one that says more stays: an item before who speaks, anything before what only goes on.
            if (chapters is [.., var last] && at - last.Chapter.At < Near)
            {
                if (Weight(chapter.Kind) >= Weight(last.Kind)) chapters[^1] = (new WebmChapter(last.Chapter.At, title), chapter.Kind);
                continue;
            }
            chapters.Add((new WebmChapter(at, title), chapter.Kind));
        }
        if (chapters is [{ Chapter.At: > 0 }, ..] or []) chapters.Insert(0, (new WebmChapter(0, beginning), ChapterKind.Begin));
        return [.. chapters.Select(one => one.Chapter)];
    }

    private static int Weight(ChapterKind kind) =>
        kind switch { ChapterKind.Item => 4, ChapterKind.Exhibit => 3, ChapterKind.Floor => 2, ChapterKind.Part => 1, _ => 0 };
}
