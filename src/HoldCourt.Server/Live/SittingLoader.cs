using System.Collections.Concurrent;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Live;

/// <summary>A sitting as its entries tell it.</summary>
/// <param name="Digest">The last entry's.</param>
/// <param name="Entries">All of them, in order.</param>
internal sealed record LoadedSitting(Sitting Sitting, byte[] Digest, IReadOnlyList<Entry> Entries);

/// <summary>Brings sittings back from their entries; those that run, while the rest of the server is still starting.</summary>
internal sealed class SittingLoader(EntryReader reader, IDbContextFactory<CourtDb> databases)
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
        var kept = await reader.Read(id);
        var entries = new List<Entry>(kept.Count);
        foreach (var one in kept) entries.Add(one.Read());
        return new LoadedSitting(entries.Aggregate(Sitting.Empty, SittingRules.Evolve), kept is [.., var last] ? last.Digest : Chain.Start, entries);
    }
}
