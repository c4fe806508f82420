using System.Collections.Immutable;

namespace HoldCourt.Core.Exhibits;

/// <param name="ByName">Who brought it.</param>
/// <param name="Shown">All see it.</param>
public sealed record ExhibitRow(
    int Number, string Letter, ExhibitKind Kind, string Title, SeatId By, string ByName, Instant Since, bool Held, bool Shown)
{
    internal static ExhibitRow Of(Sitting sitting, Exhibit exhibit) => new(
        Number: exhibit.Number,
        Letter: exhibit.Letter,
        Kind: exhibit.Kind,
        Title: exhibit.Title,
        By: exhibit.By,
        ByName: sitting.Seats[exhibit.By].Name,
        Since: exhibit.Since,
        Held: exhibit.Held,
        Shown: sitting.Shelf.IsShown(exhibit));

    /// <summary>One's own, shown or not.</summary>
    internal static ImmutableArray<ExhibitRow> OwnOf(Sitting sitting, SeatId seat) =>
        [.. sitting.Shelf.Open.Where(exhibit => exhibit.By == seat).Select(exhibit => Of(sitting, exhibit))];
}

/// <param name="Exhibits">Those that may be known: the shown ones, as they stand in the picture, then the others.</param>
public sealed record ShelfFacet(ImmutableArray<ExhibitRow> Exhibits)
{
    internal static ShelfFacet Of(Sitting sitting, Viewpoint from) => new(
    [
        .. sitting.Shelf.Open.Where(exhibit => sitting.MayKnow(from, new Matter.OfExhibit(exhibit)))
            .OrderBy(exhibit => sitting.Shelf.Shown.IndexOf(exhibit.Number) is var at and >= 0 ? at : Shelf.MostShown)
            .Select(exhibit => ExhibitRow.Of(sitting, exhibit))
    ]);

    public bool Equals(ShelfFacet? other) => other is not null && Exhibits.SequenceEqual(other.Exhibits);
    public override int GetHashCode() => Exhibits.Length;
}
