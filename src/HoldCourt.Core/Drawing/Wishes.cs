using System.Collections.Immutable;

namespace HoldCourt.Core.Drawing;

/// <summary>What somebody wishes to do to the marks of an exhibit.</summary>
[Union("mark")]
public abstract record MarkWish
{
    internal abstract Doing On(MarkLayer layer, SeatId by, bool keeps, int pages);

    private protected static Doing Refused(Reason reason, Remedy remedy = Remedy.None) =>
        new(default, [], [], new Refusal(reason, remedy));

    /// <summary>Why a line cannot be one of this shape; null when it can.</summary>
    private protected static Refusal? Refuses(MarkShape shape, string line)
    {
        if (line is null) return new Refusal(Reason.NotUnderstood);
        if (line.Length > MarkLine.Longest) return new Refusal(Reason.MarkTooLong, Remedy.TryAgain);
        var count = MarkLine.Read(line)?.Count;
        return (shape switch
        {
            MarkShape.Pen or MarkShape.Highlighter => count >= 1,
            MarkShape.Text => count == 1,
            _ => count == 2
        }) ? null : new Refusal(Reason.NotUnderstood);
    }

    internal readonly record struct Doing(MarkDeed Deed, ImmutableArray<Mark> Put, ImmutableArray<int> Drop, Refusal? Refusal = null);
}

public sealed record Draw(
    int Page, MarkShape Shape, MarkColour Colour, int Width, [property: Longest(MarkLine.LongestLooked)] string Line, string Text = "")
    : MarkWish
{
    /// <summary>Longest text, in UTF-16 units, and the widest line.</summary>
    public const int LongestText = 500, Widest = 1_200;

    internal override Doing On(MarkLayer layer, SeatId by, bool keeps, int pages)
    {
        if (Page < 1 || Page > pages) return Refused(Reason.NoSuchPage);
        if (layer.IsFull) return Refused(Reason.TooManyMarks);
        if (Refuses(Shape, Line) is { } bad) return Refused(bad.Reason, bad.Remedy);
        if (Width is < 1 or > Widest) return Refused(Reason.NotUnderstood);
        var text = Shape == MarkShape.Text ? Bounds.Clean(Text) : "";
        if (text.Length > LongestText) return Refused(Reason.TooLong, Remedy.Shorten);
        if (Shape == MarkShape.Text && text.Length == 0) return Refused(Reason.NotUnderstood);
        return new Doing(MarkDeed.Draw, [new Mark(layer.Last + 1, by, Page, Shape, Colour, Width, Line, text)], []);
    }
}

/// <summary>Takes away marks of one's own; the bench those of others, too.</summary>
public sealed record Erase(ImmutableArray<int> Numbers) : MarkWish
{
    internal override Doing On(MarkLayer layer, SeatId by, bool keeps, int pages)
    {
        var there = Numbers.Distinct().Select(layer.Find).OfType<Mark>().ToList();
        if (there is []) return Refused(Reason.NoSuchMark);
        ImmutableArray<int> drop = [.. there.Where(mark => keeps || mark.By == by).Select(mark => mark.Number)];
        return drop is [] ? Refused(Reason.NotYourMark) : new Doing(MarkDeed.Erase, [], drop);
    }
}

/// <summary>Moves or stretches a mark of one's own.</summary>
/// <param name="Line">All its points, where they are to be.</param>
public sealed record Move(int Number, [property: Longest(MarkLine.LongestLooked)] string Line) : MarkWish
{
    internal override Doing On(MarkLayer layer, SeatId by, bool keeps, int pages)
    {
        if (layer.Find(Number) is not { } mark) return Refused(Reason.NoSuchMark);
        if (mark.By != by) return Refused(Reason.NotYourMark);
        if (layer.IsFull) return Refused(Reason.TooManyMarks);
        if (Refuses(mark.Shape, Line) is { } bad) return Refused(bad.Reason, bad.Remedy);
        return new Doing(MarkDeed.Move, [mark with { Number = layer.Last + 1, Line = Line }], [Number]);
    }
}

/// <summary>Goes one step of one's own back, or forth again.</summary>
public sealed record StepBack(bool Again = false) : MarkWish
{
    internal override Doing On(MarkLayer layer, SeatId by, bool keeps, int pages) =>
        layer.Turn(by, Again) is var (put, drop)
            ? new Doing(Again ? MarkDeed.Redo : MarkDeed.Undo, put, drop)
            : Refused(Again ? Reason.NothingToRedo : Reason.NothingToUndo);
}

/// <summary>Takes away all marks of a page, or of all pages.</summary>
/// <param name="Page">Null for all pages.</param>
/// <param name="Own">Only one's own; the bench may take away those of others.</param>
public sealed record Clear(int? Page, bool Own) : MarkWish
{
    internal override Doing On(MarkLayer layer, SeatId by, bool keeps, int pages)
    {
        if (!Own && !keeps) return Refused(Reason.OnlyBench, Remedy.AskBench);
        ImmutableArray<int> drop = [.. layer.Marks.Where(mark => (Page ?? mark.Page) == mark.Page && (!Own || mark.By == by))
            .Select(mark => mark.Number)];
        return drop is [] ? Refused(Reason.NoSuchMark) : new Doing(MarkDeed.Clear, [], drop);
    }
}
