using HoldCourt.Server.Security;
using HoldCourt.Server.Admission;

namespace HoldCourt.Server.Api;

public enum DoorPhase { NotOpen, Open, Over }

/// <summary>What the button of the check page will do.</summary>
public enum EntryKind { EnterAsHost, EnterAsDeputy, WalkIn, Announce }

/// <summary>What somebody who came by the link may know before entering.</summary>
/// <param name="Sitting">The sitting that runs; null when none does.</param>
/// <param name="Preparing">The bench is inside, and the session not open to others yet.</param>
/// <param name="InvitationGone">The personal link is not valid any more; one may still come as anybody may.</param>
/// <param name="OnRecord">Whether it is being recorded.</param>
/// <param name="Session">For those whose session it is.</param>
/// <param name="HoldsSeat">This browser holds a seat already: no need to ask again.</param>
public sealed record DoorPage(
    string Title, string? HostName, Instant? StartsAt, DoorPhase Phase, Guid? Sitting, EntryKind Entry, bool HoldsSeat, bool Barred,
    bool NeedsPasscode,
    DoorLock? Lock, string? KnownName, bool HasHostKey, bool Preparing, bool Cancelled, bool InvitationGone, Guid? Session,
    OnRecord OnRecord = OnRecord.No);

/// <param name="Passcode">The passcode of attendees, or the host key: which one it is decides the role.</param>
/// <param name="Invitation">The token of a personal link.</param>
public sealed record AnnounceWish(string? Name, string? Passcode = null, string? Invitation = null);

/// <param name="Token">Of a personal link.</param>
public sealed record ShownLink(string? Token);

public sealed record Announcement(Guid Sitting);

internal static class DoorEndpoints
{
    /// <summary>Links of before stood whole in the address: from the first answer on the token is in the part that is not sent.</summary>
    public static void MapOldLinks(this IEndpointRouteBuilder pages)
    {
        pages.MapGet("/s/{link}/{token}", (string link, string token) => Onward($"/s/{Uri.EscapeDataString(link)}", token));
        pages.MapGet("/answer/{token}", (string token) => Onward("/answer", token));

        static IResult Onward(string path, string token) => Results.Redirect($"{path}#{Uri.EscapeDataString(token)}");
    }

    public static void MapDoor(this IEndpointRouteBuilder api)
    {
        var door = api.MapGroup("/door/{link}").RequireRateLimiting(SecuritySetup.Door);
        door.MapGet("/", async (string link, HttpContext http, Doorstep doorstep) =>
            await doorstep.Find(link) is { } found ? Results.Ok(await doorstep.Page(found, null, http)) : Problems.Of("noSuchLink", 404));
        // A personal link is shown in the body of a request, which nobody writes down, and is known by a cookie from then on.
        door.MapPost("/invitation", async (string link, ShownLink shown, HttpContext http, Doorstep doorstep) =>
            await doorstep.Find(link) is not { } found ? Problems.Of("noSuchLink", 404)
            : shown.Token is not { Length: > 0 and < 100 } ? Problems.Of("notUnderstood", 400)
            : Results.Ok(await doorstep.Page(found, shown.Token, http)));
        // Whoever waits for the session to open asks nothing meanwhile.
        api.MapGet("/door/{link}/stream", (string link, HttpContext http, Doorstep doorstep, IHostApplicationLifetime lifetime) =>
        {
            var ends = CancellationTokenSource.CreateLinkedTokenSource(http.RequestAborted, lifetime.ApplicationStopping);
            http.Response.RegisterForDispose(ends);
            return TypedResults.ServerSentEvents(doorstep.Watch(link, ends.Token));
        }).RequireRateLimiting(SecuritySetup.Waiting);
        door.MapPost("/announce", async (string link, AnnounceWish wish, HttpContext http, Doorstep doorstep) =>
            await doorstep.Find(link) is { } found ? await doorstep.Announce(found, wish, http) : Problems.Of("noSuchLink", 404));
    }
}
