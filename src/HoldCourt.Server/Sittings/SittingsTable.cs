using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Sittings;

/// <summary>Keeps the table of sittings in step with what their entries say.</summary>
internal sealed class SittingsTable(IDbContextFactory<CourtDb> databases, Supervisor supervisor, TimeProvider time) : TopicWork
{
    private static readonly TimeSpan _betweenTries = TimeSpan.FromSeconds(10);

    public override string Name => "sittings";

    /// <summary>When the table is locked just then, as soon as it is not. The server may have stopped between the last entry and the table,
    /// too.</summary>
    public override async Task Ended(Instant at)
    {
        if (!await supervisor.Once(Name, () => Close(at))) supervisor.Begin(Name, InTheEnd);

        async Task InTheEnd()
        {
            do await Task.Delay(_betweenTries, time);
            while (!await supervisor.Once(Name, () => Close(at)));
        }
    }

    private async Task Close(Instant at)
    {
        await using var db = await databases.CreateDbContextAsync();
        await using var all = await db.Database.BeginTransactionAsync();
        await db.Snapshots.Where(snapshot => snapshot.SittingId == Inside.Id).ExecuteDeleteAsync();
        await db.Sittings.Where(record => record.Id == Inside.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(record => record.AdjournedAt, at.Milliseconds));
        await all.CommitAsync();
    }
}
