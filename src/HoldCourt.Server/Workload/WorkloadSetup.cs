using System.Globalization;
using System.Security.Claims;
using HoldCourt.Server.Api;
using HoldCourt.Server.Security;
using HoldCourt.Store;

namespace HoldCourt.Server.Workload;

internal static class WorkloadSetup
{
    /// <summary>A database that is waited for, up to 8 s, holds up threads of the pool: so many more stand ready, so that what else
    /// happens meanwhile does not wait for new ones, of which two come in a second.</summary>
    private const int ThreadsReady = 64;

    public static IServiceCollection AddWorkload(this IServiceCollection services)
    {
        ThreadPool.GetMinThreads(out _, out var completion);
        ThreadPool.SetMinThreads(ThreadsReady, completion);
        return services.AddSingleton<HeavyWork>().AddSingleton<Supervisor>()
            .AddSingleton(_ => new RequestTurns(2 * Environment.ProcessorCount, ThreadsReady));
    }

    /// <summary>Requests are answered in turn. What stays open for long, the live line and its like, is not one of them.</summary>
    public static void UseTurns(this WebApplication app, params PathString[] lasting)
    {
        var turns = app.Services.GetRequiredService<RequestTurns>();
        app.Use((http, next) =>
            Array.Exists(lasting, path => http.Request.Path.StartsWithSegments(path)) ? next(http) : turns.Run(() => next(http)));
    }

    /// <summary>What is turned away says when to come again; what could not be written down says so.</summary>
    public static void UseBusy(this WebApplication app) => app.Use(async (http, next) =>
    {
        try { await next(http); }
        catch (BusyException busy) when (!http.Response.HasStarted)
        {
            http.Response.Headers.RetryAfter = busy.Seconds.ToString(CultureInfo.InvariantCulture);
            await Problems.Of("busy", StatusCodes.Status429TooManyRequests,
                new Dictionary<string, object?> { ["seconds"] = busy.Seconds }).ExecuteAsync(http);
        }
        catch (Exception e) when (!http.Response.HasStarted && StoreFailure.Is(e))
        {
            http.RequestServices.GetRequiredService<Supervisor>().Note("store", e);
            await Problems.Of("notStored", StatusCodes.Status503ServiceUnavailable).ExecuteAsync(http);
        }
    });

    /// <summary>The answer is worked out in its turn, where it takes nobody's processor. What comes in a body must have come before.
    /// </summary>
    public static TBuilder InTurn<TBuilder>(this TBuilder endpoint, Lane lane) where TBuilder : IEndpointConventionBuilder =>
        endpoint.AddEndpointFilter<TBuilder>(async (context, next) =>
        {
            var http = context.HttpContext;
            return await http.RequestServices.GetRequiredService<HeavyWork>().Run(lane, AskerOf(http),
                () => next(context).AsTask(), isStranger: http.User.Identity is not { IsAuthenticated: true });
        });

    /// <summary>An account, or else a browser.</summary>
    public static string AskerOf(HttpContext http, BrowserCookies browsers) =>
        http.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? browsers.Guesser(http);

    /// <summary>An account, or the address that it comes from.</summary>
    public static string AskerOf(HttpContext http) =>
        http.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? ClientAddress.Of(http);
}
