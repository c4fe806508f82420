using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Api;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Admission;

/// <summary>The way from a link to a seat.</summary>
internal sealed class Doorstep(
    IDbContextFactory<CourtDb> databases, IGrainFactory grains, SeatCookies cookies, BrowserCookies browsers, CodeGuard guard,
    SeatLimits limits, DoorBell bell, UserManager<Account> users, TimeProvider time)
{
    private const int LinkLength = 22;
    private static readonly TimeSpan _quiet = TimeSpan.FromSeconds(15);

    public async Task<Session?> Find(string link)
    {
        if (link.Length != LinkLength) return null;
        await using var db = await databases.CreateDbContextAsync();
        return await db.Sessions.AsNoTracking().Include(s => s.Sittings.Where(sitting => sitting.AdjournedAt == null))
            .SingleOrDefaultAsync(s => s.Link == link);
    }

    /// <param name="shown">The token of a personal link that is shown now; null for the one that this browser showed before.</param>
    public async Task<DoorPage> Page(Session session, string? shown, HttpContext http)
    {
        var invitation = shown ?? browsers.LinkOf(http, session.Id);
        var invited = await Invited(session, invitation);
        if (shown is not null && invited is not null) browsers.Remember(http, session.Id, shown);
        var account = await users.GetUserAsync(http.User);
        var owner = await Owns(session, account);
        var running = session.Sittings.Find(sitting => sitting.AdjournedAt is null);
        var start = invited?.SlotAt is { } slot
            ? new Instant(slot)
            : PlanTimes.Next(session, new Instant(time.GetUtcNow().ToUnixTimeMilliseconds()));
        var knownName = account?.Name ?? invited?.Name;
        var (gone, mine) = (invitation is not null && invited is null, owner ? session.Id : (Guid?)null);
        if (running is null)
        {
            var over = await WasHeld(session) && session.Kind == SessionKind.Once;
            return new DoorPage(
                Title: session.Title, HostName: await OwnerName(session), StartsAt: start,
                Phase: over ? DoorPhase.Over : DoorPhase.NotOpen, Sitting: null,
                Entry: owner ? EntryKind.EnterAsHost : EntryKind.Announce, HoldsSeat: false, Barred: false, NeedsPasscode: false,
                Lock: null, KnownName: knownName, HasHostKey: false, Preparing: false, Cancelled: session.CancelledAt is not null,
                InvitationGone: gone, Session: mine);
        }
        bell.Know(running.Id, session.Id);
        var holder = cookies.Read(http, running.Id);
        // The browser is somebody from here on, so that two first tabs of it are one person.
        if (account is null && holder is null && !http.Response.HasStarted) cookies.Write(http, running.Id, SeatCookies.NewGuest());
        var comer = account is null ? holder : SeatCookies.KeyOf(account.Id);
        var state = await grains.In<ISittingDoor>(running.Id).Door(holder, comer, await Proof(session, invited, account), owner);
        var entry = state.EntersAs switch
        {
            Role.Host => EntryKind.EnterAsHost,
            Role.Deputy => EntryKind.EnterAsDeputy,
            { } => EntryKind.WalkIn,
            null => EntryKind.Announce
        };
        var tooEarly = state.Preparing && !session.EarlyEntry && !state.ComesBack && state.EntersAs is null;
        return new DoorPage(
            Title: session.Title, HostName: state.HostName ?? await OwnerName(session), StartsAt: start,
            Phase: tooEarly ? DoorPhase.NotOpen : DoorPhase.Open, Sitting: running.Id, Entry: entry, HoldsSeat: state.HoldsSeat,
            Barred: state.Barred, NeedsPasscode: session.PasscodeHash is not null && !owner && !state.ComesBack, Lock: state.Lock,
            KnownName: knownName, HasHostKey: session.HostKeyHash is not null && !owner, Preparing: state.Preparing, Cancelled: false,
            InvitationGone: gone, Session: mine, OnRecord: state.OnRecord);
    }

    public async Task<IResult> Announce(Session session, AnnounceWish wish, HttpContext http)
    {
        if (session.Sittings.Find(sitting => sitting.AdjournedAt is null) is not { } running)
            return Problems.Of(new Refusal(Reason.NotOpen));
        if (PersonName.Refuses(wish.Name) is { } badName) return Problems.Of(badName);
        var account = await users.GetUserAsync(http.User);
        var grain = grains.GetGrain<ISittingGrain>(running.Id);
        var holder = cookies.Read(http, running.Id);
        var address = ClientAddress.Of(http);
        var person = account is not null ? SeatCookies.KeyOf(account.Id) : holder ?? SeatCookies.NewGuest();
        var state = await grains.In<ISittingDoor>(running.Id).Door(holder, person);
        var owner = await Owns(session, account);
        var (shown, wait) = owner
            ? (Shown.Nothing, TimeSpan.Zero)
            : await guard.Check(session.Id, session.PasscodeHash, session.HostKeyHash, wish.Passcode,
                holder?.Value ?? browsers.Guesser(http), address);
        // Whoever shows a wrong code is told so, also where none is needed.
        if (shown is Shown.Wrong or Shown.TooOften
            || (shown == Shown.Nothing && session.PasscodeHash is not null && !owner && !state.ComesBack))
            return Problems.Of(wait > TimeSpan.Zero ? "passcodeWait" : "passcodeWrong", wait > TimeSpan.Zero ? 429 : 403,
                new Dictionary<string, object?> { ["seconds"] = (int)Math.Ceiling(wait.TotalSeconds) });
        if (state.Preparing && !session.EarlyEntry && shown != Shown.HostKey && !owner && !state.ComesBack)
            return Problems.Of(new Refusal(Reason.NotOpen));
        if (!state.IsKnown && !limits.NewPerson(running.Id, address)) return Problems.Of("tooManyTries", 429);
        var invited = await Invited(session, wish.Invitation ?? browsers.LinkOf(http, session.Id));
        var arrival = await grain.Announce(new Announce(
            person, wish.Name!, await Proof(session, invited, account), shown == Shown.HostKey, Owns: owner));
        if (arrival.Refusal is { } refusal) return Problems.Of(refusal);
        cookies.Write(http, running.Id, person);
        return Results.Ok(new Announcement(running.Id));
    }

    /// <summary>Says when the page of somebody who waits should be looked at anew, first at once; in between a sign of life.</summary>
    public async IAsyncEnumerable<SseItem<string>> Watch(string link, [EnumeratorCancellation] CancellationToken cancel)
    {
        if (await Find(link) is not { } session) yield break;
        using var listener = bell.Listen(session.Id);
        yield return new SseItem<string>("", "look");
        while (true)
        {
            bool rang;
            try { rang = await listener.Next(_quiet, cancel); }
            catch (OperationCanceledException) { yield break; }
            yield return new SseItem<string>("", rang ? "look" : "quiet");
        }
    }

    /// <summary>The line of the docket that somebody proves: by a personal link,
    /// or by the one line that names the account's confirmed address.</summary>
    private async Task<string?> Proof(Session session, DocketRecord? invited, Account? account)
    {
        if (invited is not null) return DocketTable.KeyOf(invited);
        if (account is not { EmailConfirmed: true, Email: { } email }) return null;
        await using var db = await databases.CreateDbContextAsync();
        var lines = (await db.Docket.AsNoTracking().Where(line => line.SessionId == session.Id && line.Email != null).ToListAsync())
            .Where(line => line.Email!.Equals(email, StringComparison.OrdinalIgnoreCase)).ToList();
        return lines is [var only] ? DocketTable.KeyOf(only) : null;
    }

    /// <summary>The account is the session's owner or a co-owner, as it stands at this moment.</summary>
    private async Task<bool> Owns(Session session, Account? account)
    {
        if (account is null) return false;
        await using var db = await databases.CreateDbContextAsync();
        return await db.Sessions.Where(Session.IsOf(account.Id)).AnyAsync(one => one.Id == session.Id);
    }

    private async Task<bool> WasHeld(Session session)
    {
        await using var db = await databases.CreateDbContextAsync();
        return await db.Sittings.AnyAsync(sitting => sitting.SessionId == session.Id);
    }

    /// <summary>The line of the docket that a personal link stands for.</summary>
    private async Task<DocketRecord?> Invited(Session session, string? token)
    {
        if (token is not { Length: LinkLength or 32 }) return null;
        await using var db = await databases.CreateDbContextAsync();
        return await db.Docket.AsNoTracking().SingleOrDefaultAsync(line => line.Token == token && line.SessionId == session.Id);
    }

    /// <summary>Whether the request comes from somebody who is seated in the sitting that runs, or from the owner.</summary>
    public async Task<bool> IsInside(Session session, HttpContext http)
    {
        if (await Owns(session, await users.GetUserAsync(http.User))) return true;
        if (session.Sittings.Find(sitting => sitting.AdjournedAt is null) is not { } running) return false;
        return (await grains.In<ISittingDoor>(running.Id).Door(cookies.Read(http, running.Id), null)).IsSeated;
    }

    /// <summary>Carries out a wish of whoever sent the request, by the rules of the sitting that runs.</summary>
    public async Task<Refusal?> DoFor(Session session, HttpContext http, SeatCommand command)
    {
        if (session.Sittings.Find(sitting => sitting.AdjournedAt is null) is not { } running) return new Refusal(Reason.NotOpen);
        return cookies.Read(http, running.Id) is { } person
            ? await grains.GetGrain<ISittingGrain>(running.Id).DoFor(person, command)
            : new Refusal(Reason.NotInside);
    }

    /// <summary>Why a wish of whoever sent the request would be refused; null when it would be done.</summary>
    public async Task<Refusal?> WouldRefuse(Session session, HttpContext http, SeatCommand command)
    {
        if (session.Sittings.Find(sitting => sitting.AdjournedAt is null) is not { } running) return new Refusal(Reason.NotOpen);
        return cookies.Read(http, running.Id) is { } person
            ? await grains.GetGrain<ISittingGrain>(running.Id).WouldRefuse(person, command)
            : new Refusal(Reason.NotInside);
    }

    public async Task<string?> OwnerName(Session session) => (await users.FindByIdAsync(session.OwnerId))?.Name;
}
