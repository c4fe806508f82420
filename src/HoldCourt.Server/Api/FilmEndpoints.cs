using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Server.Texts;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>Films of recordings: ordering, cutting, fetching.</summary>
internal static class FilmEndpoints
{
    private const int MostCuts = 500, MostFilms = 20;

    public static void Map(RouteGroupBuilder one)
    {
        one.MapPost("/films", (Guid id, FilmWish wish, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            FilmWorks works, TimeProvider time) => RecordingEndpoints.Kept(id, http, watching, databases, async (db, recording) =>
            {
                var cuts = wish.Cuts ?? [];
                if (Bounds.Refuses(wish) is not null || cuts.Length > MostCuts || !AreParts(cuts))
                    return Problems.Of("notUnderstood", 400);
                if (recording.EndedAt is null) return Problems.Of("stillRecording", 409);
                var passages = cuts.Select(PassageOf).ToImmutableArray();
                var whole = Timeline.Of((await works.ScoreOf(recording)).Stretches);
                if (whole.Length > TimeSpan.Zero && whole.Without(passages).Length == TimeSpan.Zero)
                    return Problems.Of("nothingLeft", 400);
                if (await db.Films.CountAsync(film => film.RecordingId == id) >= MostFilms) return Problems.Of("tooManyFilms", 409);
                db.Add(new FilmRecord
                {
                    Id = Guid.NewGuid(),
                    RecordingId = id,
                    Framing = wish.Framing,
                    Names = wish.Names,
                    Questions = wish.Questions,
                    Cuts = cuts.IsEmpty ? "" : JsonSerializer.Serialize(passages, CoreJson.Options),
                    AskedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
                });
                await db.SaveChangesAsync();
                works.Nudge();
                return null;
            })).RequireAuthorization();
        one.MapPost("/films/{film:guid}/cut", async (Guid id, Guid film, FilmCut wish, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases, FilmWorks works) =>
        {
            if (await watching.Find(http, id) is not (RecordingRight.Keep, { EndedAt: not null } recording))
                return Problems.Of("noSuchRecording", 404);
            if (wish.Parts.IsDefaultOrEmpty || wish.Parts.Length > MostCuts || !AreParts(wish.Parts))
                return Problems.Of("notUnderstood", 400);
            await using var db = await databases.CreateDbContextAsync();
            if (await db.Films.AsNoTracking().FirstOrDefaultAsync(kept => kept.Id == film && kept.RecordingId == id)
                is not { State: FilmState.Ready } from) return Problems.Of("noSuchFilm", 404);
            if (!wish.Looks && await db.Films.CountAsync(kept => kept.RecordingId == id) >= MostFilms)
                return Problems.Of("tooManyFilms", 409);
            var (made, reason) = await works.Cut(recording, from, CutsOf(from), [.. wish.Parts.Select(PassageOf)], wish.Looks);
            return made is null
                ? Problems.Of(reason!, 409)
                : Results.Ok(new FilmCutMade([.. made.Parts.Select(RowOf)], made.Film));
        }).RequireAuthorization();
        one.MapPost("/films/{film:guid}/cancel", (Guid id, Guid film, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases, FilmWorks works) =>
            RecordingEndpoints.Kept(id, http, watching, databases, async (db, recording) =>
            {
                var stopped = await db.Films.Where(kept => kept.Id == film && kept.RecordingId == id
                    && (kept.State == FilmState.Waiting || kept.State == FilmState.Composing))
                    .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.State, FilmState.Cancelled));
                works.Interrupt(film);
                return stopped == 1 ? null : Problems.Of("noSuchFilm", 404);
            })).RequireAuthorization();
        one.MapPost("/films/{film:guid}/again", (Guid id, Guid film, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases, FilmWorks works) =>
            RecordingEndpoints.Kept(id, http, watching, databases, async (db, recording) =>
            {
                var again = await db.Films.Where(kept => kept.Id == film && kept.RecordingId == id
                    && (kept.State == FilmState.Failed || kept.State == FilmState.Cancelled))
                    .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.State, FilmState.Waiting));
                works.Nudge();
                return again == 1 ? null : Problems.Of("noSuchFilm", 404);
            })).RequireAuthorization();
        one.MapDelete("/films/{film:guid}", (Guid id, Guid film, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases, FilmWorks works) =>
            RecordingEndpoints.Kept(id, http, watching, databases, async (db, recording) =>
            {
                works.Interrupt(film);
                if (await db.Films.Where(kept => kept.Id == film && kept.RecordingId == id).ExecuteDeleteAsync() == 0)
                    return Problems.Of("noSuchFilm", 404);
                if (Directory.Exists(works.FolderOf(recording, film))) Directory.Delete(works.FolderOf(recording, film), recursive: true);
                return null;
            })).RequireAuthorization();
        MapFiles(one);
    }

    private static void MapFiles(RouteGroupBuilder one)
    {
        one.MapGet("/films/{film:guid}/{file}", async (Guid id, Guid film, string file, bool? save, HttpContext http,
            Watching watching, FilmWorks works, IDbContextFactory<CourtDb> databases) =>
        {
            var (right, recording) = await watching.Find(http, id);
            if (right == RecordingRight.None) return Problems.Of("noSuchRecording", 404);
            await using var db = await databases.CreateDbContextAsync();
            if (await db.Films.AsNoTracking().FirstOrDefaultAsync(kept => kept.Id == film && kept.RecordingId == id)
                is not { State: FilmState.Ready }) return Problems.Of("noSuchFilm", 404);
            var path = Path.Combine(works.FolderOf(recording!, film), file switch
            {
                Composer.FilmName or Composer.PosterName => file,
                _ => ""
            });
            if (!File.Exists(path)) return Problems.Of("noSuchFilm", 404);
            http.Response.Headers.CacheControl = "private, no-cache";
            return Results.File(path, file == Composer.PosterName ? "image/jpeg" : "video/webm",
                save == true ? $"{FileNameOf(recording!.Name)}.webm" : null, File.GetLastWriteTimeUtc(path), enableRangeProcessing: true);
        });
        one.MapGet("/films/{film:guid}/chapters.vtt", async (Guid id, Guid film, HttpContext http, Watching watching,
            FilmWorks works, IDbContextFactory<CourtDb> databases) =>
        {
            var (right, recording) = await watching.Find(http, id);
            if (right == RecordingRight.None) return Problems.Of("noSuchRecording", 404);
            await using var db = await databases.CreateDbContextAsync();
            if (await db.Films.AsNoTracking().FirstOrDefaultAsync(kept => kept.Id == film && kept.RecordingId == id) is not { } kept)
                return Problems.Of("noSuchFilm", 404);
            var (chapters, _) = await InFilm(db, works, recording!, kept, null);
            return Results.File(Encoding.UTF8.GetBytes(WebVtt.Of(chapters, kept.Length)), "text/vtt; charset=utf-8", "chapters.vtt");
        });
        one.MapGet("/tracks.zip", async (Guid id, HttpContext http, Watching watching, Taps taps, FilmWorks works) =>
        {
            if (await watching.Find(http, id) is not (RecordingRight.Keep, { } recording)) return Problems.Of("noSuchRecording", 404);
            var score = await works.ScoreOf(recording);
            var names = score.Scenes.SelectMany(scene => scene.People).GroupBy(person => person.Seat)
                .ToDictionary(group => group.Key, group => group.Last().Name);
            var tracks = taps.FolderOf(recording.SittingId, recording.Number).AllTracks();
            // The end of a packed file is written at once.
            http.Features.Get<IHttpBodyControlFeature>()!.AllowSynchronousIO = true;
            return Results.Stream(async to =>
            {
                await using var zip = await ZipArchive.CreateAsync(to, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8);
                foreach (var track in tracks)
                {
                    var name = FileNameOf(names.GetValueOrDefault(track.Seat, "somebody"));
                    var at = DateTimeOffset.FromUnixTimeMilliseconds(track.Begins);
                    var entry = zip.CreateEntry(string.Create(CultureInfo.InvariantCulture,
                        $"{name}-{track.Seat.Number}-{track.Service}-{at:yyyyMMdd-HHmmss-fff}.webm"), CompressionLevel.NoCompression);
                    await using var into = await entry.OpenAsync();
                    await using var from = new FileStream(
                        track.Path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
                    await from.CopyToAsync(into);
                }
            }, "application/zip", $"{FileNameOf(recording.Name)}-tracks.zip");
        }).RequireAuthorization();
    }

    internal static FilmRow RowOf(FilmRecord film, FilmWorks works) => new(
        Id: film.Id,
        Framing: film.Framing,
        Names: film.Names,
        Questions: film.Questions,
        State: film.State,
        Flaw: film.Flaw,
        Progress: works.ProgressOf(film.Id),
        AskedAt: new Instant(film.AskedAt),
        Length: film.Length,
        Size: film.Size,
        Cuts: [.. CutsOf(film).Select(RowOf)]);

    /// <summary>Each goes from an earlier to a later time, within ten days.</summary>
    private static bool AreParts(ImmutableArray<CutRow> cuts) =>
        cuts.All(cut => cut.From >= 0 && cut.To > cut.From && cut.To <= 864_000_000);

    private static CutRow RowOf(Passage part) => new((long)part.From.TotalMilliseconds, (long)part.To.TotalMilliseconds);

    private static Passage PassageOf(CutRow cut) => new(TimeSpan.FromMilliseconds(cut.From), TimeSpan.FromMilliseconds(cut.To));

    internal static ImmutableArray<Passage> CutsOf(FilmRecord film) =>
        film.Cuts.Length == 0 ? [] : JsonSerializer.Deserialize<ImmutableArray<Passage>>(film.Cuts, CoreJson.Options);

    /// <summary>Chapters, and who spoke when, in the time of a film.</summary>
    internal static async Task<(ImmutableArray<ChapterRow>, ImmutableArray<SpokenRow>)> InFilm(
        CourtDb db, FilmWorks works, RecordingRecord recording, FilmRecord film, Score? known)
    {
        var score = known ?? await works.ScoreOf(recording);
        var timeline = Timeline.Of(score.Stretches).Without(CutsOf(film));
        var language = await db.Sittings.Where(sitting => sitting.Id == recording.SittingId)
            .Select(sitting => sitting.Session!.Language).FirstAsync();
        var texts = ServerTexts.In(language);
        var chapters = FilmChapters.Of(score, timeline, texts["film.beginning"], texts["film.goesOn"]);
        return ([.. chapters.Select(chapter => new ChapterRow(chapter.At, chapter.Title))],
            SpokenIn.Of(score, timeline, works.SpokenOf(recording)));
    }

    internal static string FileNameOf(string name)
    {
        var file = string.Concat(name.Select(letter => char.IsLetterOrDigit(letter) || letter is ' ' or '-' or '_' ? letter : '-')).Trim();
        return file.Length > 0 ? file : "recording";
    }
}
