using HoldCourt.Server.Security;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Api;

/// <summary>Who is signed in; null for guests. The token goes back in the X-Csrf header of every change.</summary>
public sealed record Me(string? Name, string? Email, string Token);

public sealed record SignIn(string Email, string Password);

internal static class AccountEndpoints
{
    public static void MapAccount(this IEndpointRouteBuilder api)
    {
        api.MapGet("/me", async (HttpContext http, UserManager<Account> users, IAntiforgery antiforgery) =>
        {
            var account = await users.GetUserAsync(http.User);
            return new Me(account?.Name, account?.Email, antiforgery.GetAndStoreTokens(http).RequestToken!);
        });
        api.MapPost("/sign-in", async (SignIn wish, SignInManager<Account> signIn, UserManager<Account> users, SignInGuard guard, HttpContext http) =>
        {
            if (wish.Email is not { Length: > 0 and < 300 } || wish.Password is not { Length: > 0 and < 300 }) return Problems.Of("signInEmpty", 400);
            if (guard.Begin(http, wish.Email) is { } wait)
                return Problems.Of("signInWait", 429, new Dictionary<string, object?> { ["seconds"] = (int)Math.Ceiling(wait.TotalSeconds) });
            if (await users.FindByNameAsync(wish.Email.Trim()) is not { } account)
            {
                guard.PretendToCheck(wish.Password);
                return Problems.Of("signInWrong", 401);
            }
            if (!(await signIn.PasswordSignInAsync(account, wish.Password, isPersistent: true, lockoutOnFailure: false)).Succeeded) return Problems.Of("signInWrong", 401);
            guard.Remember(http, wish.Email);
            return Results.NoContent();
        }).RequireRateLimiting(SecuritySetup.SignIn);
        api.MapPost("/sign-out", async (SignInManager<Account> signIn) =>
        {
            await signIn.SignOutAsync();
            return Results.NoContent();
        });
    }
}
