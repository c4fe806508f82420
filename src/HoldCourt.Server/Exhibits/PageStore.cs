using System.Buffers.Text;
using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Files;

namespace HoldCourt.Server.Exhibits;

/// <summary>
/// Makes the pages of exhibits, those asked for before those made ahead, and keeps them sealed beside the data: with
/// AES-GCM (NIST SP 800-38D), by the page's key, as 12 bytes of nonce, the sealed bytes, and 16 bytes of tag. So a page can be fetched
/// before it is turned to. What lies here can be made anew.
/// </summary>
internal sealed partial class PageStore(
    KeptFiles files, IGrainFactory grains, DiskRoom disk, IConfiguration configuration, Supervisor supervisor,
    TimeProvider time, ILogger<PageStore> log)
    : SupervisedService(supervisor)
{
    private const int Nonce = 12, Tag = 16;

    /// <summary>So many small pictures are made ahead when a document is brought.</summary>
    private const int Ahead = 100;

    private static readonly TimeSpan _untilForgotten = TimeSpan.FromDays(2);

    private readonly string _folder = Path.Combine(CourtHost.FolderOf(configuration), "pages");
    private readonly ConcurrentDictionary<string, Lazy<Task>> _making = new();

    /// <summary>So many are made at once, by programs at low priority.</summary>
    private const int Workers = 3;

    private readonly PageTurns _turns = new(Workers, time);

    /// <summary>What could not be made is not tried again for a while, however often it is asked for.</summary>
    private readonly ConcurrentDictionary<string, (PageFlaw Flaw, DateTimeOffset Until)> _failed = new();

    private static readonly TimeSpan _untilTriedAgain = TimeSpan.FromMinutes(5);
    private readonly ConcurrentDictionary<Guid, int> _counts = new();

    private readonly System.Threading.Channels.Channel<(Guid Sitting, FileRecord File, string Secret)> _brought =
        System.Threading.Channels.Channel.CreateBounded<(Guid, FileRecord, string)>(1_000);

    /// <summary>A file was put on the shelf: its pages are counted, and some of them made ahead.</summary>
    public void Prepare(Guid sitting, FileRecord file, string secret) => _brought.Writer.TryWrite((sitting, file, secret));

    /// <summary>The sealed picture of a page, or its sealed text.</summary>
    /// <param name="width">One of <see cref="PageMaker.Widths"/>; 0 for the text.</param>
    /// <returns>Its path.</returns>
    /// <exception cref="PageException">It cannot be made.</exception>
    public async Task<string> Get(FileRecord file, string secret, int page, int width)
    {
        var path = Path.Combine(FolderOf(file.Id), string.Create(CultureInfo.InvariantCulture, $"{page}-{width}"));
        if (File.Exists(path)) return path;
        if (_failed.TryGetValue(path, out var failed) && failed.Until > time.GetUtcNow()) throw new PageException(failed.Flaw);
        await Made(file, secret, page, width, path);
        return path;
    }

    /// <summary>The picture of a page as it is before it is sealed, for what the server itself draws.</summary>
    /// <exception cref="PageException">It cannot be made.</exception>
    public async Task<byte[]> Open(FileRecord file, string secret, int page)
    {
        var @sealed = await File.ReadAllBytesAsync(await Get(file, secret, page, PageMaker.Widths[1]));
        var open = new byte[@sealed.Length - Nonce - Tag];
        using var aes = new AesGcm(Base64Url.DecodeFromChars(Pages.KeyOf(secret, page)), Tag);
        aes.Decrypt(@sealed.AsSpan(0, Nonce), @sealed.AsSpan(Nonce, open.Length), @sealed.AsSpan(Nonce + open.Length), open);
        return open;
    }

    /// <summary>How many pages a file has that is to be printed; made in its turn, as pages are.</summary>
    /// <exception cref="PageException">It has none, or they cannot be made.</exception>
    public async Task<int> Count(FileRecord file, CancellationToken cancel)
    {
        var key = $"{file.Id:N} to print";
        if (_counts.TryGetValue(file.Id, out var known)) return known;
        if (_failed.TryGetValue(key, out var failed) && failed.Until > time.GetUtcNow()) throw new PageException(failed.Flaw);
        using var turn = await _turns.Wait(file, Wanted.Now, Converts(file), cancel);
        // A hall of people who print the same have it counted, and converted, once.
        if (_counts.TryGetValue(file.Id, out known)) return known;
        try { return _counts[file.Id] = (await Bind(file, cancel)).Count; }
        catch (PageException e)
        {
            NoteFlaw(file, key, e.Flaw);
            throw;
        }
    }

    /// <summary>A page's picture, for somebody who has the whole file.</summary>
    /// <returns>Its path.</returns>
    /// <exception cref="PageException">It cannot be made.</exception>
    public async Task<string> ToPrint(FileRecord file, int page)
    {
        var path = Path.Combine(FolderOf(file.Id), string.Create(CultureInfo.InvariantCulture, $"print-{page}"));
        if (File.Exists(path)) return path;
        if (_failed.TryGetValue(path, out var failed) && failed.Until > time.GetUtcNow()) throw new PageException(failed.Flaw);
        await Made(file, null, page, PageMaker.Widths[1], path);
        return path;
    }

    /// <summary>All pages of an exhibit with its marks, as a PDF; made in its turn, as pages are.</summary>
    /// <param name="file">Null for a sheet.</param>
    /// <exception cref="PageException">It cannot be made.</exception>
    public async Task<byte[]> Export(FileRecord? file, Pages pages, IEnumerable<Mark> marks, CancellationToken cancel)
    {
        var byPage = marks.ToLookup(mark => mark.Page);
        if (file is null) return MarkedPdf.OfSheet(pages, byPage);
        using var turn = await _turns.Wait(file, Wanted.Now, converts: false, cancel);
        var source = SourceOf(file);
        return FileKind.Of(source, file.Name) is { Shows: ExhibitKind.Picture }
            ? await MarkedPdf.OfPicture(source, byPage, cancel)
            : await MarkedPdf.OfPdf(source, byPage, cancel);
    }

    private void NoteFlaw(FileRecord file, string what, PageFlaw flaw)
    {
        if (flaw == PageFlaw.TookTooLong) _turns.RanOut(file);
        var now = time.GetUtcNow();
        if (_failed.Count > MostKnown)
            foreach (var old in _failed.Where(pair => pair.Value.Until < now).Select(pair => pair.Key).ToList())
                _failed.TryRemove(old, out _);
        if (_failed.Count > MostKnown) _failed.Clear();
        _failed[what] = (flaw, now + _untilTriedAgain);
    }

    /// <summary>Most that is remembered of what could not be made, and of how many pages there are.</summary>
    private const int MostKnown = 10_000;

    private bool Converts(FileRecord file) => FileKind.Of(files.PathOf(file.Id), file.Name).Converts;

    private string FolderOf(Guid file) => Path.Combine(_folder, file.ToString("N"));

    /// <summary>Whoever asks for what is being made waits for the same.</summary>
    private async Task Made(FileRecord file, string? secret, int page, int width, string path, Wanted how = Wanted.Now)
    {
        var making = _making.GetOrAdd(path, _ => new Lazy<Task>(() => Task.Run(() => Make(file, secret, page, width, path, how))));
        try { await making.Value; }
        finally { _making.TryRemove(KeyValuePair.Create(path, making)); }
    }

    /// <param name="secret">Null to leave it open.</param>
    private async Task Make(FileRecord file, string? secret, int page, int width, string path, Wanted how)
    {
        using var turn = await _turns.Wait(file, how, converts: false, CancellationToken.None);
        var partial = $"{path}.{Guid.NewGuid():N}";
        try
        {
            if (File.Exists(path)) return;
            var source = SourceOf(file);
            var made = FileKind.Of(source, file.Name) is { Shows: ExhibitKind.Picture }
                ? width == 0 ? "[]"u8.ToArray() : await PageMaker.Picture(source, width, CancellationToken.None)
                : width == 0
                    ? await PageMaker.Text(source, page, CancellationToken.None)
                    : await PageMaker.Page(source, page, width, CancellationToken.None);
            Directory.CreateDirectory(FolderOf(file.Id));
            disk.For(made.Length);
            await File.WriteAllBytesAsync(partial, secret is null ? made : Seal(made, Pages.KeyOf(secret, page)));
            File.Move(partial, path, overwrite: true);
        }
        catch (DiskFullException)
        {
            throw new PageException(PageFlaw.ServerFailed);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            LogFailed(e, file.Id);
            if (File.Exists(partial)) File.Delete(partial);
            throw new PageException(PageFlaw.ServerFailed);
        }
        catch (PageException e)
        {
            NoteFlaw(file, path, e.Flaw);
            throw;
        }
    }

    /// <summary>The file itself, or the PDF that was made of it.</summary>
    private string SourceOf(FileRecord file) =>
        Path.Combine(FolderOf(file.Id), "source.pdf") is var made && File.Exists(made) ? made : files.PathOf(file.Id);

    internal static byte[] Seal(byte[] open, string key)
    {
        var @sealed = new byte[Nonce + open.Length + Tag];
        RandomNumberGenerator.Fill(@sealed.AsSpan(0, Nonce));
        using var aes = new AesGcm(Base64Url.DecodeFromChars(key), Tag);
        aes.Encrypt(@sealed.AsSpan(0, Nonce), open, @sealed.AsSpan(Nonce, open.Length), @sealed.AsSpan(Nonce + open.Length));
        return @sealed;
    }

    protected override string Name => "pages";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        if (Sandbox.IsThere && !await Sandbox.OwnWorks) LogNoSandbox();
        await foreach (var (sitting, file, secret) in _brought.Reader.ReadAllAsync(stoppingToken))
            // Each stands in turn by itself: one that takes long keeps none behind it waiting.
            Supervisor.Begin(Name, async () =>
            {
                if (await Bind(sitting, file, stoppingToken) is { } bound) await MakeAhead(file, secret, bound.Count, stoppingToken);
            });
    }

    private async Task<Bound?> Bind(Guid sitting, FileRecord file, CancellationToken cancel)
    {
        Bound? bound = null;
        var flaw = PageFlaw.ServerFailed;
        try
        {
            using var turn = await _turns.Wait(file, Wanted.First, Converts(file), cancel);
            bound = await Bind(file, cancel);
        }
        catch (PageException e)
        {
            flaw = e.Flaw;
            if (flaw == PageFlaw.TookTooLong) _turns.RanOut(file);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or System.ComponentModel.Win32Exception)
        {
            LogFailed(e, file.Id);
        }
        await grains.GetGrain<ISittingGrain>(sitting).DoAsHouse(bound is null
            ? new NotePages(file.Id.ToString(), 0, flaw)
            : new NotePages(file.Id.ToString(), bound.Count, null, bound.StandIns));
        return bound;
    }

    private async Task<Bound> Bind(FileRecord file, CancellationToken cancel)
    {
        var path = files.PathOf(file.Id);
        var kind = FileKind.Of(path, file.Name);
        if (kind.Shows is null) throw new PageException(PageFlaw.Broken);
        if (kind.Shows == ExhibitKind.Picture)
        {
            using var picture = await PictureReader.Read(path, PageMaker.Widths[0], cancel);
            return new Bound(1, []);
        }
        if (!kind.Converts) return await PageMaker.Look(path, cancel);
        Directory.CreateDirectory(FolderOf(file.Id));
        return await PageMaker.Look(
            await PageMaker.Convert(path, Path.GetExtension(file.Name).ToLowerInvariant(), FolderOf(file.Id), cancel), cancel);
    }

    /// <summary>The first pages and the small pictures, whenever nobody asks for another.</summary>
    private async Task MakeAhead(FileRecord file, string secret, int count, CancellationToken cancel)
    {
        var first = Enumerable.Range(1, Math.Min(count, 2)).Select(page => (page, width: PageMaker.Widths[1], how: Wanted.First));
        var small = Enumerable.Range(1, Math.Min(count, Ahead)).Select(page => (page, width: PageMaker.Widths[0], how: Wanted.Ahead));
        foreach (var (page, width, how) in first.Concat(small))
        {
            cancel.ThrowIfCancellationRequested();
            var path = Path.Combine(FolderOf(file.Id), string.Create(CultureInfo.InvariantCulture, $"{page}-{width}"));
            if (!File.Exists(path)) await Made(file, secret, page, width, path, how);
        }
    }

    /// <summary>Pages nobody looked at for days are made anew when somebody does; those of files that have gone go, too.</summary>
    public void Forget()
    {
        foreach (var work in Directory.EnumerateDirectories(Path.GetTempPath(), "hold-court-pages-*"))
            if (Directory.GetLastWriteTimeUtc(work) < DateTime.UtcNow.AddDays(-1)) Directory.Delete(work, recursive: true);
        if (_counts.Count > MostKnown) _counts.Clear();
        if (!Directory.Exists(_folder)) return;
        foreach (var folder in Directory.EnumerateDirectories(_folder))
        {
            var isGone = !Guid.TryParse(Path.GetFileName(folder), out var file) || !File.Exists(files.PathOf(file));
            if (isGone) _counts.TryRemove(file, out _);
            // What was being written when the server was killed.
            foreach (var part in Directory.EnumerateFiles(folder).Where(path =>
                Guid.TryParseExact(Path.GetExtension(path).TrimStart('.'), "N", out _)
                && File.GetLastWriteTimeUtc(path) < DateTime.UtcNow.AddHours(-1))) File.Delete(part);
            if (isGone || (Directory.GetLastWriteTimeUtc(folder) < DateTime.UtcNow - _untilForgotten
                && !File.Exists(Path.Combine(folder, "source.pdf"))))
                Directory.Delete(folder, recursive: true);
        }
    }

    [LoggerMessage(LogLevel.Warning,
        "Nobody may make a /proc here: pictures and films are read in processes with limits, and not in the sandbox")]
    private partial void LogNoSandbox();

    [LoggerMessage(LogLevel.Warning, "No pages could be made of the file {File}")]
    private partial void LogFailed(Exception e, Guid file);
}
