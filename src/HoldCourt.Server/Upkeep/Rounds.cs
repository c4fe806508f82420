using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Upkeep;

/// <summary>How long things are kept, in days; null, as it is until somebody says otherwise, keeps them for ever.</summary>
public sealed class RetentionOptions
{
    /// <summary>Whole sittings with their ledgers, from when they were adjourned.</summary>
    public int? SittingsDays { get; set; }

    /// <summary>The words of the messages in adjourned sittings. Who wrote when stays.</summary>
    public int? ChatsDays { get; set; }

    /// <summary>Papers, from when they were added.</summary>
    public int? PapersDays { get; set; }

    /// <summary>Messages in the outbox that do not wait.</summary>
    public int? MessagesDays { get; set; }
}

/// <summary>Backups that the server makes by itself.</summary>
public sealed class BackupOptions
{
    /// <summary>Where they go; null makes none. Another disk is wise.</summary>
    public string? Folder { get; set; }
    public int EveryHours { get; set; } = 24;

    /// <summary>How many are kept there.</summary>
    public int Keep { get; set; } = 14;
}

/// <summary>Goes round the house once in a while: makes a backup that is due, and lets go what is kept no longer.</summary>
internal sealed partial class Rounds(
    IDbContextFactory<CourtDb> databases, Eraser eraser, IGrainFactory grains,
    IOptions<RetentionOptions> retention, IOptions<BackupOptions> backup, IConfiguration configuration, Preparation preparation,
    TimeProvider time, KeptFiles files, PageStore pages, Library library,
    Supervisor supervisor, ILogger<Rounds> log) : SupervisedService(supervisor)
{
    private const string Prefix = "hold-court-";
    private static readonly TimeSpan _between = TimeSpan.FromMinutes(10);
    private readonly SemaphoreSlim _backups = new(1);

    /// <summary>Why the last backup was not made; null when it was.</summary>
    public string? LastFailure { get; private set; }

    private string Folder => CourtHost.FolderOf(configuration);

    public bool MakesBackups => backup.Value.Folder is { Length: > 0 };

    protected override string Name => "rounds";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        await preparation.Ready.WaitAsync(stoppingToken);
        using var timer = new PeriodicTimer(_between, time);
        do
        {
            // Each by itself: what fails keeps nothing else from being done.
            await Supervisor.Once("backups", async () =>
            {
                if (MakesBackups && BackupIsDue()) await BackUp();
            });
            await Supervisor.Once(Name, () => LetGo(stoppingToken));
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private bool BackupIsDue() =>
        BackupFile.Last(Folder) is not { } last || time.GetUtcNow() - last.At >= TimeSpan.FromHours(Math.Max(1, backup.Value.EveryHours));

    /// <summary>Makes one now, and takes the surplus ones away.</summary>
    /// <returns>Why not, in a sentence; null when it was made.</returns>
    public async Task<string?> BackUp()
    {
        await _backups.WaitAsync();
        try
        {
            var now = time.GetUtcNow();
            var folder = Path.GetFullPath(backup.Value.Folder!);
            await Task.Run(() => BackupFile.Write(Folder, Path.Combine(folder, $"{Prefix}{now:yyyyMMdd-HHmmss}.zip"), now));
            foreach (var old in Directory.GetFiles(folder, $"{Prefix}*.zip").OrderDescending(StringComparer.Ordinal)
                .Skip(Math.Max(1, backup.Value.Keep))) File.Delete(old);
            return LastFailure = null;
        }
        catch (Exception e) when (e is BackupException or IOException or UnauthorizedAccessException)
        {
            LogNoBackup(e);
            return LastFailure = e.Message;
        }
        finally
        {
            _backups.Release();
        }
    }

    /// <summary>Takes away what is older than is wished.</summary>
    public async Task LetGo(CancellationToken cancel)
    {
        var options = retention.Value;
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (Before(options.SittingsDays) is { } sittings)
            await db.Sittings.Where(sitting => sitting.AdjournedAt < sittings).ExecuteDeleteAsync(cancel);
        await files.Tidy();
        pages.Forget();
        await library.Tidy();
        if (Before(options.PapersDays) is { } papers) await db.Papers.Where(paper => paper.AddedAt < papers).ExecuteDeleteAsync(cancel);
        if (Before(options.MessagesDays) is { } messages)
            await db.Outbox.Where(message => message.At < messages && message.State != MailState.Waiting).ExecuteDeleteAsync(cancel);
        if (Before(options.ChatsDays) is not { } chats) return;
        foreach (var sitting in await db.Sittings.Where(sitting => sitting.AdjournedAt < chats && !sitting.WordsErased)
            .Select(sitting => sitting.Id).ToListAsync(cancel))
        {
            await eraser.EraseWords(sitting, cancel);
            await db.Sittings.Where(kept => kept.Id == sitting)
                .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.WordsErased, true), cancel);
            await grains.GetGrain<ISittingGrain>(sitting).Forget();
        }
    }

    private long? Before(int? days) =>
        days is { } count and > 0 ? (time.GetUtcNow() - TimeSpan.FromDays(count)).ToUnixTimeMilliseconds() : null;

    public override void Dispose()
    {
        _backups.Dispose();
        base.Dispose();
    }

    [LoggerMessage(LogLevel.Error, "No backup was made")]
    private partial void LogNoBackup(Exception e);
}
