using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store.Ledger;

/// <summary>Keeps what makes a long sitting quick to bring back: snapshots of its state, and what entries are found by.</summary>
public sealed class Snapshots(IDbContextFactory<CourtDb> databases)
{
    /// <summary>Takes the place of an earlier one. An adjourned sitting has none,
    /// so that what is erased from its entries stands nowhere else.</summary>
    /// <param name="digest">That of the last entry in the state.</param>
    public async Task Keep(Guid sitting, Sitting state, byte[] digest)
    {
        var json = Snapshot.Write(state);
        await using var db = await databases.CreateDbContextAsync();
        await using var all = await db.Database.BeginTransactionAsync();
        await db.Snapshots.Where(kept => kept.SittingId == sitting).ExecuteDeleteAsync();
        if (!await db.Sittings.AnyAsync(record => record.Id == sitting && record.AdjournedAt == null)) return;
        db.Snapshots.Add(new SnapshotRecord
        {
            SittingId = sitting,
            Sequence = state.Sequence,
            Form = Snapshot.Form,
            Digest = digest,
            Json = json
        });
        await db.SaveChangesAsync();
        await all.CommitAsync();
    }

    /// <summary>Entries of a version that did not note what they are found
    /// by: it is noted now. Nothing happens when all of them are.</summary>
    public async Task Mark(Guid sitting)
    {
        await using var db = await databases.CreateDbContextAsync();
        // They come first, and are noted all at once.
        if (!await db.Entries.AnyAsync(entry => entry.SittingId == sitting && entry.Sequence == 1 && entry.At == 0)) return;
        var entries = await db.Entries.AsNoTracking().Where(entry => entry.SittingId == sitting).OrderBy(entry => entry.Sequence)
            .Select(entry => new KeptEntry(entry.Sequence, entry.Json, entry.Digest, entry.Seal, null)).ToListAsync();
        await using var all = await db.Database.BeginTransactionAsync();
        var state = Sitting.Empty;
        foreach (var entry in entries.Select(kept => kept.Read()))
        {
            state = SittingRules.Evolve(state, entry);
            var marks = Marks.Of(entry, state);
            await db.Entries.Where(kept => kept.SittingId == sitting && kept.Sequence == entry.Sequence).ExecuteUpdateAsync(set => set
                .SetProperty(kept => kept.At, marks.At.Milliseconds).SetProperty(kept => kept.By, marks.By)
                .SetProperty(kept => kept.Topic, marks.Topic)
                .SetProperty(kept => kept.About, marks.About).SetProperty(kept => kept.IsOwn, marks.IsOwn)
                    .SetProperty(kept => kept.Message, marks.Message));
        }
        await all.CommitAsync();
    }
}
