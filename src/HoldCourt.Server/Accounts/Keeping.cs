using System.Security.Cryptography;
using System.Text;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Accounts;

/// <summary>Makes accounts and takes them away. Somebody who can sign in always keeps the house.</summary>
internal sealed class Keeping(UserManager<Account> users, IDbContextFactory<CourtDb> databases, House house, HouseMail mail,
    SignIns signIns, TimeProvider time)
{
    public static TimeSpan InvitationHolds { get; } = TimeSpan.FromDays(7);

    private const int MostInvitations = 1_000;

    /// <summary>One after the other: two keepers who remove each other in the same moment must not leave none.</summary>
    private static readonly SemaphoreSlim _turn = new(1);

    /// <summary>The first account, which keeps the house.</summary>
    /// <returns>Either the account, or why not, as the name of a sentence.</returns>
    public Task<(Account? Made, string? Reason)> SetUp(string? code, string name, string email, string password, string? language) =>
        InTurn(async () =>
    {
        if (!house.NeedsSetUp) return (null, "setUpDone");
        if (!house.IsSetUpCode(code)) return (null, "setUpCodeWrong");
        var made = await Make(name, email, password, language, confirmed: false, keeper: true);
        if (made.Made is null) return made;
        // A keeper who could not sign in keeps nothing any more.
        await using var db = await databases.CreateDbContextAsync();
        await db.Users.Where(account => account.IsKeeper && account.Id != made.Made.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(account => account.IsKeeper, false));
        house.HasKeeper();
        return made;
    });

    /// <returns>The token of the link, or why not. The token is told this once, and to the one who is to have it.</returns>
    public async Task<(string? Token, string? Reason)> Invite(Account by, string email, string? name, bool byMail)
    {
        email = email.Trim();
        if (!Mail.IsAddress(email)) return (null, "emailNotUnderstood");
        if (await users.FindByEmailAsync(email) is not null) return (null, "addressTaken");
        var clean = Bounds.Clean(name, lines: false);
        if (clean.Length > PersonName.Longest) return (null, "nameTooLong");
        await using var db = await databases.CreateDbContextAsync();
        if (await db.Invitations.CountAsync() >= MostInvitations) return (null, "tooMany");
        // The newest one holds.
        await db.Invitations.Where(invitation => invitation.UsedAt == null && invitation.Email == email).ExecuteDeleteAsync();
        var token = SeatCookies.Random128();
        db.Add(new HostInvitation
        {
            Email = email,
            Name = clean,
            TokenHash = HashOf(token),
            ById = by.Id,
            ByMail = byMail
            && mail.IsDelivered,
            At = Now,
            Until = Now + (long)InvitationHolds.TotalMilliseconds
        });
        if (byMail) db.Add(mail.Row(HouseLetter.Join, email, clean, by.Language, $"/join#{token}", by.Name));
        await db.SaveChangesAsync();
        if (byMail) mail.Nudge();
        return (token, null);
    }

    /// <summary>The invitation that a token stands for, if it can still be used.</summary>
    public async Task<HostInvitation?> Invitation(string? token)
    {
        if (token is not { Length: > 0 and < 100 }) return null;
        await using var db = await databases.CreateDbContextAsync();
        var hash = HashOf(token);
        return await db.Invitations.AsNoTracking()
            .SingleOrDefaultAsync(invitation => invitation.TokenHash == hash && invitation.UsedAt == null && invitation.Until > Now);
    }

    public Task<(Account? Made, string? Reason)> Join(string? token, string name, string password, string? language) => InTurn(async () =>
    {
        if (await Invitation(token) is not { } invitation) return (null, "invitationGone");
        // Only a link that came by mail shows that the person reads that address.
        var made = await Make(name, invitation.Email, password, language, invitation.ByMail, keeper: false);
        if (made.Made is null) return made;
        await using var db = await databases.CreateDbContextAsync();
        await db.Invitations.Where(kept => kept.Id == invitation.Id).ExecuteUpdateAsync(set => set.SetProperty(kept => kept.UsedAt, Now));
        return made;
    });

    /// <summary>Signing in to the account asks for no code any more, and its owner is told.</summary>
    public async Task TurnSecondOff(Account account)
    {
        if (!account.TwoFactorEnabled) return;
        await users.SetTwoFactorEnabledAsync(account, false);
        await users.ResetAuthenticatorKeyAsync(account);
        await mail.Send(HouseLetter.SecondOff, account.Email!, account.Name, account.Language);
    }

    public Task<string?> Suspend(string id) => Change(id, async (db, account) =>
    {
        if (account.SuspendedAt is not null) return null;
        if (account.IsKeeper && !await HasOtherKeeper(db, id)) return "lastKeeper";
        var now = Now;
        await Set(db, id, kept => kept.IsKeeper, _ => now);
        await signIns.Close(id);
        return null;
    });

    public Task<string?> Resume(string id) => Change(id, async (db, account) =>
    {
        await Set(db, id, kept => kept.IsKeeper, _ => null);
        if (!account.IsDemo || house.DemoIsOpen) signIns.Reopen(id);
        return null;
    });

    public Task<string?> MakeKeeper(string id) => Change(id, async (db, account) =>
    {
        if (account.SuspendedAt is not null || signIns.IsClosed(id)) return "keeperCannotSignIn";
        await Set(db, id, _ => true, kept => kept.SuspendedAt);
        return null;
    });

    public Task<string?> StepDown(string id) => Change(id, async (db, account) =>
    {
        if (account.IsKeeper && !await HasOtherKeeper(db, id)) return "lastKeeper";
        await Set(db, id, _ => false, kept => kept.SuspendedAt);
        return null;
    });

    /// <summary>The account goes, with its contacts and presets.</summary>
    /// <param name="heir">Whom the sessions belong to from then on; null deletes them with their records.</param>
    public Task<string?> Remove(string id, string? heir) => Change(id, async (db, account) =>
    {
        if (account.IsKeeper && !await HasOtherKeeper(db, id)) return "lastKeeper";
        if (heir is null && await db.Sittings.AnyAsync(sitting => sitting.AdjournedAt == null && sitting.Session!.OwnerId == id))
            return "isLive";
        if (heir is not null && (heir == id || await db.Users.FindAsync(heir) is not { SuspendedAt: null } || signIns.IsClosed(heir)))
            return "noSuchHost";
        await signIns.Close(id);
        await using var all = await db.Database.BeginTransactionAsync();
        if (heir is not null)
        {
            await db.CoOwners.Where(owner => owner.AccountId == heir
                && db.Sessions.Any(session => session.Id == owner.SessionId && session.OwnerId == id)).ExecuteDeleteAsync();
            await db.Outbox.Where(message => message.OwnerId == id && message.SessionId != null)
                .ExecuteUpdateAsync(set => set.SetProperty(message => message.OwnerId, heir));
            await db.Sessions.Where(session => session.OwnerId == id)
                .ExecuteUpdateAsync(set => set.SetProperty(session => session.OwnerId, heir));
        }
        await db.Users.Where(kept => kept.Id == id).ExecuteDeleteAsync();
        await all.CommitAsync();
        return null;
    });

    public static string HashOf(string token) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(token)));

    private async Task<(Account? Made, string? Reason)> Make(string name, string email, string password, string? language, bool confirmed,
        bool keeper)
    {
        if (PersonName.Refuses(name) is { } badName) return (null, badName.Reason.Name);
        if (!Mail.IsAddress(email.Trim())) return (null, "emailNotUnderstood");
        var account = new Account
        {
            UserName = email.Trim(),
            Email = email.Trim(),
            EmailConfirmed = confirmed,
            Name = PersonName.Tidy(name),
            IsKeeper = keeper,
            CreatedAt = Now,
            Language = language is not null && Texts.ServerTexts.Knows(language) ? language : "en"
        };
        var result = await users.CreateAsync(account, password);
        return result.Succeeded ? (account, null) : (null, ReasonOf(result));
    }

    /// <summary>The name of a sentence for what the framework refused.</summary>
    public static string ReasonOf(IdentityResult result) => result.Errors.Select(error => error.Code).FirstOrDefault() switch
    {
        "DuplicateUserName" or "DuplicateEmail" => "addressTaken",
        "InvalidEmail" or "InvalidUserName" => "emailNotUnderstood",
        "InvalidToken" => "linkGone",
        // Two changes at once: the later one is tried again.
        "ConcurrencyFailure" => "notStored",
        { } code when code.StartsWith("password", StringComparison.Ordinal) => code,
        _ => "notUnderstood"
    };

    private async Task<bool> HasOtherKeeper(CourtDb db, string id)
    {
        var others = await db.Users.Where(account => account.IsKeeper && account.Id != id && account.SuspendedAt == null)
            .Select(account => account.Id).ToListAsync();
        return others.Exists(other => !signIns.IsClosed(other));
    }

    private static Task<int> Set(CourtDb db, string id,
        System.Linq.Expressions.Expression<Func<Account, bool>> keeper,
        System.Linq.Expressions.Expression<Func<Account, long?>> suspended) =>
        db.Users.Where(account => account.Id == id)
            .ExecuteUpdateAsync(set => set.SetProperty(account => account.IsKeeper, keeper)
            .SetProperty(account => account.SuspendedAt, suspended));

    private Task<string?> Change(string id, Func<CourtDb, Account, Task<string?>> how) => InTurn(async () =>
    {
        await using var db = await databases.CreateDbContextAsync();
        return await db.Users.AsNoTracking().SingleOrDefaultAsync(account => account.Id == id) is { } account
            ? await how(db, account)
            : "noSuchHost";
    });

    private static async Task<T> InTurn<T>(Func<Task<T>> what)
    {
        await _turn.WaitAsync();
        try { return await what(); }
        finally { _turn.Release(); }
    }

    private long Now => time.GetUtcNow().ToUnixTimeMilliseconds();
}
