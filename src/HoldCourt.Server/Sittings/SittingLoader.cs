using System.Collections.Concurrent;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Sittings;

/// <summary>A sitting as its entries tell it.</summary>
/// <param name="Digest">The last entry's.</param>
/// <param name="Newest">The newest entries that the ledger tells, oldest first.</param>
/// <param name="Tail">The last entries, oldest first: those since the snapshot that it was brought back from.</param>
/// <param name="Made">How many entries each seat has made.</param>
internal sealed record LoadedSitting(
    Sitting Sitting, byte[] Digest, IReadOnlyList<Entry> Newest, IReadOnlyList<Entry> Tail, IReadOnlyDictionary<SeatId, int> Made);

/// <summary>Brings sittings back from their entries; those that run, while the rest of the server is still starting.</summary>
internal sealed class SittingLoader(EntryReader reader, Snapshots snapshots, IDbContextFactory<CourtDb> databases)
{
    private readonly ConcurrentDictionary<Guid, Task<LoadedSitting>> _early = new();

    public async Task StartWithRunning()
    {
        await using var db = await databases.CreateDbContextAsync();
        foreach (var id in await db.Sittings.Where(sitting => sitting.AdjournedAt == null).Select(sitting => sitting.Id).ToListAsync())
            _early[id] = Task.Run(() => Read(id));
    }

    /// <summary>The state at this moment; what was read early is given out once, since it ages.</summary>
    public Task<LoadedSitting> Load(Guid id) => _early.TryRemove(id, out var early) ? early : Read(id);

    private async Task<LoadedSitting> Read(Guid id)
    {
        await snapshots.Mark(id);
        var (sitting, digest) = await reader.Snapshot(id) ?? (Sitting.Empty, Chain.Start);
        var tail = new List<Entry>();
        foreach (var kept in await reader.Read(id, after: sitting.Sequence))
        {
            tail.Add(kept.Read());
            (sitting, digest) = (SittingRules.Evolve(sitting, tail[^1]), kept.Digest);
        }
        var newest = await reader.Find(id, new EntryWish(long.MaxValue, []), Projection.LedgerDepth);
        return new LoadedSitting(sitting, digest, [.. newest.Reverse()], tail, await reader.Counts(id));
    }
}
