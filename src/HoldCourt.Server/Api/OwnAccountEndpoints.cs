using System.Text.Json;
using HoldCourt.Server.Accounts;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <param name="Id">In base64url.</param>
public sealed record PasskeyRow(string Id, string Name, Instant MadeAt);

/// <param name="Here">It is the browser that asks.</param>
public sealed record SignInRow(string Id, string? Device, string Address, Instant At, Instant SeenAt, bool Here);

/// <summary>One's own account.</summary>
/// <param name="RecoveryCodes">How many are left.</param>
/// <param name="Sessions">How many belong to this account, and would need somebody else.</param>
public sealed record AccountPage(
    string Name, string Email, bool EmailConfirmed, bool Keeper, bool HasCode, int RecoveryCodes,
    IReadOnlyList<PasskeyRow> Passkeys, IReadOnlyList<SignInRow> SignIns, int Sessions);

public sealed record NameWish(string? Name);

public sealed record EmailWish(string? Email);

public sealed record PasswordWish(string? Password);

/// <param name="Key">The secret in base32, to be typed where no picture can be read.</param>
/// <param name="Address">An otpauth address for a QR code.</param>
public sealed record CodeSecret(string Key, string Address);

public sealed record CodeWish(string? Code);

public sealed record RecoveryCodes(IReadOnlyList<string> Codes);

/// <param name="Heir">Whose the sessions are from then on; null deletes them.</param>
public sealed record GoWish(string? Heir);

public sealed record SettingsWish(string? Settings, string? Language);

/// <summary>Somebody else who hosts here.</summary>
public sealed record ColleagueRow(string Id, string Name);

/// <summary>What a host does with the own account.</summary>
internal static class OwnAccountEndpoints
{
    private const int RecoveryCodeCount = 10, MostPasskeys = 20, LongestPasskeyName = 60;

    public static void MapOwnAccount(this IEndpointRouteBuilder api)
    {
        var own = api.MapGroup("/account").RequireAuthorization();
        own.MapGet("/", async (HttpContext http, UserManager<Account> users, SignIns signIns, IDbContextFactory<CourtDb> databases) =>
        {
            if (await users.GetUserAsync(http.User) is not { } account) return Problems.Of("signInNeeded", 401);
            await using var db = await databases.CreateDbContextAsync();
            var passkeys = (await users.GetPasskeysAsync(account)).OrderBy(passkey => passkey.CreatedAt)
                .Select(passkey => new PasskeyRow(WebEncoders.Base64UrlEncode(passkey.CredentialId), passkey.Name
                ?? "", new Instant(passkey.CreatedAt.ToUnixTimeMilliseconds()))).ToList();
            return Results.Ok(new AccountPage(account.Name, account.Email!, account.EmailConfirmed, account.IsKeeper,
                account.TwoFactorEnabled, account.TwoFactorEnabled ? await users.CountRecoveryCodesAsync(account) : 0, passkeys,
                [.. signIns.Of(account.Id)
                    .Select(one => new SignInRow(PublicIdOf(one), one.Device, one.Address, new Instant(one.At), new Instant(one.SeenAt),
                    one.Id == SignIns.IdOf(http.User)))],
                await db.Sessions.CountAsync(session => session.OwnerId == account.Id)));
        });
        own.MapPost("/prove", Prove).RequireRateLimiting(SecuritySetup.SignIn);
        own.MapPut("/name", (NameWish wish, HttpContext http, UserManager<Account> users) => With(http, users, async account =>
        {
            if (PersonName.Refuses(wish.Name) is { } bad) return Problems.Of(bad);
            account.Name = PersonName.Tidy(wish.Name!);
            return Of(await users.UpdateAsync(account));
        }));
        own.MapPut("/settings", async (SettingsWish wish, HttpContext http,
            UserManager<Account> users, IDbContextFactory<CourtDb> databases) =>
        {
            if (wish.Settings is not { Length: <= Account.LongestSettings } settings || !IsObject(settings))
                return Problems.Of("notUnderstood", 400);
            await using var db = await databases.CreateDbContextAsync();
            var id = users.GetUserId(http.User);
            var language = wish.Language is { } asked && Texts.ServerTexts.Knows(asked) ? asked : "en";
            await db.Users.Where(account => account.Id == id)
                .ExecuteUpdateAsync(set => set.SetProperty(account => account.Settings, settings)
                .SetProperty(account => account.Language, language));
            return Results.NoContent();
        });
        own.MapPost("/email", (EmailWish wish, HttpContext http, UserManager<Account> users, Letters letters, SignInGuard guard) =>
            With(http, users, async account =>
        {
            var to = wish.Email?.Trim() ?? "";
            if (!Mail.IsAddress(to)) return Problems.Of("emailNotUnderstood", 400);
            if (string.Equals(to, account.Email, StringComparison.OrdinalIgnoreCase)) return Problems.Of("noChange", 409);
            if (!guard.MayWriteTo(to) || !guard.MayWriteTo(account.Id)) return Problems.Of("tooManyTries", 429);
            // An address that somebody else has is answered like any other, and gets no message.
            if (await users.FindByEmailAsync(to) is null) await letters.Move(users, account, to);
            return Results.NoContent();
        })).RequireProof();
        own.MapPost("/email/confirm", (HttpContext http, UserManager<Account> users, Letters letters, SignInGuard guard) =>
            With(http, users, async account =>
        {
            if (!guard.MayWriteTo(account.Email!)) return Problems.Of("tooManyTries", 429);
            if (!account.EmailConfirmed) await letters.Confirm(users, account);
            return Results.NoContent();
        }));
        own.MapPost("/password", (PasswordWish wish, HttpContext http, UserManager<Account> users, SignIns signIns, HouseMail mail,
            HeavyWork heavy) => With(http, users, async account =>
        {
            if (await heavy.Run(Lane.Quick, account.Id, () => PasswordStrength.Refuses(wish.Password, account.Name, account.Email))
                is { } weak) return Problems.Of(weak, 400);
            var result = await users.ResetPasswordAsync(account, await users.GeneratePasswordResetTokenAsync(account), wish.Password!);
            if (!result.Succeeded) return Of(result);
            await signIns.EndAll(account.Id, but: SignIns.IdOf(http.User));
            await mail.Send(HouseLetter.PasswordChanged, account.Email!, account.Name, account.Language);
            return Results.NoContent();
        })).RequireProof();
        MapCode(own.MapGroup("/code"));
        MapPasskeys(own.MapGroup("/passkeys"));
        own.MapPost("/sign-ins/{id}/end", async (string id, HttpContext http, UserManager<Account> users, SignIns signIns) =>
        {
            if (signIns.Of(users.GetUserId(http.User)!).FirstOrDefault(one => PublicIdOf(one) == id) is { } one) await signIns.End(one.Id);
            return Results.NoContent();
        });
        own.MapPost("/sign-ins/end-others", async (HttpContext http, UserManager<Account> users, SignIns signIns) =>
        {
            await signIns.EndAll(users.GetUserId(http.User)!, but: SignIns.IdOf(http.User));
            return Results.NoContent();
        });
        // Whether it may be had, before a download begins.
        own.MapGet("/archive", () => Results.NoContent()).RequireProof();
        own.MapGet("/archive.zip", (HttpContext http, UserManager<Account> users, OwnData data) => With(http, users, async account =>
        {
            var archive = await data.Archive(account, http.RequestAborted);
            return Results.File(archive, "application/zip", "hold-court-my-data.zip");
        })).RequireProof();
        own.MapPost("/close", (GoWish wish, HttpContext http, UserManager<Account> users, Keeping keeping, CourtSignIn signIn) =>
            With(http, users, async account =>
        {
            if (await keeping.Remove(account.Id, wish.Heir) is { } reason) return Problems.Of(reason, 409);
            await signIn.SignOutAsync();
            return Results.NoContent();
        })).RequireProof();
        // Those whom a session can be shared with, or left to.
        api.MapGet("/colleagues",
            async (HttpContext http, UserManager<Account> users, SignIns signIns, IDbContextFactory<CourtDb> databases) =>
        {
            await using var db = await databases.CreateDbContextAsync();
            var me = users.GetUserId(http.User);
            return (await db.Users.AsNoTracking().Where(account => account.Id != me && account.SuspendedAt == null)
                .OrderBy(account => account.Name).Select(account => new ColleagueRow(account.Id, account.Name)).ToListAsync())
                .Where(row => !signIns.IsClosed(row.Id)).ToList();
        }).RequireAuthorization();
    }

    private static void MapCode(RouteGroupBuilder code)
    {
        code.MapPost("/begin", (HttpContext http, UserManager<Account> users) => With(http, users, async account =>
        {
            if (account.TwoFactorEnabled) return Problems.Of("codeIsOn", 409);
            await users.ResetAuthenticatorKeyAsync(account);
            var key = (await users.GetAuthenticatorKeyAsync(account))!;
            return Results.Ok(new CodeSecret(key,
                $"otpauth://totp/{Uri.EscapeDataString($"Hold Court:{account.Email}")}?secret={key}&"
                    + $"issuer={Uri.EscapeDataString("Hold Court")}&digits=6"));
        })).RequireProof();
        code.MapPost("/confirm",
            (CodeWish wish, HttpContext http, UserManager<Account> users, UsedCodes used, SignInGuard guard, HouseMail mail) =>
            With(http, users, async account =>
        {
            if (account.TwoFactorEnabled) return Problems.Of("codeIsOn", 409);
            if (guard.BeginCode(http, account.Id) is { } wait) return AccountEndpoints.Wait("signInWait", wait);
            var typed = UsedCodes.Clean(wish.Code);
            if (!await users.VerifyTwoFactorTokenAsync(account, TokenOptions.DefaultAuthenticatorProvider, typed)
                || !await used.Use(account.Id, typed)) return Problems.Of("codeWrong", 400);
            await users.SetTwoFactorEnabledAsync(account, true);
            await mail.Send(HouseLetter.SecondOn, account.Email!, account.Name, account.Language);
            return Results.Ok(new RecoveryCodes([.. (await users.GenerateNewTwoFactorRecoveryCodesAsync(account, RecoveryCodeCount))!]));
        })).RequireProof();
        code.MapPost("/recovery", (HttpContext http, UserManager<Account> users) => With(http, users, async account =>
            account.TwoFactorEnabled
                ? Results.Ok(new RecoveryCodes([.. (await users.GenerateNewTwoFactorRecoveryCodesAsync(account, RecoveryCodeCount))!]))
                : Problems.Of("codeIsOff", 409))).RequireProof();
        code.MapDelete("/", (HttpContext http, UserManager<Account> users, Keeping keeping) => With(http, users, async account =>
        {
            await keeping.TurnSecondOff(account);
            return Results.NoContent();
        })).RequireProof();
    }

    private static void MapPasskeys(RouteGroupBuilder passkeys)
    {
        passkeys.MapPost("/options", (HttpContext http, UserManager<Account> users, CourtSignIn signIn) =>
            With(http, users, async account =>
            Results.Content(await signIn.MakePasskeyCreationOptionsAsync(
                new PasskeyUserEntity { Id = account.Id, Name = account.Email!, DisplayName = account.Name }), "application/json")))
                .RequireProof();
        passkeys.MapPost("/", (PasskeyProof proof, HttpContext http, UserManager<Account> users, CourtSignIn signIn, HouseMail mail) =>
            With(http, users, async account =>
        {
            if (string.IsNullOrEmpty(proof.Credential)) return Problems.Of("notUnderstood", 400);
            if ((await users.GetPasskeysAsync(account)).Count >= MostPasskeys) return Problems.Of("tooMany", 400);
            try
            {
                var made = await signIn.PerformPasskeyAttestationAsync(proof.Credential);
                // The question must have been asked for this very account.
                if (!made.Succeeded || made.UserEntity.Id != account.Id) return Problems.Of("passkeyNotMade", 400);
                var name = Bounds.Clean(proof.Name, lines: false);
                made.Passkey.Name = name.Length is 0 or > LongestPasskeyName ? null : name;
                var added = await users.AddOrUpdatePasskeyAsync(account, made.Passkey);
                if (added.Succeeded) await mail.Send(HouseLetter.PasskeyAdded, account.Email!, account.Name, account.Language);
                return Of(added);
            }
            catch (InvalidOperationException)
            {
                return Problems.Of("passkeyNotMade", 400);
            }
        })).RequireProof();
        passkeys.MapDelete("/{id}", (string id, HttpContext http, UserManager<Account> users) => With(http, users, async account =>
        {
            byte[] credential;
            try { credential = WebEncoders.Base64UrlDecode(id); }
            catch (FormatException) { return Problems.Of("noSuchAddress", 404); }
            return Of(await users.RemovePasskeyAsync(account, credential));
        })).RequireProof();
    }

    /// <summary>The person shows once more who they are.</summary>
    private static Task<IResult> Prove(PasswordWish wish, HttpContext http, UserManager<Account> users, SignIns signIns,
        SignInGuard guard) => With(http, users, async account =>
    {
        if (wish.Password is not { Length: > 0 and < 300 }) return Problems.Of("signInEmpty", 400);
        if (guard.Begin(http, account.Email!) is { } wait) return AccountEndpoints.Wait("signInWait", wait);
        if (!await users.CheckPasswordAsync(account, wish.Password)) return Problems.Of("passwordWrong", 403);
        await signIns.Prove(http.User);
        return Results.NoContent();
    });

    /// <summary>The cookie's own id stays out of pages.</summary>
    private static string PublicIdOf(SignInRecord record) => Keeping.HashOf(record.Id)[..16];

    private static async Task<IResult> With(HttpContext http, UserManager<Account> users, Func<Account, Task<IResult>> what) =>
        await users.GetUserAsync(http.User) is { } account ? await what(account) : Problems.Of("signInNeeded", 401);

    private static IResult Of(IdentityResult result) => result.Succeeded ? Results.NoContent() : Problems.Of(Keeping.ReasonOf(result), 400);

    private static bool IsObject(string json)
    {
        try
        {
            using var parsed = JsonDocument.Parse(json, new JsonDocumentOptions { MaxDepth = 8 });
            return parsed.RootElement.ValueKind == JsonValueKind.Object;
        }
        catch (JsonException)
        {
            return false;
        }
    }
}
