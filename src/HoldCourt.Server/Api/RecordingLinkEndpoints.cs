using System.Collections.Immutable;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>Links by which others see a recording.</summary>
internal static class RecordingLinkEndpoints
{
    private const int MostLinks = 20, LongestPasscode = 100;

    public static void Map(IEndpointRouteBuilder api, RouteGroupBuilder one)
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
            RecordingEndpoints.Kept(id, http, watching, databases, async (db, _) =>
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

    internal static async Task<ImmutableArray<LinkRow>> Of(CourtDb db, Guid recording) =>
    [
        .. (await db.RecordingLinks.AsNoTracking().Where(link => link.RecordingId == recording).OrderBy(link => link.MadeAt).ToListAsync())
            .Select(link => new LinkRow(link.Id, new Instant(link.MadeAt), link.EndsAt is { } end ? new Instant(end) : null,
                link.PasscodeHash is not null))
    ];
}
