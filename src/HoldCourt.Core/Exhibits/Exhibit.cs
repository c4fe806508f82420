using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Exhibits;

public enum ExhibitKind
{
    /// <summary>What somebody's screen, window or browser tab shows.</summary>
    Screen,

    /// <summary>A file of pages.</summary>
    Document,

    /// <summary>A picture: one page.</summary>
    Picture,

    /// <summary>White pages to draw on.</summary>
    Sheet
}

/// <summary>Something that can be shown to all.</summary>
/// <param name="Number">1, 2, 3 … in the order of opening; never given twice.</param>
/// <param name="Title">What whoever brought it calls it; empty when it has no name of its own.</param>
/// <param name="By">Who brought it.</param>
/// <param name="Held">What the others see of it stands still.</param>
/// <param name="Pages">Null for a screen.</param>
/// <param name="WasShown">All have seen it, once at least.</param>
/// <param name="Backed">The bench has shown it, and so it stays before all whatever its owner may.</param>
/// <param name="ShowsWhenMade">The bench has brought it to be shown as soon as its pages are there.</param>
/// <param name="ByLeave">It is shown by leave for once, which ends with it.</param>
/// <param name="HasAgent">The small program is there that does on this screen what a driver wishes.</param>
/// <param name="Loan">To whom its controls are lent.</param>
/// <param name="Room">The room that made it, which is closed; null for what was brought where it stands.</param>
public sealed record Exhibit(
    int Number, ExhibitKind Kind, string Title, SeatId By, Instant Since, bool Held = false, Pages? Pages = null, bool WasShown = false,
    bool Backed = false, bool ShowsWhenMade = false, bool ByLeave = false, bool HasAgent = false, Loan? Loan = null,
    int? Room = null)
{
    /// <summary>Longest title, in UTF-16 units.</summary>
    public const int LongestTitle = 80;

    [JsonIgnore]
    public string Letter => LetterOf(Number);

    /// <summary>A to Z, then AA, AB …</summary>
    /// <param name="number">1 or more.</param>
    public static string LetterOf(int number)
    {
        var letters = "";
        for (var left = number; left > 0; left = (left - 1) / 26) letters = (char)('A' + ((left - 1) % 26)) + letters;
        return letters;
    }
}

/// <summary>The exhibits that are open, and those that all see.</summary>
/// <param name="Open">In the order of opening.</param>
/// <param name="Shown">Their numbers, in the order in which they stand in the picture; at most <see cref="MostShown"/>.</param>
/// <param name="Last">The number that was given last.</param>
public sealed record Shelf(ImmutableArray<Exhibit> Open, ImmutableArray<int> Shown, int Last)
{
    public const int MostOpen = 26, MostScreens = 4, MostShown = 2;

    /// <summary>So many that rooms have made are kept, the newest.</summary>
    public const int MostOfRooms = 1_000;

    public static Shelf Empty { get; } = new([], [], 0);

    public Exhibit? Find(int number) => Open.FirstOrDefault(exhibit => exhibit.Number == number);

    /// <summary>What rooms have made takes nobody's place.</summary>
    [JsonIgnore]
    public bool IsFull => Open.Count(exhibit => exhibit.Room is null) >= MostOpen;

    /// <summary>The screen that somebody has open; null when there is none.</summary>
    public Exhibit? ScreenOf(SeatId seat) => Open.FirstOrDefault(exhibit => exhibit.Kind == ExhibitKind.Screen && exhibit.By == seat);

    /// <summary>The newest of that title, which may have the ending of a file's name, of those that may be meant.</summary>
    internal Exhibit? Titled(string title, Predicate<Exhibit> isMeant) => Open.LastOrDefault(exhibit => exhibit.Pages is not null
        && exhibit.Title.Length > 0 && isMeant(exhibit)
        && (exhibit.Title.Equals(title, StringComparison.OrdinalIgnoreCase)
            || exhibit.Title.Equals(Path.GetFileNameWithoutExtension(title), StringComparison.OrdinalIgnoreCase)));

    public bool IsShown(Exhibit exhibit) => Shown.Contains(exhibit.Number);

    /// <summary>Something that this person brought, or turns the pages of, is before everybody's eyes.</summary>
    public bool ShowsFor(SeatId seat) =>
        Open.Any(exhibit => (exhibit.By == seat || exhibit.Pages?.Holder == seat) && IsShown(exhibit));

    internal Shelf With(Exhibit exhibit) => this with { Open = [.. Open.Select(one => one.Number == exhibit.Number ? exhibit : one)] };

    internal Shelf WithEach(IEnumerable<int> numbers, Func<Exhibit, Exhibit> change) =>
        numbers.Select(Find).OfType<Exhibit>().Aggregate(this, (shelf, exhibit) => shelf.With(change(exhibit)));

    /// <summary>They stay on the shelf, and are not before all any more.</summary>
    internal Shelf Hiding(Predicate<Exhibit> hides)
    {
        ImmutableArray<int> shown = [.. Shown.Where(number => Find(number) is { } exhibit && !hides(exhibit))];
        return shown.Length == Shown.Length ? this : this with { Shown = shown };
    }

    internal Shelf Without(Predicate<Exhibit> closes)
    {
        ImmutableArray<Exhibit> open = [.. Open.Where(exhibit => !closes(exhibit))];
        return open.Length == Open.Length ? this : this with
        {
            Open = open,
            Shown = [.. Shown.Where(number => open.Any(exhibit => exhibit.Number == number))]
        };
    }
}
