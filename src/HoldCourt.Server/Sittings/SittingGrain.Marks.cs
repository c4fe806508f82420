using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Store.Files;

namespace HoldCourt.Server.Sittings;

/// <summary>
/// Exhibits' pages and marks. Marks are many, so they are not entries of the sitting: each exhibit has a layer of its own, with the same
/// two pure functions, stored before told. What is being drawn is told at a beat, and not stored.
/// </summary>
internal sealed partial class SittingGrain
{
    private static readonly TimeSpan _beat = TimeSpan.FromMilliseconds(50), _lateness = TimeSpan.FromMilliseconds(10);

    /// <summary>Most pieces of strokes in a beat; more are let go.</summary>
    private const int MostPieces = 400;

    private readonly Dictionary<int, LayerInUse> _layers = [];
    private readonly List<StrokeRow> _strokes = [];

    public Task<SeatId?> SeatOf(PersonKey person) =>
        Task.FromResult(_shown.IsRunning && _shown.Find(person) is { IsSeated: true } seat ? seat.Id : (SeatId?)null);

    public async Task<Arrival> Bring(PersonKey person, ExhibitKind kind, string title, Guid file, string secret, bool shows = false)
    {
        if (await SeatOf(person) is not { } seat) return new Arrival(null, new Refusal(Reason.NotInside));
        if (await Commit(Actor.Of(seat), new BringFile(kind, title, file.ToString(), secret, shows)) is { } refusal)
            return new Arrival(null, refusal);
        await PrepareAgain();
        return new Arrival(seat, null);
    }

    /// <summary>An item has begun that shows something which is not on the shelf: a paper of that name is brought.</summary>
    private async Task BringItems(SeatId by)
    {
        if (_sitting.RunSheet.Now is { Shows: { Length: > 0 } title }) await BringNamed(by, title, shows: true);
    }

    private async Task BringNamed(SeatId by, string title, bool shows)
    {
        // Whoever wishes it twice brings it once.
        if (_sitting.Named(title) is not null || _sitting.Shelf.IsFull || !_underWay.Add(title)) return;
        try { await bringing.Named(Id, _sitting.Seats[by].Person, by, title, shows); }
        catch (Exception e) { LogNotBrought(e, Id); }
        finally { _underWay.Remove(title); }
    }

    [LoggerMessage(LogLevel.Warning, "Sitting {Sitting}: a paper that is to be shown could not be brought")]
    private partial void LogNotBrought(Exception e, Guid sitting);

    /// <summary>What has no pages yet, and of which it is not known why: brought just now, or before the server stopped.</summary>
    private async Task PrepareAgain()
    {
        foreach (var pages in _sitting.AllExhibits().Select(exhibit => exhibit.Pages)
            .OfType<Pages>().Where(pages => pages is { AreThere: false, Flaw: null, File: not null }))
        {
            var id = Guid.Parse(pages.File!);
            if (!_prepared.Add(id)) continue;
            if (await files.Find(Id, id) is { } file) pageStore.Prepare(Id, file, pages.Secret);
            else await Commit(Actor.House, new NotePages(pages.File!, 0, PageFlaw.ServerFailed));
        }
    }

    private readonly HashSet<Guid> _prepared = [];

    /// <summary>Titles of papers that are being brought.</summary>
    private readonly HashSet<string> _underWay = new(StringComparer.OrdinalIgnoreCase);

    public Task<int?> NumberOf(Guid file) =>
        Task.FromResult(_shown.AllExhibits().FirstOrDefault(exhibit => exhibit.Pages?.File == file.ToString())?.Number);

    /// <summary>How many pages about the one that all see are fetched ahead.</summary>
    private const int FetchedAhead = 2;

    public Task<PageSource?> PagesFor(PersonKey person, int exhibit, int page) => Task.FromResult(
        Knows(person, exhibit, out var seat) is { Pages: { File: { } file } pages } open && page >= 1 && page <= pages.Count
        && (Math.Abs(page - pages.At) <= FetchedAhead || _shown.MayKnow(seat, new Matter.AllPages(open)))
            ? new PageSource(Guid.Parse(file), pages.Secret)
            : null);

    public async Task<MarksRow?> MarksFor(PersonKey person, int exhibit)
    {
        if (Knows(person, exhibit, out _) is null) return null;
        var layer = (await LayerOf(exhibit)).Shown;
        // While it was read the exhibit may have been taken down, or its page turned.
        return Knows(person, exhibit, out var seat) is { } open
            ? new MarksRow(exhibit, layer.Sequence,
                [.. layer.Marks.Where(mark => _shown.MayKnow(seat, new Matter.OfPage(open, mark.Page)))])
            : null;
    }

    public async Task<ExportSource?> ExportFor(PersonKey person, int exhibit)
    {
        if (Knows(person, exhibit, out var seat) is not { Pages: { AreThere: true } pages } open
            || !_shown.MayKnow(seat, new Matter.AllPages(open))) return null;
        return new ExportSource($"{open.Letter} {open.Title}".Trim(), pages, [.. (await LayerOf(exhibit)).Shown.Marks]);
    }

    private Exhibit? Knows(PersonKey person, int exhibit, out Seat seat)
    {
        seat = null!;
        if (!_shown.IsRunning || _shown.Find(person) is not { IsSeated: true } held) return null;
        seat = held;
        return _shown.AtPlaceOf(held).Shelf.Find(exhibit) is { } open && _shown.MayKnow(held, new Matter.OfExhibit(open)) ? open : null;
    }

    public async Task<Refusal?> Mark(SeatId by, int exhibit, MarkWish wish, string? connection)
    {
        if (connection is not null && _connections.GetValueOrDefault(by) != connection) return new Refusal(Reason.Superseded);
        if (_lost) return _notStored;
        if (_sitting.ForbidsMarks(by, exhibit) is { } forbidden) return forbidden;
        var layer = await LayerOf(exhibit);
        // It may have been taken from them while the marks were read.
        if (_sitting.ForbidsMarks(by, exhibit) is { } since) return since;
        var keeps = _sitting.Forbids(Actor.Of(by), Capability.KeepExhibits) is null;
        var (act, refusal) = layer.Latest.Decide(wish, by, keeps, MarkRules.PagesOf(_sitting.FindExhibit(exhibit)!), Now);
        if (act is null) return refusal;
        if (_sitting.Forbids(exhibit, act) is { } elsewhere) return elsewhere;
        if (!HasInk(by, act)) return new Refusal(Reason.TooMany, Remedy.TryAgain);
        layer.Latest = layer.Latest.After(act);
        try
        {
            await marks.Append(new MarkRecord
            {
                SittingId = Id,
                Exhibit = exhibit,
                Sequence = act.Sequence,
                Json = JsonSerializer.Serialize(act, CoreJson.Options)
            });
        }
        catch (Exception e)
        {
            // What is in memory is ahead of the disk: it is read again from there.
            LogNoMarks(e, Id);
            _layers.Remove(exhibit);
            return _notStored;
        }
        await layer.Turn.WaitAsync();
        try
        {
            // Several may have been written at once, and the first of them tells all.
            layer.Waiting.Enqueue(act, act.Sequence);
            while (layer.Waiting.TryPeek(out var next, out _) && next.Sequence == layer.Shown.Sequence + 1)
            {
                layer.Waiting.Dequeue();
                var gone = next.Drop.Select(layer.Shown.Find).OfType<Mark>().ToList();
                layer.Shown = layer.Shown.After(next);
                if (_shown.FindExhibit(exhibit) is { } open) await broadcast.TellMarks(Id, _shown, open, next, gone, _connections);
            }
        }
        finally
        {
            layer.Turn.Release();
        }
        if (wish is Clear { Own: false }) await Commit(Actor.Of(by), new NoteCleared(exhibit));
        return null;
    }

    /// <summary>
    /// What somebody puts before everybody is bounded by its size, undoing and redoing included: so much at once, and so much a second,
    /// in characters. A hand draws some two thousand a second.
    /// </summary>
    private const double MostInkAtOnce = 600_000, InkEachSecond = 60_000;

    private readonly Dictionary<SeatId, (double Left, Instant At)> _ink = [];

    /// <summary>A full pot may be overdrawn, so that a large step back is possible, and then has to fill again.</summary>
    private bool HasInk(SeatId by, MarkAct act)
    {
        var now = Now;
        var (left, at) = _ink.GetValueOrDefault(by, (MostInkAtOnce, now));
        left = Math.Min(MostInkAtOnce, left + Math.Max(0, (now - at).TotalSeconds) * InkEachSecond);
        var takes = act.Put.Sum(mark => 200.0 + mark.Line.Length + mark.Text.Length) + act.Drop.Length * 8.0;
        var has = left >= Math.Min(takes, MostInkAtOnce);
        _ink[by] = (has ? left - takes : left, now);
        return has;
    }

    public Task Stroke(SeatId by, StrokeWish stroke, string connection)
    {
        if (_connections.GetValueOrDefault(by) != connection || _strokes.Count >= MostPieces
            || _shown.ForbidsMarksOn(by, stroke.Exhibit, stroke.Page) is not null) return Task.CompletedTask;
        _strokes.Add(new StrokeRow(by, stroke.Exhibit, stroke.Page, stroke.Stroke, stroke.Shape, stroke.Colour, stroke.Width, stroke.Line));
        // The first goes at once, and what comes within a beat after it together; the more draw, the longer the beat.
        var wait = _beat + (_lateness * (_strokeAuthors - 1)) - Stopwatch.GetElapsedTime(_strokesSentAt);
        if (_strokes.Count == 1)
            this.RegisterGrainTimer(_ => TellStrokes(), wait > TimeSpan.Zero ? wait : TimeSpan.Zero, Timeout.InfiniteTimeSpan);
        return Task.CompletedTask;
    }

    private long _strokesSentAt;
    private int _strokeAuthors = 1;

    private async Task TellStrokes()
    {
        (_strokesSentAt, _strokeAuthors) = (Stopwatch.GetTimestamp(), Math.Clamp(_strokes.DistinctBy(one => one.By).Count(), 1, 10));
        var strokes = _strokes.ToList();
        _strokes.Clear();
        foreach (var together in strokes.GroupBy(stroke => stroke.Exhibit))
            if (_shown.FindExhibit(together.Key) is { } exhibit)
                await broadcast.TellStrokes(Id, _shown, exhibit, [.. together], _connections);
    }

    /// <summary>Marks of what is not on the shelf any more stay on the disk alone.</summary>
    private void LetGoOfMarks()
    {
        foreach (var closed in _layers.Keys.Where(exhibit => _shown.FindExhibit(exhibit) is null).ToList()) _layers.Remove(closed);
    }

    private async Task<LayerInUse> LayerOf(int exhibit)
    {
        if (_layers.TryGetValue(exhibit, out var there)) return there;
        var read = (await marks.Read(Id, exhibit)).Select(json => JsonSerializer.Deserialize<MarkAct>(json, CoreJson.Options)!)
            .Aggregate(MarkLayer.Empty, (layer, act) => layer.After(act));
        // Another may have read it meanwhile, and drawn.
        if (_layers.TryGetValue(exhibit, out there)) return there;
        return _layers[exhibit] = new LayerInUse { Latest = read, Shown = read };
    }

    [LoggerMessage(LogLevel.Error, "Sitting {Sitting}: a mark could not be stored")]
    private partial void LogNoMarks(Exception e, Guid sitting);

    private sealed class LayerInUse
    {
        /// <summary>With what is being written.</summary>
        public required MarkLayer Latest { get; set; }

        /// <summary>As it is on disk, and was told.</summary>
        public required MarkLayer Shown { get; set; }

        public PriorityQueue<MarkAct, long> Waiting { get; } = new();
        public SemaphoreSlim Turn { get; } = new(1);
    }
}
