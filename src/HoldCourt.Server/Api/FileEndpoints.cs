using System.Globalization;
using System.Text;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;
using Microsoft.AspNetCore.Http.Features;

namespace HoldCourt.Server.Api;

/// <summary>
/// Files come by tus 1.0.0, core and creation: POST makes room for one, PATCH sends a piece from where the last one ended, HEAD tells
/// how much has come.
/// </summary>
internal static class FileEndpoints
{
    private const string Version = "1.0.0";

    public static void MapFiles(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/sittings/{id:guid}/files").AddEndpointFilter(async (context, next) =>
        {
            context.HttpContext.Response.Headers["Tus-Resumable"] = Version;
            context.HttpContext.Response.Headers.CacheControl = "no-store";
            try { return await next(context); }
            catch (DiskFullException) { return Problems.Of("diskFull", StatusCodes.Status507InsufficientStorage); }
        });
        group.MapPost("/", async (Guid id, HttpContext http, SeatCookies cookies, SeatLimits limits, IGrainFactory grains,
            KeptFiles files) =>
        {
            if (await Bringer(http, id, cookies, grains) is not { } seat) return Problems.Of("notInside", 403);
            var metadata = http.Request.Headers["Upload-Metadata"].ToString();
            // To be handed out rather than shown.
            var handsOut = ValueOf(metadata, "for") == "handout";
            if ((handsOut ? seat.May.HandsOut : seat.May.Shows) is { } refusal) return Problems.Of(refusal);
            if (!limits.Search(id, seat.Person)) return Problems.Of("tooMany", 429);
            if (!long.TryParse(http.Request.Headers["Upload-Length"], NumberStyles.None, CultureInfo.InvariantCulture, out var size)
                || ValueOf(metadata, "filename") is not { } name)
                return Problems.Of("notUnderstood", 400);
            var largest = handsOut ? Math.Min(files.Largest, seat.May.Rules.Largest) : files.Largest;
            var (file, reason) = size > largest ? (null, "tooLarge") : await files.Announce(id, seat.May.Seat, name, size);
            if (file is null)
                return Problems.Of(reason!, reason == "tooLarge" ? 413 : 400, new Dictionary<string, object?> { ["largest"] = largest });
            return Results.Created($"/api/sittings/{id}/files/{file.Id}", null);
        });
        group.MapMethods("/{file:guid}", ["HEAD"], async (Guid id, Guid file, HttpContext http, SeatCookies cookies, IGrainFactory grains,
            KeptFiles files) =>
        {
            if (await Own(http, id, file, cookies, grains, files) is not { } own) return Results.StatusCode(404);
            http.Response.Headers["Upload-Offset"] = files.Came(own).ToString(CultureInfo.InvariantCulture);
            http.Response.Headers["Upload-Length"] = own.Size.ToString(CultureInfo.InvariantCulture);
            return Results.Ok();
        });
        group.MapPatch("/{file:guid}", async (Guid id, Guid file, HttpContext http, SeatCookies cookies, IGrainFactory grains,
            KeptFiles files) =>
        {
            if (await Own(http, id, file, cookies, grains, files) is not { } own) return Problems.Of("noSuchFile", 404);
            if (http.Request.ContentType != "application/offset+octet-stream"
                || !long.TryParse(http.Request.Headers["Upload-Offset"], NumberStyles.None, CultureInfo.InvariantCulture, out var from))
                return Problems.Of("notUnderstood", 415);
            if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size) size.MaxRequestBodySize = null;
            long? taken;
            try { taken = await files.Take(own, from, http.Request.Body, http.RequestAborted); }
            catch (HarmfulFileException) { return Problems.Of("fileHarmful", 422); }
            if (taken is not { } came) return Problems.Of("fileGoesOnElsewhere", 409);
            http.Response.Headers["Upload-Offset"] = came.ToString(CultureInfo.InvariantCulture);
            return Results.NoContent();
        });
        group.MapDelete("/{file:guid}", async (Guid id, Guid file, HttpContext http, SeatCookies cookies, IGrainFactory grains,
            KeptFiles files) =>
        {
            if (await Own(http, id, file, cookies, grains, files) is not { ContentType: null } own) return Problems.Of("noSuchFile", 404);
            await files.Drop(own);
            return Results.NoContent();
        });
    }

    internal sealed record Bringing(PersonKey Person, BringerRow May);

    /// <summary>Who is inside, and what they may do with a file; null for whoever is not inside.</summary>
    internal static async Task<Bringing?> Bringer(HttpContext http, Guid sitting, SeatCookies cookies, IGrainFactory grains)
    {
        if (cookies.Read(http, sitting) is not { } person) return null;
        return await grains.In<ISittingHandouts>(sitting).Bringer(person) is { } may ? new Bringing(person, may) : null;
    }

    private static async Task<Store.Files.FileRecord?> Own(
        HttpContext http, Guid sitting, Guid file, SeatCookies cookies, IGrainFactory grains, KeptFiles files) =>
        await Bringer(http, sitting, cookies, grains) is { } bringer
        && (bringer.May.Shows is null || bringer.May.HandsOut is null)
        && await files.Find(sitting, file) is { } found && found.Seat == bringer.May.Seat.Number
            ? found
            : null;

    /// <summary>One among the pairs of key and base64 value.</summary>
    private static string? ValueOf(string metadata, string key)
    {
        foreach (var pair in metadata.Split(',', StringSplitOptions.TrimEntries))
        {
            if (!pair.StartsWith($"{key} ", StringComparison.Ordinal)) continue;
            var bytes = new byte[pair.Length];
            return Convert.TryFromBase64String(pair[(key.Length + 1)..], bytes, out var count)
                ? Bounds.Clean(Encoding.UTF8.GetString(bytes, 0, count), lines: false)
                : null;
        }
        return null;
    }
}
