using System.Collections.Immutable;

namespace HoldCourt.Core.Exhibits;

public sealed record ExhibitOpened(Exhibit Exhibit) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Shelf = sitting.Shelf with { Open = [.. sitting.Shelf.Open, Exhibit], Last = Exhibit.Number }
    };

    internal override ImmutableArray<SeatId> About => [Exhibit.By];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit.Number, Exhibit.Title);

    /// <summary>
    /// Leave for once ends when what it was given for has been shown. A screen is nobody's who has gone, or may show nothing any more:
    /// then it is closed. What has pages stays on the shelf, and before all when the bench has shown it, or its owner has just left or is
    /// in another place.
    /// </summary>
    internal static Sitting Follow(Sitting sitting)
    {
        if (sitting.Shelf.Open is []) return sitting;
        var spent = sitting.Shelf.Open.Where(exhibit => exhibit.ByLeave && !sitting.Shelf.IsShown(exhibit)).ToList();
        if (spent is not [])
            sitting = sitting.WithEach(spent.Select(exhibit => exhibit.By), seat => seat with { ShowsOnce = false }) with
            {
                Shelf = sitting.Shelf.WithEach(spent.Select(exhibit => exhibit.Number), exhibit => exhibit with { ByLeave = false })
            };
        bool May(Exhibit exhibit) => sitting.Forbids(Actor.Of(exhibit.By), Capability.Exhibit) is null;
        bool IsElsewhere(Exhibit exhibit) => sitting.Seats[exhibit.By] is { IsSeated: true } owner && !sitting.IsHere(owner);
        var shelf = sitting.Shelf.Without(exhibit => exhibit.Pages is null && (!May(exhibit) || IsElsewhere(exhibit)))
            .Hiding(exhibit => exhibit is { Pages: not null, Backed: false } && !May(exhibit) && !IsElsewhere(exhibit)
                && sitting.Seats[exhibit.By] is not { Place: Place.Gone, Exit: Exit.Left });
        return LoanEnded.Follow(ReferenceEquals(shelf, sitting.Shelf) ? sitting : sitting with { Shelf = shelf });
    }
}

/// <param name="From">What all saw.</param>
/// <param name="To">What all see now.</param>
/// <param name="Exhibit">What was shown just now, or taken down.</param>
/// <param name="By">Who brought it.</param>
/// <param name="ByBench">The bench shows it.</param>
public sealed record ExhibitsShown(
    ImmutableArray<int> From, ImmutableArray<int> To, int Exhibit, SeatId By, string Title, bool ByBench = false) : Fact
{
    /// <summary>What the bench shows by its title; null when it is not on the shelf, has no pages, or is what all see.</summary>
    internal static ExhibitsShown? Towards(Sitting sitting, string title) => sitting.Named(title) is { Pages.AreThere: true } exhibit
        && !sitting.Shelf.Shown.SequenceEqual([exhibit.Number])
            ? new ExhibitsShown(sitting.Shelf.Shown, [exhibit.Number], exhibit.Number, exhibit.By, exhibit.Title, ByBench: true)
            : null;

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Shelf = sitting.Shelf.WithEach(To.Except(From), exhibit => exhibit with
        {
            WasShown = true,
            Backed = ByBench,
            ByLeave = !ByBench && sitting.Seats[exhibit.By].ShowsOnce
        }) with
        { Shown = To }
    };

    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override string NameFor(Actor by) => To.Contains(Exhibit) ? "exhibitShown" : "exhibitTakenDown";
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
    internal override bool IsTakeable(SeatId by) => true;

    /// <summary>A screen is not shown again by taking back: something else may stand on it by then.</summary>
    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (!sitting.Shelf.Shown.SequenceEqual(To)) return null;
        ImmutableArray<int> back = [.. From.Where(number => sitting.Shelf.Find(number) is { } exhibit
            && (exhibit.Pages is { AreThere: true } || To.Contains(number)))];
        return back.SequenceEqual(To) ? null : this with { From = To, To = back, ByBench = true };
    }
}

public sealed record ExhibitClosed(Exhibit Exhibit) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => (sitting.Shelf.Find(Exhibit.Number) is { ByLeave: true }
        ? sitting.With(Exhibit.By, seat => seat with { ShowsOnce = false })
        : sitting) with
    {
        Shelf = sitting.Shelf.Without(one => one.Number == Exhibit.Number)
    };

    internal override ImmutableArray<SeatId> About => [Exhibit.By];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit.Number, Exhibit.Title);
}

public sealed record ScreenHeld(int Exhibit, string Title, SeatId By, bool On) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.Shelf.Find(Exhibit) is { } screen
        ? sitting with { Shelf = sitting.Shelf.With(screen with { Held = On }) }
        : sitting;

    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override string NameFor(Actor by) => On ? "screenHeld" : "screenGoesOn";
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
}

/// <summary>The pages of a file are there, or it is known why not.</summary>
public sealed record PagesMade(
    int Exhibit, string Title, SeatId By, int Count, PageFlaw? Flaw, ImmutableArray<StandIn>? StandIns = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithPages(Exhibit, pages => pages with { Count = Count, Flaw = Flaw, StandIns = StandIns });

    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override bool StandsInLedger => false;
}

public sealed record PageTurned(int Exhibit, SeatId By, int From, int To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithPages(Exhibit, pages => pages.TurnedTo(To));
    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override bool StandsInLedger => false;
}

public sealed record PageLookedAt(int Exhibit, SeatId By, PageView View) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithPages(Exhibit, pages => pages with { View = View });
    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override bool StandsInLedger => false;
}

/// <param name="From">Its page before.</param>
public sealed record SheetGrew(int Exhibit, string Title, SeatId By, int Count, int From) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithPages(Exhibit, pages => (pages with { Count = Count }).TurnedTo(Count));

    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override bool StandsInLedger => false;
}

/// <param name="From">To whom it was handed before; null when it was with whoever brought the exhibit.</param>
/// <param name="To">Null when it is with whoever brought the exhibit again.</param>
/// <param name="Seat">Who has it now.</param>
public sealed record PagingHanded(int Exhibit, string Title, SeatId By, SeatId? From, SeatId? To, SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithPages(Exhibit, pages => pages with { Holder = To });
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.Shelf.Find(Exhibit)?.Pages is { } pages && pages.Holder == To
        ? this with { From = To, To = From, Seat = From ?? By }
        : null;
}

public sealed record FreeLookSet(int Exhibit, string Title, SeatId By, bool On) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithPages(Exhibit, pages => pages with { FreeLook = On });
    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override string NameFor(Actor by) => On ? "freeLookOpened" : "freeLookClosed";
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Shelf.Find(Exhibit)?.Pages?.FreeLook == On ? this with { On = !On } : null;
}

public sealed record WishedToShow(ImmutableArray<SeatId> Seats, bool On) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithEach(Seats, seat => seat with { WantsToShow = On ? at : null });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Exhibits;
    internal override string NameFor(Actor by) => On ? "askedToShow" : "asksToShowNoLonger";
}

/// <param name="Asked">Those of them who had asked.</param>
public sealed record LeaveToShow(ImmutableArray<SeatId> Seats, ImmutableArray<SeatId> Asked) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithEach(Seats, seat => seat with { ShowsOnce = true, WantsToShow = null });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Exhibits;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Those(Seats, seat => seat.ShowsOnce) is { Length: > 0 } seats ? new WishRefused(seats) : null;
}

/// <summary>They have no leave to show, and ask for none.</summary>
public sealed record WishRefused(ImmutableArray<SeatId> Seats) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithEach(Seats, seat => seat with { ShowsOnce = false, WantsToShow = null });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Exhibits;
}

/// <summary>What is asked of a sitting about its exhibits.</summary>
public static class Shelves
{
    /// <summary>
    /// What an item of the run sheet means by a title: something that a presenter or the bench has brought. Whoever else may show
    /// something could give it any title.
    /// </summary>
    public static Exhibit? Named(this Sitting sitting, string title) =>
        sitting.Shelf.Titled(title, exhibit => Powers.PresentsOrLeads(sitting.Seats[exhibit.By]));

    /// <summary>Since when somebody has been asking; null, too, for whoever may show something by now, by whatever way.</summary>
    internal static Instant? StillWantsToShow(this Sitting sitting, Seat seat) =>
        seat.WantsToShow is not null && sitting.Forbids(Actor.Of(seat.Id), Capability.Exhibit) is null ? null : seat.WantsToShow;

    internal static Sitting WithPages(this Sitting sitting, int exhibit, Func<Pages, Pages> change) =>
        sitting.Shelf.Find(exhibit) is { Pages: { } pages } found
            ? sitting with { Shelf = sitting.Shelf.With(found with { Pages = change(pages) }) }
            : sitting;

    /// <summary>As it is called in a sentence: its letter, and its title where it has one.</summary>
    internal static string NameOf(int number, string title) => $"{Exhibit.LetterOf(number)} {title}".TrimEnd();

    /// <summary>What is open and not shown is known to whoever brought it, and to the bench.</summary>
    internal static bool KnowsOf(this Sitting sitting, Actor by, Exhibit exhibit) => by.Seat is not { } seat || exhibit.By == seat
        || (sitting.Seats.TryGet(seat, out var viewer) && sitting.MayKnow(viewer, new Matter.OfExhibit(exhibit)));
}
