using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using MimeKit;

namespace HoldCourt.Server.Api;

/// <summary>A message that went out, or waits here because no mail server is set.</summary>
public sealed record OutboxRow(long Id, string To, string Subject, Instant At, string? Trouble);

/// <param name="Text">The plain text of the message.</param>
/// <param name="Calendar">The calendar object in it; null when there is none.</param>
public sealed record OutboxPage(OutboxRow Row, string Text, string? Calendar);

internal static class OutboxEndpoints
{
    private const int MostShown = 500;

    public static void MapOutbox(this IEndpointRouteBuilder api)
    {
        var outbox = api.MapGroup("/outbox").RequireAuthorization();
        outbox.MapGet("/", async (Desk desk) =>
        {
            await using var db = await desk.Db();
            return await db.Outbox.AsNoTracking().Where(message => message.OwnerId == desk.Owner).OrderByDescending(message => message.Id).Take(MostShown)
                .Select(message => new OutboxRow(message.Id, message.To, message.Subject, new Instant(message.At), message.Trouble)).ToListAsync();
        });
        outbox.MapGet("/{id:long}", async (long id, Desk desk) =>
        {
            if (await Find(id, desk) is not { } kept) return Problems.Of("noSuchMessage", 404);
            using var message = await MimeMessage.LoadAsync(new MemoryStream(kept.Mime));
            var calendar = message.BodyParts.OfType<TextPart>().FirstOrDefault(part => part.ContentType.IsMimeType("text", "calendar"))?.Text;
            return Results.Ok(new OutboxPage(new OutboxRow(kept.Id, kept.To, kept.Subject, new Instant(kept.At), kept.Trouble), message.TextBody ?? "", calendar));
        });
        outbox.MapGet("/{id:long}/message.eml", async (long id, Desk desk) =>
            await Find(id, desk) is { } kept ? Results.File(kept.Mime, "message/rfc822", $"message-{id}.eml") : Problems.Of("noSuchMessage", 404));
    }

    private static async Task<OutboxMessage?> Find(long id, Desk desk)
    {
        await using var db = await desk.Db();
        return await db.Outbox.AsNoTracking().SingleOrDefaultAsync(message => message.Id == id && message.OwnerId == desk.Owner);
    }
}
