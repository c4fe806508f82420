using System.Collections.Immutable;

namespace HoldCourt.Core.Drawing;

/// <summary>The bench took all marks away, of an exhibit or of one of its pages. The marks themselves are not entries.</summary>
public sealed record NoteCleared(int Exhibit) : Command
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepExhibits) is { } refusal) return refusal;
        return sitting.Shelf.Find(Exhibit) is { } exhibit
            ? new MarksCleared(exhibit.Number, exhibit.Title, exhibit.By)
            : Decision.Refused(Reason.NoSuchExhibit);
    }
}

public sealed record MarksCleared(int Exhibit, string Title, SeatId By) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting;
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
}

/// <summary>Who may draw over what.</summary>
public static class MarkRules
{
    /// <summary>
    /// Why somebody may not draw, point, or take marks away here now; null when they may: by the orders, on what all see, and on what
    /// one brought oneself or, on the bench, may know of. Whoever may show something draws on their own sheet, which is of no use to them
    /// otherwise, unless it was taken from them.
    /// </summary>
    public static Refusal? ForbidsMarks(this Sitting sitting, SeatId by, int exhibit) =>
        (sitting.Seats.TryGet(by, out var seat) ? sitting.AtPlaceOf(seat) : sitting).ForbidsMarksHere(by, exhibit);

    private static Refusal? ForbidsMarksHere(this Sitting sitting, SeatId by, int exhibit) =>
        sitting.Forbids(Actor.Of(by), Capability.Mark) is { } refusal
            && !(refusal.Reason == Reason.MarksNotAllowed && sitting.Shelf.Find(exhibit) is { Kind: ExhibitKind.Sheet } sheet
                && sheet.By == by && sitting.Forbids(Actor.Of(by), Capability.Exhibit) is null) ? refusal
        : sitting.Shelf.Find(exhibit) is not { } open || !sitting.KnowsOf(Actor.Of(by), open) ? new Refusal(Reason.NoSuchExhibit)
        : null;

    /// <summary>
    /// Why somebody may not draw or point on this page now; null when they may. Where the marks of a page are not to be seen, nobody
    /// puts any.
    /// </summary>
    public static Refusal? ForbidsMarksOn(this Sitting sitting, SeatId by, int exhibit, int page) =>
        sitting.ForbidsMarks(by, exhibit) is { } refusal ? refusal
        : sitting.FindExhibit(exhibit) is { } open && sitting.MayKnow(sitting.Seats[by], new Matter.OfPage(open, page)) ? null
        : new Refusal(Reason.NoSuchPage);

    /// <summary>Why an act puts something where its author may not look; null when it does not. What one takes away or brings back is
    /// one's own.</summary>
    public static Refusal? Forbids(this Sitting sitting, int exhibit, MarkAct act) => act.Deed is MarkDeed.Draw or MarkDeed.Move
        ? act.Put.Select(mark => sitting.ForbidsMarksOn(act.By, exhibit, mark.Page)).FirstOrDefault(refusal => refusal is not null)
        : null;

    /// <summary>How many pages can be drawn on.</summary>
    public static int PagesOf(Exhibit exhibit) => exhibit.Pages?.Count ?? 1;
}
