using System.Collections.Concurrent;
using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store.Ledger;

/// <summary>
/// Writes the entries of all sittings. What waits is gathered into one transaction; <see cref="Append"/> completes when
/// that transaction is on disk, so that nobody is told of what could still be lost.
/// </summary>
public sealed class EntryWriter(IDbContextFactory<CourtDb> databases) : IAsyncDisposable
{
    private const int MostInOneTransaction = 2_000;

    private readonly Channel<Waiting> _waiting = Channel.CreateUnbounded<Waiting>(new UnboundedChannelOptions { SingleReader = true });
    private readonly CancellationTokenSource _stop = new();
    private readonly ConcurrentDictionary<Guid, Exception> _failed = new();
    private Task? _loop;

    /// <summary>
    /// Once an entry of a sitting could not be written, later ones are refused, too, so that no gap comes about, until
    /// <see cref="Resume"/>.
    /// </summary>
    /// <exception cref="DbUpdateException">The disk is full or broken, or
    /// the sequence stands there already; nothing was written.</exception>
    /// <param name="with">Goes into the same transaction.</param>
    public Task Append(Guid sitting, IReadOnlyList<KeptEntry> entries, params IReadOnlyList<IStoredWith> with)
    {
        LazyInitializer.EnsureInitialized(ref _loop, () => Task.Run(Run));
        var done = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        return _waiting.Writer.TryWrite(new Waiting(sitting, entries, with, done))
            ? done.Task
            : Task.FromException(new InvalidOperationException("The server is stopping."));
    }

    /// <summary>The sitting starts again from what is stored.</summary>
    public void Resume(Guid sitting) => _failed.TryRemove(sitting, out _);

    private async Task Run()
    {
        var batch = new List<Waiting>();
        while (await _waiting.Reader.WaitToReadAsync())
        {
            batch.Clear();
            for (var count = 0; count < MostInOneTransaction && _waiting.Reader.TryRead(out var next); count += next.Entries.Count)
                batch.Add(next);
            try
            {
                if (batch.Exists(waiting => _failed.ContainsKey(waiting.Sitting)))
                    throw new InvalidOperationException("One of these sittings has failed.");
                await Write(batch);
                IsFull = false;
                foreach (var waiting in batch) waiting.Done.SetResult();
            }
            catch (Exception e) when (StoreFailure.Is(e))
            {
                IsFull = StoreFailure.IsFull(e);
                // The disk is full, or the database locked: trying each alone would only make everybody wait for longer.
                foreach (var waiting in batch) Fail(waiting, e);
            }
            catch (Exception)
            {
                // One sitting's bad entries must not take the others' with them.
                foreach (var waiting in batch) await WriteAlone(waiting);
            }
        }
    }

    private async Task WriteAlone(Waiting waiting)
    {
        try
        {
            if (_failed.TryGetValue(waiting.Sitting, out var before))
                throw new InvalidOperationException("An earlier entry of this sitting could not be stored.", before);
            await Write([waiting]);
            waiting.Done.SetResult();
        }
        catch (Exception e)
        {
            Fail(waiting, e);
        }
    }

    private void Fail(Waiting waiting, Exception why)
    {
        _failed.TryAdd(waiting.Sitting, why);
        waiting.Done.SetException(why);
    }

    /// <summary>The last try failed since there was no room on the disk.</summary>
    public bool IsFull { get; private set; }

    private async Task Write(List<Waiting> batch)
    {
        await using var db = await databases.CreateDbContextAsync(_stop.Token);
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        foreach (var (sitting, entries, with, _) in batch)
        {
            foreach (var entry in entries) db.Entries.Add(RecordOf(sitting, entry));
            foreach (var row in with) row.Put(db);
        }
        await db.SaveChangesAsync(_stop.Token);
    }

    private static EntryRecord RecordOf(Guid sitting, KeptEntry entry)
    {
        var marks = entry.Marks ?? throw new ArgumentException("An entry is kept with its marks.", nameof(entry));
        return new EntryRecord
        {
            SittingId = sitting,
            Sequence = entry.Sequence,
            Json = entry.Json,
            Digest = entry.Digest,
            At = marks.At.Milliseconds,
            By = marks.By,
            Topic = marks.Topic,
            About = marks.About,
            IsOwn = marks.IsOwn,
            Message = marks.Message
        };
    }

    public async ValueTask DisposeAsync()
    {
        _waiting.Writer.TryComplete();
        if (_loop is not null) await _loop;
        _stop.Dispose();
    }

    private sealed record Waiting(
        Guid Sitting, IReadOnlyList<KeptEntry> Entries, IReadOnlyList<IStoredWith> With, TaskCompletionSource Done);
}

/// <summary>What a topic writes in one transaction with entries.</summary>
public interface IStoredWith
{
    /// <summary>Adds it to what is about to be saved. Several of one transaction may be about the same row, and come in order.</summary>
    void Put(CourtDb db);
}
