using System.Threading.RateLimiting;
using HoldCourt.Server.Api;
using Microsoft.AspNetCore.Antiforgery;

namespace HoldCourt.Server.Security;

internal static class SecuritySetup
{
    public const string SignIn = "sign-in", Letters = "letters", Strength = "strength", Door = "door", Waiting = "waiting";

    /// <summary>For files as somebody brought them: nothing in them runs on this site.</summary>
    public const string RawFile = "raw-file";

    /// <summary>Most pages of one address that wait at doors.</summary>
    private const int MostWaiting = 1_500;

    public static IServiceCollection AddSecurity(this IServiceCollection services) => services
        .AddSingleton<SeatCookies>()
        .AddSingleton<BrowserCookies>()
        .AddSingleton<CodeGuard>()
        .AddSingleton<SeatLimits>()
        .AddSingleton<SignInGuard>()
        .AddAntiforgery(options =>
        {
            options.HeaderName = "X-Csrf";
            options.Cookie.Name = "hold-court-csrf";
            options.Cookie.SameSite = SameSiteMode.Strict;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        })
        .AddSecurityHeaderPolicies(policies => policies.AddPolicy(RawFile, policy => policy
            .AddDefaultSecurityHeaders()
            .RemoveServerHeader()
            .AddContentSecurityPolicy(content =>
            {
                content.AddDefaultSrc().None();
                content.AddSandbox();
                content.AddFrameAncestors().None();
            })))
        .AddRateLimiter(options =>
        {
            options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            options.OnRejected = (context, _) => new ValueTask(Problems.Of("tooManyTries", 429).ExecuteAsync(context.HttpContext));
            // Behind one address there may be a whole office; guessing has limits of its own.
            options.AddPolicy(SignIn, http => Bucket(http, 60, 1));
            options.AddPolicy(Letters, http => Bucket(http, 20, 1));
            // Each takes some twenty milliseconds.
            options.AddPolicy(Strength, http => Bucket(http, 40, 2));
            options.AddPolicy(Door, http => Bucket(http, 3_000, 50));
            options.AddPolicy(Waiting, http =>
                RateLimitPartition.GetConcurrencyLimiter(ClientAddress.Of(http), _ =>
                new ConcurrencyLimiterOptions { PermitLimit = MostWaiting }));
        });

    private static RateLimitPartition<string> Bucket(HttpContext http, int burst, int eachSecond) =>
        RateLimitPartition.GetTokenBucketLimiter(ClientAddress.Of(http), _ => new TokenBucketRateLimiterOptions
        {
            TokenLimit = burst,
            TokensPerPeriod = eachSecond,
            ReplenishmentPeriod = TimeSpan.FromSeconds(1),
            AutoReplenishment = true
        });

    public static void UseSecurity(this WebApplication app)
    {
        app.UseSecurityHeaders(new HeaderPolicyCollection()
            .AddDefaultSecurityHeaders()
            .RemoveServerHeader()
            .AddPermissionsPolicy(policy =>
            {
                policy.AddCamera().Self();
                policy.AddMicrophone().Self();
                policy.AddDisplayCapture().Self();
                policy.AddGeolocation().None();
            })
            .AddCrossOriginOpenerPolicy(policy => policy.SameOrigin())
            .AddContentSecurityPolicy(policy =>
            {
                policy.AddDefaultSrc().Self();
                policy.AddScriptSrc().Self();
                policy.AddWorkerSrc().Self();
                policy.AddStyleSrc().Self();
                policy.AddImgSrc().Self().Data().Blob();
                policy.AddMediaSrc().Self().Blob();
                policy.AddConnectSrc().Self();
                policy.AddObjectSrc().None();
                policy.AddBaseUri().None();
                policy.AddFormAction().Self();
                policy.AddFrameAncestors().None();
            }));
        app.Use(OnlyFromHere);
    }

    /// <summary>After authentication: the token belongs to who is signed in.</summary>
    public static void UseCsrfToken(this WebApplication app) => app.Use(OnlyWithToken);

    /// <summary>A page of another site must not open sockets with this site's cookies.</summary>
    private static Task OnlyFromHere(HttpContext http, RequestDelegate next)
    {
        var socket = http.Request.Path.StartsWithSegments("/live") || http.Request.Path.StartsWithSegments("/media");
        return socket && http.Request.Headers.Origin is [{ Length: > 0 } origin]
            && !(Uri.TryCreate(origin, UriKind.Absolute, out var from) && from.Authority == http.Request.Host.Value
                && from.Scheme == http.Request.Scheme)
            ? Problems.Of("otherSite", 403).ExecuteAsync(http)
            : next(http);
    }

    private static async Task OnlyWithToken(HttpContext http, RequestDelegate next)
    {
        if (http.Request.Path.StartsWithSegments("/api") && !HttpMethods.IsGet(http.Request.Method)
            && !HttpMethods.IsHead(http.Request.Method)
            && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http))
        {
            await Problems.Of("staleToken", 400).ExecuteAsync(http);
            return;
        }
        await next(http);
    }
}
