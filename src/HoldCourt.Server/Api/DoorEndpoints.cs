using HoldCourt.Core.Admission;
using HoldCourt.Core.People;
using HoldCourt.Core.Sittings;
using HoldCourt.Server.Live;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

public enum DoorPhase { NotOpen, Open, Over }

/// <summary>What the button of the check page will do.</summary>
public enum EntryKind { EnterAsHost, EnterAsDeputy, WalkIn, Announce }

/// <summary>What somebody who came by the link may know before entering.</summary>
/// <param name="Sitting">The sitting that runs; null when none does.</param>
/// <param name="HoldsSeat">This browser holds a seat already: no need to ask again.</param>
public sealed record DoorPage(
    string Title, string? HostName, Instant? StartsAt, DoorPhase Phase, Guid? Sitting, EntryKind Entry, bool HoldsSeat, bool Barred, bool NeedsPasscode,
    DoorLock? Lock, string? KnownName);

public sealed record AnnounceWish(string? Name, string? Passcode = null);

public sealed record Announcement(Guid Sitting);

internal static class DoorEndpoints
{
    public static void MapDoor(this IEndpointRouteBuilder api)
    {
        var door = api.MapGroup("/door/{link}").RequireRateLimiting(SecuritySetup.Door);
        door.MapGet("/", async (string link, HttpContext http, Doorstep doorstep) =>
            await doorstep.Find(link) is { } found ? Results.Ok(await doorstep.Page(found, http)) : Problems.Of("noSuchLink", 404));
        door.MapPost("/announce", async (string link, AnnounceWish wish, HttpContext http, Doorstep doorstep) =>
            await doorstep.Find(link) is { } found ? await doorstep.Announce(found, wish, http) : Problems.Of("noSuchLink", 404));
    }
}

/// <summary>The way from a link to a seat.</summary>
internal sealed class Doorstep(IDbContextFactory<CourtDb> databases, IGrainFactory grains, SeatCookies cookies, PasscodeGuard guard, UserManager<Account> users)
{
    private const int LinkLength = 22;

    public async Task<Session?> Find(string link)
    {
        if (link.Length != LinkLength) return null;
        await using var db = await databases.CreateDbContextAsync();
        return await db.Sessions.AsNoTracking().Include(s => s.Sittings.Where(sitting => sitting.AdjournedAt == null)).SingleOrDefaultAsync(s => s.Link == link);
    }

    public async Task<DoorPage> Page(Session session, HttpContext http)
    {
        var account = await users.GetUserAsync(http.User);
        var owner = account?.Id == session.OwnerId;
        var running = session.Sittings.Find(sitting => sitting.AdjournedAt is null);
        var start = session.StartsAt is { } at ? new Instant(at) : (Instant?)null;
        if (running is null)
        {
            var over = await WasHeld(session) && session.Kind == SessionKind.Once;
            return new DoorPage(session.Title, await OwnerName(session), start, over ? DoorPhase.Over : DoorPhase.NotOpen, null,
                owner ? EntryKind.EnterAsHost : EntryKind.Announce, false, false, false, null, account?.Name);
        }
        var holder = cookies.Read(http, running.Id);
        var state = await grains.GetGrain<ISittingGrain>(running.Id).Door(holder, account is null ? holder : KeyOf(account));
        var entry = state.EntersAs switch
        {
            Role.Host => EntryKind.EnterAsHost,
            Role.Deputy => EntryKind.EnterAsDeputy,
            { } => EntryKind.WalkIn,
            null => EntryKind.Announce
        };
        return new DoorPage(session.Title, state.HostName ?? await OwnerName(session), start, DoorPhase.Open, running.Id, entry,
            state.HoldsSeat, state.Barred, session.PasscodeHash is not null && !owner && !state.HeldSeat, state.Lock, account?.Name);
    }

    public async Task<IResult> Announce(Session session, AnnounceWish wish, HttpContext http)
    {
        if (session.Sittings.Find(sitting => sitting.AdjournedAt is null) is not { } running) return Problems.Of(new Refusal(Reason.NotOpen));
        if (PersonName.Refuses(wish.Name) is { } badName) return Problems.Of(badName);
        var account = await users.GetUserAsync(http.User);
        var grain = grains.GetGrain<ISittingGrain>(running.Id);
        var holder = cookies.Read(http, running.Id);
        if (session.PasscodeHash is { } hash && account?.Id != session.OwnerId && !(await grain.Door(holder, holder)).HeldSeat)
        {
            var (right, wait) = guard.Check(session.Id, hash, wish.Passcode, http.Connection.RemoteIpAddress?.ToString() ?? "");
            if (!right)
                return Problems.Of(wait > TimeSpan.Zero ? "passcodeWait" : "passcodeWrong", wait > TimeSpan.Zero ? 429 : 403,
                    new Dictionary<string, object?> { ["seconds"] = (int)Math.Ceiling(wait.TotalSeconds) });
        }
        var person = account is not null ? KeyOf(account) : holder ?? SeatCookies.NewGuest();
        var arrival = await grain.Announce(new Announce(person, wish.Name!));
        if (arrival.Refusal is { } refusal) return Problems.Of(refusal);
        cookies.Write(http, running.Id, person);
        return Results.Ok(new Announcement(running.Id));
    }

    private static PersonKey KeyOf(Account account) => new("account:" + account.Id);

    private async Task<bool> WasHeld(Session session)
    {
        await using var db = await databases.CreateDbContextAsync();
        return await db.Sittings.AnyAsync(sitting => sitting.SessionId == session.Id);
    }

    private async Task<string?> OwnerName(Session session) => (await users.FindByIdAsync(session.OwnerId))?.Name;
}
