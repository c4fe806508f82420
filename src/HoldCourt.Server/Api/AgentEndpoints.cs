using HoldCourt.Server.Lending;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Api;

/// <summary>What the agent beside a shared screen is started with.</summary>
/// <param name="Minutes">So long it is good, for one connection.</param>
public sealed record AgentCode(string Code, int Minutes);

internal static class AgentEndpoints
{
    public static void MapAgents(this IEndpointRouteBuilder api) =>
        api.MapPost("/sittings/{id:guid}/agent", async (Guid id, HttpContext http, SeatCookies cookies, IGrainFactory grains, Agents agents,
            SeatLimits limits) =>
        {
            if (cookies.Read(http, id) is not { } person) return Problems.Of("notInside", 403);
            if (!limits.File(id, person)) return Problems.Of("tooMany", 429);
            return await grains.In<ISittingScreens>(id).ScreenOf(person) is { } exhibit
                ? agents.Issue(id, person, exhibit) is { } code
                    ? Results.Ok(new AgentCode(code, (int)Agents.CodeLasts.TotalMinutes))
                    : Problems.Of("tooMany", 429)
                : Problems.Of("noScreenOpen", 409);
        });
}
