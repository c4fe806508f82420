using System.Collections.Concurrent;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Hosting;
using HoldCourt.Store;
using HoldCourt.Store.Files;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Exhibits;

/// <summary>How much may be brought into a sitting.</summary>
public sealed class FileBounds
{
    /// <summary>In bytes: one file, and all of a sitting.</summary>
    public long Largest { get; set; } = 100_000_000;

    /// <inheritdoc cref="Largest"/>
    public long LargestInAll { get; set; } = 2_000_000_000;

    /// <summary>Of one person.</summary>
    public int Most { get; set; } = 200;

    /// <summary>A program that looks at each file; see <see cref="HoldCourt.Server.Handouts.FileScan"/>.</summary>
    public string? Scan { get; set; }

    /// <summary>So many bytes of the disk are left free for the record of the sittings, whatever people bring.</summary>
    public long KeptFree { get; set; } = 200_000_000;

    /// <summary>What has not come whole after so long goes.</summary>
    public TimeSpan UnfinishedKept { get; set; } = TimeSpan.FromHours(24);
}

/// <summary>What looks at files found something in it.</summary>
internal sealed class HarmfulFileException : Exception;

/// <summary>
/// Files that people bring into a sitting: a row in the database, and the bytes in the data folder. A file comes piece by piece (tus
/// 1.0.0), each from where the one before ended, so that a broken connection loses nothing that has come.
/// </summary>
internal sealed class KeptFiles(
    IDbContextFactory<CourtDb> databases, IConfiguration configuration, IFileScan scan, IOptions<FileBounds> options, DiskRoom disk,
    TimeProvider time)
{
    /// <summary>Below the data folder.</summary>
    public const string FolderName = "files";

    /// <summary>The name of a file of ours: its id.</summary>
    public static bool IsName(string name) => Guid.TryParseExact(name, "N", out _);

    /// <summary>After so many bytes it is looked anew whether there is room.</summary>
    private const long Looks = 1_000_000;

    /// <summary>Whoever is just fetching something may end.</summary>
    private static readonly TimeSpan _keptAfterTheEnd = TimeSpan.FromHours(1);

    /// <summary>One at a time for each sitting: two at once must not share the room that is left for one.</summary>
    private readonly SemaphoreSlim[] _announcing = [.. Enumerable.Range(0, 32).Select(_ => new SemaphoreSlim(1))];

    private readonly ConcurrentDictionary<Guid, byte> _writing = new();
    private readonly string _folder = Path.Combine(CourtHost.FolderOf(configuration), FolderName);

    public long Largest => options.Value.Largest;

    public string PathOf(Guid id) => Path.Combine(_folder, id.ToString("N"));

    /// <summary>Room for a file; null with the reason when there is none.</summary>
    /// <exception cref="DiskFullException">The disk has not that much room.</exception>
    public async Task<(FileRecord? File, string? Reason)> Announce(Guid sitting, SeatId seat, string name, long size)
    {
        if (size > options.Value.Largest) return (null, "tooLarge");
        if (size <= 0) return (null, "fileEmpty");
        if (name.Length is 0 or > 120 || name.IndexOfAny(['/', '\\']) >= 0 || name.Any(char.IsControl) || name is "." or "..")
            return (null, "fileNameNotUnderstood");
        var turn = _announcing[(uint)sitting.GetHashCode() % _announcing.Length];
        await turn.WaitAsync();
        try { return await Announced(sitting, seat, name, size); }
        finally { turn.Release(); }
    }

    private async Task<(FileRecord? File, string? Reason)> Announced(Guid sitting, SeatId seat, string name, long size)
    {
        await using var db = await databases.CreateDbContextAsync();
        var there = db.Files.Where(file => file.SittingId == sitting);
        if (await there.CountAsync(file => file.Seat == seat.Number) >= options.Value.Most) return (null, "tooManyFiles");
        if (await there.SumAsync(file => file.Size) + size > options.Value.LargestInAll) return (null, "sittingFull");
        disk.For(size);
        Directory.CreateDirectory(_folder);
        var file = new FileRecord
        {
            Id = Guid.NewGuid(),
            SittingId = sitting,
            Seat = seat.Number,
            Name = name,
            Size = size,
            AddedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
        };
        await File.WriteAllBytesAsync(PathOf(file.Id), []);
        db.Add(file);
        await db.SaveChangesAsync();
        return (file, null);
    }

    public async Task<FileRecord?> Find(Guid sitting, Guid id)
    {
        await using var db = await databases.CreateDbContextAsync();
        return await db.Files.AsNoTracking().SingleOrDefaultAsync(file => file.Id == id && file.SittingId == sitting);
    }

    /// <summary>How many bytes have come.</summary>
    public long Came(FileRecord file) => new FileInfo(PathOf(file.Id)) is { Exists: true } there ? there.Length : 0;

    public bool IsWhole(FileRecord file) => file.ContentType is not null && Came(file) == file.Size;

    /// <summary>Takes what comes, from the end of what is there. What came before the connection broke stays.</summary>
    /// <returns>How many bytes have come; null when another request writes it, or this does not begin where that one ended.</returns>
    /// <exception cref="DiskFullException">There is no room for more; what came before stays.</exception>
    /// <exception cref="IOException">The disk is broken; what came before stays.</exception>
    /// <exception cref="HarmfulFileException">Nobody may have it; it is not there any more.</exception>
    public async Task<long?> Take(FileRecord file, long from, Stream body, CancellationToken cancel)
    {
        if (!_writing.TryAdd(file.Id, 0)) return null;
        try
        {
            long came;
            await using (var to = new FileStream(PathOf(file.Id), FileMode.Open, FileAccess.Write, FileShare.Read))
            {
                if (to.Length != from) return null;
                to.Seek(0, SeekOrigin.End);
                var buffer = new byte[128 * 1024];
                var looked = -Looks;
                try
                {
                    while (to.Length < file.Size
                        && await body.ReadAsync(buffer.AsMemory(0, (int)Math.Min(buffer.Length, file.Size - to.Position)), cancel)
                            is > 0 and var read)
                    {
                        // Others may fill it meanwhile, too.
                        if (to.Position >= looked + Looks)
                        {
                            disk.For(Math.Min(Looks, file.Size - to.Position));
                            looked = to.Position;
                        }
                        await to.WriteAsync(buffer.AsMemory(0, read), CancellationToken.None);
                    }
                }
                catch (IOException e) when (DiskRoom.IsFull(e))
                {
                    throw new DiskFullException();
                }
                catch (Exception e) when (e is OperationCanceledException or Microsoft.AspNetCore.Connections.ConnectionResetException
                    or BadHttpRequestException)
                {
                    // The sender has gone, and comes again.
                }
                await to.FlushAsync(CancellationToken.None);
                came = to.Position;
            }
            if (came == file.Size) await Complete(file);
            return came;
        }
        finally
        {
            _writing.TryRemove(file.Id, out _);
        }
    }

    private async Task Complete(FileRecord file)
    {
        if (!await scan.IsClean(PathOf(file.Id), CancellationToken.None))
        {
            File.Delete(PathOf(file.Id));
            await Drop(file);
            throw new HarmfulFileException();
        }
        var kind = FileKind.Of(PathOf(file.Id), file.Name);
        await using var db = await databases.CreateDbContextAsync();
        await db.Files.Where(kept => kept.Id == file.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.ContentType, kind.ContentType));
        file.ContentType = kind.ContentType;
    }

    /// <summary>A whole file from elsewhere, such as the session's papers.</summary>
    public async Task<(FileRecord? File, string? Reason)> Put(Guid sitting, SeatId seat, string name, byte[] content)
    {
        try
        {
            var (file, reason) = await Announce(sitting, seat, name, content.Length);
            if (file is null) return (null, reason);
            using var body = new MemoryStream(content);
            await Take(file, 0, body, CancellationToken.None);
            return (file, null);
        }
        catch (HarmfulFileException) { return (null, "fileHarmful"); }
        catch (DiskFullException) { return (null, "diskFull"); }
    }

    /// <summary>First the bytes: on a full disk the database has no room to forget the row before they are gone.</summary>
    public async Task Drop(FileRecord file)
    {
        if (!_writing.ContainsKey(file.Id)) File.Delete(PathOf(file.Id));
        await using var db = await databases.CreateDbContextAsync();
        await db.Files.Where(kept => kept.Id == file.Id).ExecuteDeleteAsync();
    }

    /// <summary>Takes several away, first their bytes.</summary>
    public async Task Drop(Guid sitting, IReadOnlyList<Guid> ids)
    {
        foreach (var id in ids) File.Delete(PathOf(id));
        await using var db = await databases.CreateDbContextAsync();
        foreach (var chunk in ids.Chunk(500))
            await db.Files.Where(file => file.SittingId == sitting && chunk.Contains(file.Id)).ExecuteDeleteAsync();
    }

    /// <summary>
    /// Takes away what never came whole, bytes whose row has gone, and what was brought into sittings that are over: nobody can fetch it
    /// any more. Where a recording is left its films may be made once more, of which pages are a part.
    /// </summary>
    public async Task Tidy()
    {
        if (!Directory.Exists(_folder)) return;
        await using var db = await databases.CreateDbContextAsync();
        var old = (time.GetUtcNow() - options.Value.UnfinishedKept).ToUnixTimeMilliseconds();
        await db.Files.Where(file => file.ContentType == null && file.AddedAt < old).ExecuteDeleteAsync();
        var over = (time.GetUtcNow() - _keptAfterTheEnd).ToUnixTimeMilliseconds();
        foreach (var ended in await db.Files.Where(file => db.Sittings.Any(sitting => sitting.Id == file.SittingId
                && sitting.AdjournedAt < over) && !db.Recordings.Any(recording => recording.SittingId == file.SittingId))
            .GroupBy(file => file.SittingId, file => file.Id).Select(group => new { Sitting = group.Key, Files = group.ToList() })
            .ToListAsync()) await Drop(ended.Sitting, ended.Files);
        var known = (await db.Files.Select(file => file.Id).ToListAsync()).ToHashSet();
        foreach (var path in Directory.EnumerateFiles(_folder))
            if (Guid.TryParse(Path.GetFileName(path), out var id) && !known.Contains(id) && !_writing.ContainsKey(id)
                && File.GetLastWriteTimeUtc(path) < time.GetUtcNow().UtcDateTime.AddMinutes(-10))
                File.Delete(path);
    }
}
