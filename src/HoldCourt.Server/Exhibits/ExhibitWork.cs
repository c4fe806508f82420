using System.Collections.Immutable;
using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Live;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;
using HoldCourt.Store.Files;

namespace HoldCourt.Server.Exhibits;

/// <summary>
/// Exhibits' pages and marks. Marks are many, so they are not entries of the sitting: each exhibit has a layer of its own, with the same
/// two pure functions, stored before told. What is being drawn is told at a beat, and not stored.
/// </summary>
internal sealed partial class ExhibitWork : TopicWork, ISittingExhibits
{
    private static readonly TimeSpan _beat = TimeSpan.FromMilliseconds(50), _lateness = TimeSpan.FromMilliseconds(10);

    /// <summary>Most pieces of strokes in a beat; more are let go.</summary>
    private const int MostPieces = 400;

    private readonly Dictionary<int, LayerInUse> _layers = [];
    private readonly List<StrokeRow> _strokes = [];
    private readonly HashSet<Guid> _prepared = [];
    private readonly KeptFiles _files;
    private readonly PageStore _pageStore;
    private readonly MarkWriter _marks;
    private readonly Broadcast _broadcast;
    private readonly ILogger<ExhibitWork> _log;

    public ExhibitWork(
        KeptFiles files, PageStore pageStore, MarkWriter marks, Broadcast broadcast, KeptPapers papers, ILogger<ExhibitWork> log)
    {
        (_files, _pageStore, _marks, _broadcast, _log) = (files, pageStore, marks, broadcast, log);
        Before<KeepExhibit>((by, wish, _) => papers.Keep(Inside, by, wish, async (kept, place) =>
            await kept.Keep(Inside.Id, place.Shelf.Find(wish.Exhibit)!, [.. (await LayerOf(wish.Exhibit)).Shown.Marks])));
    }

    public override string Name => "pages";

    public override Task Woke() => Inside.Latest.IsRunning ? PrepareAgain() : Task.CompletedTask;

    /// <summary>Marks of what is not on the shelf any more stay on the disk alone.</summary>
    public override void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (ReferenceEquals(before.Shelf, after.Shelf) && ReferenceEquals(before.Rooms, after.Rooms)) return;
        foreach (var closed in _layers.Keys.Where(exhibit => after.FindExhibit(exhibit) is null).ToList()) _layers.Remove(closed);
    }

    public async Task<Arrival> Bring(PersonKey person, ExhibitKind kind, string title, Guid file, string secret, bool shows = false)
    {
        if (Inside.Shown.SeatInside(person) is not { Id: var seat }) return new Arrival(null, new Refusal(Reason.NotInside));
        if (await Inside.Wish(Actor.Of(seat), new BringFile(kind, title, file.ToString(), secret, shows)) is { } refusal)
            return new Arrival(null, refusal);
        await PrepareAgain();
        return new Arrival(seat, null);
    }

    /// <summary>What has no pages yet, and of which it is not known why: brought just now, or before the server stopped.</summary>
    private async Task PrepareAgain()
    {
        foreach (var pages in Inside.Latest.AllExhibits().Select(exhibit => exhibit.Pages)
            .OfType<Pages>().Where(pages => pages is { AreThere: false, Flaw: null, File: not null }))
        {
            var id = Guid.Parse(pages.File!);
            if (!_prepared.Add(id)) continue;
            if (await _files.Find(Inside.Id, id) is { } file) _pageStore.Prepare(Inside.Id, file, pages.Secret);
            else await Inside.Wish(Actor.House, new NotePages(pages.File!, 0, PageFlaw.ServerFailed));
        }
    }

    public Task<int?> NumberOf(Guid file) =>
        Task.FromResult(Inside.Shown.AllExhibits().FirstOrDefault(exhibit => exhibit.Pages?.File == file.ToString())?.Number);

    /// <summary>How many pages about the one that all see are fetched ahead.</summary>
    private const int FetchedAhead = 2;

    public Task<PageSource?> PagesFor(PersonKey person, int exhibit, int page) => Task.FromResult(
        Knows(person, exhibit, out var seat) is { Pages: { File: { } file } pages } open && page >= 1 && page <= pages.Count
        && (Math.Abs(page - pages.At) <= FetchedAhead || Inside.Shown.MayKnow(seat, new Matter.AllPages(open)))
            ? new PageSource(Guid.Parse(file), pages.Secret)
            : null);

    public async Task<MarksRow?> MarksFor(PersonKey person, int exhibit)
    {
        if (Knows(person, exhibit, out _) is null) return null;
        var layer = (await LayerOf(exhibit)).Shown;
        // While it was read the exhibit may have been taken down, or its page turned.
        return Knows(person, exhibit, out var seat) is { } open
            ? new MarksRow(exhibit, layer.Sequence,
                [.. layer.Marks.Where(mark => Inside.Shown.MayKnow(seat, new Matter.OfPage(open, mark.Page)))])
            : null;
    }

    public async Task<ExportSource?> ExportFor(PersonKey person, int exhibit)
    {
        if (Knows(person, exhibit, out var seat) is not { Pages: { AreThere: true } pages } open
            || !Inside.Shown.MayKnow(seat, new Matter.AllPages(open))) return null;
        return new ExportSource($"{open.Letter} {open.Title}".Trim(), pages, [.. (await LayerOf(exhibit)).Shown.Marks]);
    }

    private Exhibit? Knows(PersonKey person, int exhibit, out Seat seat)
    {
        seat = null!;
        if (!Inside.Shown.IsRunning || Inside.Shown.Find(person) is not { IsSeated: true } held) return null;
        seat = held;
        return Inside.Shown.AtPlaceOf(held).Shelf.Find(exhibit) is { } open
            && Inside.Shown.MayKnow(held, new Matter.OfExhibit(open)) ? open : null;
    }

    public async Task<Refusal?> Mark(SeatId by, int exhibit, MarkWish wish, string? connection)
    {
        if (connection is not null && Inside.Lines.GetValueOrDefault(by) != connection) return new Refusal(Reason.Superseded);
        if (Inside.IsLost) return Refusals.NotStored;
        if (Inside.Latest.ForbidsMarks(by, exhibit) is { } forbidden) return forbidden;
        var layer = await LayerOf(exhibit);
        // It may have been taken from them while the marks were read.
        if (Inside.Latest.ForbidsMarks(by, exhibit) is { } since) return since;
        var keeps = Inside.Latest.Forbids(Actor.Of(by), Capability.KeepExhibits) is null;
        var (act, refusal) = layer.Latest.Decide(wish, by, keeps, MarkRules.PagesOf(Inside.Latest.FindExhibit(exhibit)!), Inside.Now);
        if (act is null) return refusal;
        if (Inside.Latest.Forbids(exhibit, act) is { } elsewhere) return elsewhere;
        if (!HasInk(by, act)) return new Refusal(Reason.TooMany, Remedy.TryAgain);
        layer.Latest = layer.Latest.After(act);
        try
        {
            await _marks.Append(new MarkRecord
            {
                SittingId = Inside.Id,
                Exhibit = exhibit,
                Sequence = act.Sequence,
                Json = JsonSerializer.Serialize(act, CoreJson.Options)
            });
        }
        catch (Exception e)
        {
            // What is in memory is ahead of the disk: it is read again from there.
            LogNoMarks(e, Inside.Id);
            _layers.Remove(exhibit);
            return Refusals.NotStored;
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
                if (Inside.Shown.FindExhibit(exhibit) is { } open) await TellMarks(open, next, gone);
            }
        }
        finally
        {
            layer.Turn.Release();
        }
        if (wish is Clear { Own: false }) await Inside.Wish(Actor.Of(by), new NoteCleared(exhibit));
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
        var now = Inside.Now;
        var (left, at) = _ink.GetValueOrDefault(by, (MostInkAtOnce, now));
        left = Math.Min(MostInkAtOnce, left + Math.Max(0, (now - at).TotalSeconds) * InkEachSecond);
        var takes = act.Put.Sum(mark => 200.0 + mark.Line.Length + mark.Text.Length) + act.Drop.Length * 8.0;
        var has = left >= Math.Min(takes, MostInkAtOnce);
        _ink[by] = (has ? left - takes : left, now);
        return has;
    }

    public Task Stroke(SeatId by, StrokeWish stroke, string connection)
    {
        if (Inside.Lines.GetValueOrDefault(by) != connection || _strokes.Count >= MostPieces
            || Inside.Shown.ForbidsMarksOn(by, stroke.Exhibit, stroke.Page) is not null) return Task.CompletedTask;
        _strokes.Add(new StrokeRow(by, stroke.Exhibit, stroke.Page, stroke.Stroke, stroke.Shape, stroke.Colour, stroke.Width, stroke.Line));
        // The first goes at once, and what comes within a beat after it together; the more draw, the longer the beat.
        var wait = _beat + (_lateness * (_strokeAuthors - 1)) - Stopwatch.GetElapsedTime(_strokesSentAt);
        if (_strokes.Count == 1)
            In(wait > TimeSpan.Zero ? wait : TimeSpan.Zero, TellStrokes);
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
            if (Inside.Shown.FindExhibit(together.Key) is { } exhibit)
                await TellPages(exhibit, (to, sees) => together.Where(stroke => sees(stroke.Page)).ToList() is { Count: > 0 } seen
                    ? to.Strokes(seen)
                    : Task.CompletedTask);
    }

    /// <summary>To all who may know of an exhibit: what was drawn on the pages that they may see. Of other pages each learns that there
    /// was an act, so that nobody misses one.</summary>
    /// <param name="gone">The marks that it took away.</param>
    private Task TellMarks(Exhibit exhibit, MarkAct act, IReadOnlyList<Mark> gone) =>
        TellPages(exhibit, (to, sees) => to.Mark(new MarkActRow(exhibit.Number, act.Sequence, act.By,
            [.. act.Put.Where(mark => sees(mark.Page))], [.. gone.Where(mark => sees(mark.Page)).Select(mark => mark.Number)])));

    /// <summary>To all who may know of an exhibit: once to each viewpoint, and to whoever brought it or turns its pages, who may see more.
    /// </summary>
    private async Task TellPages(Exhibit exhibit, Func<ILiveClient, Func<int, bool>, Task> tell)
    {
        var shown = Inside.Shown;
        var about = new Matter.OfExhibit(exhibit);
        var special = new List<(Seat Seat, string Line)>();
        foreach (var id in new[] { exhibit.By, exhibit.Pages?.Holder ?? exhibit.By }.Distinct())
            if (Inside.Lines.TryGetValue(id, out var line) && shown.Seats[id] is { IsSeated: true } seat
                && shown.MayKnow(seat, about) && !shown.MayKnow(Knowledge.ViewpointOf(shown, seat), new Matter.AllPages(exhibit)))
                special.Add((seat, line));
        var others = special.ConvertAll(one => one.Line);
        foreach (var from in Viewpoint.In(shown).Where(from => shown.MayKnow(from, about)))
            await tell(_broadcast.To(Inside.Id, from, others), page => shown.MayKnow(from, new Matter.OfPage(exhibit, page)));
        foreach (var (seat, line) in special)
            await tell(_broadcast.To(line), page => shown.MayKnow(seat, new Matter.OfPage(exhibit, page)));
    }

    private async Task<LayerInUse> LayerOf(int exhibit)
    {
        if (_layers.TryGetValue(exhibit, out var there)) return there;
        var read = (await _marks.Read(Inside.Id, exhibit)).Select(json => JsonSerializer.Deserialize<MarkAct>(json, CoreJson.Options)!)
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
