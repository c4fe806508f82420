using System.Threading.RateLimiting;
using HoldCourt.Server.Api;
using Microsoft.AspNetCore.Antiforgery;

namespace HoldCourt.Server.Security;

internal static class SecuritySetup
{
    public const string SignIn = "sign-in", Door = "door";

    public static IServiceCollection AddSecurity(this IServiceCollection services) => services
        .AddSingleton<SeatCookies>()
        .AddSingleton<PasscodeGuard>()
        .AddAntiforgery(options =>
        {
            options.HeaderName = "X-Csrf";
            options.Cookie.Name = "hold-court-csrf";
            options.Cookie.SameSite = SameSiteMode.Strict;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        })
        .AddRateLimiter(options =>
        {
            options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            options.OnRejected = (context, _) => new ValueTask(Problems.Of("tooManyTries", 429).ExecuteAsync(context.HttpContext));
            options.AddPolicy(SignIn, http => Window(http, 20));
            options.AddPolicy(Door, http => Window(http, 600));
        });

    private static RateLimitPartition<string> Window(HttpContext http, int perMinute) =>
        RateLimitPartition.GetFixedWindowLimiter(http.Connection.RemoteIpAddress?.ToString() ?? "", _ => new FixedWindowRateLimiterOptions
        {
            PermitLimit = perMinute,
            Window = TimeSpan.FromMinutes(1)
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
            && !(Uri.TryCreate(origin, UriKind.Absolute, out var from) && from.Authority == http.Request.Host.Value)
            ? Problems.Of("otherSite", 403).ExecuteAsync(http)
            : next(http);
    }

    private static async Task OnlyWithToken(HttpContext http, RequestDelegate next)
    {
        if (http.Request.Path.StartsWithSegments("/api") && !HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method)
            && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http))
        {
            await Problems.Of("staleToken", 400).ExecuteAsync(http);
            return;
        }
        await next(http);
    }
}
