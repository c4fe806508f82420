using System.Collections.Immutable;
using System.Text.Json;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Server.StandIns.Extras;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Api;
using HoldCourt.Server.Admission;

namespace HoldCourt.Server.Sittings;

/// <summary>Makes a sitting of a planned session.</summary>
internal sealed class Opening(IDbContextFactory<CourtDb> databases, IGrainFactory grains, Troupe troupe, DoorBell bell, TimeProvider time)
{
    /// <summary>Opens the session, or answers with the sitting that already runs.</summary>
    /// <param name="prepare">The bench comes in first.</param>
    public async Task<OpenedSitting> Open(Session session, bool prepare = false)
    {
        await using var db = await databases.CreateDbContextAsync();
        var running = await db.Sittings.AsNoTracking().FirstOrDefaultAsync(s => s.SessionId == session.Id && s.AdjournedAt == null);
        if (running is not null) return new OpenedSitting(running.Id, session.Link);
        var record = new SittingRecord
        {
            Id = Guid.NewGuid(),
            SessionId = session.Id,
            OpenedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
        };
        db.Add(record);
        try
        {
            await db.SaveChangesAsync();
        }
        catch (DbUpdateException)
        {
            // Somebody opened it at the same moment.
            var other = await db.Sittings.AsNoTracking().SingleAsync(s => s.SessionId == session.Id && s.AdjournedAt == null);
            return new OpenedSitting(other.Id, session.Link);
        }
        await grains.GetGrain<ISittingGrain>(record.Id).Open(new Open(
            session.Title, SeatCookies.KeyOf(session.OwnerId), new Door(session.Door, ByName: session.DoorByName),
            JsonSerializer.Deserialize<StandingOrders>(session.Orders, CoreJson.Options)!,
            [.. (await ExpectedNow(db, session, record.OpenedAt)).Select(DocketTable.ForSitting)], Prepare: prepare,
            EndsAt: PlanTimes.PlannedEnd(session, new Instant(record.OpenedAt)),
            Items: JsonSerializer.Deserialize<ImmutableArray<Item>>(session.RunSheet, CoreJson.Options),
            Recording: RecordingRules.Usual with { ByPlan = session.RecordsItself },
            Polls: JsonSerializer.Deserialize<ImmutableArray<PollForm>>(session.Polls, CoreJson.Options),
            Rooms: Plans.RoomsOf(session)));
        bell.Know(record.Id, session.Id);
        bell.Ring(session.Id);
        if (session.Extras is { } script) troupe.Start(record.Id, script);
        return new OpenedSitting(record.Id, session.Link);
    }

    /// <summary>Of the docket those without a slot, and those whose slot is today.</summary>
    private static Task<List<DocketRecord>> ExpectedNow(CourtDb db, Session session, long now)
    {
        const long Hour = 3_600_000;
        return db.Docket.AsNoTracking()
            .Where(line => line.SessionId == session.Id
            && (line.SlotAt == null || (line.SlotAt > now - (8 * Hour) && line.SlotAt < now + (16 * Hour))))
            .OrderBy(line => line.Position).ToListAsync();
    }
}
