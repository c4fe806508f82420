using HoldCourt.Server.Ledger;
using System.Text.Json;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Rooms;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Api;

/// <summary>Plans of rooms as files: for hosts while they plan, and for the bench of a sitting.</summary>
internal static class RoomEndpoints
{
    /// <summary>In bytes; a thousand people and a hundred long tasks have room in it.</summary>
    private const int Largest = 1_000_000;

    public static void MapRooms(this IEndpointRouteBuilder api)
    {
        var plans = api.MapGroup("/rooms").RequireAuthorization();
        plans.MapPost("/read", async (HttpRequest request) => Read(await Uploads.Read(request)))
            .WithMetadata(Uploads.Limit);
        plans.MapPost("/rooms.csv", (RoomForm form) => RoomForm.Refuses(form) is { } refusal
            ? Problems.Of(refusal)
            : Results.File(RoomTable.Write(RoomForm.Clean(form)!), "text/csv", "rooms.csv"));
        var sitting = api.MapGroup("/sittings/{id:guid}").AddEndpointFilter(SittingEndpoints.TakesInTurn);
        sitting.MapPost("/rooms/read",
            async (Guid id, HttpContext http, SeatCookies cookies, IGrainFactory grains) =>
                cookies.Read(http, id) is { } person && await grains.In<ISittingLedger>(id).IsReadBy(person)
                    ? Read(await Uploads.Read(http.Request))
                    : Problems.Of("noSuchSitting", 404))
            .WithMetadata(Uploads.Limit);
        sitting.MapGet("/rounds.{format}", async (Guid id, string format, HttpContext http, SeatCookies cookies, IGrainFactory grains) =>
        {
            if (cookies.Read(http, id) is not { } person || await grains.In<ISittingRooms>(id).ExportRounds(person) is not { } rounds)
                return Problems.Of("noSuchSitting", 404);
            return format switch
            {
                "csv" => Results.File(RoomTable.Write(rounds), "text/csv", "rounds.csv"),
                "json" => Results.File(JsonSerializer.SerializeToUtf8Bytes(rounds, CoreJson.Options), "application/json", "rounds.json"),
                _ => Problems.Of("noSuchAddress", 404)
            };
        });
        sitting.MapGet("/rooms.csv", async (Guid id, HttpContext http, SeatCookies cookies, IGrainFactory grains) =>
            cookies.Read(http, id) is { } person && await grains.In<ISittingLedger>(id).IsReadBy(person)
                ? await grains.In<ISittingRooms>(id).ExportPlan(person) is { } form
                    ? Results.File(RoomTable.Write(form), "text/csv", "rooms.csv")
                    : Problems.Of("noRoomsPlanned", 404)
                : Problems.Of("noSuchSitting", 404));
    }

    private static IResult Read(byte[] bytes) => bytes.Length > Largest ? Problems.Of("tooLarge", 413) : RoomTable.Read(bytes) switch
    {
        ({ } rooms, _, _) => Results.Ok(rooms),
        (_, var flaw, { } line) => Problems.Of(flaw!, 400, new Dictionary<string, object?> { ["line"] = line }),
        (_, var flaw, _) => Problems.Of(flaw!, 400)
    };
}
