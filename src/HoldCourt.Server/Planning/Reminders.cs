using HoldCourt.Server.Hosting;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Planning;

/// <summary>Reminds those invited shortly before a session starts, once
/// for each of its times, and those with a slot before theirs.</summary>
internal sealed class Reminders(
    IDbContextFactory<CourtDb> databases, IServiceScopeFactory scopes, Mail mail, PublicAddress address,
    Preparation preparation, TimeProvider time, Supervisor supervisor) : SupervisedService(supervisor)
{
    private static readonly TimeSpan _ahead = TimeSpan.FromMinutes(15), _between = TimeSpan.FromSeconds(30);

    protected override string Name => "reminders";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        await preparation.Ready.WaitAsync(stoppingToken);
        using var timer = new PeriodicTimer(_between, time);
        do
        {
            await Supervisor.Once(Name, Remind);
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    /// <summary>Sends what is due now.</summary>
    public async Task Remind()
    {
        var now = new Instant(time.GetUtcNow().ToUnixTimeMilliseconds());
        await using var db = await databases.CreateDbContextAsync();
        var soon = await db.Sessions.Where(session => session.CancelledAt == null && session.StartsAt != null
            && session.StartsAt <= (now + _ahead).Milliseconds
            && session.Docket.Any(line => line.InvitedAt != null)).ToListAsync();
        foreach (var session in soon)
        {
            var next = PlanTimes.Occurrences(session, now).Select(at => (Instant?)at).FirstOrDefault();
            if (next is not { } at || at > now + _ahead || session.RemindedFor == at.Milliseconds) continue;
            // Noted together with the messages: after a kill nobody is reminded twice or not at all.
            session.RemindedFor = at.Milliseconds;
            var lines = await db.Docket.AsNoTracking()
                .Where(line => line.SessionId == session.Id && line.InvitedAt != null && line.SlotAt == null
                && line.Answer != Answer.ComesNot).ToListAsync();
            await Add(db, session, lines, at);
            await db.SaveChangesAsync();
        }
        var slots = await db.Docket.Include(line => line.Session)
            .Where(line => line.InvitedAt != null && line.SlotAt > now.Milliseconds && line.SlotAt <= (now + _ahead).Milliseconds
            && line.RemindedFor != line.SlotAt && line.Answer != Answer.ComesNot && line.Session!.CancelledAt == null).ToListAsync();
        foreach (var line in slots)
        {
            line.RemindedFor = line.SlotAt;
            await Add(db, line.Session!, [line], new Instant(line.SlotAt!.Value));
        }
        await db.SaveChangesAsync();
        mail.Nudge();
    }

    private async Task Add(CourtDb db, Session session, IEnumerable<DocketRecord> lines, Instant at)
    {
        await using var scope = scopes.CreateAsyncScope();
        var host = (await scope.ServiceProvider.GetRequiredService<UserManager<Account>>().FindByIdAsync(session.OwnerId))?.Name ?? "";
        mail.Add(db, session, host, lines, MailCause.Reminder, address.OfHouse, at);
    }
}
