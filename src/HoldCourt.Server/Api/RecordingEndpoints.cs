using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Admission;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Server.Security;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Texts;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using HoldCourt.Store.Recording;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>The library, and each recording for those who may see it.</summary>
internal static class RecordingEndpoints
{
    private const int MostHeld = 20, MostCuts = 500, MostFilms = 20, MostLinks = 20, LongestPasscode = 100;

    public static void MapRecordings(this IEndpointRouteBuilder api)
    {
        api.MapGet("/recordings", async (Desk desk, FilmWorks works) =>
        {
            await using var db = await desk.Db();
            return await Rows(db, works, recording => true, desk.Owner);
        }).RequireAuthorization();
        var one = api.MapGroup("/recordings/{id:guid}").AddEndpointFilter(Asks);
        one.MapGet("/", async (Guid id, Guid? film, HttpContext http, Watching watching, FilmWorks works, Taps taps,
            IDbContextFactory<CourtDb> databases) =>
        {
            var (right, recording) = await watching.Find(http, id);
            if (right == RecordingRight.None) return Problems.Of("noSuchRecording", 404);
            await using var db = await databases.CreateDbContextAsync();
            return Results.Ok(await PageOf(db, works, taps, recording!, right == RecordingRight.Keep, film));
        });
        api.MapGet("/sittings/{id:guid}/recordings", (Guid id, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases) =>
            Held(http, watching, databases, recording => recording.SittingId == id));
        api.MapGet("/door/{link}/recordings", async (string link, HttpContext http, Watching watching, Doorstep doorstep,
            IDbContextFactory<CourtDb> databases) =>
        {
            if (await doorstep.Find(link) is not { } session) return Problems.Of("noSuchLink", 404);
            await using var db = await databases.CreateDbContextAsync();
            var sittings = await db.Sittings.Where(sitting => sitting.SessionId == session.Id).Select(sitting => sitting.Id).ToListAsync();
            return await Held(http, watching, databases, recording => sittings.Contains(recording.SittingId));
        }).RequireRateLimiting(SecuritySetup.Door);
        MapKeeping(one);
        MapFiles(one);
        TranscriptEndpoints.Map(one);
        MapLinks(api, one);
    }

    /// <summary>Each question may have a whole sitting read; who plays a film asks for many pieces of it.</summary>
    private static async ValueTask<object?> Asks(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        return http.RequestServices.GetRequiredService<SeatLimits>().Recording(WorkloadSetup.AskerOf(http,
            http.RequestServices.GetRequiredService<BrowserCookies>()))
            ? await next(context)
            : Problems.Of("tooMany", 429);
    }

    private static void MapKeeping(RouteGroupBuilder one)
    {
        one.MapPut("/", (Guid id, RecordingWish wish, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            IGrainFactory grains) =>
            Kept(id, http, watching, databases, async (db, recording) =>
            {
                var (name, shelf) = (Bounds.Clean(wish.Name, lines: false), Bounds.Clean(wish.Shelf, lines: false));
                if (name.Length is 0 or > RecordingRecord.LongestName || shelf.Length > RecordingRecord.LongestShelf
                    || !Enum.IsDefined(wish.Watchers)) return Problems.Of("notUnderstood", 400);
                if (wish.Watchers != Watchers.Bench && await grains.GetGrain<ISittingGrain>(recording.SittingId).HasVisits())
                    return Problems.Of(new Refusal(Reason.VisitsStayApart));
                (recording.Name, recording.Shelf, recording.Watchers) = (name, shelf, wish.Watchers);
                return null;
            })).RequireAuthorization();
        one.MapDelete("/", (Guid id, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases, TimeProvider time) =>
            Kept(id, http, watching, databases, (db, recording) =>
            {
                if (recording.EndedAt is null) return Task.FromResult<IResult?>(Problems.Of("stillRecording", 409));
                recording.DeletedAt ??= time.GetUtcNow().ToUnixTimeMilliseconds();
                return Task.FromResult<IResult?>(null);
            })).RequireAuthorization();
        one.MapPost("/back", (Guid id, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases, FilmWorks works) =>
            Kept(id, http, watching, databases, (db, recording) =>
            {
                recording.DeletedAt = null;
                works.Nudge();
                return Task.FromResult<IResult?>(null);
            })).RequireAuthorization();
        one.MapDelete("/for-good", (Guid id, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases, Library library) =>
            Kept(id, http, watching, databases, async (db, recording) =>
            {
                if (recording.DeletedAt is null) return Problems.Of("notInWastebasket", 409);
                await library.Remove(db, recording);
                return null;
            })).RequireAuthorization();
        one.MapPost("/films", (Guid id, FilmWish wish, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            FilmWorks works, TimeProvider time) => Kept(id, http, watching, databases, async (db, recording) =>
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
            IDbContextFactory<CourtDb> databases, FilmWorks works) => Kept(id, http, watching, databases, async (db, recording) =>
            {
                var stopped = await db.Films.Where(kept => kept.Id == film && kept.RecordingId == id
                    && (kept.State == FilmState.Waiting || kept.State == FilmState.Composing))
                    .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.State, FilmState.Cancelled));
                works.Interrupt(film);
                return stopped == 1 ? null : Problems.Of("noSuchFilm", 404);
            })).RequireAuthorization();
        one.MapPost("/films/{film:guid}/again", (Guid id, Guid film, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases, FilmWorks works) => Kept(id, http, watching, databases, async (db, recording) =>
            {
                var again = await db.Films.Where(kept => kept.Id == film && kept.RecordingId == id
                    && (kept.State == FilmState.Failed || kept.State == FilmState.Cancelled))
                    .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.State, FilmState.Waiting));
                works.Nudge();
                return again == 1 ? null : Problems.Of("noSuchFilm", 404);
            })).RequireAuthorization();
        one.MapDelete("/films/{film:guid}", (Guid id, Guid film, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases, FilmWorks works) => Kept(id, http, watching, databases, async (db, recording) =>
            {
                works.Interrupt(film);
                if (await db.Films.Where(kept => kept.Id == film && kept.RecordingId == id).ExecuteDeleteAsync() == 0)
                    return Problems.Of("noSuchFilm", 404);
                if (Directory.Exists(works.FolderOf(recording, film))) Directory.Delete(works.FolderOf(recording, film), recursive: true);
                return null;
            })).RequireAuthorization();
        one.MapDelete("/people/{seat:int}", (Guid id, int seat, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            RecordingRegister register) => Kept(id, http, watching, databases, (db, recording) =>
            {
                register.Erase(recording.SittingId, recording.Number, new SeatId(seat));
                return Task.FromResult<IResult?>(null);
            })).RequireAuthorization();
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

    private static void MapLinks(IEndpointRouteBuilder api, RouteGroupBuilder one)
    {
        one.MapPost("/links", async (Guid id, LinkWish wish, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            CodeGuard guard, TimeProvider time) =>
        {
            if (wish.Days is < 1 or > 3_650 || wish.Passcode?.Length > LongestPasscode) return Problems.Of("notUnderstood", 400);
            if (await watching.Find(http, id) is not (RecordingRight.Keep, _)) return Problems.Of("noSuchRecording", 404);
            await using var db = await databases.CreateDbContextAsync();
            if (await db.RecordingLinks.CountAsync(link => link.RecordingId == id) >= MostLinks) return Problems.Of("tooManyLinks", 409);
            var (secret, now) = (SeatCookies.Random128(), time.GetUtcNow());
            db.Add(new RecordingLink
            {
                Id = Guid.NewGuid(),
                RecordingId = id,
                SecretHash = Watching.HashOf(secret),
                PasscodeHash = string.IsNullOrWhiteSpace(wish.Passcode) ? null : await guard.Hash(wish.Passcode.Trim()),
                MadeAt = now.ToUnixTimeMilliseconds(),
                EndsAt = wish.Days is { } days ? now.AddDays(days).ToUnixTimeMilliseconds() : null
            });
            await db.SaveChangesAsync();
            return Results.Ok(new MadeLink($"/shared#{secret}"));
        }).RequireAuthorization();
        one.MapDelete("/links/{link:guid}", (Guid id, Guid link, HttpContext http, Watching watching,
            IDbContextFactory<CourtDb> databases) =>
            Kept(id, http, watching, databases, async (db, _) =>
                await db.RecordingLinks.Where(kept => kept.Id == link && kept.RecordingId == id).ExecuteDeleteAsync() == 1
                    ? null
                    : Problems.Of("noSuchLink", 404))).RequireAuthorization();
        api.MapPost("/shared", async (OpenLink wish, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            CodeGuard guard, BrowserCookies browsers, TimeProvider time) =>
        {
            if (wish.Secret.Length is 0 or > 100) return Problems.Of("noSuchLink", 404);
            await using var db = await databases.CreateDbContextAsync();
            var (hash, now) = (Watching.HashOf(wish.Secret), time.GetUtcNow().ToUnixTimeMilliseconds());
            var link = await db.RecordingLinks.AsNoTracking().FirstOrDefaultAsync(one => one.SecretHash == hash);
            if (link is null || link.EndsAt <= now
                || !await db.Recordings.AnyAsync(kept => kept.Id == link.RecordingId && kept.DeletedAt == null))
                return Problems.Of("noSuchLink", 404);
            if (link.PasscodeHash is not null)
            {
                var (shown, wait) = await guard.Check(link.Id, link.PasscodeHash, null, wish.Passcode, browsers.Guesser(http),
                    ClientAddress.Of(http));
                if (shown == Shown.TooOften)
                    return Problems.Of("tooManyTries", 429,
                        new Dictionary<string, object?> { ["seconds"] = (int)Math.Ceiling(wait.TotalSeconds) });
                if (shown == Shown.Nothing) return Results.Ok(new OpenedLink(null, NeedsPasscode: true));
                if (shown != Shown.Passcode) return Problems.Of("wrongPasscode", 403);
            }
            watching.Remember(http, link);
            return Results.Ok(new OpenedLink(link.RecordingId, NeedsPasscode: false));
        }).RequireRateLimiting(SecuritySetup.Door);
    }

    /// <summary>Those that this visitor may see, the newest first.</summary>
    private static async Task<IResult> Held(HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
        System.Linq.Expressions.Expression<Func<RecordingRecord, bool>> wanted)
    {
        await using var db = await databases.CreateDbContextAsync();
        var held = new List<HeldRecording>();
        foreach (var one in await db.Recordings.AsNoTracking().Where(wanted).Where(one => one.EndedAt != null && one.DeletedAt == null)
            .OrderByDescending(one => one.StartedAt).Take(MostHeld).ToListAsync())
            if ((await watching.Find(http, one.Id)).Right != RecordingRight.None)
                held.Add(new HeldRecording(one.Id, one.Name, one.Length,
                    await db.Films.AnyAsync(film => film.RecordingId == one.Id && film.State == FilmState.Ready)));
        return Results.Ok(held);
    }

    /// <summary>Does something with a recording that one keeps, and saves it.</summary>
    internal static async Task<IResult> Kept(Guid id, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
        Func<CourtDb, RecordingRecord, Task<IResult?>> act)
    {
        if (await watching.Find(http, id) is not (RecordingRight.Keep, _)) return Problems.Of("noSuchRecording", 404);
        await using var db = await databases.CreateDbContextAsync();
        if (await db.Recordings.FirstOrDefaultAsync(one => one.Id == id) is not { } recording)
            return Problems.Of("noSuchRecording", 404);
        if (await act(db, recording) is { } problem) return problem;
        await db.SaveChangesAsync();
        return Results.NoContent();
    }

    private static async Task<IReadOnlyList<RecordingRow>> Rows(
        CourtDb db, FilmWorks works, System.Linq.Expressions.Expression<Func<RecordingRecord, bool>> wanted, string? owner)
    {
        var sessions = owner is null ? db.Sessions : db.Sessions.Where(Session.IsOf(owner));
        var found = await (from recording in db.Recordings.AsNoTracking().Where(wanted)
                           join sitting in db.Sittings on recording.SittingId equals sitting.Id
                           join session in sessions on sitting.SessionId equals session.Id
                           orderby recording.StartedAt descending
                           select new { Recording = recording, session.Id, session.Title }).ToListAsync();
        var ids = found.Select(one => one.Recording.Id).ToList();
        var films = (await db.Films.AsNoTracking().Where(film => ids.Contains(film.RecordingId)).OrderBy(film => film.AskedAt)
            .ToListAsync()).ToLookup(film => film.RecordingId);
        return [.. found.Select(one => new RecordingRow(
            Id: one.Recording.Id,
            Session: one.Id,
            SessionTitle: one.Title,
            Name: one.Recording.Name,
            Shelf: one.Recording.Shelf,
            StartedAt: new Instant(one.Recording.StartedAt),
            EndedAt: one.Recording.EndedAt is { } end ? new Instant(end) : null,
            Length: one.Recording.Length,
            Size: one.Recording.Size,
            Watchers: one.Recording.Watchers,
            DeletedAt: one.Recording.DeletedAt is { } gone ? new Instant(gone) : null,
            Films: [.. films[one.Recording.Id].Select(film => RowOf(film, works))]))];
    }

    private static FilmRow RowOf(FilmRecord film, FilmWorks works) => new(
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

    private static async Task<RecordingPage> PageOf(
        CourtDb db, FilmWorks works, Taps taps, RecordingRecord recording, bool keeps, Guid? wanted)
    {
        var row = (await Rows(db, works, one => one.Id == recording.Id, null))[0];
        var films = await db.Films.AsNoTracking().Where(one => one.RecordingId == recording.Id && one.State == FilmState.Ready)
            .OrderBy(one => one.AskedAt).ToListAsync();
        var film = films.Find(one => one.Id == wanted) ?? films.FirstOrDefault();
        var score = film is not null || keeps ? await works.ScoreOf(recording) : null;
        var (chapters, spoken) = film is null ? ([], []) : await InFilm(db, works, recording, film, score);
        var names = score?.Scenes.SelectMany(scene => scene.People).GroupBy(person => person.Seat)
            .ToDictionary(group => group.Key, group => group.Last().Name) ?? [];
        var made = film is null ? null : FilmWorks.MadeOf(works.FolderOf(recording, film.Id));
        if (!keeps)
            row = row with { Films = [.. row.Films.Where(one => one.State == FilmState.Ready)], Shelf = "" };
        return new RecordingPage(
            Recording: row,
            Sitting: recording.SittingId,
            Stretches: film is null
                ? []
                : [.. Timeline.Of(score!.Stretches).Without(CutsOf(film)).Stretches.Select(one => new StretchRow(one.From, one.To))],
            Keeps: keeps,
            Film: film?.Id,
            Chapters: chapters,
            Spoken: spoken,
            Peaks: Convert.ToBase64String(made?.Peaks ?? []),
            Consents: keeps
                ? [.. score!.Consents.Select(one => new ConsentRow(one.At, one.Seat, one.Name, one.Answer, one.Erased))]
                : [],
            Links: keeps ? await LinksOf(db, recording.Id) : [],
            Tracks: keeps ? TracksOf(taps.FolderOf(recording.SittingId, recording.Number), names) : []);
    }

    private static async Task<ImmutableArray<LinkRow>> LinksOf(CourtDb db, Guid recording) =>
    [
        .. (await db.RecordingLinks.AsNoTracking().Where(link => link.RecordingId == recording).OrderBy(link => link.MadeAt).ToListAsync())
            .Select(link => new LinkRow(link.Id, new Instant(link.MadeAt), link.EndsAt is { } end ? new Instant(end) : null,
                link.PasscodeHash is not null))
    ];

    private static ImmutableArray<TrackRow> TracksOf(RecordingFolder folder, Dictionary<SeatId, string> names) =>
    [
        .. folder.AllTracks().GroupBy(track => track.Seat).OrderBy(group => group.Key).Select(group =>
            new TrackRow(group.Key, names.GetValueOrDefault(group.Key, ""), group.Sum(track => new FileInfo(track.Path).Length)))
    ];

    /// <summary>Chapters, and who spoke when, in the time of a film.</summary>
    private static async Task<(ImmutableArray<ChapterRow>, ImmutableArray<SpokenRow>)> InFilm(
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
