using HoldCourt.Server.Workload;
using HoldCourt.Store;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Accounts;

/// <summary>
/// Counts wrong passwords towards the framework's lock, after the answer has gone, so that an answer takes as long where there
/// is no account. It writes the count alone: whoever guesses must not stand in the way of the one who, at the same moment,
/// chooses a new password.
/// </summary>
internal sealed class FailedSignIns(
    IDbContextFactory<CourtDb> databases, IOptions<IdentityOptions> options, Supervisor supervisor)
{
    public void Note(string account) => supervisor.Begin("sign-ins", async () =>
    {
        var (most, until) = (options.Value.Lockout.MaxFailedAccessAttempts,
            DateTimeOffset.UtcNow + options.Value.Lockout.DefaultLockoutTimeSpan);
        await using var db = await databases.CreateDbContextAsync();
        var one = db.Users.Where(kept => kept.Id == account && kept.LockoutEnabled);
        await one.ExecuteUpdateAsync(set => set.SetProperty(kept => kept.AccessFailedCount, kept => kept.AccessFailedCount + 1));
        await one.Where(kept => kept.AccessFailedCount >= most)
            .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.AccessFailedCount, 0).SetProperty(kept => kept.LockoutEnd, until));
    });
}
