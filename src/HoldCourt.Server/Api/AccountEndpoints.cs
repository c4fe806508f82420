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
        api.MapPost("/sign-in", async (SignIn wish, SignInManager<Account> signIn) =>
        {
            if (wish.Email is not { Length: > 0 and < 300 } || wish.Password is not { Length: > 0 and < 300 }) return Problems.Of("signInEmpty", 400);
            var result = await signIn.PasswordSignInAsync(wish.Email, wish.Password, isPersistent: true, lockoutOnFailure: true);
            return result.Succeeded ? Results.NoContent() : Problems.Of(result.IsLockedOut ? "signInLocked" : "signInWrong", 401);
        }).RequireRateLimiting(SecuritySetup.SignIn);
        api.MapPost("/sign-out", async (SignInManager<Account> signIn) =>
        {
            await signIn.SignOutAsync();
            return Results.NoContent();
        });
    }
}
