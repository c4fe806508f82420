using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Accounts;

/// <summary>The framework's accounts, with everything that hashes or judges a password done where it takes nobody's processor.</summary>
internal sealed class HouseUsers(
    HeavyWork heavy, IHttpContextAccessor http, IUserStore<Account> store, IOptions<IdentityOptions> options,
    IPasswordHasher<Account> hasher, IEnumerable<IUserValidator<Account>> userValidators,
    IEnumerable<IPasswordValidator<Account>> passwordValidators, ILookupNormalizer normalizer, IdentityErrorDescriber errors,
    IServiceProvider services, ILogger<UserManager<Account>> log)
    : UserManager<Account>(store, options, hasher, userValidators, passwordValidators, normalizer, errors, services, log)
{
    private string By => http.HttpContext is { } asks ? BrowserCookies.AddressOf(asks) : "the house";

    protected override Task<PasswordVerificationResult> VerifyPasswordAsync(
        IUserPasswordStore<Account> passwords, Account user, string password) =>
        heavy.Run(Lane.Quick, By, () => base.VerifyPasswordAsync(passwords, user, password));

    public override Task<IdentityResult> CreateAsync(Account user, string password) =>
        heavy.Run(Lane.Quick, By, () => base.CreateAsync(user, password));

    public override Task<IdentityResult> AddPasswordAsync(Account user, string password) =>
        heavy.Run(Lane.Quick, By, () => base.AddPasswordAsync(user, password));

    public override Task<IdentityResult> ResetPasswordAsync(Account user, string token, string newPassword) =>
        heavy.Run(Lane.Quick, By, () => base.ResetPasswordAsync(user, token, newPassword));
}
