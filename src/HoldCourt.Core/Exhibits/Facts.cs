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

    /// <summary>A screen is nobody's who has gone, or may show nothing any more: then it is closed.</summary>
    internal static Sitting Follow(Sitting sitting) => sitting.Shelf.Open is []
        ? sitting
        : sitting.Shelf.Without(exhibit => sitting.Forbids(Actor.Of(exhibit.By), Capability.Exhibit) is not null) is var left
            && ReferenceEquals(left, sitting.Shelf) ? sitting : sitting with { Shelf = left };
}

/// <param name="From">What all saw.</param>
/// <param name="To">What all see now.</param>
/// <param name="Exhibit">What was shown just now, or taken down.</param>
/// <param name="By">Who brought it.</param>
public sealed record ExhibitsShown(ImmutableArray<int> From, ImmutableArray<int> To, int Exhibit, SeatId By, string Title) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Shelf = sitting.Shelf with { Shown = To } };
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
            && (exhibit.Kind != ExhibitKind.Screen || To.Contains(number)))];
        return back.SequenceEqual(To) ? null : this with { From = To, To = back };
    }
}

public sealed record ExhibitClosed(Exhibit Exhibit) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Shelf = sitting.Shelf.Without(one => one.Number == Exhibit.Number) };

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

internal static class Shelves
{
    /// <summary>As it is called in a sentence: its letter, and its title where it has one.</summary>
    public static string NameOf(int number, string title) => $"{Exhibit.LetterOf(number)} {title}".TrimEnd();

    /// <summary>What is open and not shown is known to whoever brought it, and to the bench.</summary>
    public static bool KnowsOf(this Sitting sitting, Actor by, Exhibit exhibit) => by.Seat is not { } seat || exhibit.By == seat
        || (sitting.Seats.TryGet(seat, out var viewer) && sitting.MayKnow(viewer, new Matter.OfExhibit(exhibit)));
}
