using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store.Ledger;

public sealed class EntryReader(IDbContextFactory<CourtDb> databases)
{
    /// <summary>All entries of a sitting, in order.</summary>
    public async Task<IReadOnlyList<KeptEntry>> Read(Guid sitting, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Entries.AsNoTracking().Where(entry => entry.SittingId == sitting).OrderBy(entry => entry.Sequence)
            .Select(entry => new KeptEntry(entry.Sequence, entry.Json, entry.Digest, entry.Seal)).ToListAsync(cancel);
    }

    /// <summary>Checks every sitting's chain.</summary>
    /// <returns>For each sitting its title, how many entries it has, of how many something was erased, and the first sequence that is wrong, if any.</returns>
    public async IAsyncEnumerable<(Guid Sitting, string Title, int Entries, int Erased, long? FirstBreak)> Verify()
    {
        await using var db = await databases.CreateDbContextAsync();
        var sittings = await db.Sittings.AsNoTracking().OrderBy(s => s.OpenedAt).Select(s => new { s.Id, s.Session!.Title }).ToListAsync();
        foreach (var sitting in sittings)
        {
            var entries = await Read(sitting.Id);
            yield return (sitting.Id, sitting.Title, entries.Count, entries.Count(entry => entry.Seal is not null), Chain.FirstBreak(entries));
        }
    }
}
