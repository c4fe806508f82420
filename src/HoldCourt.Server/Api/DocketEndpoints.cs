using HoldCourt.Server.Hosting;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Admission;

namespace HoldCourt.Server.Api;

/// <summary>The docket as it stands, with what is doubtful in it.</summary>
/// <param name="Overlaps">Pairs of names whose visits overlap.</param>
public sealed record DocketPage(IReadOnlyList<DocketRow> Lines, IReadOnlyList<string> Overlaps);

public sealed record PastedText([property: Longest(DocketText.Longest)] string Text);

/// <param name="Lines">Numbers of the docket's lines.</param>
public sealed record InviteWish(IReadOnlyList<long> Lines);

/// <summary>What somebody invited sees before answering.</summary>
public sealed record AnswerPage(string Name, string Title, string HostName, Instant? StartsAt, int? Minutes, Answer Answer, bool Cancelled,
    string Link);

/// <param name="Token">Of the personal link.</param>
public sealed record AnswerWish(Answer Answer, string? Token = null);

/// <summary>Somebody whom the bench wants to have in the sitting that runs.</summary>
/// <param name="Email">Without one nothing is sent, and the personal link is given on by hand.</param>
public sealed record CallIn(string Name, string? Email, Role Role);

/// <param name="Link">The personal link's path after "/s/".</param>
/// <param name="Sent">A message went out.</param>
public sealed record CalledIn(string Link, bool Sent);

internal static class DocketEndpoints
{
    /// <summary>In bytes: a full docket with every field as long as it may be.</summary>
    private const int LargestDocket = 16 * 1024 * 1024;

    public static void MapDocket(this IEndpointRouteBuilder api)
    {
        var docket = api.MapGroup("/plans/{id:guid}/docket").RequireAuthorization();
        docket.MapGet("/", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await desk.Session(db, id) is { } session
                ? Results.Ok(PageOf(await Lines(db, id), session))
                : Problems.Of("noSuchSession", 404);
        });
        docket.MapPut("/", async (Guid id, IReadOnlyList<DocketRow> lines, Desk desk) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (lines.Count > DocketTable.MostLines) return Problems.Of("tooManyLines", 400);
            var zone = ZoneOf(session);
            foreach (var (line, at) in lines.Select((line, at) => (line, at)))
                if (DocketTable.Refuses(line, zone) is { } reason)
                    return Problems.Of(reason, 400, new Dictionary<string, object?> { ["row"] = at });
            var kept = (await db.Docket.Where(line => line.SessionId == id).ToListAsync()).ToDictionary(line => line.Id);
            var named = lines.Select(line => line.Id).OfType<long>().ToHashSet();
            db.RemoveRange(kept.Values.Where(line => !named.Contains(line.Id)));
            foreach (var (line, at) in lines.Select((line, at) => (line, at)))
            {
                if (line.Id is { } known && kept.TryGetValue(known, out var record)) DocketTable.Into(record, line, at, zone);
                else db.Add(DocketTable.New(id, line, at, zone));
            }
            await db.SaveChangesAsync();
            return Results.Ok(PageOf(await Lines(db, id), session));
        }).WithMetadata(new RequestSizeLimitAttribute(LargestDocket));
        docket.MapPost("/read", async (Guid id, PastedText pasted, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await desk.Session(db, id) is { } session
                ? Results.Ok(DocketTable.ReadText(pasted.Text, DayOf(session, desk), ZoneOf(session)))
                : Problems.Of("noSuchSession", 404);
        }).InTurn(Lane.Slow);
        docket.MapPost("/import", async (Guid id, Desk desk, HttpRequest request, HeavyWork heavy) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            var bytes = await Uploads.Read(request);
            return Results.Ok(await heavy.Run(Lane.Slow, desk.Owner, () =>
                DocketTable.ReadFile(bytes, DayOf(session, desk), ZoneOf(session))));
        }).WithMetadata(Uploads.Limit);
        docket.MapGet("/docket.csv", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await desk.Session(db, id) is { } session
                ? Results.File(DocketTable.WriteCsv((await Lines(db, id)).Select(line => DocketTable.LineOf(line, ZoneOf(session)))),
                "text/csv", "docket.csv")
                : Problems.Of("noSuchSession", 404);
        });
        api.MapPost("/plans/{id:guid}/invite",
            async (Guid id, InviteWish wish, Desk desk, Mail mail, PublicAddress address, HttpContext http) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.CancelledAt is not null) return Problems.Of("alreadyCancelled", 409);
            var lines = (await db.Docket.Where(line => line.SessionId == id && line.Email != null).ToListAsync())
                .Where(line => wish.Lines.Contains(line.Id)).ToList();
            if (lines.Count == 0) return Problems.Of("nobodyToInvite", 400);
            var sent = mail.Add(db, session, await desk.Name(), lines, MailCause.Invitation, address.For(http));
            foreach (var line in lines) line.InvitedAt = desk.Now.Milliseconds;
            await db.SaveChangesAsync();
            mail.Nudge();
            return Results.Ok(new Mailed(sent));
        }).RequireAuthorization();
        api.MapPost("/door/{link}/call-in", CallSomebodyIn).RequireRateLimiting(Security.SecuritySetup.Door);
        MapAnswers(api.MapGroup("/answer").RequireRateLimiting(Security.SecuritySetup.Door));
    }

    /// <summary>Puts somebody on the docket of the plan and of the sitting that
    /// runs, and sends the invitation. The sitting's rules say who may.</summary>
    private static async Task<IResult> CallSomebodyIn(string link, CallIn wish, Desk desk, Doorstep doorstep, Mail mail,
        PublicAddress address, HttpContext http)
    {
        if (await doorstep.Find(link) is not { } session) return Problems.Of("noSuchLink", 404);
        var row = new DocketRow(null, wish.Name, string.IsNullOrWhiteSpace(wish.Email)
            ? null
            : wish.Email.Trim(), wish.Role, null, null, null, Answer.None, null);
        if (DocketTable.Refuses(row, ZoneOf(session)) is { } reason) return Problems.Of(reason, 400);
        // First who may, then the plan: nobody else writes to it.
        if (await doorstep.WouldRefuse(session, http, new Expect(new DocketLine(PersonName.Tidy(wish.Name), wish.Role, row.Email)))
            is { } early) return Problems.Of(early);
        await using var db = await desk.Db();
        var last = await db.Docket.Where(line => line.SessionId == session.Id).MaxAsync(line => (int?)line.Position) ?? 0;
        var record = DocketTable.New(session.Id, row, last + 1, ZoneOf(session));
        db.Add(record);
        await db.SaveChangesAsync();
        if (await doorstep.DoFor(session, http, new Expect(DocketTable.ForSitting(record))) is { } refusal)
        {
            db.Remove(record);
            await db.SaveChangesAsync();
            return Problems.Of(refusal);
        }
        var sent = mail.Add(db, session, await doorstep.OwnerName(session) ?? "", [record], MailCause.Invitation, address.For(http));
        if (sent > 0) record.InvitedAt = desk.Now.Milliseconds;
        await db.SaveChangesAsync();
        mail.Nudge();
        return Results.Ok(new CalledIn($"{session.Link}#{record.Token}", sent > 0));
    }

    private static void MapAnswers(RouteGroupBuilder answers)
    {
        answers.MapPost("/look", async (ShownLink shown, Desk desk, Doorstep doorstep) =>
        {
            if (shown.Token is not { Length: > 0 and < 100 } token) return Problems.Of("noSuchInvitation", 404);
            await using var db = await desk.Db();
            var line = await db.Docket.AsNoTracking().Include(line => line.Session).SingleOrDefaultAsync(line => line.Token == token);
            if (line?.Session is not { } session) return Problems.Of("noSuchInvitation", 404);
            var start = line.SlotAt is { } slot ? new Instant(slot) : PlanTimes.Next(session, desk.Now);
            return Results.Ok(new AnswerPage(line.Name, session.Title, await doorstep.OwnerName(session) ?? "", start, line.SlotAt is null
                ? session.Minutes
                : line.Minutes ?? 15, line.Answer,
                session.CancelledAt is not null, $"{session.Link}#{line.Token}"));
        });
        answers.MapPost("/", async (AnswerWish wish, Desk desk) =>
        {
            if (wish.Token is not { Length: > 0 and < 100 } token) return Problems.Of("noSuchInvitation", 404);
            if (!Enum.IsDefined(wish.Answer)) return Problems.Of("notUnderstood", 400);
            await using var db = await desk.Db();
            var changed = await db.Docket.Where(line => line.Token == token)
                .ExecuteUpdateAsync(set => set.SetProperty(line => line.Answer, wish.Answer));
            return changed == 0 ? Problems.Of("noSuchInvitation", 404) : Results.NoContent();
        });
    }

    private static Task<List<DocketRecord>> Lines(Store.CourtDb db, Guid session) =>
        db.Docket.AsNoTracking().Where(line => line.SessionId == session).OrderBy(line => line.Position).ThenBy(line => line.Id)
            .ToListAsync();

    private static DocketPage PageOf(List<DocketRecord> records, Session session)
    {
        var lines = records.ConvertAll(line => DocketTable.LineOf(line, ZoneOf(session)));
        return new DocketPage(lines,
            [.. DocketTable.Overlaps(lines, ZoneOf(session)).Select(pair => $"{pair.Earlier.Name}, {pair.Later.Name}")]);
    }

    private static TimeZoneInfo ZoneOf(Session session) => PlanTimes.Zone(session.Zone) ?? TimeZoneInfo.Utc;

    private static DateOnly DayOf(Session session, Desk desk) =>
        DateOnly.FromDateTime(PlanTimes.Local(PlanTimes.Next(session, desk.Now) ?? desk.Now, ZoneOf(session)));
}
