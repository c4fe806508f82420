using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Files;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Recording.Films;

/// <summary>How far a film is.</summary>
/// <param name="Share">0 to 1.</param>
/// <param name="Left">Milliseconds that it will still take; null while nobody can tell.</param>
public sealed record FilmProgress(double Share, long? Left);

/// <summary>
/// Composes films, one at a time and at low priority, each in a process of its own. What is to be done stands in the table, so that a
/// server that was stopped goes on.
/// </summary>
internal sealed partial class FilmWorks(
    IDbContextFactory<CourtDb> databases, RecordingRegister register, Taps taps, EntryReader entries, MarkWriter marks, PageStore pages,
    KeptFiles files, FilmLetters letters, DiskRoom disk, Preparation preparation, HeavyWork heavy, Supervisor supervisor, TimeProvider time,
    ILogger<FilmWorks> log) : SupervisedService(supervisor)
{
    private static readonly TimeSpan _between = TimeSpan.FromSeconds(20);
    /// <summary>Of the composer and the coder together, in bytes.</summary>
    private const long MostMemory = 3_000_000_000;

    private static readonly TimeSpan _betweenLooks = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan _untilForeseen = TimeSpan.FromSeconds(3);

    private readonly SemaphoreSlim _news = new(0, 1);
    private readonly ConcurrentDictionary<Guid, FilmProgress> _progress = new();
    private readonly Lock _gate = new();
    private (Guid Film, string Output, Process Process)? _running;

    public FilmProgress? ProgressOf(Guid film) => _progress.GetValueOrDefault(film);

    /// <summary>Where the film and what belongs to it lie.</summary>
    public string FolderOf(RecordingRecord recording, Guid film) =>
        Path.Combine(taps.FolderOf(recording.SittingId, recording.Number).Path, "films", film.ToString("N"));

    /// <summary>There is something to do.</summary>
    public void Nudge()
    {
        try { _news.Release(); }
        catch (SemaphoreFullException) { /* It has been told already. */ }
    }

    /// <param name="Parts">As they are left out, at key frames, in the time of the film.</param>
    /// <param name="Film">Null when it was only looked.</param>
    internal sealed record CutFilm(ImmutableArray<Passage> Parts, Guid? Film);

    /// <summary>Leaves parts of a film out without coding anything anew, as another film.</summary>
    /// <param name="cuts">What of the recording the film leaves out already.</param>
    /// <param name="parts">In the time of the film.</param>
    /// <returns>Or the name of the reason why not.</returns>
    public async Task<(CutFilm? Made, string? Reason)> Cut(
        RecordingRecord recording, FilmRecord film, ImmutableArray<Passage> cuts, ImmutableArray<Passage> parts, bool looks)
    {
        var path = Path.Combine(FolderOf(recording, film.Id), Composer.FilmName);
        if (!File.Exists(path)) return (null, "noSuchFilm");
        var snapped = await heavy.Run(Lane.Slow, recording.Id.ToString(), () => Cutter.Snap(Cutter.KeysOf(path), parts, film.Length));
        var left = film.Length - snapped.Sum(part => part.Length.TotalMilliseconds);
        if (left <= 0) return (null, "nothingLeft");
        if (looks) return (new CutFilm(snapped, null), null);
        if (disk.Free is { } free && free < 300_000_000 + film.Size) return (null, "filmNoRoom");
        var score = await ScoreOf(recording);
        var (whole, before) = (Timeline.Of(score.Stretches), Timeline.Of(score.Stretches).Without(cuts));
        var after = before.Without(snapped);
        var texts = Texts.ServerTexts.In(await LanguageOf(recording));
        var chapters = FilmChapters.Of(score, after, texts["film.beginning"], texts["film.goesOn"]);
        var id = Guid.NewGuid();
        var output = FolderOf(recording, id);
        var made = await heavy.Run(Lane.Slow, recording.Id.ToString(), () => Cutter.Cut(path, output, snapped, film.Length, chapters));
        await using var db = await databases.CreateDbContextAsync();
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        db.Add(new FilmRecord
        {
            Id = id,
            RecordingId = recording.Id,
            Framing = film.Framing,
            Names = film.Names,
            Questions = film.Questions,
            Cuts = JsonSerializer.Serialize(LeftOut(whole, after), CoreJson.Options),
            State = FilmState.Ready,
            AskedAt = now,
            MadeAt = now,
            Length = made.Length,
            Size = new FileInfo(Path.Combine(output, Composer.FilmName)).Length
        });
        await db.SaveChangesAsync();
        return (new CutFilm(snapped, id), null);
    }

    /// <summary>What of a recording is not in a film of it, in the recording's time.</summary>
    private static ImmutableArray<Passage> LeftOut(Timeline whole, Timeline film)
    {
        var (left, at) = (ImmutableArray.CreateBuilder<Passage>(), TimeSpan.Zero);
        foreach (var stretch in film.Stretches)
        {
            var from = whole.At(stretch.From)!.Value;
            if (from > at) left.Add(new Passage(at, from));
            at = from + stretch.Length;
        }
        if (whole.Length > at) left.Add(new Passage(at, whole.Length));
        return left.ToImmutable();
    }

    /// <summary>Stops it when it is under way.</summary>
    public void Interrupt(Guid film)
    {
        lock (_gate)
            if (_running is { } running && running.Film == film)
            {
                _interruptions++;
                Kill(running.Process);
            }
    }

    /// <summary>How often what was being made was ended, or taken away, by ourselves.</summary>
    private volatile int _interruptions;

    private static void Kill(Process process)
    {
        try { process.Kill(entireProcessTree: true); }
        catch (InvalidOperationException) { /* It has just ended. */ }
    }

    protected override string Name => "films";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        Follow();
        await preparation.Ready.WaitAsync(stoppingToken);
        await using (var db = await databases.CreateDbContextAsync(stoppingToken))
            await db.Films.Where(film => film.State == FilmState.Composing)
                .ExecuteUpdateAsync(set => set.SetProperty(film => film.State, FilmState.Waiting), stoppingToken);
        await MakeWhatIsGone(stoppingToken);
        await CatchUp();
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                while (await Next(stoppingToken) is { } film) await Make(film, stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException) { Supervisor.Note("films", e); }
            await _news.WaitAsync(_between, stoppingToken);
        }
    }

    private bool _isFollowing;

    private void Follow()
    {
        if (_isFollowing) return;
        _isFollowing = true;
        register.Settled += recording => Supervisor.Begin("films", () => Renew(recording));
        register.Erasing += TakeAway;
    }

    /// <summary>All films of a recording, whatever state they are in, with what was made of them.</summary>
    private void TakeAway(Guid sitting, int number)
    {
        lock (_gate)
        {
            _interruptions++;
            if (_running is { } running && running.Output.StartsWith(taps.FolderOf(sitting, number).Path + '/', StringComparison.Ordinal))
                Kill(running.Process);
        }
        var films = Path.Combine(taps.FolderOf(sitting, number).Path, "films");
        if (Directory.Exists(films)) Directory.Delete(films, recursive: true);
    }

    /// <summary>The server may have been killed after films were taken away, and before it was noted that they are made anew.</summary>
    private async Task MakeWhatIsGone(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        foreach (var film in await db.Films.Include(film => film.Recording).Where(film => film.State == FilmState.Ready)
            .ToListAsync(cancel))
            if (!File.Exists(Path.Combine(FolderOf(film.Recording!, film.Id), Composer.FilmName))) film.State = FilmState.Waiting;
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>A recording that ended just before the server was killed has no film yet. An older one without any needs none.</summary>
    private async Task CatchUp()
    {
        await using var db = await databases.CreateDbContextAsync();
        var recent = (time.GetUtcNow() - _recent).ToUnixTimeMilliseconds();
        foreach (var recording in await db.Recordings.Where(one => one.EndedAt > recent && one.DeletedAt == null
            && !db.Films.Any(film => film.RecordingId == one.Id)).Select(one => one.Id).ToListAsync())
            await Renew(recording);
    }

    private static readonly TimeSpan _recent = TimeSpan.FromHours(1);

    /// <summary>A recording has ended, or something was taken out of it: its films are made, or made anew.</summary>
    private async Task Renew(Guid recording)
    {
        await using var db = await databases.CreateDbContextAsync();
        // What is read here is what is written over: a film that is settled at this moment is settled before, or not at all.
        await using var whole = await db.Database.BeginTransactionAsync();
        var all = await db.Films.Where(film => film.RecordingId == recording).ToListAsync();
        if (all.Count == 0)
            db.Add(new FilmRecord
            {
                Id = Guid.NewGuid(),
                RecordingId = recording,
                Names = true,
                Questions = true,
                AskedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
            });
        foreach (var film in all.Where(film => film.State != FilmState.Cancelled))
        {
            Interrupt(film.Id);
            film.State = FilmState.Waiting;
        }
        await db.SaveChangesAsync();
        await whole.CommitAsync();
        Nudge();
    }

    private async Task<FilmRecord?> Next(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Films.AsNoTracking().Include(film => film.Recording)
            .Where(film => film.State == FilmState.Waiting && film.Recording!.EndedAt != null && film.Recording.DeletedAt == null)
            .OrderBy(film => film.AskedAt).FirstOrDefaultAsync(cancel);
    }

    private async Task Make(FilmRecord film, CancellationToken cancel)
    {
        var recording = film.Recording!;
        if (!await Claim(film.Id, FilmState.Waiting, FilmState.Composing)) return;
        var output = FolderOf(recording, film.Id);
        var before = _interruptions;
        string? flaw;
        try
        {
            flaw = await Composed(film, recording, output, cancel);
            if (flaw is null && !File.Exists(Path.Combine(output, Composer.FilmName))) flaw = "filmFailed";
        }
        catch (OperationCanceledException)
        {
            await Claim(film.Id, FilmState.Composing, FilmState.Waiting);
            throw;
        }
        catch (Exception e)
        {
            if (before == _interruptions) LogFilmFailed(e, film.Id);
            flaw = "filmFailed";
        }
        finally
        {
            _progress.TryRemove(film.Id, out _);
        }
        // Nothing has failed: it was ended, or its folder went, and it begins anew unless it was called off.
        await InTheEnd(() => flaw is not null && before != _interruptions
            ? Claim(film.Id, FilmState.Composing, FilmState.Waiting)
            : Settle(film, recording, output, flaw), cancel);
    }

    private async Task<bool> Claim(Guid film, FilmState from, FilmState to)
    {
        await using var db = await databases.CreateDbContextAsync(CancellationToken.None);
        return await db.Films.Where(one => one.Id == film && one.State == from)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.State, to), CancellationToken.None) == 1;
    }

    /// <returns>Why there is none; null when it is there.</returns>
    private async Task<string?> Composed(FilmRecord film, RecordingRecord recording, string output, CancellationToken cancel)
    {
        if (FilmPrograms.Missing() is not []) return "filmProgramsMissing";
        var score = await ScoreOf(recording);
        if (score.Stretches is []) return "nothingRecorded";
        // A film takes less than an eighth of a megabyte for each second.
        if (disk.Free is { } free && free < 300_000_000 + (Timeline.Of(score.Stretches).Length.TotalSeconds * 125_000)) return "filmNoRoom";
        Directory.CreateDirectory(output);
        var texts = Texts.ServerTexts.In(await LanguageOf(recording));
        var shown = score.Scenes.SelectMany(scene => scene.Shown).Where(exhibit => exhibit.Pages is not null).ToList();
        foreach (var page in shown.Select(exhibit => (exhibit.Number, Pages: exhibit.Pages!, exhibit.Pages!.At)).Distinct())
            await KeepPage(recording.SittingId, output, page.Number, page.Pages, page.At);
        var job = new FilmJob(
            Folder: taps.FolderOf(recording.SittingId, recording.Number).Path,
            Output: output,
            Score: WithoutSecrets(score),
            Framing: film.Framing,
            Names: film.Names,
            Questions: film.Questions,
            Cuts: film.Cuts.Length == 0 ? [] : JsonSerializer.Deserialize<ImmutableArray<Passage>>(film.Cuts, CoreJson.Options),
            Erased: [.. Numbers(recording.Erased)],
            Marks: await MarksOf(recording.SittingId, shown.Select(exhibit => exhibit.Number).Distinct()),
            Beginning: texts["film.beginning"],
            GoesOn: texts["film.goesOn"]);
        await File.WriteAllTextAsync(FilmJob.FileOf(output), JsonSerializer.Serialize(job, CoreJson.Options), cancel);
        var failure = await RunComposer(film.Id, job.Folder, output, cancel);
        File.Delete(FilmJob.FileOf(output));
        if (Directory.Exists(Path.Combine(output, "pages"))) Directory.Delete(Path.Combine(output, "pages"), recursive: true);
        if (failure is null) return null;
        LogComposer(film.Id, failure);
        return "filmFailed";
    }

    internal static IEnumerable<int> Numbers(string list) =>
        list.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(number => int.Parse(number, CultureInfo.InvariantCulture));

    public IReadOnlyList<Spoken> SpokenOf(RecordingRecord recording) =>
        taps.FolderOf(recording.SittingId, recording.Number).AllSpoken();

    public async Task<Score> ScoreOf(RecordingRecord recording)
    {
        await using var db = await databases.CreateDbContextAsync();
        var last = await db.Entries.Where(entry => entry.SittingId == recording.SittingId).MaxAsync(entry => (long?)entry.Sequence) ?? 0;
        var key = (recording.Id, recording.Erased, last);
        if (_scores.TryGetValue(key, out var known)) return known;
        return await heavy.Run(Lane.Slow, recording.Id.ToString(), async () =>
        {
            // Somebody who asked at the same moment may have had it worked out.
            if (_scores.TryGetValue(key, out var known)) return known;
            var all = (await entries.Read(recording.SittingId)).Select(kept => kept.Read()).ToList();
            // Those who look at a film while others are made ask again and again.
            if (_scores.Count > MostScores) _scores.Clear();
            return _scores[key] = Score.Of(all, recording.Number, Numbers(recording.Erased).Select(number => new SeatId(number)));
        });
    }

    private const int MostScores = 20;

    private readonly ConcurrentDictionary<(Guid Recording, string Erased, long Last), Score> _scores = new();

    private async Task<string> LanguageOf(RecordingRecord recording)
    {
        await using var db = await databases.CreateDbContextAsync();
        return await db.Sittings.Where(sitting => sitting.Id == recording.SittingId).Select(sitting => sitting.Session!.Language)
            .FirstOrDefaultAsync() ?? "en";
    }

    private static Score WithoutSecrets(Score score) => score with
    {
        Scenes = [.. score.Scenes.Select(scene => scene with
        {
            Shown = [.. scene.Shown.Select(exhibit => exhibit with
            {
                Pages = exhibit.Pages is { } own ? own with { Secret = "", Opens = "" } : null
            })]
        })]
    };

    private async Task KeepPage(Guid sitting, string output, int exhibit, Pages shown, int page)
    {
        var path = FilmJob.PageOf(output, exhibit, page);
        if (shown.File is not { } id || File.Exists(path) || await files.Find(sitting, Guid.Parse(id)) is not { } file) return;
        try
        {
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            await File.WriteAllBytesAsync(path, await pages.Open(file, shown.Secret, page));
        }
        catch (PageException)
        {
            // It stands empty in the film, too.
        }
    }

    private async Task<ImmutableArray<ExhibitMarks>> MarksOf(Guid sitting, IEnumerable<int> exhibits)
    {
        var all = ImmutableArray.CreateBuilder<ExhibitMarks>();
        foreach (var exhibit in exhibits) all.Add(new ExhibitMarks(exhibit, [.. (await marks.Read(sitting, exhibit))
            .Select(json => JsonSerializer.Deserialize<MarkAct>(json, CoreJson.Options)!)]));
        return all.ToImmutable();
    }

    /// <returns>What it said; null when the film is there.</returns>
    private async Task<string?> RunComposer(Guid film, string folder, string output, CancellationToken cancel)
    {
        var start = new ProcessStartInfo("nice")
        {
            // It ends when nobody holds the other end any more, as when this process is killed.
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true
        };
        foreach (var word in (string[])["-n", "19", .. await Sandbox.Own(folder, output, Composer.Command, FilmJob.FileOf(output))])
            start.ArgumentList.Add(word);
        var over = new TaskCompletionSource();
        using var process = await Sandbox.Start(start, over.Task);
        lock (_gate) _running = (film, output, process);
        // What it decodes came from browsers: neither the machine nor its memory is theirs.
        using var watch = new Timer(_ =>
        {
            if (ProcessTree.Memory(process.Id) > MostMemory) Kill(process);
        }, null, _betweenLooks, _betweenLooks);
        try
        {
            var trouble = process.StandardError.ReadToEndAsync(CancellationToken.None);
            var began = time.GetTimestamp();
            while (await process.StandardOutput.ReadLineAsync(cancel) is { } line)
                if (double.TryParse(line, CultureInfo.InvariantCulture, out var share))
                {
                    var spent = time.GetElapsedTime(began);
                    _progress[film] = new FilmProgress(share, share > 0.02 && spent > _untilForeseen
                        ? (long)(spent.TotalMilliseconds / share * (1 - share))
                        : null);
                }
            await process.WaitForExitAsync(cancel);
            return process.ExitCode == 0 ? null : $"{process.ExitCode}: {await trouble}";
        }
        finally
        {
            lock (_gate) _running = null;
            over.SetResult();
            if (!process.HasExited) Kill(process);
        }
    }

    /// <summary>What came of it is written down as soon as it can be: the database may be locked just then.</summary>
    private async Task InTheEnd(Func<Task> writes, CancellationToken cancel)
    {
        for (var pause = TimeSpan.FromSeconds(1); !await Supervisor.Once(Name, writes); pause *= 2)
            await Task.Delay(pause < _between ? pause : _between, cancel);
    }

    private async Task Settle(FilmRecord film, RecordingRecord recording, string output, string? flaw)
    {
        await using var db = await databases.CreateDbContextAsync(CancellationToken.None);
        // Somebody may be taken out just now: what failed for that must not be written over what is to be made anew.
        await using var whole = await db.Database.BeginTransactionAsync();
        var kept = await db.Films.FirstOrDefaultAsync(one => one.Id == film.Id, CancellationToken.None);
        // Cancelled, or made anew from the beginning, meanwhile.
        if (kept is not { State: FilmState.Composing }) return;
        var isFirst = kept.MadeAt is null;
        var path = Path.Combine(output, Composer.FilmName);
        if (flaw is null)
        {
            (kept.State, kept.Flaw, kept.MadeAt) = (FilmState.Ready, null, time.GetUtcNow().ToUnixTimeMilliseconds());
            (kept.Length, kept.Size) = (MadeOf(output)?.Length ?? 0, new FileInfo(path).Length);
        }
        else (kept.State, kept.Flaw) = (FilmState.Failed, flaw);
        if (isFirst) await letters.Add(db, recording, kept);
        await db.SaveChangesAsync(CancellationToken.None);
        await whole.CommitAsync();
        letters.Nudge();
    }

    public static FilmMade? MadeOf(string output)
    {
        try
        {
            return JsonSerializer.Deserialize<FilmMade>(File.ReadAllText(Path.Combine(output, Composer.MadeName)), CoreJson.Options);
        }
        catch (Exception e) when (e is IOException or JsonException) { return null; }
    }

    public override void Dispose()
    {
        _news.Dispose();
        base.Dispose();
    }

    [LoggerMessage(LogLevel.Error, "The film {Film} could not be composed")]
    private partial void LogFilmFailed(Exception e, Guid film);

    [LoggerMessage(LogLevel.Error, "The film {Film} could not be composed: {Said}")]
    private partial void LogComposer(Guid film, string said);
}
