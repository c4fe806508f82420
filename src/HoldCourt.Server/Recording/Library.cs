using HoldCourt.Server.Hosting;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Recording;

/// <summary>Takes recordings away: on request, from the wastebasket after its days, and what nobody knows of any more.</summary>
internal sealed class Library(
    IDbContextFactory<CourtDb> databases, Taps taps, IConfiguration configuration, IOptions<RecordingOptions> options, TimeProvider time)
{
    /// <summary>Once and for all. The row goes first: what is left of files is found by <see cref="Tidy"/>.</summary>
    public async Task Remove(CourtDb db, RecordingRecord recording)
    {
        await db.Recordings.Where(one => one.Id == recording.Id).ExecuteDeleteAsync();
        db.ChangeTracker.Clear();
        var folder = taps.FolderOf(recording.SittingId, recording.Number).Path;
        if (Directory.Exists(folder)) Directory.Delete(folder, recursive: true);
    }

    public async Task Tidy()
    {
        await using var db = await databases.CreateDbContextAsync();
        var now = time.GetUtcNow();
        var emptied = now.AddDays(-options.Value.WastebasketDays).ToUnixTimeMilliseconds();
        var kept = options.Value.KeepDays is { } days ? now.AddDays(-days).ToUnixTimeMilliseconds() : (long?)null;
        foreach (var old in await db.Recordings.AsNoTracking()
            .Where(one => one.DeletedAt < emptied || (kept != null && one.EndedAt < kept)).ToListAsync()) await Remove(db, old);
        // Films that were being written when the server was killed.
        foreach (var recording in await db.Recordings.AsNoTracking().ToListAsync())
        {
            var films = Path.Combine(taps.FolderOf(recording.SittingId, recording.Number).Path, "films");
            if (!Directory.Exists(films)) continue;
            foreach (var film in Directory.EnumerateDirectories(films))
            {
                Films.CaptionedFilms.Tidy(film);
                if (Directory.GetLastWriteTimeUtc(film) < DateTime.UtcNow.AddDays(-1)
                    && (!Guid.TryParse(Path.GetFileName(film), out var id) || !await db.Films.AnyAsync(one => one.Id == id)))
                    Directory.Delete(film, recursive: true);
            }
        }
        var root = Path.Combine(CourtHost.FolderOf(configuration), "recordings");
        if (!Directory.Exists(root)) return;
        foreach (var folder in Directory.EnumerateDirectories(root))
        {
            var known = Guid.TryParse(Path.GetFileName(folder), out var sitting) && await db.Sittings.AnyAsync(one => one.Id == sitting);
            // One that has just begun has no row yet.
            foreach (var one in Directory.EnumerateDirectories(folder))
                if (known && Directory.GetLastWriteTimeUtc(one) < DateTime.UtcNow.AddDays(-1)
                    && !(int.TryParse(Path.GetFileName(one), out var number)
                        && await db.Recordings.AnyAsync(kept => kept.SittingId == sitting && kept.Number == number)))
                    Directory.Delete(one, recursive: true);
            if (!known) Directory.Delete(folder, recursive: true);
        }
    }
}
