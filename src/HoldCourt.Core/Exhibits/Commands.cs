using System.Collections.Immutable;

namespace HoldCourt.Core.Exhibits;

/// <summary>Puts one's own screen on the shelf. Nobody else sees anything of it until it is shown.</summary>
/// <param name="Title">What it is called; may be empty.</param>
public sealed record OpenScreen(string Title = "") : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Exhibit) is { } refusal) return refusal;
        if (by.Seat is not { } seat) return Decision.Refused(Reason.NotUnderstood);
        var title = Bounds.Clean(Title, lines: false);
        if (title.Length > Exhibit.LongestTitle) return Decision.Refused(Reason.TooLong, Remedy.Shorten);
        if (sitting.Shelf.ScreenOf(seat) is not null) return Decision.Refused(Reason.ScreenIsOpen);
        if (sitting.Shelf.Open.Length >= Shelf.MostOpen) return Decision.Refused(Reason.ShelfFull);
        if (sitting.Shelf.Open.Count(exhibit => exhibit.Kind == ExhibitKind.Screen) >= Shelf.MostScreens)
            return Decision.Refused(Reason.TooManyScreens);
        return new ExhibitOpened(new Exhibit(sitting.Shelf.Last + 1, ExhibitKind.Screen, title, seat, now));
    }
}

/// <summary>
/// Shows an exhibit to all, in place of what is shown. A screen is shown by whoever brought it, and by nobody else: only they know
/// what stands on it.
/// </summary>
/// <param name="Beside">What is shown stays, and this one stands beside it.</param>
public sealed record ShowExhibit(int Exhibit, bool Beside = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Shelf.Find(Exhibit) is not { } exhibit || !sitting.KnowsOf(by, exhibit))
            return Decision.Refused(Reason.NoSuchExhibit);
        if (exhibit.By != by.Seat) return Decision.Refused(Reason.NotYourExhibit);
        if (sitting.Forbids(by, Capability.Exhibit) is { } refusal) return refusal;
        var shown = sitting.Shelf.Shown;
        ImmutableArray<int> to = Beside && shown is not [] ? [shown[0] == Exhibit ? shown[^1] : shown[0], Exhibit] : [Exhibit];
        if (to is [var one, var other] && one == other) to = [Exhibit];
        return to.SequenceEqual(shown)
            ? Decision.Refused(Reason.NoChange)
            : new ExhibitsShown(shown, to, exhibit.Number, exhibit.By, exhibit.Title);
    }
}

/// <summary>Shows an exhibit no longer; it stays on the shelf. The bench may, and whoever brought it.</summary>
/// <param name="Exhibit">Null takes down all that one may.</param>
public sealed record TakeDown(int? Exhibit = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        var shown = sitting.Shelf.Shown;
        if (Exhibit is { } number && !shown.Contains(number)) return Decision.Refused(Reason.NothingShown);
        if (shown is []) return Decision.Refused(Reason.NothingShown);
        var keeps = sitting.Forbids(by, Capability.KeepExhibits);
        ImmutableArray<int> off =
            [.. shown.Where(one => (Exhibit ?? one) == one && (keeps is null || sitting.Shelf.Find(one)!.By == by.Seat))];
        if (off is []) return keeps!;
        var first = sitting.Shelf.Find(off[0])!;
        return new ExhibitsShown(shown, shown.RemoveRange(off), first.Number, first.By, first.Title);
    }
}

/// <summary>Takes an exhibit off the shelf. The bench may, and whoever brought it.</summary>
public sealed record CloseExhibit(int Exhibit) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Shelf.Find(Exhibit) is not { } exhibit || !sitting.KnowsOf(by, exhibit))
            return Decision.Refused(Reason.NoSuchExhibit);
        if (exhibit.By != by.Seat && sitting.Forbids(by, Capability.KeepExhibits) is { } refusal) return refusal;
        return new ExhibitClosed(exhibit);
    }
}

/// <summary>What the others see of one's screen stands still, or goes on.</summary>
public sealed record HoldScreen(bool On) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat || sitting.Shelf.ScreenOf(seat) is not { } screen) return Decision.Refused(Reason.NoScreenOpen);
        return screen.Held == On ? Decision.Refused(Reason.NoChange) : new ScreenHeld(screen.Number, screen.Title, seat, On);
    }
}
