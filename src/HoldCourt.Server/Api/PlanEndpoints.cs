using System.Text.Json;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

/// <summary>A code just made. It is shown this once; only its hash is kept.</summary>
public sealed record NewCode(string Code);

/// <summary>Orders and a door under a name.</summary>
public sealed record PresetRow(long Id, string Name, DoorMode Door, StandingOrders Orders);

/// <summary>How many were mailed by mail.</summary>
public sealed record Mailed(int Count);

internal static class PlanEndpoints
{
    public static void MapPlans(this IEndpointRouteBuilder api)
    {
        var plans = api.MapGroup("/plans").RequireAuthorization();
        plans.MapPost("/", async (Plan plan, Desk desk) =>
        {
            var session = new Session
            {
                OwnerId = desk.Owner,
                Title = "",
                Link = SeatCookies.Random128(),
                Orders = "",
                CreatedAt = desk.Now.Milliseconds
            };
            if (Plans.Into(session, plan) is { } reason) return Problems.Of(reason, 400);
            await using var db = await desk.Db();
            db.Add(session);
            await db.SaveChangesAsync();
            return Results.Ok(Plans.Of(session, 0, desk.Now));
        });
        plans.MapGet("/{id:guid}", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            return await desk.Session(db, id) is { } session
                ? Results.Ok(await Kept(db, session, desk))
                : Problems.Of("noSuchSession", 404);
        });
        plans.MapPut("/{id:guid}", async (Guid id, Plan plan, Desk desk, Mail mail, PublicAddress address, HttpContext http) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.CancelledAt is not null) return Problems.Of("alreadyCancelled", 409);
            var before = (session.Title, session.StartsAt, session.Minutes, session.Rule, session.Exceptions, session.Kind);
            if (Plans.Into(session, plan) is { } reason) return Problems.Of(reason, 400);
            var changed = before != (session.Title, session.StartsAt, session.Minutes, session.Rule, session.Exceptions, session.Kind);
            if (changed) session.Revision++;
            if (changed) mail.Add(db, session, await desk.Name(), await Desk.Invited(db, id), MailCause.Change, address.For(http));
            await db.SaveChangesAsync();
            mail.Nudge();
            return Results.Ok(await Kept(db, session, desk));
        });
        plans.MapPost("/{id:guid}/cancel", async (Guid id, Desk desk, Mail mail, PublicAddress address, HttpContext http) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.CancelledAt is not null) return Problems.Of("alreadyCancelled", 409);
            if (session.Sittings.Exists(sitting => sitting.AdjournedAt is null)) return Problems.Of("isLive", 409);
            session.CancelledAt = desk.Now.Milliseconds;
            session.Revision++;
            var mailed = mail.Add(db, session, await desk.Name(), await Desk.Invited(db, id), MailCause.Cancellation, address.For(http));
            await db.SaveChangesAsync();
            mail.Nudge();
            return Results.Ok(new Mailed(mailed));
        });
        plans.MapPost("/{id:guid}/restore", async (Guid id, Desk desk, Mail mail, PublicAddress address, HttpContext http) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { CancelledAt: not null } session) return Problems.Of("noSuchSession", 404);
            session.CancelledAt = null;
            session.Revision++;
            var mailed = mail.Add(db, session, await desk.Name(), await Desk.Invited(db, id), MailCause.Change, address.For(http));
            await db.SaveChangesAsync();
            mail.Nudge();
            return Results.Ok(new Mailed(mailed));
        });
        plans.MapPost("/{id:guid}/copy", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            var copy = Plans.Copy(session, desk.Now.Milliseconds);
            db.Add(copy);
            var lines = await db.Docket.AsNoTracking().Where(line => line.SessionId == id).OrderBy(line => line.Position).ToListAsync();
            db.AddRange(lines.Select(line => new DocketRecord
            {
                SessionId = copy.Id,
                Position = line.Position,
                Name = line.Name,
                Email = line.Email,
                Role = line.Role,
                Group = line.Group,
                SlotAt = line.SlotAt,
                Minutes = line.Minutes,
                Token = SeatCookies.Random128()
            }));
            await db.SaveChangesAsync();
            return Results.Ok(Plans.Of(copy, 0, desk.Now));
        });
        plans.MapPost("/{id:guid}/passcode", (Guid id, Desk desk, CodeGuard guard) =>
            SetCode(id, desk, guard, (session, hash) => session.PasscodeHash = hash, 8));
        plans.MapPost("/{id:guid}/host-key", (Guid id, Desk desk, CodeGuard guard) =>
            SetCode(id, desk, guard, (session, hash) => session.HostKeyHash = hash, 10));
        plans.MapDelete("/{id:guid}/passcode", (Guid id, Desk desk) => ClearCode(id, desk, session => session.PasscodeHash = null));
        plans.MapDelete("/{id:guid}/host-key", (Guid id, Desk desk) => ClearCode(id, desk, session => session.HostKeyHash = null));
        // Whoever has the old link, or a personal one made of it, comes to nothing from then on.
        plans.MapPost("/{id:guid}/link", async (Guid id, Desk desk) =>
        {
            await using var db = await desk.Db();
            if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
            if (session.Sittings.Exists(sitting => sitting.AdjournedAt is null)) return Problems.Of("isLive", 409);
            session.Link = SeatCookies.Random128();
            await db.SaveChangesAsync();
            return Results.Ok(await Kept(db, session, desk));
        });
        MapPresets(api.MapGroup("/presets").RequireAuthorization());
    }

    private static void MapPresets(RouteGroupBuilder presets)
    {
        presets.MapGet("/", async (Desk desk) =>
        {
            await using var db = await desk.Db();
            var mine = await db.Presets.AsNoTracking().Where(preset => preset.OwnerId == desk.Owner).OrderBy(preset => preset.Name)
                .ToListAsync();
            return mine.Select(preset =>
                new PresetRow(preset.Id, preset.Name, preset.Door,
                JsonSerializer.Deserialize<StandingOrders>(preset.Orders, CoreJson.Options)!)).ToList();
        });
        presets.MapPost("/", async (PresetRow row, Desk desk) =>
        {
            var name = Bounds.Clean(row.Name, lines: false);
            if (name.Length is 0 or > 80) return Problems.Of("presetNameOutOfRange", 400);
            if (row.Orders is null || !Enum.IsDefined(row.Door)) return Problems.Of("notUnderstood", 400);
            await using var db = await desk.Db();
            var preset = await db.Presets.SingleOrDefaultAsync(preset => preset.OwnerId == desk.Owner && preset.Name == name);
            var orders = JsonSerializer.Serialize(row.Orders, CoreJson.Options);
            if (preset is null) db.Add(preset = new Preset { OwnerId = desk.Owner, Name = name, Orders = orders });
            (preset.Orders, preset.Door) = (orders, row.Door);
            await db.SaveChangesAsync();
            return Results.Ok(row with { Id = preset.Id, Name = name });
        });
        presets.MapDelete("/{id:long}", async (long id, Desk desk) =>
        {
            await using var db = await desk.Db();
            await db.Presets.Where(preset => preset.Id == id && preset.OwnerId == desk.Owner).ExecuteDeleteAsync();
            return Results.NoContent();
        });
    }

    private static async Task<IResult> SetCode(Guid id, Desk desk, CodeGuard guard, Action<Session, string> keep, int length)
    {
        await using var db = await desk.Db();
        if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
        var code = Plans.NewCode(length);
        keep(session, await guard.Hash(code));
        await db.SaveChangesAsync();
        return Results.Ok(new NewCode(code));
    }

    private static async Task<IResult> ClearCode(Guid id, Desk desk, Action<Session> clear)
    {
        await using var db = await desk.Db();
        if (await desk.Session(db, id) is not { } session) return Problems.Of("noSuchSession", 404);
        clear(session);
        await db.SaveChangesAsync();
        return Results.NoContent();
    }

    private static async Task<KeptPlan> Kept(CourtDb db, Session session, Desk desk) =>
        Plans.Of(session, await db.Docket.CountAsync(line => line.SessionId == session.Id && line.InvitedAt != null), desk.Now);
}
