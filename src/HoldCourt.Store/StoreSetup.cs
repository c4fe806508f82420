using System.Data.Common;
using System.Diagnostics;
using HoldCourt.Store.Files;
using HoldCourt.Store.Ledger;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Store;

public static class StoreSetup
{
    /// <summary>How long a locked database is waited for; then what waits is answered as not stored.</summary>
    public static TimeSpan BusyPatience { get; } = TimeSpan.FromSeconds(8);

    /// <param name="file">The database's path; made on first use.</param>
    public static IServiceCollection AddStore(this IServiceCollection services, string file, bool pooling = true) => services
        .AddDbContextFactory<CourtDb>(options => Configure(options, file, pooling))
        .AddSingleton<HeldOpen>()
        .AddSingleton<EntryWriter>()
        .AddSingleton<EntryReader>()
        .AddSingleton<Snapshots>()
        .AddSingleton<MarkWriter>()
        .AddSingleton<Eraser>();

    internal static void Configure(DbContextOptionsBuilder options, string file, bool pooling) => options
        .UseSqlite(new SqliteConnectionStringBuilder
        {
            DataSource = file,
            ForeignKeys = true,
            Pooling = pooling,
            DefaultTimeout = (int)BusyPatience.TotalSeconds
        }.ToString())
        .AddInterceptors(new DurableConnection());

    /// <summary>Looks whether the database can be used at all, before anything else starts.</summary>
    /// <exception cref="SqliteException">It is damaged, or cannot be opened.</exception>
    /// <exception cref="OtherFormException">It was written by a newer version, or by one of before the first release.</exception>
    public static void Check(string file)
    {
        if (!File.Exists(file)) return;
        var options = new DbContextOptionsBuilder<CourtDb>();
        Configure(options, file, pooling: false);
        using var db = new CourtDb(options.Options);
        IsOfBefore(db);
    }

    /// <summary>
    /// What one form took the place of: the forms of before the first release, the last of which is the same under other names.
    /// </summary>
    private const string Whole = "20261202000000_Whole", LastBefore = "20261201211719_UsedCodes";

    /// <summary>Whether it has the form that <see cref="Whole"/> took the place of.</summary>
    private static bool IsOfBefore(CourtDb db)
    {
        string[] applied = [.. db.Database.GetAppliedMigrations()];
        string[] unknown = [.. applied.Except(db.Database.GetMigrations())];
        if (unknown.Length == 0) return false;
        if (unknown.Any(form => string.CompareOrdinal(form, Whole) > 0)) throw new OtherFormException(IsNewer: true);
        return applied.Contains(LastBefore) ? true : throw new OtherFormException(IsNewer: false);
    }

    /// <summary>Brings the database to the present form.</summary>
    public static async Task Migrate(IServiceProvider services)
    {
        await using var db = await services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
        await KeepBefore(db);
        // In this order: a kill between the two leaves what the next start goes on with.
        if (IsOfBefore(db))
            await db.Database.ExecuteSqlRawAsync("""
                DELETE FROM __EFMigrationsHistory WHERE MigrationId < {1};
                UPDATE __EFMigrationsHistory SET MigrationId = {0} WHERE MigrationId = {1};
                """, Whole, LastBefore);
        await db.Database.MigrateAsync();
        await db.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = WAL");
        await services.GetRequiredService<HeldOpen>().Open();
    }

    /// <summary>A database that is to be brought to a newer form is copied first: a kill in the middle costs nothing.</summary>
    private static async Task KeepBefore(CourtDb db)
    {
        if (!File.Exists(new SqliteConnectionStringBuilder(db.Database.GetConnectionString()).DataSource)) return;
        if ((await db.Database.GetAppliedMigrationsAsync()).LastOrDefault() is not { } last
            || !(await db.Database.GetPendingMigrationsAsync()).Any()) return;
        var file = new SqliteConnectionStringBuilder(db.Database.GetConnectionString()).DataSource;
        Copy(file, Path.Combine(Path.GetDirectoryName(Path.GetFullPath(file))!,
            $"hold-court-before-{DateTime.UtcNow:yyyyMMddHHmmss}-{last}.db"));
    }

    /// <summary>
    /// A consistent copy, by SQLite's own way of backup, also while the database is written to. It is begun again while another
    /// has the database for itself, as at a checkpoint, for as long as <see cref="BusyPatience"/>: a step of a backup waits for nobody.
    /// </summary>
    /// <exception cref="SqliteException">The disk is full, the database is damaged, or another keeps it for itself for longer;
    /// nothing is left of the copy.</exception>
    public static void Copy(string file, string to)
    {
        var since = Stopwatch.GetTimestamp();
        while (true)
        {
            try
            {
                CopyOnce(file, to);
                return;
            }
            catch (SqliteException e) when ((e.SqliteErrorCode & PrimaryCode) is 5 or 6 && Stopwatch.GetElapsedTime(since) < BusyPatience)
            {
                Thread.Sleep(100);
            }
        }
    }

    /// <summary>A step of a backup answers with an extended code, of which the low byte says what it is.</summary>
    private const int PrimaryCode = 0xFF;

    private static void CopyOnce(string file, string to)
    {
        try
        {
            using (var source = new SqliteConnection(new SqliteConnectionStringBuilder
            {
                DataSource = file,
                Mode = SqliteOpenMode.ReadWrite,
                Pooling = false,
                DefaultTimeout = (int)BusyPatience.TotalSeconds
            }.ToString()))
            using (var target = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = to, Pooling = false }.ToString()))
            {
                source.Open();
                target.Open();
                source.BackupDatabase(target);
                using var mode = target.CreateCommand();
                mode.CommandText = "PRAGMA journal_mode = DELETE";
                mode.ExecuteNonQuery();
            }
            if (!IsWhole(to)) throw new SqliteException("The copy is not whole.", 11);
        }
        catch
        {
            foreach (var left in new[] { to, to + "-journal", to + "-wal", to + "-shm" }) File.Delete(left);
            throw;
        }
    }

    /// <summary>The newest form that was brought to a database.</summary>
    public static string FormOf(string file)
    {
        var options = new DbContextOptionsBuilder<CourtDb>();
        Configure(options, file, pooling: false);
        using var db = new CourtDb(options.Options);
        return db.Database.GetAppliedMigrations().LastOrDefault() ?? "";
    }

    /// <summary>SQLite's own check of a database file.</summary>
    public static bool IsWhole(string file)
    {
        using var db = new SqliteConnection(new SqliteConnectionStringBuilder
        {
            DataSource = file,
            Mode = SqliteOpenMode.ReadOnly,
            Pooling = false
        }.ToString());
        db.Open();
        using var check = db.CreateCommand();
        check.CommandText = "PRAGMA integrity_check";
        return check.ExecuteScalar() is "ok";
    }

    /// <summary>With FULL, a commit in WAL mode is on the disk when it returns, even if the machine then loses power.</summary>
    private sealed class DurableConnection : DbConnectionInterceptor
    {
        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData) => MakeDurable(connection);

        public override Task ConnectionOpenedAsync(DbConnection connection, ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default)
        {
            MakeDurable(connection);
            return Task.CompletedTask;
        }

        private static void MakeDurable(DbConnection connection)
        {
            using var command = connection.CreateCommand();
            command.CommandText = "PRAGMA synchronous = FULL";
            command.ExecuteNonQuery();
        }
    }
}

/// <summary>
/// Keeps the database open for as long as the process has it, so that its index of the journal stays: on a full disk another could not
/// be made, and nothing could even be read.
/// </summary>
internal sealed class HeldOpen(IDbContextFactory<CourtDb> databases) : IAsyncDisposable
{
    private CourtDb? _db;

    public async Task Open()
    {
        _db = await databases.CreateDbContextAsync();
        await _db.Database.OpenConnectionAsync();
        await _db.Sittings.AnyAsync();
    }

    public ValueTask DisposeAsync() => _db?.DisposeAsync() ?? ValueTask.CompletedTask;
}

/// <summary>The database was written by a newer version of the program, or by one too old to be brought to this one's form.</summary>
public sealed class OtherFormException(bool IsNewer) : Exception
{
    public bool IsNewer { get; } = IsNewer;
}

/// <summary>Lets <c>dotnet ef</c> write migrations.</summary>
internal sealed class DesignTimeDb : IDesignTimeDbContextFactory<CourtDb>
{
    public CourtDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<CourtDb>();
        StoreSetup.Configure(options, "design.db", pooling: false);
        return new CourtDb(options.Options);
    }
}
