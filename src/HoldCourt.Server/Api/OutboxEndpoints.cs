using HoldCourt.Server.Mailing;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using HoldCourt.Server.Planning;

namespace HoldCourt.Server.Api;

/// <summary>A message, and where it is on its way.</summary>
/// <param name="Answer">What the mail server answered last.</param>
/// <param name="NextAt">When it is tried again; null when it is not.</param>
/// <param name="House">It is the house's own, which the keeper alone sees.</param>
public sealed record OutboxRow(long Id, string To, string Subject, Instant At, MailState State, string? Answer, Instant? NextAt,
    Instant? SentAt, bool House);

/// <param name="Text">The plain text of the message; empty where it held a secret and has gone out.</param>
/// <param name="Calendar">The calendar object in it; null when there is none.</param>
public sealed record OutboxPage(OutboxRow Row, string Text, string? Calendar);

internal static class OutboxEndpoints
{
    private const int MostShown = 500;

    public static void MapOutbox(this IEndpointRouteBuilder api)
    {
        var outbox = api.MapGroup("/outbox").RequireAuthorization();
        outbox.MapGet("/", async (Desk desk, UserManager<Account> users, HttpContext http) =>
        {
            await using var db = await desk.Db();
            return (await Mine(db, desk, await IsKeeper(users, http)).AsNoTracking().OrderByDescending(message => message.Id)
                .Take(MostShown)
                .Select(message => new
                {
                    message.Id,
                    message.To,
                    message.Subject,
                    message.At,
                    message.State,
                    message.Answer,
                    message.NextAt,
                    message.SentAt,
                    message.OwnerId
                }).ToListAsync())
                .ConvertAll(message => Row(message.Id, message.To, message.Subject, message.At, message.State, message.Answer,
                    message.NextAt, message.SentAt, message.OwnerId));
        });
        outbox.MapGet("/{id:long}", async (long id, Desk desk, UserManager<Account> users, HttpContext http) =>
        {
            if (await Find(id, desk, users, http) is not { } kept) return Problems.Of("noSuchMessage", 404);
            var row = Row(kept.Id, kept.To, kept.Subject, kept.At, kept.State, kept.Answer, kept.NextAt, kept.SentAt, kept.OwnerId);
            if (kept.Mime.Length == 0) return Results.Ok(new OutboxPage(row, "", null));
            using var message = await MimeMessage.LoadAsync(new MemoryStream(kept.Mime));
            var calendar = message.BodyParts.OfType<TextPart>()
                .FirstOrDefault(part => part.ContentType.IsMimeType("text", "calendar"))?.Text;
            return Results.Ok(new OutboxPage(row, message.TextBody ?? "", calendar));
        });
        outbox.MapGet("/{id:long}/message.eml", async (long id, Desk desk, UserManager<Account> users, HttpContext http) =>
            await Find(id, desk, users, http) is { Mime.Length: > 0 } kept
                ? Results.File(kept.Mime, "message/rfc822", $"message-{id}.eml")
                : Problems.Of("noSuchMessage", 404));
        // What stayed here, or was given up, is tried once more.
        outbox.MapPost("/{id:long}/again", async (long id, Desk desk, UserManager<Account> users, Outbox mail, HttpContext http) =>
        {
            if (!mail.HasServer) return Problems.Of("noMailServer", 409);
            await using var db = await desk.Db();
            var again = await Mine(db, desk, await IsKeeper(users, http))
                .Where(message => message.Id == id
                && (message.State == MailState.Kept || message.State == MailState.GivenUp || message.State == MailState.Waiting))
                .ExecuteUpdateAsync(set => set.SetProperty(message => message.State, MailState.Waiting)
                    .SetProperty(message => message.NextAt, 0L).SetProperty(message => message.Tries, 0)
                    .SetProperty(message => message.At, desk.Now.Milliseconds));
            if (again == 0) return Problems.Of("noSuchMessage", 404);
            mail.Nudge();
            return Results.NoContent();
        });
    }

    /// <summary>One's own messages and those of sessions one is a co-owner of; the house's for the keeper.</summary>
    private static IQueryable<OutboxMessage> Mine(CourtDb db, Desk desk, bool keeper)
    {
        var owner = desk.Owner;
        return db.Outbox.Where(message => message.OwnerId == owner || (message.OwnerId == null && keeper)
            || (message.SessionId != null && db.CoOwners.Any(one => one.SessionId == message.SessionId && one.AccountId == owner)));
    }

    /// <summary>What the house writes to its hosts is delivered, and read by nobody else, wherever there is a mail server.</summary>
    private static async Task<OutboxMessage?> Find(long id, Desk desk, UserManager<Account> users, HttpContext http)
    {
        await using var db = await desk.Db();
        var kept = await Mine(db, desk, await IsKeeper(users, http)).AsNoTracking().SingleOrDefaultAsync(message => message.Id == id);
        if (kept is { IsSecret: true, State: not MailState.Kept }) kept.Mime = [];
        return kept;
    }

    private static async Task<bool> IsKeeper(UserManager<Account> users, HttpContext http) =>
        await users.GetUserAsync(http.User) is { IsKeeper: true };

    private static OutboxRow Row(long id, string to, string subject, long at, MailState state, string? answer, long nextAt, long? sentAt,
        string? owner) =>
        new(id, to, subject, new Instant(at), state, answer, state == MailState.Waiting && nextAt > 0
            ? new Instant(nextAt)
            : null, sentAt is { } sent ? new Instant(sent) : null, owner is null);
}
