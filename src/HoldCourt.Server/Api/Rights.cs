using HoldCourt.Server.Accounts;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Api;

/// <summary>What a request must show beside being signed in.</summary>
internal static class Rights
{
    /// <summary>Asks for the password again where the last proof is older than a few minutes: an open browser is not enough.</summary>
    public static TBuilder RequireProof<TBuilder>(this TBuilder builder) where TBuilder : IEndpointConventionBuilder =>
        builder.AddEndpointFilter(async (context, next) =>
        context.HttpContext.RequestServices.GetRequiredService<SignIns>().IsProved(context.HttpContext.User)
            ? await next(context)
            : Problems.Of("proofNeeded", 403));

    /// <summary>For the keeper alone, as the accounts stand at this moment.</summary>
    public static TBuilder RequireKeeper<TBuilder>(this TBuilder builder) where TBuilder : IEndpointConventionBuilder =>
        builder.AddEndpointFilter(async (context, next) =>
        await context.HttpContext.RequestServices.GetRequiredService<UserManager<Account>>()
            .GetUserAsync(context.HttpContext.User) is { IsKeeper: true } ? await next(context) : Problems.Of("keeperOnly", 403));
}
