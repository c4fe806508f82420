using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Sittings;

/// <summary>Keeps the table of sittings in step with what their entries say.</summary>
internal sealed class SittingRecords(IDbContextFactory<CourtDb> databases)
{
    public async Task Close(Guid sitting, Instant at)
    {
        await using var db = await databases.CreateDbContextAsync();
        await using var all = await db.Database.BeginTransactionAsync();
        await db.Snapshots.Where(snapshot => snapshot.SittingId == sitting).ExecuteDeleteAsync();
        await db.Sittings.Where(record => record.Id == sitting)
            .ExecuteUpdateAsync(set => set.SetProperty(record => record.AdjournedAt, at.Milliseconds));
        await all.CommitAsync();
    }
}
