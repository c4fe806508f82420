using System.Collections.Immutable;
using HoldCourt.Server.Admission;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>The library, and each recording for those who may see it.</summary>
internal static class RecordingEndpoints
{
    private const int MostHeld = 20;

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
        FilmEndpoints.Map(one);
        TranscriptEndpoints.Map(one);
        RecordingLinkEndpoints.Map(api, one);
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
                if (wish.Watchers != Watchers.Bench && await grains.In<ISittingRecording>(recording.SittingId).HasVisits())
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
        one.MapDelete("/people/{seat:int}", (Guid id, int seat, HttpContext http, Watching watching, IDbContextFactory<CourtDb> databases,
            RecordingRegister register) => Kept(id, http, watching, databases, (db, recording) =>
            {
                register.Erase(recording.SittingId, recording.Number, new SeatId(seat));
                return Task.FromResult<IResult?>(null);
            })).RequireAuthorization();
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
            Films: [.. films[one.Recording.Id].Select(film => FilmEndpoints.RowOf(film, works))]))];
    }

    private static async Task<RecordingPage> PageOf(
        CourtDb db, FilmWorks works, Taps taps, RecordingRecord recording, bool keeps, Guid? wanted)
    {
        var row = (await Rows(db, works, one => one.Id == recording.Id, null))[0];
        var films = await db.Films.AsNoTracking().Where(one => one.RecordingId == recording.Id && one.State == FilmState.Ready)
            .OrderBy(one => one.AskedAt).ToListAsync();
        var film = films.Find(one => one.Id == wanted) ?? films.FirstOrDefault();
        var score = film is not null || keeps ? await works.ScoreOf(recording) : null;
        var (chapters, spoken) = film is null ? ([], []) : await FilmEndpoints.InFilm(db, works, recording, film, score);
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
                : [.. Timeline.Of(score!.Stretches).Without(FilmEndpoints.CutsOf(film)).Stretches
                    .Select(one => new StretchRow(one.From, one.To))],
            Keeps: keeps,
            Film: film?.Id,
            Chapters: chapters,
            Spoken: spoken,
            Peaks: Convert.ToBase64String(made?.Peaks ?? []),
            Consents: keeps
                ? [.. score!.Consents.Select(one => new ConsentRow(one.At, one.Seat, one.Name, one.Answer, one.Erased))]
                : [],
            Links: keeps ? await RecordingLinkEndpoints.Of(db, recording.Id) : [],
            Tracks: keeps ? TracksOf(taps.FolderOf(recording.SittingId, recording.Number), names) : []);
    }

    private static ImmutableArray<TrackRow> TracksOf(RecordingFolder folder, Dictionary<SeatId, string> names) =>
    [
        .. folder.AllTracks().GroupBy(track => track.Seat).OrderBy(group => group.Key).Select(group =>
            new TrackRow(group.Key, names.GetValueOrDefault(group.Key, ""), group.Sum(track => new FileInfo(track.Path).Length)))
    ];
}
