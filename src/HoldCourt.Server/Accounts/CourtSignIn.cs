using System.Security.Claims;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Accounts;

/// <summary>The framework's way of signing in, with a record for each browser,
/// and without a lock for a browser that has signed in here before.</summary>
internal sealed class CourtSignIn(
    UserManager<Account> users, IHttpContextAccessor http, IUserClaimsPrincipalFactory<Account> claims,
    IOptions<IdentityOptions> options, ILogger<SignInManager<Account>> log,
    IAuthenticationSchemeProvider schemes, IUserConfirmation<Account> confirmation, SignIns signIns)
        : SignInManager<Account>(users, http, claims, options, log, schemes, confirmation)
{
    /// <summary>This browser has signed in to the account before; its own limit is that of <see cref="Security.SignInGuard"/>.</summary>
    public bool IsKnownBrowser { get; set; }

    protected override async Task<bool> IsLockedOut(Account user) => !IsKnownBrowser && await base.IsLockedOut(user);

    protected override async Task<SignInResult> SignInOrTwoFactorAsync(Account user, bool isPersistent, string? loginProvider = null,
        bool bypassTwoFactor = false) =>
        signIns.IsClosed(user.Id)
            ? SignInResult.NotAllowed
            : await base.SignInOrTwoFactorAsync(user, isPersistent, loginProvider, bypassTwoFactor);

    public override async Task SignInWithClaimsAsync(Account user, AuthenticationProperties? authenticationProperties,
        IEnumerable<Claim> additionalClaims)
    {
        // Whoever was signed in here before is not any more.
        if (SignIns.IdOf(Context.User) is { } before) await signIns.End(before);
        var record = await signIns.Begin(user.Id, user.SecurityStamp, Context);
        await base.SignInWithClaimsAsync(user, new AuthenticationProperties { IsPersistent = true },
            additionalClaims.Append(new Claim(SignIns.Claim, record)));
    }

    public override async Task SignOutAsync()
    {
        if (SignIns.IdOf(Context.User) is { } record) await signIns.End(record);
        await base.SignOutAsync();
    }
}
