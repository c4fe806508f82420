using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store.Ledger;

/// <summary>Where somebody is written down.</summary>
/// <param name="Names">The names that stand with the address, or were given.</param>
/// <param name="Messages">In the outbox.</param>
/// <param name="Sittings">Adjourned ones in whose ledger the person stands.</param>
/// <param name="Running">Sittings that run: what stands in them can be erased when they are adjourned.</param>
/// <param name="Files">That the person brought into adjourned ones.</param>
public sealed record Traces(
    IReadOnlyList<string> Names, int Contacts, int Lines, int Messages, int Sittings, int Running, int Files);

/// <summary>Takes one person, or the words of old chats, out of the database. Backups made before still have them.</summary>
public sealed class Eraser(IDbContextFactory<CourtDb> databases, EntryReader reader)
{
    /// <summary>Stands in the place of a name.</summary>
    public const string Alias = "Erased person";

    /// <param name="name">As it stands on dockets and boards; null for the names that stand with the address.</param>
    /// <param name="email">Null where it is not known.</param>
    public Task<Traces> Look(string? name, string? email, CancellationToken cancel = default) =>
        Go(name, email, erase: false, (_, _) => Task.CompletedTask, cancel);

    /// <param name="changed">Is told of each sitting whose entries are different now, and which files the person had brought.</param>
    public Task<Traces> Erase(
        string? name, string? email, Func<Guid, IReadOnlyList<Guid>, Task> changed, CancellationToken cancel = default) =>
        Go(name, email, erase: true, changed, cancel);

    /// <summary>Takes the words of all messages out of a sitting's ledger.</summary>
    /// <returns>How many entries were changed.</returns>
    public async Task<int> EraseWords(Guid sitting, CancellationToken cancel = default)
    {
        await using var db = await Thorough(cancel);
        return await Replace(db, sitting, Erasure.Of(await reader.Read(sitting, cancel: cancel), Erasing.Words), cancel);
    }

    private async Task<Traces> Go(
        string? name, string? email, bool erase, Func<Guid, IReadOnlyList<Guid>, Task> changed, CancellationToken cancel)
    {
        (name, email) = (Known(name), Known(email));
        await using var db = await Thorough(cancel);
        var names = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        if (name is not null) names.Add(name);
        var contacts = (await db.Contacts.ToListAsync(cancel)).Where(contact => Is(contact.Name, contact.Email)).ToList();
        var lines = (await db.Docket.ToListAsync(cancel)).Where(line => Is(line.Name, line.Email)).ToList();
        // The names that stand with the address are the same person's.
        names.UnionWith(contacts.Where(contact => Same(contact.Email, email)).Select(contact => contact.Name)
            .Concat(lines.Where(line => Same(line.Email, email)).Select(line => line.Name)));
        var addresses = contacts.Select(contact => contact.Email).Concat(lines.Select(line => line.Email)).Append(email).OfType<string>()
            .Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        var messages = (await db.Outbox.Select(message => new { message.Id, message.To, message.Subject }).ToListAsync(cancel))
            .Where(message => addresses.Exists(address => message.To.Contains(address, StringComparison.OrdinalIgnoreCase))
            || (name is not null && message.To.Contains(name, StringComparison.OrdinalIgnoreCase))).Select(message => message.Id).ToList();
        var what = new Erasing([.. names], [.. addresses], Alias);
        var (sittings, running, files) = (0, 0, 0);
        foreach (var sitting in await db.Sittings.AsNoTracking().Select(sitting => new { sitting.Id, sitting.AdjournedAt })
            .ToListAsync(cancel))
        {
            var entries = await reader.Read(sitting.Id, cancel: cancel);
            if (!entries.Any(entry => names.Concat(addresses).Any(word => entry.Json.Contains(word, StringComparison.OrdinalIgnoreCase))))
                continue;
            var erased = Erasure.Of(entries, what, out var seats);
            if (erased.Count == 0) continue;
            if (sitting.AdjournedAt is null)
            {
                running++;
                continue;
            }
            sittings++;
            var brought = await db.Files.Where(file => file.SittingId == sitting.Id && seats.Contains(file.Seat)).Select(file => file.Id)
                .ToListAsync(cancel);
            files += brought.Count;
            if (!erase) continue;
            await Replace(db, sitting.Id, erased, cancel);
            await changed(sitting.Id, brought);
        }
        if (erase)
        {
            db.RemoveRange(contacts);
            // The line stays, so that answers and times of the others stay where they are; its link opens nothing any more.
            foreach (var line in lines) (line.Name, line.Email, line.Group, line.Token) = (Alias, null, null, $"erased-{Guid.NewGuid():N}");
            // Who leads an item of a run sheet is named there.
            foreach (var session in (await db.Sessions.ToListAsync(cancel))
                .Where(session => names.Any(word => session.RunSheet.Contains(word, StringComparison.OrdinalIgnoreCase))))
                session.RunSheet = names.Aggregate(session.RunSheet, (text, word) =>
                    text.Replace(word, Alias, StringComparison.OrdinalIgnoreCase));
            foreach (var chunk in messages.Chunk(500))
                await db.Outbox.Where(message => chunk.Contains(message.Id)).ExecuteDeleteAsync(cancel);
            await db.SaveChangesAsync(cancel);
            await db.Database.ExecuteSqlRawAsync("PRAGMA wal_checkpoint(TRUNCATE)", cancel);
        }
        return new Traces([.. names], contacts.Count, lines.Count, messages.Count, sittings, running, files);

        bool Is(string called, string? address) => Same(address, email)
            || (name is not null && string.Equals(called.Trim(), name, StringComparison.OrdinalIgnoreCase)
            && (email is null || address is null));
    }

    private static bool Same(string? one, string? other) =>
        one is not null && other is not null && string.Equals(one.Trim(), other, StringComparison.OrdinalIgnoreCase);

    private static string? Known(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();

    private static async Task<int> Replace(CourtDb db, Guid sitting, IReadOnlyList<KeptEntry> entries, CancellationToken cancel)
    {
        if (entries.Count == 0) return 0;
        await using var all = await db.Database.BeginTransactionAsync(cancel);
        // The state after the entries says the same as they do.
        await db.Snapshots.Where(snapshot => snapshot.SittingId == sitting).ExecuteDeleteAsync(cancel);
        foreach (var entry in entries)
            await db.Entries.Where(kept => kept.SittingId == sitting && kept.Sequence == entry.Sequence)
                .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.Json, entry.Json)
                .SetProperty(kept => kept.Seal, entry.Seal), cancel);
        await all.CommitAsync(cancel);
        return entries.Count;
    }

    /// <summary>What is freed in the file is overwritten.</summary>
    private async Task<CourtDb> Thorough(CancellationToken cancel)
    {
        var db = await databases.CreateDbContextAsync(cancel);
        await db.Database.OpenConnectionAsync(cancel);
        await db.Database.ExecuteSqlRawAsync("PRAGMA secure_delete = ON", cancel);
        return db;
    }
}
