using HoldCourt.Server.Accounts;
using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Api;

/// <summary>Who is signed in; null for guests. The token goes back in the X-Csrf header of every change.</summary>
/// <param name="Keeper">Keeps the house: its accounts and its running.</param>
/// <param name="SetUp">Nobody keeps the house yet; the first page makes the one who does.</param>
/// <param name="OpenDemo">Anybody can sign in with the demo's account.</param>
/// <param name="Settings">What the page keeps with the account, as JSON; null when nothing was kept yet.</param>
public sealed record Me(string? Id, string? Name, string? Email, string Token, bool Keeper, bool SetUp, bool OpenDemo, string? Settings);

public sealed record SignIn(string? Email, string? Password);

/// <param name="CodeNeeded">The password is right; now the code of the second step.</param>
public sealed record SignedIn(bool CodeNeeded);

/// <param name="Recovery">It is one of the recovery codes.</param>
public sealed record SecondStep(string? Code, bool Recovery);

/// <param name="Credential">A PublicKeyCredential as JSON, as browsers give it (Web Authentication, Level 3, section 5.1.8).</param>
public sealed record PasskeyProof(string? Credential, string? Name);

/// <summary>The first account of a house.</summary>
public sealed record SetUpWish(string? Code, string? Name, string? Email, string? Password, string? Language);

public sealed record ForgotWish(string? Email);

/// <summary>A new password, by the link of a message.</summary>
public sealed record ResetWish(string? Account, string? Token, string? Password);

/// <param name="Email">The address that is to be the account's; null when it is already.</param>
public sealed record ConfirmWish(string? Account, string? Token, string? Email);

public sealed record InvitationLook(string? Token);

/// <summary>What somebody who was invited to host reads.</summary>
public sealed record InvitationPage(string Email, string Name);

public sealed record JoinWish(string? Token, string? Name, string? Password, string? Language);

public sealed record StrengthWish(string? Password, string? Name, string? Email);

public sealed record StrengthRow(Strength Strength);

/// <summary>The ways into an account.</summary>
internal static class AccountEndpoints
{
    private const int LongestLink = 4_000;

    public static void MapAccount(this IEndpointRouteBuilder api)
    {
        api.MapGet("/me", async (HttpContext http, UserManager<Account> users, IAntiforgery antiforgery, BrowserCookies browsers,
            House house) =>
        {
            browsers.Mark(http);
            var account = await users.GetUserAsync(http.User);
            return new Me(account?.Id, account?.Name, account?.Email, antiforgery.GetAndStoreTokens(http).RequestToken!, account?.IsKeeper
                ?? false, house.NeedsSetUp, house.WarnsOfDemo, account?.Settings);
        });
        var ways = api.MapGroup("").RequireRateLimiting(SecuritySetup.SignIn);
        ways.MapPost("/sign-in", WithPassword);
        ways.MapPost("/sign-in/code", WithCode);
        ways.MapPost("/sign-in/passkey/options", async (CourtSignIn signIn) =>
            Results.Content(await signIn.MakePasskeyRequestOptionsAsync(null), "application/json"));
        ways.MapPost("/sign-in/passkey", async (PasskeyProof proof, CourtSignIn signIn) =>
        {
            if (string.IsNullOrEmpty(proof.Credential)) return Problems.Of("notUnderstood", 400);
            try
            {
                var result = await signIn.PasskeySignInAsync(proof.Credential);
                return result.Succeeded ? Results.NoContent() : Problems.Of(result.IsNotAllowed ? "accountClosed" : "passkeyWrong", 401);
            }
            catch (InvalidOperationException)
            {
                // There was no question that this could answer, or it was answered already.
                return Problems.Of("passkeyWrong", 401);
            }
        });
        api.MapPost("/sign-out", async (CourtSignIn signIn) =>
        {
            await signIn.SignOutAsync();
            return Results.NoContent();
        });
        ways.MapPost("/set-up", async (SetUpWish wish, Keeping keeping, CourtSignIn signIn, CodeGuard guard,
            BrowserCookies browsers, HttpContext http) =>
        {
            if (wish.Name is null || wish.Email is null || wish.Password is null) return Problems.Of("notUnderstood", 400);
            var (browser, address) = (browsers.Guesser(http), ClientAddress.Of(http));
            if (guard.SlowsDown(browser, address, out var wait))
                return Problems.Of("passcodeWait", 429, new Dictionary<string, object?> { ["seconds"] = wait });
            var (made, reason) = await keeping.SetUp(wish.Code, wish.Name, wish.Email, wish.Password, wish.Language);
            if (reason is not "setUpCodeWrong") guard.WasRight(browser, address);
            if (made is null) return Problems.Of(reason!, reason is "setUpCodeWrong" or "setUpDone" ? 403 : 400);
            await signIn.SignInAsync(made, isPersistent: true);
            return Results.NoContent();
        });
        api.MapPost("/forgot", (ForgotWish wish, Letters letters) =>
        {
            if (wish.Email is not { Length: > 0 and < 300 }) return Problems.Of("emailNotUnderstood", 400);
            // Answered before it is looked up, so that neither the answer nor its time tells who has an account.
            letters.Forgot(wish.Email);
            return Results.NoContent();
        }).RequireRateLimiting(SecuritySetup.Letters);
        ways.MapPost("/reset", Reset);
        ways.MapPost("/confirm", async (ConfirmWish wish, UserManager<Account> users, HouseMail mail) =>
        {
            if (await Named(users, wish.Account, wish.Token) is not { } account) return Problems.Of("linkGone", 404);
            if (wish.Email is null)
                return (await users.ConfirmEmailAsync(account, wish.Token!)).Succeeded ? Results.NoContent() : Problems.Of("linkGone", 404);
            var before = account.Email!;
            var result = await users.ChangeEmailAsync(account, wish.Email, wish.Token!);
            if (!result.Succeeded) return Problems.Of(Keeping.ReasonOf(result), 404);
            await users.SetUserNameAsync(account, wish.Email);
            await mail.Send(HouseLetter.AddressMoves, before, account.Name, account.Language, null, wish.Email);
            return Results.NoContent();
        });
        ways.MapPost("/join/look", async (InvitationLook look, Keeping keeping) =>
            await keeping.Invitation(look.Token) is { } invitation
                ? Results.Ok(new InvitationPage(invitation.Email, invitation.Name))
                : Problems.Of("invitationGone", 404));
        ways.MapPost("/join", async (JoinWish wish, Keeping keeping, CourtSignIn signIn) =>
        {
            if (wish.Name is null || wish.Password is null) return Problems.Of("notUnderstood", 400);
            var (made, reason) = await keeping.Join(wish.Token, wish.Name, wish.Password, wish.Language);
            if (made is null) return Problems.Of(reason!, reason == "invitationGone" ? 404 : 400);
            await signIn.SignInAsync(made, isPersistent: true);
            return Results.NoContent();
        });
        api.MapPost("/password-strength", (StrengthWish wish) =>
            new StrengthRow(wish.Password is { Length: <= PasswordStrength.Longest } password
                ? PasswordStrength.Of(password, wish.Name, wish.Email)
                : Strength.Weak)).RequireRateLimiting(SecuritySetup.Strength).InTurn(Lane.Quick);
    }

    private static async Task<IResult> WithPassword(SignIn wish, CourtSignIn signIn, UserManager<Account> users, SignInGuard guard,
        FailedSignIns failed, HttpContext http)
    {
        if (wish.Email is not { Length: > 0 and < 300 } || wish.Password is not { Length: > 0 and < 300 })
            return Problems.Of("signInEmpty", 400);
        if (guard.Begin(http, wish.Email) is { } wait) return Wait("signInWait", wait);
        signIn.IsKnownBrowser = guard.IsKnown(http, wish.Email);
        var account = await users.FindByNameAsync(wish.Email.Trim());
        if (account is null || (!signIn.IsKnownBrowser && await users.IsLockedOutAsync(account)))
        {
            await guard.PretendToCheck(http, wish.Password);
            return Problems.Of("signInWrong", 401);
        }
        var result = await signIn.PasswordSignInAsync(account, wish.Password, isPersistent: true, lockoutOnFailure: false);
        if (result.RequiresTwoFactor) return Results.Ok(new SignedIn(true));
        if (result.IsNotAllowed) return Problems.Of("accountClosed", 403);
        if (!result.Succeeded)
        {
            if (!signIn.IsKnownBrowser) failed.Note(account.Id);
            return Problems.Of("signInWrong", 401);
        }
        guard.Remember(http, wish.Email);
        return Results.Ok(new SignedIn(false));
    }

    private static async Task<IResult> WithCode(SecondStep step, CourtSignIn signIn, SignInGuard guard, UsedCodes used, HttpContext http)
    {
        if (await signIn.GetTwoFactorAuthenticationUserAsync() is not { } account) return Problems.Of("secondStepOver", 401);
        if (guard.BeginCode(http, account.Id) is { } wait) return Wait("signInWait", wait);
        // The password was shown, and codes have a limit of their own.
        signIn.IsKnownBrowser = true;
        var code = step.Recovery ? step.Code?.Trim() ?? "" : UsedCodes.Clean(step.Code);
        if (code.Length is 0 or > 40 || (!step.Recovery && !await used.Use(account.Id, code))) return Problems.Of("codeWrong", 401);
        var result = step.Recovery
            ? await signIn.TwoFactorRecoveryCodeSignInAsync(code.ToUpperInvariant())
            : await signIn.TwoFactorAuthenticatorSignInAsync(code, isPersistent: true, rememberClient: false);
        if (!result.Succeeded) return Problems.Of(result.IsNotAllowed ? "accountClosed" : "codeWrong", 401);
        guard.Remember(http, account.Email!);
        return Results.NoContent();
    }

    private static async Task<IResult> Reset(ResetWish wish, UserManager<Account> users, SignIns signIns, HouseMail mail, HeavyWork heavy)
    {
        if (wish.Password is null) return Problems.Of("notUnderstood", 400);
        if (await Named(users, wish.Account, wish.Token) is not { } account) return Problems.Of("linkGone", 404);
        if (await heavy.Run(Lane.Quick, account.Id, () => PasswordStrength.Refuses(wish.Password, account.Name, account.Email))
            is { } weak) return Problems.Of(weak, 400);
        var result = await users.ResetPasswordAsync(account, wish.Token!, wish.Password);
        if (!result.Succeeded) return Problems.Of(Keeping.ReasonOf(result), 404);
        // Whoever reads the account's mail is let in again, whoever has guessed meanwhile.
        await users.SetLockoutEndDateAsync(account, null);
        await users.ResetAccessFailedCountAsync(account);
        await signIns.EndAll(account.Id);
        await mail.Send(HouseLetter.PasswordChanged, account.Email!, account.Name, account.Language);
        return Results.NoContent();
    }

    private static async Task<Account?> Named(UserManager<Account> users, string? id, string? token) =>
        id is { Length: > 0 and < 100 } && token is { Length: > 0 and < LongestLink } ? await users.FindByIdAsync(id) : null;

    public static IResult Wait(string reason, TimeSpan wait) =>
        Problems.Of(reason, 429, new Dictionary<string, object?> { ["seconds"] = (int)Math.Ceiling(wait.TotalSeconds) });
}
