using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Accounts;

/// <summary>Messages with a link that opens an account, to the account's own address.</summary>
internal sealed class Letters(IServiceScopeFactory scopes, SignInGuard guard, SignIns signIns, HouseMail mail, Supervisor supervisor)
{
    /// <summary>A link for a new password to whoever has an account with this address; nothing to others.</summary>
    public void Forgot(string email) => supervisor.Begin("letters", async () =>
    {
        if (!guard.MayWriteTo(email)) return;
        await using var scope = scopes.CreateAsyncScope();
        var users = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
        if (await users.FindByEmailAsync(email.Trim()) is { } account && !signIns.IsClosed(account.Id))
            await mail.Send(HouseLetter.Reset, account.Email!, account.Name, account.Language, await ResetLink(users, account));
    });

    public static async Task<string> ResetLink(UserManager<Account> users, Account account) =>
        $"/reset#{account.Id}.{Uri.EscapeDataString(await users.GeneratePasswordResetTokenAsync(account))}";

    /// <summary>A link that shows that the person reads the address.</summary>
    public async Task Confirm(UserManager<Account> users, Account account) =>
        await mail.Send(HouseLetter.Confirm, account.Email!, account.Name, account.Language,
            $"/confirm#{account.Id}.{Uri.EscapeDataString(await users.GenerateEmailConfirmationTokenAsync(account))}");

    /// <summary>The same for an address that is to take the old one's place.</summary>
    public async Task Move(UserManager<Account> users, Account account, string to) => await mail.Send(
        HouseLetter.Confirm, to, account.Name, account.Language,
        $"/confirm#{account.Id}.{Uri.EscapeDataString(await users.GenerateChangeEmailTokenAsync(account, to))}.{Uri.EscapeDataString(to)}");
}
