using HoldCourt.Server.Recording;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Admission;
using HoldCourt.Server.Planning;

namespace HoldCourt.Server.Api;

/// <summary>A file that belongs to a session.</summary>
/// <param name="Size">In bytes.</param>
public sealed record PaperRow(long Id, string Name, int Size, Instant AddedAt);

internal static class PaperEndpoints
{
    /// <summary>What may be attached, by the first bytes rather than by what the browser says; plain text has none.</summary>
    private static readonly (string Type, string[] Endings, byte[][] Begins)[] _types =
    [
        ("application/pdf", [".pdf"], [[0x25, 0x50, 0x44, 0x46, 0x2D]]),
        ("image/png", [".png"], [[0x89, 0x50, 0x4E, 0x47]]),
        ("image/jpeg", [".jpg", ".jpeg"], [[0xFF, 0xD8, 0xFF]]),
        ("application/zip", [".docx", ".xlsx", ".pptx", ".odt", ".ods", ".odp", ".zip"], [[0x50, 0x4B, 0x03, 0x04]]),
        ("text/plain", [".txt", ".md", ".csv"], [])
    ];

    public static void MapPapers(this IEndpointRouteBuilder api)
    {
        var papers = api.MapGroup("/plans/{id:guid}/papers").RequireAuthorization();
        papers.MapGet("/", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await desk.Session(db, id) is null ? Problems.Of("noSuchSession", 404) : Results.Ok(await List(db, id));
        });
        papers.MapPost("/{name}", async (Guid id, string name, Desk desk, HttpRequest request) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is null) return Problems.Of("noSuchSession", 404);
            if (name.Length is 0 or > 120 || name.IndexOfAny(['/', '\\']) >= 0 || name.Any(char.IsControl))
                return Problems.Of("fileNameNotUnderstood", 400);
            var bytes = await Uploads.Read(request);
            if (bytes.Length == 0) return Problems.Of("fileEmpty", 400);
            if (TypeOf(name, bytes) is not { } type) return Problems.Of("fileTypeNotAllowed", 415);
            if (await SessionPapers.Add(db, id, name, type, bytes, desk.Now.Milliseconds) is null) return Problems.Of("tooManyPapers", 400);
            return Results.Ok(await List(db, id));
        }).WithMetadata(Uploads.Limit);
        papers.MapDelete("/{paper:long}", async (Guid id, long paper, Desk desk) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is null) return Problems.Of("noSuchSession", 404);
            await db.Papers.Where(kept => kept.Id == paper && kept.SessionId == id).ExecuteDeleteAsync();
            return Results.Ok(await List(db, id));
        });
        // Inside a sitting everybody who is seated finds them; the owner always does.
        var inside = api.MapGroup("/door/{link}/papers").RequireRateLimiting(SecuritySetup.Door);
        inside.MapGet("/", async (string link, HttpContext http, Doorstep doorstep, Desk desk) =>
        {
            if (await doorstep.Find(link) is not { } session) return Problems.Of("noSuchLink", 404);
            if (!await doorstep.IsInside(session, http)) return Problems.Of("notInside", 403);
            await using var db = await desk.Db();
            return Results.Ok(await List(db, session.Id));
        });
        inside.MapGet("/{paper:long}", async (string link, long paper, HttpContext http, Doorstep doorstep, Desk desk) =>
        {
            if (await doorstep.Find(link) is not { } session) return Problems.Of("noSuchLink", 404);
            if (!await doorstep.IsInside(session, http)) return Problems.Of("notInside", 403);
            await using var db = await desk.Db();
            var kept = await db.Papers.AsNoTracking().SingleOrDefaultAsync(one => one.Id == paper && one.SessionId == session.Id);
            // Always as a download: nothing of a file runs on this site.
            return kept is null ? Problems.Of("noSuchPaper", 404) : Results.File(kept.Content, kept.ContentType, kept.Name);
        }).WithSecurityHeadersPolicy(SecuritySetup.RawFile);
        // Afterwards they stand beside the recording, for whoever was inside or was invited to see it.
        var beside = api.MapGroup("/recordings/{id:guid}/papers");
        beside.MapGet("/", async (Guid id, HttpContext http, Watching watching, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await SessionOf(db, watching, http, id) is { } session
                ? Results.Ok(await List(db, session))
                : Problems.Of("noSuchRecording", 404);
        });
        beside.MapGet("/{paper:long}", async (Guid id, long paper, HttpContext http, Watching watching, Desk desk) =>
        {
            await using var db = await desk.Db();
            if (await SessionOf(db, watching, http, id) is not { } session) return Problems.Of("noSuchRecording", 404);
            var kept = await db.Papers.AsNoTracking().SingleOrDefaultAsync(one => one.Id == paper && one.SessionId == session);
            return kept is null ? Problems.Of("noSuchPaper", 404) : Results.File(kept.Content, kept.ContentType, kept.Name);
        }).WithSecurityHeadersPolicy(SecuritySetup.RawFile);
    }

    private static async Task<Guid?> SessionOf(CourtDb db, Watching watching, HttpContext http, Guid recording) =>
        await watching.Find(http, recording) is ( >= RecordingRight.Watch, { } found)
            ? await db.Sittings.Where(sitting => sitting.Id == found.SittingId).Select(sitting => (Guid?)sitting.SessionId).SingleAsync()
            : null;

    private static string? TypeOf(string name, byte[] bytes)
    {
        var ending = Path.GetExtension(name).ToLowerInvariant();
        foreach (var (type, endings, begins) in _types)
        {
            if (!endings.Contains(ending)) continue;
            if (begins.Length == 0) return Array.IndexOf(bytes, (byte)0, 0, Math.Min(bytes.Length, 4_096)) < 0 ? type : null;
            return begins.Any(begin => bytes.AsSpan().StartsWith(begin)) ? type : null;
        }
        return null;
    }

    private static Task<List<PaperRow>> List(CourtDb db, Guid session) =>
        db.Papers.AsNoTracking().Where(paper => paper.SessionId == session).OrderBy(paper => paper.Name)
        .Select(paper => new PaperRow(paper.Id, paper.Name, paper.Size, new Instant(paper.AddedAt))).ToListAsync();
}
