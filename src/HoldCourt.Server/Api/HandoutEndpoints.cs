using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Api;

/// <summary>A file that one has sent is handed out.</summary>
/// <param name="To">Null for everyone inside.</param>
/// <param name="Prints">Meant to be printed.</param>
public sealed record HandoutWish(Guid File, SeatId? To, bool Prints);

/// <param name="Pages">How many there are to print.</param>
public sealed record PrintRow(int Pages);

/// <summary>Files that are handed out, for those who have taken them.</summary>
internal static class HandoutEndpoints
{
    public static void MapHandouts(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/sittings/{id:guid}/handouts");
        group.MapPost("/", async (Guid id, HandoutWish wish, HttpContext http, SeatCookies cookies, IGrainFactory grains, KeptFiles files,
            SeatLimits limits) =>
        {
            if (cookies.Read(http, id) is not { } person) return Problems.Of("notInside", 403);
            if (!limits.Search(id, person)) return Problems.Of("tooMany", 429);
            var handouts = grains.In<ISittingHandouts>(id);
            if (await handouts.Bringer(person) is not { Seat: var seat }) return Problems.Of("notInside", 403);
            if (await files.Find(id, wish.File) is not { } file || file.Seat != seat.Number || !files.IsWhole(file))
                return Problems.Of("noSuchFile", 404);
            return await handouts.HandOut(person, new GiveFile(
                file.Id.ToString(), file.Name, file.Size, FileKind.Of(files.PathOf(file.Id), file.Name).Sort, wish.To, wish.Prints))
                is { } no
                ? Problems.Of(no)
                : Results.NoContent();
        });
        // In pieces, too: whoever lost the connection goes on from where it broke.
        group.MapGet("/{number:int}/file", async (Guid id, int number, HttpContext http, SeatCookies cookies, IGrainFactory grains,
            KeptFiles files, SeatLimits limits) =>
        {
            if (await Taken(id, number, http, cookies, grains, files) is not { } taken) return Problems.Of("noSuchHandout", 404);
            if (!limits.Page(id, taken.Person)) return Problems.Of("tooMany", 429);
            http.Response.Headers.CacheControl = "no-store";
            return Results.File(files.PathOf(taken.File.Id), taken.File.ContentType, taken.File.Name, enableRangeProcessing: true,
                entityTag: new Microsoft.Net.Http.Headers.EntityTagHeaderValue($"\"{taken.File.Id:N}\""));
        }).WithSecurityHeadersPolicy(SecuritySetup.RawFile);
        group.MapGet("/{number:int}/print", async (Guid id, int number, HttpContext http, SeatCookies cookies, IGrainFactory grains,
            KeptFiles files, PageStore pages, SeatLimits limits) =>
        {
            if (await Taken(id, number, http, cookies, grains, files) is not { Prints: true } taken)
                return Problems.Of("noSuchHandout", 404);
            if (!limits.File(id, taken.Person)) return Problems.Of("tooMany", 429);
            try { return Results.Ok(new PrintRow(await pages.Count(taken.File, http.RequestAborted))); }
            catch (PageException e) { return NotMade(e); }
        });
        group.MapGet("/{number:int}/print/{page:int}", async (Guid id, int number, int page, HttpContext http, SeatCookies cookies,
            IGrainFactory grains, KeptFiles files, PageStore pages, SeatLimits limits) =>
        {
            if (await Taken(id, number, http, cookies, grains, files) is not { Prints: true } taken || page is < 1 or > Pages.Most)
                return Problems.Of("noSuchHandout", 404);
            if (!limits.Page(id, taken.Person)) return Problems.Of("tooMany", 429);
            http.Response.Headers.CacheControl = "no-store";
            try { return Results.File(await pages.ToPrint(taken.File, page), "image/webp"); }
            catch (PageException e) { return NotMade(e); }
        });
    }

    private static IResult NotMade(PageException e) =>
        Problems.Of("pageNotMade", 500, new Dictionary<string, object?> { ["flaw"] = e.Flaw });

    private sealed record TakenFile(PersonKey Person, Store.Files.FileRecord File, bool Prints);

    /// <summary>Null for whoever has neither given nor taken it.</summary>
    private static async Task<TakenFile?> Taken(
        Guid sitting, int number, HttpContext http, SeatCookies cookies, IGrainFactory grains, KeptFiles files) =>
        cookies.Read(http, sitting) is { } person
        && await grains.In<ISittingHandouts>(sitting).HandoutFor(person, number) is { } source
        && await files.Find(sitting, Guid.Parse(source.File)) is { } file && files.IsWhole(file)
            ? new TakenFile(person, file, source.Prints)
            : null;
}
