using System.Collections.Concurrent;
using System.Globalization;
using System.Threading.Channels;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Recording;

public sealed class RecordingOptions
{
    /// <summary>With less free room on the disk, in bytes, a recording stops while it still can in order.</summary>
    public long StopAt { get; set; } = 300_000_000;

    /// <summary>How long something stays in the wastebasket, in days.</summary>
    public int WastebasketDays { get; set; } = 30;

    /// <summary>How long recordings are kept, in days from their end; null for ever.</summary>
    public int? KeepDays { get; set; }
}

/// <summary>
/// Keeps the table of recordings in step with what the sittings say. It is told the state, and not what changed, so that being told twice
/// or late does no harm.
/// </summary>
internal sealed class RecordingRegister(
    IDbContextFactory<CourtDb> databases, EntryReader entries, IGrainFactory grains, Taps taps, DiskRoom disk, Preparation preparation,
    TimeProvider time, Microsoft.Extensions.Options.IOptions<RecordingOptions> options, Supervisor supervisor)
    : SupervisedService(supervisor)
{
    private readonly Channel<(Func<Task> Work, int Tries)> _work =
        Channel.CreateUnbounded<(Func<Task>, int)>(new UnboundedChannelOptions { SingleReader = true });

    /// <summary>What each sitting said last: what is tried again is never older than what was done already.</summary>
    private readonly ConcurrentDictionary<(Guid Sitting, int Recording), Said> _said = new();

    private sealed record Said(Recorder Recorder, string Title, RecordingRules Rules, bool IsOver);

    /// <summary>Somebody is taken out of it: what shows them goes at once.</summary>
    public event Action<Guid, int>? Erasing;

    /// <summary>A recording has ended, or is different from what films show.</summary>
    public event Action<Guid>? Settled;

    public void Follow(Guid sitting, Sitting state)
    {
        if (state.Recorder is not { } recorder) return;
        var key = (sitting, recorder.Number);
        _said[key] = new Said(recorder, state.Title, state.RecordingRules, state.Phase == Phase.Adjourned);
        _work.Writer.TryWrite((() => Note(key), 0));
    }

    /// <summary>Takes what was recorded of somebody away.</summary>
    public void Erase(Guid sitting, int recording, SeatId seat) => _work.Writer.TryWrite((() => EraseNow(sitting, recording, seat), 0));

    public bool HasNoRoom(Sitting sitting) => sitting.IsRecorded() && disk.Free < options.Value.StopAt;

    /// <summary>Minutes of recording for which there is room, in quarters of an hour; null for more than a day.</summary>
    public int? RoomFor()
    {
        if (disk.Free is not { } free) return null;
        var minutes = Math.Max(0, free - options.Value.StopAt) / BytesAMinute / Quarter * Quarter;
        return minutes > 24 * 60 ? null : (int)minutes;
    }

    /// <summary>Ten cameras, sharp: what was seen here, rounded up.</summary>
    private const long BytesAMinute = 40_000_000, Quarter = 15;

    /// <summary>Up to when a recording that was being made was written; null when it never began.</summary>
    public Instant? WrittenUntil(Guid sitting, int recording) => taps.FolderOf(sitting, recording).Alive;

    protected override string Name => "recordings";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        await preparation.Ready.WaitAsync(stoppingToken);
        if (!_hasCaughtUp) await CatchUp();
        _hasCaughtUp = true;
        await foreach (var (work, tries) in _work.Reader.ReadAllAsync(stoppingToken))
            if (!await Supervisor.Once(Name, work) && tries < MostTries) Supervisor.Begin(Name, () => Later(work, tries, stoppingToken));
    }

    /// <summary>What could not be done is tried again, and holds up nothing else meanwhile.</summary>
    private async Task Later(Func<Task> work, int tries, CancellationToken stop)
    {
        await Task.Delay(TimeSpan.FromSeconds(Math.Min(1 << tries, 30)), stop);
        _work.Writer.TryWrite((work, tries + 1));
    }

    /// <summary>
    /// The server may have been killed between an entry and what follows from it here: what should have ended is ended, and what somebody
    /// had taken out is taken out.
    /// </summary>
    private async Task CatchUp()
    {
        await using var db = await databases.CreateDbContextAsync();
        var recent = (time.GetUtcNow() - _recent).ToUnixTimeMilliseconds();
        foreach (var record in await db.Recordings.AsNoTracking().Where(one => one.StartedAt > recent || one.EndedAt == null).ToListAsync())
        {
            var said = await entries.Find(record.SittingId, new EntryWish(long.MaxValue, [Topic.Recording]), MostLooked);
            var erased = record.Erased.Split(',', StringSplitOptions.RemoveEmptyEntries);
            foreach (var fact in said.Select(entry => entry.Fact).OfType<RecordingAnswered>().Where(fact => fact.Erased == record.Number))
                if (!erased.Contains(fact.Seat.Number.ToString(CultureInfo.InvariantCulture)))
                    await EraseNow(record.SittingId, record.Number, fact.Seat);
            // A sitting that wakes tells its state.
            if (record.EndedAt is null) await grains.GetGrain<ISittingGrain>(record.SittingId).Wake();
        }
    }

    private static readonly TimeSpan _recent = TimeSpan.FromDays(7);

    /// <summary>Some minutes. The next start catches up with what was given up.</summary>
    private const int MostTries = 10;

    private bool _hasCaughtUp;

    private const int MostLooked = 5_000;

    private async Task Note((Guid Sitting, int Recording) key)
    {
        if (!_said.TryGetValue(key, out var said)) return;
        var (sitting, (recorder, title, rules, isOver)) = (key.Sitting, said);
        await using var db = await databases.CreateDbContextAsync();
        var record = await db.Recordings.FirstOrDefaultAsync(one => one.SittingId == sitting && one.Number == recorder.Number);
        var hasEnded = isOver || recorder.Phase == RecordingPhase.Stopped;
        if (record is null)
            db.Add(record = new RecordingRecord
            {
                Id = Guid.NewGuid(),
                SittingId = sitting,
                Number = recorder.Number,
                Name = Bounds.Clean(title, lines: false) is var name && name.Length > RecordingRecord.LongestName
                    ? name[..RecordingRecord.LongestName]
                    : name,
                StartedAt = recorder.Since.Milliseconds,
                Watchers = rules.Watchers
            });
        else if (record.EndedAt is not null && hasEnded) return;
        if (record.EndedAt is null || !hasEnded) record.Watchers = rules.Watchers;
        record.Length = (long)recorder.Recorded.TotalMilliseconds;
        record.EndedAt = null;
        await db.SaveChangesAsync();
        if (!hasEnded) return;
        await taps.Settle(sitting, recorder.Number);
        record.Size = taps.FolderOf(sitting, recorder.Number).Size;
        record.EndedAt = recorder.Stretches is [.., var last] ? last.To.Milliseconds : recorder.Since.Milliseconds;
        await db.SaveChangesAsync();
        _said.TryRemove(KeyValuePair.Create(key, said));
        Settled?.Invoke(record.Id);
    }

    private async Task EraseNow(Guid sitting, int recording, SeatId seat)
    {
        var had = taps.FolderOf(sitting, recording).AllTracks().Any(track => track.Seat == seat);
        // Before anything that can fail: no film is shown with them again, whether another can be made or not.
        if (had) Erasing?.Invoke(sitting, recording);
        await taps.Forget(sitting, recording, seat);
        await using var db = await databases.CreateDbContextAsync();
        if (await db.Recordings.FirstOrDefaultAsync(one => one.SittingId == sitting && one.Number == recording) is not { } record) return;
        var number = seat.Number.ToString(CultureInfo.InvariantCulture);
        var before = record.Erased.Split(',', StringSplitOptions.RemoveEmptyEntries);
        // Whoever says it again and again does not have all films made anew again and again.
        if (!had && before.Contains(number)) return;
        var erased = before.Append(number).Distinct();
        (record.Erased, record.Size) = (string.Join(',', erased), taps.FolderOf(sitting, recording).Size);
        await db.SaveChangesAsync();
        if (record.EndedAt is not null) Settled?.Invoke(record.Id);
    }
}
