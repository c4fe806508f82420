using System.Threading.Channels;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store.Files;

/// <summary>
/// Writes what is done to marks, of all sittings: what waits is gathered into one transaction. <see cref="Append"/> completes when it is
/// on disk.
/// </summary>
public sealed class MarkWriter(IDbContextFactory<CourtDb> databases) : IAsyncDisposable
{
    private const int MostInOneTransaction = 1_000;

    private readonly Channel<(MarkRecord Record, TaskCompletionSource Done)> _waiting =
        Channel.CreateUnbounded<(MarkRecord, TaskCompletionSource)>(new UnboundedChannelOptions { SingleReader = true });

    private Task? _loop;

    /// <exception cref="DbUpdateException">The disk is full or broken, or the sequence stands there already.</exception>
    public Task Append(MarkRecord record)
    {
        LazyInitializer.EnsureInitialized(ref _loop, () => Task.Run(Run));
        var done = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        return _waiting.Writer.TryWrite((record, done))
            ? done.Task
            : Task.FromException(new InvalidOperationException("The server is stopping."));
    }

    /// <summary>All acts on an exhibit's marks, in their order.</summary>
    public async Task<List<string>> Read(Guid sitting, int exhibit)
    {
        await using var db = await databases.CreateDbContextAsync();
        return await db.Marks.AsNoTracking().Where(act => act.SittingId == sitting && act.Exhibit == exhibit).OrderBy(act => act.Sequence)
            .Select(act => act.Json).ToListAsync();
    }

    private async Task Run()
    {
        while (await _waiting.Reader.WaitToReadAsync())
        {
            var batch = new List<(MarkRecord Record, TaskCompletionSource Done)>();
            while (batch.Count < MostInOneTransaction && _waiting.Reader.TryRead(out var next)) batch.Add(next);
            try
            {
                await Write(batch.ConvertAll(one => one.Record));
                foreach (var (_, done) in batch) done.SetResult();
            }
            catch (Exception) when (batch.Count > 1)
            {
                // One sitting's bad act must not take the others' with it.
                foreach (var one in batch) await WriteAlone(one);
            }
            catch (Exception e)
            {
                batch[0].Done.SetException(e);
            }
        }
    }

    private async Task WriteAlone((MarkRecord Record, TaskCompletionSource Done) one)
    {
        try
        {
            await Write([one.Record]);
            one.Done.SetResult();
        }
        catch (Exception e)
        {
            one.Done.SetException(e);
        }
    }

    private async Task Write(List<MarkRecord> records)
    {
        await using var db = await databases.CreateDbContextAsync();
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        db.Marks.AddRange(records);
        await db.SaveChangesAsync();
    }

    public async ValueTask DisposeAsync()
    {
        _waiting.Writer.TryComplete();
        if (_loop is not null) await _loop;
    }
}
