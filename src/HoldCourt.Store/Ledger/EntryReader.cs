using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store.Ledger;

/// <summary>Which entries of the ledger are looked for.</summary>
/// <param name="Before">Only those before this sequence.</param>
/// <param name="Topics">Empty for all.</param>
/// <param name="About">Only what this seat did, or what was done to it.</param>
/// <param name="ByBench">Only acts of people on others or on the session.</param>
public sealed record EntryWish(long Before, IReadOnlyCollection<Topic> Topics, SeatId? About = null, bool ByBench = false,
    Instant? From = null, Instant? To = null);

/// <summary>Reads entries where they are kept.</summary>
public sealed class EntryReader(IDbContextFactory<CourtDb> databases)
{
    private const int Block = 500;

    /// <summary>All entries of a sitting, in order.</summary>
    /// <param name="after">Only those after this sequence.</param>
    public async Task<IReadOnlyList<KeptEntry>> Read(Guid sitting, long after = 0, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Entries.AsNoTracking().Where(entry => entry.SittingId == sitting && entry.Sequence > after)
            .OrderBy(entry => entry.Sequence)
            .Select(entry => new KeptEntry(entry.Sequence, entry.Json, entry.Digest, entry.Seal, null)).ToListAsync(cancel);
    }

    /// <summary>Entries that the ledger tells, the newest first, at most so many.</summary>
    public async Task<IReadOnlyList<Entry>> Find(Guid sitting, EntryWish wish, int most)
    {
        await using var db = await databases.CreateDbContextAsync();
        var found = new List<Entry>();
        for (var before = wish.Before; found.Count < most;)
        {
            var block = await Wished(db, sitting, wish with { Before = before }).OrderByDescending(entry => entry.Sequence).Take(Block)
                .Select(entry => new { entry.Sequence, entry.About, entry.By, entry.Json }).ToListAsync();
            foreach (var kept in block)
            {
                if (new KeptEntry(kept.Sequence, kept.Json, []).TryRead() is not { } entry) continue;
                // Of an entry about many the seats are not noted beside it.
                if (wish.About is { } seat && kept.About == Marks.Many && kept.By != seat.Number
                    && !Sentences.SeatsOf(entry.Fact).Contains(seat)) continue;
                found.Add(entry);
                if (found.Count == most) break;
            }
            if (block.Count < Block) break;
            before = block[^1].Sequence;
        }
        return found;
    }

    private static IQueryable<EntryRecord> Wished(CourtDb db, Guid sitting, EntryWish wish)
    {
        var entries = db.Entries.AsNoTracking()
            .Where(entry => entry.SittingId == sitting && entry.Sequence < wish.Before && entry.Topic != null);
        if (wish.Topics.Count > 0) entries = entries.Where(entry => wish.Topics.Contains(entry.Topic!.Value));
        if (wish.ByBench) entries = entries.Where(entry => entry.By != 0 && !entry.IsOwn);
        if (wish.From is { Milliseconds: var from }) entries = entries.Where(entry => entry.At >= from);
        if (wish.To is { Milliseconds: var to }) entries = entries.Where(entry => entry.At <= to);
        if (wish.About is { } seat)
        {
            var noted = Marks.Noted(seat);
            entries = entries.Where(entry => entry.By == seat.Number || entry.About == Marks.Many || entry.About.Contains(noted));
        }
        return entries;
    }

    /// <summary>Messages as they are now, in the order of their numbers.</summary>
    /// <param name="from">The first number, 1 at least.</param>
    /// <param name="upTo">Entries after this sequence are left out.</param>
    public async Task<IReadOnlyList<ChatMessage>> Messages(Guid sitting, int from, int to, long upTo)
    {
        await using var db = await databases.CreateDbContextAsync();
        var entries = await db.Entries.AsNoTracking()
            .Where(entry => entry.SittingId == sitting && entry.Message != null && entry.Message >= from && entry.Message <= to
            && entry.Sequence <= upTo)
            .OrderBy(entry => entry.Sequence).Select(entry => new { entry.Sequence, Number = entry.Message!.Value, entry.Json })
                .ToListAsync();
        var messages = new SortedDictionary<int, ChatMessage>();
        foreach (var kept in entries)
            if (new KeptEntry(kept.Sequence, kept.Json, []).TryRead() is { } entry
                && Core.Chat.Messages.After(messages.GetValueOrDefault(kept.Number), kept.Number, entry) is { } message)
                messages[kept.Number] = message;
        return [.. messages.Values];
    }

    /// <summary>The newest snapshot that this build can go on from, with the digest of its entry; null when there is none.</summary>
    public async Task<(Sitting Sitting, byte[] Digest)?> Snapshot(Guid sitting)
    {
        await using var db = await databases.CreateDbContextAsync();
        var kept = await db.Snapshots.AsNoTracking()
            .FirstOrDefaultAsync(snapshot => snapshot.SittingId == sitting && snapshot.Form == Core.Sittings.Snapshot.Form);
        if (kept is null) return null;
        var digest = await db.Entries.Where(entry => entry.SittingId == sitting && entry.Sequence == kept.Sequence)
            .Select(entry => entry.Digest).FirstOrDefaultAsync();
        return digest is not null && digest.AsSpan().SequenceEqual(kept.Digest) ? (Core.Sittings.Snapshot.Read(kept.Json), digest) : null;
    }

    /// <summary>How many entries each seat has made.</summary>
    public async Task<IReadOnlyDictionary<SeatId, int>> Counts(Guid sitting)
    {
        await using var db = await databases.CreateDbContextAsync();
        return (await db.Entries.Where(entry => entry.SittingId == sitting && entry.By != 0).GroupBy(entry => entry.By)
            .Select(group => new { By = group.Key, Count = group.Count() }).ToListAsync()).ToDictionary(group =>
            new SeatId(group.By), group => group.Count);
    }

    /// <summary>Checks every sitting's chain.</summary>
    /// <returns>For each sitting its title, how many entries it has, of how many
    /// something was erased, and the first sequence that is wrong, if any.</returns>
    public async IAsyncEnumerable<(Guid Sitting, string Title, int Entries, int Erased, long? FirstBreak)> Verify()
    {
        await using var db = await databases.CreateDbContextAsync();
        var sittings = await db.Sittings.AsNoTracking().OrderBy(s => s.OpenedAt).Select(s => new { s.Id, s.Session!.Title }).ToListAsync();
        foreach (var sitting in sittings)
        {
            var entries = await Read(sitting.Id);
            yield return (sitting.Id, sitting.Title, entries.Count, entries.Count(entry => entry.Seal is not null),
                Chain.FirstBreak(entries));
        }
    }
}
