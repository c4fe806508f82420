using HoldCourt.Server.Accounts;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Mailing;
using HoldCourt.Server.Upkeep;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Ledger;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Api;

/// <summary>Somebody who hosts, as the keeper sees it.</summary>
/// <param name="Sessions">How many belong to this account.</param>
/// <param name="SeenAt">When the account was last used in a browser that is still signed in.</param>
public sealed record HostRow(string Id, string Name, string Email, bool EmailConfirmed, bool Keeper, bool Suspended, bool Demo,
    bool HasCode, int Sessions, Instant? SeenAt, bool Me);

public sealed record InvitationRow(long Id, string Email, string Name, bool ByMail, Instant At, Instant Until, Instant? UsedAt);

/// <param name="MailIsDelivered">A mail server is named; otherwise links are handed on by the keeper.</param>
public sealed record HostsPage(IReadOnlyList<HostRow> Hosts, IReadOnlyList<InvitationRow> Invitations, bool MailIsDelivered);

/// <param name="ByMail">The link goes to the address, and nowhere else; otherwise it is shown once.</param>
public sealed record InviteHost(string? Email, string? Name, bool ByMail);

/// <param name="Link">Null when it went by mail.</param>
public sealed record InvitedHost(string? Link);

/// <param name="Name">As it stands on dockets and boards; null for the names that stand with the address.</param>
public sealed record EraseWish(string? Name, string? Email);

/// <summary>Where somebody is written down, or was.</summary>
public sealed record TracesRow(IReadOnlyList<string> Names, int Contacts, int Lines, int Messages, int Sittings, int Running,
    int Files);

/// <summary>What the keeper of the house does with its accounts.</summary>
internal static class HouseEndpoints
{
    public static void MapHouse(this IEndpointRouteBuilder api)
    {
        var house = api.MapGroup("/house").RequireAuthorization().RequireKeeper();
        house.MapGet("/hosts", async (HttpContext http,
            UserManager<Account> users, SignIns signIns, Outbox outbox, TimeProvider time, IDbContextFactory<CourtDb> databases) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            var me = users.GetUserId(http.User);
            var counts = await db.Sessions.GroupBy(session => session.OwnerId).Select(group => new { group.Key, Count = group.Count() })
                .ToDictionaryAsync(pair => pair.Key, pair => pair.Count);
            var hosts = (await db.Users.AsNoTracking().OrderBy(account => account.Name).ToListAsync()).ConvertAll(account => new HostRow(
                Id: account.Id, Name: account.Name, Email: account.Email!, EmailConfirmed: account.EmailConfirmed,
                Keeper: account.IsKeeper, Suspended: account.SuspendedAt is not null, Demo: account.IsDemo,
                HasCode: account.TwoFactorEnabled, Sessions: counts.GetValueOrDefault(account.Id),
                SeenAt: signIns.Of(account.Id).Select(one => (Instant?)new Instant(one.SeenAt)).FirstOrDefault(), Me: account.Id == me));
            var recent = time.GetUtcNow().ToUnixTimeMilliseconds() - (long)TimeSpan.FromDays(30).TotalMilliseconds;
            var invitations = await db.Invitations.AsNoTracking().Where(invitation => invitation.At > recent)
                .OrderByDescending(invitation => invitation.Id)
                .Select(invitation => new InvitationRow(invitation.Id, invitation.Email, invitation.Name, invitation.ByMail,
                    new Instant(invitation.At), new Instant(invitation.Until), invitation.UsedAt == null
                    ? null
                    : new Instant(invitation.UsedAt.Value))).ToListAsync();
            return new HostsPage(hosts, invitations, outbox.HasServer);
        });
        house.MapPost("/invitations",
            async (InviteHost wish, HttpContext http, UserManager<Account> users, Keeping keeping, PublicAddress address) =>
        {
            var (token, reason) = await keeping.Invite((await users.GetUserAsync(http.User))!, wish.Email ?? "", wish.Name, wish.ByMail);
            return token is null
                ? Problems.Of(reason!, 400)
                : Results.Ok(new InvitedHost(wish.ByMail ? null : $"{address.For(http)}/join#{token}"));
        }).RequireProof();
        house.MapDelete("/invitations/{id:long}", async (long id, IDbContextFactory<CourtDb> databases) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            await db.Invitations.Where(invitation => invitation.Id == id && invitation.UsedAt == null).ExecuteDeleteAsync();
            return Results.NoContent();
        });
        house.MapGet("/state", (HouseState state) => state.Page());
        house.MapPost("/backup", async (Rounds rounds) => !rounds.MakesBackups
            ? Problems.Of("noBackupFolder", 409)
            : await rounds.BackUp() is null ? Results.NoContent() : Problems.Of("backupFailed", 500)).RequireProof();
        house.MapPost("/erase/look", async (EraseWish wish, Eraser eraser, CancellationToken cancel) =>
            NothingNamed(wish) ? Problems.Of("eraseNobody", 400) : Results.Ok(TracesOf(await eraser.Look(wish.Name, wish.Email, cancel))))
                .RequireProof();
        house.MapPost("/erase", async (EraseWish wish, Eraser eraser, IGrainFactory grains, KeptFiles files, PageStore pages) =>
            NothingNamed(wish)
                ? Problems.Of("eraseNobody", 400)
                : Results.Ok(TracesOf(await eraser.Erase(wish.Name, wish.Email, async (sitting, brought) =>
                {
                    await grains.GetGrain<ISittingGrain>(sitting).Forget();
                    await files.Drop(sitting, brought);
                    pages.Forget();
                })))).RequireProof();
        var host = house.MapGroup("/hosts/{id}").RequireProof();
        host.MapPost("/suspend", async (string id, Keeping keeping) => Of(await keeping.Suspend(id)));
        host.MapPost("/resume", async (string id, Keeping keeping) => Of(await keeping.Resume(id)));
        host.MapPost("/keeper", async (string id, Keeping keeping) => Of(await keeping.MakeKeeper(id)));
        host.MapDelete("/keeper", async (string id, Keeping keeping) => Of(await keeping.StepDown(id)));
        // For whoever has lost the device and the recovery codes; the password is asked for all the same.
        host.MapDelete("/code", async (string id, UserManager<Account> users, Keeping keeping) =>
        {
            if (await users.FindByIdAsync(id) is not { } account) return Problems.Of("noSuchHost", 404);
            await keeping.TurnSecondOff(account);
            return Results.NoContent();
        });
        host.MapPost("/remove", async (string id, GoWish wish, Keeping keeping) =>
            wish.Heir is null ? Problems.Of("heirNeeded", 400) : Of(await keeping.Remove(id, wish.Heir)));
    }

    private static bool NothingNamed(EraseWish wish) =>
        (wish.Name?.Trim().Length ?? 0) < Erasure.ShortestName && (wish.Email?.Trim().Length ?? 0) < 3;

    private static TracesRow TracesOf(Traces traces) =>
        new(traces.Names, traces.Contacts, traces.Lines, traces.Messages, traces.Sittings, traces.Running, traces.Files);

    private static IResult Of(string? reason) =>
        reason is null ? Results.NoContent() : Problems.Of(reason, reason == "noSuchHost" ? 404 : 409);
}
