using System.Collections.Immutable;

namespace HoldCourt.Core.Exhibits;

/// <param name="Opens">The key of the page that all see.</param>
/// <param name="Secret">From which the keys of all pages are made; null for those who may not look ahead.</param>
/// <param name="Holder">Who turns the pages; null when the bench does.</param>
/// <param name="HolderName">Null, too, when it may not be known that they are here: what is not shown makes nobody known.</param>
public sealed record PagesRow(
    string? File, int Count, int At, string Opens, string? Secret, PageView View, SeatId? Holder, string? HolderName, bool FreeLook,
    PageFlaw? Flaw, Ruling Ruling, ImmutableArray<StandIn>? StandIns)
{
    internal static PagesRow? Of(Sitting sitting, Exhibit exhibit, bool all) => exhibit.Pages is not { } pages ? null : new(
        File: pages.File,
        Count: pages.Count,
        At: pages.At,
        Opens: pages.Opens,
        Secret: all ? pages.Secret : null,
        View: pages.View,
        Holder: sitting.HolderOf(exhibit),
        HolderName: sitting.HolderOf(exhibit) is { } holder && (holder == exhibit.By || sitting.Shelf.IsShown(exhibit))
            ? sitting.Seats[holder].Name
            : null,
        FreeLook: pages.FreeLook,
        Flaw: pages.Flaw,
        Ruling: pages.Ruling,
        StandIns: pages.StandIns);
}

/// <param name="ByName">Who brought it; empty when it may not be known who that is, as when they have gone.</param>
/// <param name="Shown">All see it.</param>
/// <param name="Pages">Null for a screen.</param>
/// <param name="HasAgent">The controls of this screen can be lent.</param>
/// <param name="Room">The room that made it, by its name or place; null for what was brought where it stands.</param>
/// <param name="MayMark">In one's own part: one may draw on it. Otherwise the orders say it.</param>
public sealed record ExhibitRow(
    int Number, string Letter, ExhibitKind Kind, string Title, SeatId By, string ByName, Instant Since, bool Held, bool Shown,
    PagesRow? Pages, bool HasAgent, LoanRow? Loan, string? Room, bool MayMark)
{
    /// <param name="all">Its reader may look at all pages.</param>
    /// <param name="knows">Whether its reader may know that somebody is here.</param>
    internal static ExhibitRow Of(Sitting sitting, Exhibit exhibit, bool all, Func<Seat, bool> knows, bool mayMark = false) => new(
        Number: exhibit.Number,
        Letter: exhibit.Letter,
        Kind: exhibit.Kind,
        Title: exhibit.Title,
        By: exhibit.By,
        ByName: knows(sitting.Seats[exhibit.By]) ? sitting.Seats[exhibit.By].Name : "",
        Since: exhibit.Since,
        Held: exhibit.Held,
        Shown: sitting.Shelf.IsShown(exhibit),
        Pages: PagesRow.Of(sitting, exhibit, all),
        HasAgent: exhibit.HasAgent,
        Loan: LoanRow.Of(sitting, exhibit, knows),
        Room: exhibit.Room is { } room ? RoomNames.Of(sitting, room) : null,
        MayMark: mayMark);

    /// <summary>One's own, shown or not, and those of which one turns the pages.</summary>
    internal static ImmutableArray<ExhibitRow> OwnOf(Sitting sitting, Seat seat) => sitting.Shelf.Open is [] || !seat.IsSeated
        ? []
        : [.. sitting.Shelf.Open.Where(exhibit => sitting.MayKnow(seat, new Matter.OfExhibit(exhibit))
                && (exhibit.By == seat.Id || (exhibit.Pages is not null && sitting.HolderOf(exhibit) == seat.Id)))
            .Select(exhibit => Of(sitting, exhibit, sitting.MayKnow(seat, new Matter.AllPages(exhibit)),
                other => sitting.MayKnow(seat, new Matter.Person(other)), sitting.ForbidsMarks(seat.Id, exhibit.Number) is null))];
}

/// <param name="Exhibits">Those that may be known: the shown ones, as they stand in the picture, then the others.</param>
public sealed record ShelfFacet(ImmutableArray<ExhibitRow> Exhibits) : IFacet<ShelfFacet>
{
    public static ShelfFacet Of(Sitting sitting, Viewpoint from) => new(
    [
        .. sitting.Shelf.Open.Where(exhibit => sitting.MayKnow(from, new Matter.OfExhibit(exhibit)))
            .OrderBy(exhibit => sitting.Shelf.Shown.IndexOf(exhibit.Number) is var at and >= 0 ? at : Shelf.MostShown)
            .Select(exhibit => ExhibitRow.Of(sitting, exhibit, sitting.MayKnow(from, new Matter.AllPages(exhibit)),
                other => sitting.MayKnow(from, new Matter.Person(other))))
    ]);

    public static bool IsSame(Step step) => step.Before.Shelf.Open is [] && step.After.Shelf.Open is [];

    public static bool AltersRows(Step step) => !ReferenceEquals(step.Before.Shelf, step.After.Shelf);

    public static IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        ReferenceEquals(before.Shelf, after.Shelf) && ReferenceEquals(before.Rooms, after.Rooms)
            ? []
            : before.AllExhibits().Concat(after.AllExhibits())
                .SelectMany(exhibit => exhibit.Pages?.Holder is { } holder ? [exhibit.By, holder] : new[] { exhibit.By });

    public bool Equals(ShelfFacet? other) => other is not null && Exhibits.SequenceEqual(other.Exhibits);
    public override int GetHashCode() => Exhibits.Length;
}
