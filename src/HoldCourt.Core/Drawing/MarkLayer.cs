using System.Collections.Immutable;

namespace HoldCourt.Core.Drawing;

/// <summary>What somebody did to the marks of an exhibit: some came, some went. These are kept, in their order.</summary>
/// <param name="Sequence">1, 2, 3 … without gaps for each exhibit.</param>
public sealed record MarkAct(
    long Sequence, Instant At, SeatId By, MarkDeed Deed, ImmutableArray<Mark> Put, ImmutableArray<int> Drop);

public enum MarkDeed { Draw, Erase, Move, Clear, Undo, Redo }

/// <summary>
/// All marks over one exhibit: a value, made only by <see cref="After"/> from acts. Each person has their own way back, which ends where
/// somebody else cleared all.
/// </summary>
public sealed record MarkLayer
{
    /// <summary>Most marks of one exhibit, those that are gone counted in.</summary>
    public const int Most = 30_000;

    /// <summary>Most characters of all their lines together.</summary>
    public const int MostInk = 20_000_000;

    /// <summary>So many steps one can go back.</summary>
    public const int Depth = 200;

    public static MarkLayer Empty { get; } = new();

    public long Sequence { get; private init; }

    /// <summary>Also those that are gone, since they may come back.</summary>
    private ImmutableDictionary<int, Mark> All { get; init; } = ImmutableDictionary<int, Mark>.Empty;

    private ImmutableSortedSet<int> There { get; init; } = [];

    private ImmutableDictionary<SeatId, Ways> WaysOf { get; init; } = ImmutableDictionary<SeatId, Ways>.Empty;

    public int Last { get; private init; }

    /// <summary>Characters of the lines of all marks, those that are gone counted in.</summary>
    private long Ink { get; init; }

    /// <summary>There is no room for another.</summary>
    internal bool IsFull => Last >= Most || Ink >= MostInk;

    /// <summary>Those that can be seen, in the order of drawing.</summary>
    public IEnumerable<Mark> Marks => There.Select(number => All[number]);

    public int Count => There.Count;

    public Mark? Find(int number) => There.Contains(number) ? All[number] : null;

    /// <summary>What a wish does, or why not. Whether somebody may draw here at all is asked before.</summary>
    /// <param name="keeps">Of the bench: others' marks, too.</param>
    /// <param name="pages">How many pages there are.</param>
    public (MarkAct? Act, Refusal? Refusal) Decide(MarkWish wish, SeatId by, bool keeps, int pages, Instant now)
    {
        if (Bounds.Refuses(wish) is { } bad) return (null, bad);
        var (deed, put, drop, refusal) = wish.On(this, by, keeps, pages);
        return refusal is not null ? (null, refusal) : (new MarkAct(Sequence + 1, now, by, deed, put, drop), null);
    }

    /// <summary>The layer after an act. Never fails for an act that was decided for it.</summary>
    public MarkLayer After(MarkAct act)
    {
        var ways = WaysOf;
        var own = ways.GetValueOrDefault(act.By, Ways.None);
        var change = new Change([.. act.Put.Select(mark => mark.Number)], act.Drop);
        own = act.Deed switch
        {
            MarkDeed.Undo => Way(own.Back) is var (step, left) ? new Ways(left, own.Forth.Add(step)) : own,
            MarkDeed.Redo => Way(own.Forth, redo: true) is var (step, left) ? new Ways(own.Back.Add(step), left) : own,
            _ => new Ways(own.Back.Count >= Depth ? own.Back.RemoveAt(0).Add(change) : own.Back.Add(change), [])
        };
        // What was cleared by somebody else is not brought back by those who drew it.
        if (act.Deed == MarkDeed.Clear && act.Drop.Any(number => All[number].By != act.By)) ways = ways.Clear();
        return this with
        {
            Sequence = act.Sequence,
            All = All.SetItems(act.Put.Select(mark => KeyValuePair.Create(mark.Number, mark))),
            There = There.Except(act.Drop).Union(change.Put),
            Ink = Ink + act.Put.Where(mark => !All.ContainsKey(mark.Number)).Sum(mark => (long)mark.Line.Length),
            Last = act.Put.Aggregate(Last, (last, mark) => Math.Max(last, mark.Number)),
            WaysOf = ways.SetItem(act.By, own)
        };
    }

    /// <summary>What going back, or forth again, would do; null when nothing is left.</summary>
    internal (ImmutableArray<Mark> Put, ImmutableArray<int> Drop)? Turn(SeatId by, bool redo)
    {
        var ways = WaysOf.GetValueOrDefault(by, Ways.None);
        return (redo ? Way(ways.Forth, redo) : Way(ways.Back)) is var (step, _) ? Effect(step, redo) : null;
    }

    /// <summary>The newest step of which something is left, and the way without it and those after it.</summary>
    private (Change Step, ImmutableList<Change> Left)? Way(ImmutableList<Change> way, bool redo = false)
    {
        for (var at = way.Count - 1; at >= 0; at--)
            if (Effect(way[at], redo) is { Put.IsEmpty: false } or { Drop.IsEmpty: false })
                return (way[at], way.RemoveRange(at, way.Count - at));
        return null;
    }

    private (ImmutableArray<Mark> Put, ImmutableArray<int> Drop) Effect(Change step, bool redo)
    {
        var (put, drop) = redo ? (step.Put, step.Drop) : (step.Drop, step.Put);
        return ([.. put.Where(number => !There.Contains(number)).Select(number => All[number])], [.. drop.Where(There.Contains)]);
    }

    private sealed record Change(ImmutableArray<int> Put, ImmutableArray<int> Drop);

    private sealed record Ways(ImmutableList<Change> Back, ImmutableList<Change> Forth)
    {
        public static Ways None { get; } = new([], []);
    }
}
