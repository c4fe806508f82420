using System.Security.Claims;
using System.Text.Json;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Docket;
using HoldCourt.Core.Orders;
using HoldCourt.Core.Sittings;
using HoldCourt.Server.Live;
using HoldCourt.Server.Security;
using HoldCourt.Server.StandIns.Extras;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>A session as its host sees it on Today.</summary>
/// <param name="Live">The sitting that runs, if one does.</param>
public sealed record SessionCard(
    Guid Id, string Title, string Description, SessionKind Kind, Instant? StartsAt, int? Minutes, string Link, DoorMode Door, int Expected, bool HasPasscode,
    Guid? Live, Instant? LiveSince, Instant? LastOver);

public sealed record OpenNow(string? Title);

/// <summary>Where a sitting that was just opened is.</summary>
public sealed record OpenedSitting(Guid Sitting, string Link);

internal static class SessionEndpoints
{
    public static void MapSessions(this IEndpointRouteBuilder api)
    {
        var sessions = api.MapGroup("/sessions").RequireAuthorization();
        sessions.MapGet("/", async (ClaimsPrincipal user, IDbContextFactory<CourtDb> databases) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            var mine = await db.Sessions.AsNoTracking().Include(s => s.Sittings).Where(s => s.OwnerId == IdOf(user)).OrderBy(s => s.StartsAt ?? s.CreatedAt).ToListAsync();
            return mine.Select(CardOf).ToList();
        });
        sessions.MapPost("/", async (OpenNow wish, ClaimsPrincipal user, IDbContextFactory<CourtDb> databases, Opening opening, TimeProvider time) =>
        {
            var title = wish.Title?.Trim() ?? "";
            if (title.Length > Session.LongestTitle) return Problems.Of("titleTooLong", 400);
            var session = new Session
            {
                OwnerId = IdOf(user),
                Title = title.Length > 0 ? title : "Session",
                Link = SeatCookies.Random128(),
                Orders = JsonSerializer.Serialize(OrderSheet.Usual, CoreJson.Options),
                CreatedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
            };
            await using var db = await databases.CreateDbContextAsync();
            db.Add(session);
            await db.SaveChangesAsync();
            return Results.Ok(await opening.Open(session));
        });
        sessions.MapPost("/{id:guid}/open", async (Guid id, ClaimsPrincipal user, IDbContextFactory<CourtDb> databases, Opening opening) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            var session = await db.Sessions.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id && s.OwnerId == IdOf(user));
            return session is null ? Problems.Of("noSuchSession", 404) : Results.Ok(await opening.Open(session));
        });
    }

    private static string IdOf(ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.NameIdentifier)!;

    private static SessionCard CardOf(Session session)
    {
        var live = session.Sittings.Find(sitting => sitting.AdjournedAt is null);
        return new SessionCard(
            session.Id, session.Title, session.Description, session.Kind, At(session.StartsAt), session.Minutes, session.Link, session.Door,
            JsonDocument.Parse(session.Docket).RootElement.GetArrayLength(), session.PasscodeHash is not null,
            live?.Id, At(live?.OpenedAt), At(session.Sittings.Max(sitting => sitting.AdjournedAt)));
    }

    private static Instant? At(long? milliseconds) => milliseconds is { } at ? new Instant(at) : null;
}

/// <summary>Makes a sitting of a planned session.</summary>
internal sealed class Opening(IDbContextFactory<CourtDb> databases, IGrainFactory grains, Troupe troupe, TimeProvider time)
{
    /// <summary>Opens the session, or answers with the sitting that already runs.</summary>
    public async Task<OpenedSitting> Open(Session session)
    {
        await using var db = await databases.CreateDbContextAsync();
        var running = await db.Sittings.AsNoTracking().FirstOrDefaultAsync(s => s.SessionId == session.Id && s.AdjournedAt == null);
        if (running is not null) return new OpenedSitting(running.Id, session.Link);
        var record = new SittingRecord { Id = Guid.NewGuid(), SessionId = session.Id, OpenedAt = time.GetUtcNow().ToUnixTimeMilliseconds() };
        db.Add(record);
        try
        {
            await db.SaveChangesAsync();
        }
        catch (DbUpdateException)
        {
            // Somebody opened it at the same moment.
            var other = await db.Sittings.AsNoTracking().SingleAsync(s => s.SessionId == session.Id && s.AdjournedAt == null);
            return new OpenedSitting(other.Id, session.Link);
        }
        await grains.GetGrain<ISittingGrain>(record.Id).Open(new Open(
            session.Title, new PersonKey("account:" + session.OwnerId), new Door(session.Door),
            JsonSerializer.Deserialize<OrderSheet>(session.Orders, CoreJson.Options)!,
            JsonSerializer.Deserialize<System.Collections.Immutable.ImmutableArray<DocketLine>>(session.Docket, CoreJson.Options)));
        if (session.Extras is { } script) troupe.Start(record.Id, script);
        return new OpenedSitting(record.Id, session.Link);
    }
}
