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
        if (sitting.Shelf.IsFull) return Decision.Refused(Reason.ShelfFull);
        if (sitting.Shelf.Open.Count(exhibit => exhibit.Kind == ExhibitKind.Screen) >= Shelf.MostScreens)
            return Decision.Refused(Reason.TooManyScreens);
        return new ExhibitOpened(new Exhibit(sitting.NextExhibit(), ExhibitKind.Screen, title, seat, now));
    }
}

/// <summary>
/// Puts a file on the shelf that somebody brought. Its pages are made meanwhile. Only the server has this wish, on behalf of whoever
/// brought the file: a browser cannot name files of others.
/// </summary>
/// <param name="File">Under which the server keeps it.</param>
/// <param name="Secret">In base64url; see <see cref="Pages.Secret"/>.</param>
/// <param name="Shows">The bench shows it as soon as its pages are there, as an item of the run sheet may have it.</param>
public sealed record BringFile(ExhibitKind Kind, string Title, string File, string Secret, bool Shows = false) : Command
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Exhibit) is { } refusal) return refusal;
        if (by.Seat is not { } seat) return Decision.Refused(Reason.NotUnderstood);
        if (sitting.Shelf.IsFull) return Decision.Refused(Reason.ShelfFull);
        if (sitting.Shelf.Open.Any(exhibit => exhibit.Pages?.File == File)) return Decision.Refused(Reason.NoChange);
        var title = Bounds.Clean(Title, lines: false);
        if (title.Length > Exhibit.LongestTitle) title = Bounds.Clean(title[..Exhibit.LongestTitle], lines: false);
        return new ExhibitOpened(new Exhibit(sitting.NextExhibit(), Kind, title, seat, now, Pages: Pages.OfFile(File, Secret),
            ShowsWhenMade: Shows && sitting.Forbids(by, Capability.KeepExhibits) is null));
    }
}

/// <summary>The pages of a file are there, or cannot be made.</summary>
/// <param name="Count">0 when they cannot.</param>
public sealed record NotePages(string File, int Count, PageFlaw? Flaw = null, ImmutableArray<StandIn>? StandIns = null) : HouseCommand
{
    /// <summary>Each room has its own copy of a document that goes with its task.</summary>
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        var there = RoomPlaces.All(sitting).SelectMany(room => sitting.At(room).Shelf.Open
            .Where(exhibit => exhibit.Pages?.File == File).Select(exhibit => (Room: room, Exhibit: exhibit))).ToList();
        if (there is []) return Decision.Refused(Reason.NoSuchExhibit);
        ImmutableArray<Fact> facts = [.. there.Where(one => one.Exhibit.Pages is { } pages && (pages.Count != Count || pages.Flaw != Flaw))
            .SelectMany(one => Made(sitting.At(one.Room), one.Exhibit)
                .Select(fact => one.Room is { } room ? new InRoom(room, fact) : fact))];
        return facts is [] ? Decision.AlreadySo : Decision.Of([.. facts]);
    }

    private IEnumerable<Fact> Made(Sitting sitting, Exhibit exhibit)
    {
        yield return new PagesMade(exhibit.Number, exhibit.Title, exhibit.By, Math.Min(Count, Pages.Most), Flaw, StandIns);
        // Who brought it to be shown may have lost the bench meanwhile, and others may show something by now.
        if (Count > 0 && exhibit is { ShowsWhenMade: true, WasShown: false }
            && sitting.Forbids(Actor.Of(exhibit.By), Capability.KeepExhibits) is null)
            yield return new ExhibitsShown(sitting.Shelf.Shown, [exhibit.Number], exhibit.Number, exhibit.By, exhibit.Title, ByBench: true);
    }
}

/// <summary>Puts white pages on the shelf.</summary>
public sealed record OpenSheet(string Title = "", Ruling Ruling = Ruling.Plain) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Exhibit) is { } refusal) return refusal;
        if (by.Seat is not { } seat) return Decision.Refused(Reason.NotUnderstood);
        var title = Bounds.Clean(Title, lines: false);
        if (title.Length > Exhibit.LongestTitle) return Decision.Refused(Reason.TooLong, Remedy.Shorten);
        if (sitting.Shelf.IsFull) return Decision.Refused(Reason.ShelfFull);
        return new ExhibitOpened(
            new Exhibit(sitting.NextExhibit(), ExhibitKind.Sheet, title, seat, now, Pages: Pages.OfSheet(Ruling)));
    }
}

/// <summary>One more white page, after the last; whoever has the paging may, and turns to it.</summary>
/// <param name="Exhibit">Null for the first one shown.</param>
public sealed record AddPage(int? Exhibit = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.WithPages(by, Exhibit) is not { Kind: ExhibitKind.Sheet, Pages: { } pages } sheet)
            return Decision.Refused(Reason.NoSheet);
        if (!sitting.Turns(by, sheet)) return Decision.Refused(Reason.PagingWithAnother, Remedy.TakePaging);
        return pages.Count >= Pages.MostOfSheet
            ? Decision.Refused(Reason.SheetFull)
            : new SheetGrew(sheet.Number, sheet.Title, sheet.By, pages.Count + 1, pages.At);
    }
}

/// <summary>Turns to a page, for all. Only whoever has the paging may.</summary>
/// <param name="Exhibit">Null for the first one shown.</param>
public sealed record TurnPage(int Page, int? Exhibit = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.WithPages(by, Exhibit) is not { Pages: { } pages } exhibit) return Decision.Refused(Reason.NoPages);
        if (!pages.AreThere) return Decision.Refused(Reason.PagesNotThere, Remedy.TryAgain);
        if (!sitting.Turns(by, exhibit)) return Decision.Refused(Reason.PagingWithAnother, Remedy.TakePaging);
        if (Page < 1 || Page > pages.Count) return Decision.Refused(Reason.NoSuchPage);
        return Page == pages.At ? Decision.AlreadySo : new PageTurned(exhibit.Number, exhibit.By, pages.At, Page);
    }
}

/// <summary>Looks closer, for all, or turns the page round. Only whoever has the paging may.</summary>
/// <param name="Exhibit">Null for the first one shown.</param>
public sealed record LookAt(PageView View, int? Exhibit = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.WithPages(by, Exhibit) is not { Pages: { } pages } exhibit) return Decision.Refused(Reason.NoPages);
        if (View is not { IsMeaningful: true }) return Decision.Refused(Reason.NotUnderstood);
        if (!sitting.Turns(by, exhibit)) return Decision.Refused(Reason.PagingWithAnother, Remedy.TakePaging);
        return View == pages.View ? Decision.AlreadySo : new PageLookedAt(exhibit.Number, exhibit.By, View);
    }
}

/// <summary>
/// Gives the paging to one person, oneself included. Whoever has it may hand it on; whoever brought the exhibit, and the bench, may
/// always take it.
/// </summary>
/// <param name="To">Null for oneself.</param>
/// <param name="Exhibit">Null for the first one shown.</param>
public sealed record HandPaging(SeatId? To = null, int? Exhibit = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.WithPages(by, Exhibit) is not { } exhibit) return Decision.Refused(Reason.NoPages);
        if ((To ?? by.Seat) is not { } to) return Decision.Refused(Reason.NotUnderstood);
        var holder = sitting.HolderOf(exhibit);
        if (by.Seat != exhibit.By && by.Seat != holder && sitting.Forbids(by, Capability.KeepExhibits) is { } refusal) return refusal;
        if (!sitting.Seats.TryGet(to, out var seat) || !sitting.IsHere(seat)) return Decision.Refused(Reason.NobodySeated);
        // Whoever would turn the pages must see them.
        if (!sitting.Shelf.IsShown(exhibit) && !sitting.KnowsOf(Actor.Of(to), exhibit)) return Decision.Refused(Reason.PagingUnseen);
        return holder == to
            ? Decision.AlreadySo
            : new PagingHanded(exhibit.Number, exhibit.Title, exhibit.By, exhibit.Pages!.Holder, to == exhibit.By ? null : to, to);
    }
}

/// <summary>Whether each may page alone. Whoever brought it may say so, and the bench.</summary>
/// <param name="Exhibit">Null for the first one shown.</param>
public sealed record SetFreeLook(bool On, int? Exhibit = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.WithPages(by, Exhibit) is not { Pages: { } pages } exhibit) return Decision.Refused(Reason.NoPages);
        if (by.Seat != exhibit.By && sitting.Forbids(by, Capability.KeepExhibits) is { } refusal) return refusal;
        return pages.FreeLook == On ? Decision.AlreadySo : new FreeLookSet(exhibit.Number, exhibit.Title, exhibit.By, On);
    }
}

/// <summary>Asks the bench for leave to show something, or asks no longer.</summary>
public sealed record AskToShow(bool On = true) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id || !sitting.Seats[id].IsSeated) return Decision.Refused(Reason.NotInside);
        if (sitting.Seats[id].WantsToShow is not null == On) return Decision.AlreadySo;
        return On && sitting.Forbids(by, Capability.Exhibit) is null
            ? Decision.Refused(Reason.MayShowAlready)
            : new WishedToShow([id], On);
    }
}

/// <summary>Answers those who ask to show something, or gives it to people unasked: once.</summary>
/// <param name="May">Leave to show one exhibit, until it is taken down. False says no.</param>
public sealed record LetShowOnce(ImmutableArray<SeatId> Seats, bool May) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.SetOrders) is { } refusal) return refusal;
        var here = sitting.Those(Seats, seat => seat.IsSeated && Powers.TakesExceptions(seat));
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var seats = sitting.Those(here, seat => May
            ? !seat.ShowsOnce && sitting.Forbids(Actor.Of(seat.Id), Capability.Exhibit) is not null
            : seat.WantsToShow is not null || seat.ShowsOnce);
        if (seats is []) return Decision.Refused(Reason.NoChange);
        return May ? new LeaveToShow(seats, sitting.Those(seats, seat => seat.WantsToShow is not null)) : new WishRefused(seats);
    }
}

/// <summary>
/// Shows an exhibit to all, in place of what is shown. A screen is shown by whoever brought it, and by nobody else: only they know
/// what stands on it. What has pages the bench may show, too.
/// </summary>
/// <param name="Beside">What is shown stays, and this one stands beside it.</param>
public sealed record ShowExhibit(int Exhibit, bool Beside = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Shelf.Find(Exhibit) is not { } exhibit || !sitting.KnowsOf(by, exhibit))
            return Decision.Refused(Reason.NoSuchExhibit);
        var bench = exhibit.By != by.Seat;
        if (bench && exhibit.Pages is null) return Decision.Refused(Reason.NotYourExhibit);
        if (sitting.Forbids(by, bench ? Capability.KeepExhibits : Capability.Exhibit) is { } refusal) return refusal;
        if (exhibit.Pages is { AreThere: false }) return Decision.Refused(Reason.PagesNotThere, Remedy.TryAgain);
        var shown = sitting.Shelf.Shown;
        ImmutableArray<int> to = Beside && shown is not [] ? [shown[0] == Exhibit ? shown[^1] : shown[0], Exhibit] : [Exhibit];
        if (to is [var one, var other] && one == other) to = [Exhibit];
        return to.SequenceEqual(shown)
            ? Decision.Refused(Reason.NoChange)
            : new ExhibitsShown(
                shown, to, exhibit.Number, exhibit.By, exhibit.Title, bench);
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
