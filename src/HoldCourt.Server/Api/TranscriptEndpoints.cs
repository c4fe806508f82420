using System.Globalization;
using System.Text;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>What is said in a recording: read, corrected, and saved in open formats.</summary>
internal static class TranscriptEndpoints
{
    public static void Map(RouteGroupBuilder one)
    {
        one.MapGet("/films/{film:guid}/transcript", (Guid id, Guid film, HttpContext http, Watching watching, FilmWorks works,
            IDbContextFactory<CourtDb> databases) => Of(id, film, http, watching, works, databases, read =>
                Results.Ok(new TranscriptPage(
                    [.. read.Cues.Select(cue => new CueRow(
                        Line: cue.Line,
                        From: (long)cue.From.TotalMilliseconds,
                        To: (long)cue.To.TotalMilliseconds,
                        Name: cue.Name,
                        Text: cue.Text,
                        Draft: cue.Draft,
                        Corrected: read.Corrections.ContainsKey(cue.Line)))],
                    read.Right == RecordingRight.Keep
                        ? [.. read.Corrections.Where(pair => pair.Value.Length == 0).Select(pair => pair.Key)]
                        : []))));
        one.MapGet("/films/{film:guid}/captions.vtt", (Guid id, Guid film, bool? save, HttpContext http, Watching watching,
            FilmWorks works, IDbContextFactory<CourtDb> databases) => Of(id, film, http, watching, works, databases, read =>
                Results.File(Encoding.UTF8.GetBytes(WebVtt.Of(read.Cues)), "text/vtt; charset=utf-8",
                    save == true ? $"{FilmEndpoints.FileNameOf(read.Recording.Name)}.vtt" : null)));
        one.MapGet("/films/{film:guid}/captioned.webm", (Guid id, Guid film, HttpContext http, Watching watching,
            FilmWorks works, CaptionedFilms captioned, IDbContextFactory<CourtDb> databases) =>
            Of(id, film, http, watching, works, databases, async read =>
                await captioned.Of(works.FolderOf(read.Recording, film), WebVtt.Of(read.Cues), http.RequestAborted) is { } path
                    ? Results.File(path, "video/webm", $"{FilmEndpoints.FileNameOf(read.Recording.Name)}.webm",
                        enableRangeProcessing: true)
                    : Problems.Of("filmFailed", 409)));
        one.MapGet("/films/{film:guid}/transcript.txt", (Guid id, Guid film, HttpContext http, Watching watching,
            FilmWorks works, IDbContextFactory<CourtDb> databases) => Of(id, film, http, watching, works, databases, read =>
                Results.File(Encoding.UTF8.GetBytes(TextOf(read.Recording.Name, read.Cues)), "text/plain; charset=utf-8",
                    $"{FilmEndpoints.FileNameOf(read.Recording.Name)}.txt")));
        one.MapPut("/lines/{line:int}", (Guid id, int line, LineWish wish, HttpContext http, Watching watching, FilmWorks works,
            IDbContextFactory<CourtDb> databases, TimeProvider time) => RecordingEndpoints.Kept(id, http, watching, databases,
            async (db, recording) =>
            {
                var text = wish.Text is null ? null : Bounds.Clean(wish.Text, lines: false);
                if (text?.Length > CaptionLine.LongestText) return Problems.Of(new Refusal(Reason.CaptionTooLong, Remedy.Shorten));
                if ((await works.ScoreOf(recording)).Lines.All(known => known.Number != line))
                    return Problems.Of("noSuchCaption", 404);
                var kept = await db.CorrectedLines.FirstOrDefaultAsync(one => one.RecordingId == id && one.Line == line);
                if (kept is not null && text is null) db.Remove(kept);
                else if (text is not null)
                {
                    if (kept is null) db.Add(kept = new CorrectedLine { RecordingId = id, Line = line, Text = text });
                    (kept.Text, kept.At) = (text, time.GetUtcNow().ToUnixTimeMilliseconds());
                }
                return null;
            })).RequireAuthorization();
    }

    private sealed record Read(
        RecordingRight Right, RecordingRecord Recording, IReadOnlyList<Cue> Cues, IReadOnlyDictionary<int, string> Corrections);

    private static async Task<IResult> Of(Guid id, Guid film, HttpContext http, Watching watching, FilmWorks works,
        IDbContextFactory<CourtDb> databases, Func<Read, IResult> answer) =>
        await Of(id, film, http, watching, works, databases, read => Task.FromResult(answer(read)));

    private static async Task<IResult> Of(Guid id, Guid film, HttpContext http, Watching watching, FilmWorks works,
        IDbContextFactory<CourtDb> databases, Func<Read, Task<IResult>> answer)
    {
        var (right, recording) = await watching.Find(http, id);
        if (right == RecordingRight.None) return Problems.Of("noSuchRecording", 404);
        await using var db = await databases.CreateDbContextAsync();
        if (await db.Films.AsNoTracking().FirstOrDefaultAsync(kept => kept.Id == film && kept.RecordingId == id)
            is not { State: FilmState.Ready } kept) return Problems.Of("noSuchFilm", 404);
        var score = await works.ScoreOf(recording!);
        var corrections = await db.CorrectedLines.Where(line => line.RecordingId == id)
            .ToDictionaryAsync(line => line.Line, line => line.Text);
        http.Response.Headers.CacheControl = "private, no-cache";
        return await answer(new Read(
            right, recording!, Transcript.Of(score, Timeline.Of(score.Stretches).Without(FilmEndpoints.CutsOf(kept)), corrections),
            corrections));
    }

    /// <summary>As one reads it: who, when, and what, the lines of one speaker together.</summary>
    private static string TextOf(string name, IReadOnlyList<Cue> cues)
    {
        var text = new StringBuilder(name).Append('\n');
        Cue? before = null;
        foreach (var cue in cues)
        {
            if (before is null || before.Speaker != cue.Speaker || cue.From - before.To > TimeSpan.FromSeconds(10))
                text.Append(CultureInfo.InvariantCulture, $"\n[{(int)cue.From.TotalHours}:{cue.From:mm\\:ss}] ")
                    .Append(cue.Name.Length > 0 ? cue.Name + "\n" : "\n");
            text.Append(cue.Text).Append('\n');
            before = cue;
        }
        return text.ToString();
    }
}
