using System.Security.Claims;
using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Accounts;

/// <summary>The framework's accounts, with everything that hashes or judges a password done where it takes nobody's processor.</summary>
internal sealed class HouseUsers(
    HeavyWork heavy, SignInGuard guard, IHttpContextAccessor http, IUserStore<Account> store, IOptions<IdentityOptions> options,
    IPasswordHasher<Account> hasher, IEnumerable<IUserValidator<Account>> userValidators,
    IEnumerable<IPasswordValidator<Account>> passwordValidators, ILookupNormalizer normalizer, IdentityErrorDescriber errors,
    IServiceProvider services, ILogger<UserManager<Account>> log)
    : UserManager<Account>(store, options, hasher, userValidators, passwordValidators, normalizer, errors, services, log)
{
    protected override Task<PasswordVerificationResult> VerifyPasswordAsync(
        IUserPasswordStore<Account> passwords, Account user, string password) =>
        InTurn(user, () => base.VerifyPasswordAsync(passwords, user, password));

    public override Task<IdentityResult> CreateAsync(Account user, string password) =>
        InTurn(user, () => base.CreateAsync(user, password));

    public override Task<IdentityResult> AddPasswordAsync(Account user, string password) =>
        InTurn(user, () => base.AddPasswordAsync(user, password));

    public override Task<IdentityResult> ResetPasswordAsync(Account user, string token, string newPassword) =>
        InTurn(user, () => base.ResetPasswordAsync(user, token, newPassword));

    /// <summary>A host in a browser that has signed in before does not stand behind strangers who try.</summary>
    private Task<T> InTurn<T>(Account user, Func<Task<T>> work)
    {
        if (http.HttpContext is not { } asks) return heavy.Run(Lane.Quick, "the house", work);
        // As this very account: another host who tries its password is a stranger to it.
        var isKnown = asks.User.FindFirstValue(ClaimTypes.NameIdentifier) == user.Id || guard.IsKnown(asks, user.Email ?? "");
        return heavy.Run(Lane.Quick, isKnown ? user.Id : ClientAddress.Of(asks), work, isStranger: !isKnown);
    }
}
