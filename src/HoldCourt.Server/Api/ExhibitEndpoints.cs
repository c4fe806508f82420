using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Api;

/// <summary>What is to be put on the shelf: a file one has brought, or a paper of the session.</summary>
public sealed record BringWish(Guid? File, long? Paper);

/// <param name="Exhibit">Its number.</param>
public sealed record BroughtRow(int Exhibit);

/// <summary>Pages of exhibits, and files that become exhibits.</summary>
internal static class ExhibitEndpoints
{
    public static void MapExhibits(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/sittings/{id:guid}/exhibits");
        group.MapPost("/", async (Guid id, BringWish wish, HttpContext http, SeatCookies cookies, IGrainFactory grains, Bringing bringing,
            SeatLimits limits) =>
        {
            if (await FileEndpoints.Bringer(http, id, cookies, grains) is not { } seat) return Problems.Of("notInside", 403);
            if (seat.May.Shows is { } refusal) return Problems.Of(refusal);
            if (!limits.Search(id, seat.Person)) return Problems.Of("tooMany", 429);
            var brought = wish.Paper is { } paper
                ? await bringing.Paper(id, seat.Person, seat.May.Seat, paper)
                : await bringing.File(id, seat.Person, seat.May.Seat, wish.File ?? Guid.Empty);
            return brought switch
            {
                { Exhibit: { } number } => Results.Ok(new BroughtRow(number)),
                { Refusal: { } not } => Problems.Of(not),
                { Reason: "fileCannotBeShown" } => Problems.Of("fileCannotBeShown", 415),
                { Reason: { } reason } => Problems.Of(reason, reason is "noSuchFile" or "noSuchPaper" ? 404 : 400),
                _ => Problems.Of("serverFailed", 500)
            };
        });
        group.MapGet("/{number:int}/pages/{page:int}/{width:int}",
            async (Guid id, int number, int page, int width, HttpContext http, SeatCookies cookies, SeatLimits limits, IGrainFactory grains,
            KeptFiles files, PageStore pages) =>
        {
            if (cookies.Read(http, id) is not { } person
                || await grains.In<ISittingExhibits>(id).PagesFor(person, number, page) is not { } source)
                return Problems.Of("noSuchPage", 404);
            if (width != 0 && !PageMaker.Widths.Contains(width)) return Problems.Of("noSuchPage", 404);
            if (!limits.Page(id, person)) return Problems.Of("tooMany", 429);
            if (await files.Find(id, source.File) is not { } file) return Problems.Of("noSuchPage", 404);
            try
            {
                var path = await pages.Get(file, source.Secret, page, width);
                // Sealed, and never another under this address: the file's id stands in the query.
                http.Response.Headers.CacheControl = "private, max-age=86400, immutable";
                return Results.File(path, "application/octet-stream");
            }
            catch (PageException e)
            {
                return Problems.Of("pageNotMade", 500, new Dictionary<string, object?> { ["flaw"] = e.Flaw });
            }
        });
        group.MapGet("/{number:int}/pages.pdf", async (Guid id, int number, HttpContext http, SeatCookies cookies, SeatLimits limits,
            IGrainFactory grains, KeptFiles files, PageStore pages) =>
        {
            if (cookies.Read(http, id) is not { } person
                || await grains.In<ISittingExhibits>(id).ExportFor(person, number) is not { } source)
                return Problems.Of("noSuchExhibit", 404);
            if (!limits.File(id, person)) return Problems.Of("tooMany", 429);
            var file = source.Pages.File is { } kept ? await files.Find(id, Guid.Parse(kept)) : null;
            if (file is null && source.Pages.File is not null) return Problems.Of("noSuchFile", 404);
            try
            {
                return Results.File(
                    await pages.Export(file, source.Pages, source.Marks, http.RequestAborted), "application/pdf", $"{source.Name}.pdf");
            }
            catch (PageException e)
            {
                return Problems.Of("pageNotMade", 500, new Dictionary<string, object?> { ["flaw"] = e.Flaw });
            }
        });
        group.MapGet("/{number:int}/marks", async (Guid id, int number, HttpContext http, SeatCookies cookies, SeatLimits limits,
            IGrainFactory grains) =>
        {
            http.Response.Headers.CacheControl = "no-store";
            if (cookies.Read(http, id) is { } asker && !limits.Page(id, asker)) return Problems.Of("tooMany", 429);
            return cookies.Read(http, id) is { } person && await grains.In<ISittingExhibits>(id).MarksFor(person, number) is { } marks
                ? Results.Ok(marks)
                : Problems.Of("noSuchExhibit", 404);
        });
    }
}
