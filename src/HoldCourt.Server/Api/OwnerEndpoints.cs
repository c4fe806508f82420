using HoldCourt.Server.Accounts;
using HoldCourt.Store.Accounts;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Planning;

namespace HoldCourt.Server.Api;

/// <summary>Somebody whose session it is.</summary>
/// <param name="Owner">The one owner, who says who the others are.</param>
public sealed record OwnerRow(string Id, string Name, bool Owner, bool Me);

public sealed record OwnerWish(string? Account);

/// <summary>Whose a session is: one owner, and co-owners who plan, open and lead it.</summary>
internal static class OwnerEndpoints
{
    private const int MostCoOwners = 50;

    public static void MapOwners(this IEndpointRouteBuilder api)
    {
        var owners = api.MapGroup("/plans/{id:guid}/owners").RequireAuthorization();
        owners.MapGet("/", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await desk.Session(db, id) is null ? Problems.Of("noSuchSession", 404) : Results.Ok(await List(db, id, desk));
        });
        owners.MapPost("/", async (Guid id, OwnerWish wish, Desk desk, SignIns signIns) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.OwnerId != desk.Owner) return Problems.Of("ownerOnly", 403);
            if (wish.Account is not { Length: < 100 } account || account == session.OwnerId || signIns.IsClosed(account)
                || !await db.Users.AnyAsync(kept => kept.Id == account)) return Problems.Of("noSuchHost", 404);
            if (await db.CoOwners.CountAsync(owner => owner.SessionId == id) >= MostCoOwners) return Problems.Of("tooMany", 400);
            if (!await db.CoOwners.AnyAsync(owner => owner.SessionId == id && owner.AccountId == account))
            {
                db.Add(new CoOwner { SessionId = id, AccountId = account, At = desk.Now.Milliseconds });
                await db.SaveChangesAsync();
            }
            return Results.Ok(await List(db, id, desk));
        });
        // The owner takes others out; a co-owner takes out nobody but themselves.
        owners.MapDelete("/{account}", async (Guid id, string account, Desk desk) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.OwnerId != desk.Owner && account != desk.Owner) return Problems.Of("ownerOnly", 403);
            await db.CoOwners.Where(owner => owner.SessionId == id && owner.AccountId == account).ExecuteDeleteAsync();
            return Results.Ok(await List(db, id, desk));
        });
        // The session passes to a co-owner; whose it was stays as one.
        owners.MapPost("/{account}/owner", async (Guid id, string account, Desk desk, SignIns signIns) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.OwnerId != desk.Owner) return Problems.Of("ownerOnly", 403);
            if (await db.CoOwners.SingleOrDefaultAsync(owner => owner.SessionId == id && owner.AccountId == account) is not { } heir
                || signIns.IsClosed(account)) return Problems.Of("noSuchHost", 404);
            db.Remove(heir);
            db.Add(new CoOwner { SessionId = id, AccountId = session.OwnerId, At = desk.Now.Milliseconds });
            session.OwnerId = account;
            await db.SaveChangesAsync();
            return Results.Ok(await List(db, id, desk));
        });
    }

    private static async Task<IReadOnlyList<OwnerRow>> List(Store.CourtDb db, Guid id, Desk desk)
    {
        var owner = await db.Sessions.Where(session => session.Id == id).Select(session => session.OwnerId).SingleAsync();
        var ids = await db.CoOwners.Where(one => one.SessionId == id).Select(one => one.AccountId).ToListAsync();
        var names = await db.Users.AsNoTracking().Where(account => account.Id == owner || ids.Contains(account.Id))
            .Select(account => new { account.Id, account.Name }).ToListAsync();
        return [.. names.OrderByDescending(one => one.Id == owner).ThenBy(one => one.Name, StringComparer.OrdinalIgnoreCase)
            .Select(one => new OwnerRow(one.Id, one.Name, one.Id == owner, one.Id == desk.Owner))];
    }
}
