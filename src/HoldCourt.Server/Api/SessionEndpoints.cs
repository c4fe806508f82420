using System.Security.Claims;
using System.Text.Json;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Api;

/// <summary>A session as its host sees it on Today.</summary>
/// <param name="Live">The sitting that runs, if one does.</param>
/// <param name="Next">When it is on or comes next; null for standing sessions and those that will not come again.</param>
/// <param name="Cancelled">It does not take place.</param>
/// <param name="Owner">The name of the owner, where the reader is a co-owner.</param>
public sealed record SessionCard(
    Guid Id, string Title, string Description, SessionKind Kind, Instant? Next, int? Minutes, string Link, DoorMode Door, int Expected,
    bool HasPasscode, bool Cancelled,
    Guid? Live, Instant? LiveSince, Instant? LastOver, string? Owner);

/// <summary>A visit planned in a standing session.</summary>
public sealed record SlotRow(Guid Session, string Title, string Name, Instant Slot, int Minutes, Answer Answer);

public sealed record OpenNow(string? Title);

/// <summary>Where a sitting that was just opened is.</summary>
public sealed record OpenedSitting(Guid Sitting, string Link);

internal static class SessionEndpoints
{
    public static void MapSessions(this IEndpointRouteBuilder api)
    {
        var sessions = api.MapGroup("/sessions").RequireAuthorization();
        sessions.MapGet("/", async (ClaimsPrincipal user, IDbContextFactory<CourtDb> databases, NextTimes times, TimeProvider time) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            var mine = await db.Sessions.AsNoTracking().Where(Session.IsOf(IdOf(user))).OrderBy(s => s.StartsAt ?? s.CreatedAt)
                .Select(s => new Held(s, s.Docket.Count, s.Sittings.FirstOrDefault(sitting => sitting.AdjournedAt == null),
                s.Sittings.Max(sitting => sitting.AdjournedAt), s.OwnerId == IdOf(user)
                ? null
                : db.Users.Where(account => account.Id == s.OwnerId).Select(account => account.Name).FirstOrDefault())).ToListAsync();
            var now = new Instant(time.GetUtcNow().ToUnixTimeMilliseconds());
            return mine.ConvertAll(held => CardOf(held, times.Of(held.Session, now)));
        });
        sessions.MapGet("/slots", async (long from, ClaimsPrincipal user, IDbContextFactory<CourtDb> databases) =>
        {
            const long Week = 7 * 24 * 3_600_000L;
            await using var db = await databases.CreateDbContextAsync();
            return await db.Docket.AsNoTracking()
                .Where(line => (line.Session!.OwnerId == IdOf(user) || line.Session.CoOwners.Any(owner => owner.AccountId == IdOf(user)))
                && line.Session.CancelledAt == null && line.SlotAt >= from && line.SlotAt < from + Week)
                .OrderBy(line => line.SlotAt)
                    .Select(line => new SlotRow(line.SessionId, line.Session!.Title, line.Name, new Instant(line.SlotAt!.Value),
                    line.Minutes ?? 15, line.Answer)).ToListAsync();
        });
        sessions.MapPost("/", async (OpenNow wish, ClaimsPrincipal user, IDbContextFactory<CourtDb> databases, Opening opening,
            TimeProvider time) =>
        {
            var title = Bounds.Clean(wish.Title, lines: false);
            if (title.Length > Session.LongestTitle) return Problems.Of("titleTooLong", 400);
            var session = new Session
            {
                OwnerId = IdOf(user),
                Title = title.Length > 0 ? title : "Session",
                Link = SeatCookies.Random128(),
                Orders = JsonSerializer.Serialize(StandingOrders.Usual, CoreJson.Options),
                CreatedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
            };
            await using var db = await databases.CreateDbContextAsync();
            db.Add(session);
            await db.SaveChangesAsync();
            return Results.Ok(await opening.Open(session));
        });
        sessions.MapPost("/{id:guid}/open",
            async (Guid id, bool? prepare, ClaimsPrincipal user, IDbContextFactory<CourtDb> databases, Opening opening) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            var session = await db.Sessions.AsNoTracking().Where(Session.IsOf(IdOf(user))).SingleOrDefaultAsync(s => s.Id == id);
            if (session is null) return Problems.Of("noSuchSession", 404);
            return session.CancelledAt is not null
                ? Problems.Of("alreadyCancelled", 409)
                : Results.Ok(await opening.Open(session, prepare ?? false));
        });
    }

    private static string IdOf(ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.NameIdentifier)!;

    private sealed record Held(Session Session, int Expected, SittingRecord? Live, long? LastOver, string? Owner);

    private static SessionCard CardOf(Held held, Instant? next)
    {
        var (session, expected, live, lastOver, owner) = held;
        return new SessionCard(
            Id: session.Id, Title: session.Title, Description: session.Description, Kind: session.Kind, Next: next,
            Minutes: session.Minutes, Link: session.Link, Door: session.Door, Expected: expected,
            HasPasscode: session.PasscodeHash is not null, Cancelled: session.CancelledAt is not null, Live: live?.Id,
            LiveSince: At(live?.OpenedAt), LastOver: At(lastOver), Owner: owner);
    }

    private static Instant? At(long? milliseconds) => milliseconds is { } at ? new Instant(at) : null;
}
