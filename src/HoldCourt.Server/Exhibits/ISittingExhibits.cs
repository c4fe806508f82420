using System.Collections.Immutable;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Exhibits;

/// <summary>What a browser is told of marks.</summary>
public interface IMarkClient
{
    /// <summary>Marks came or went on an exhibit.</summary>
    Task Mark(MarkActRow act);

    /// <summary>What is being drawn, and where pointers are.</summary>
    Task Strokes(IReadOnlyList<StrokeRow> strokes);
}

/// <summary>What is asked of the exhibits of a sitting, of their pages and marks.</summary>
internal interface ISittingExhibits : IGrainExtension
{
    /// <summary>Puts a file on the shelf that a person has brought.</summary>
    /// <param name="shows">The bench shows it as soon as its pages are there.</param>
    Task<Arrival> Bring(PersonKey person, ExhibitKind kind, string title, Guid file, string secret, bool shows = false);

    /// <summary>The number of the exhibit whose pages a file is; null when there is none.</summary>
    Task<int?> NumberOf(Guid file);

    /// <summary>Of what a page may be fetched: by whoever knows the exhibit, those about the one that all see; by others, all.</summary>
    /// <returns>Null when the page may not be fetched, or is not there.</returns>
    Task<PageSource?> PagesFor(PersonKey person, int exhibit, int page);

    /// <summary>All that a file of an exhibit's pages is made of; null for whoever may not look at all of them.</summary>
    Task<ExportSource?> ExportFor(PersonKey person, int exhibit);

    /// <summary>All marks over an exhibit; null when it may not be known.</summary>
    Task<MarksRow?> MarksFor(PersonKey person, int exhibit);

    /// <summary>Draws, or takes marks away. The answer comes when it is on disk.</summary>
    /// <param name="connection">The connection it came by; null for the server's simulated people.</param>
    Task<Refusal?> Mark(SeatId by, int exhibit, MarkWish wish, string? connection);

    /// <summary>Something that is being drawn or pointed at; told to the others within a moment, and not kept.</summary>
    Task Stroke(SeatId by, StrokeWish stroke, string connection);
}

public sealed record PageSource(Guid File, string Secret);

/// <param name="Name">As the file is called: letter and title.</param>
public sealed record ExportSource(string Name, Pages Pages, ImmutableArray<Mark> Marks);

/// <param name="Sequence">Of the last act in it.</param>
public sealed record MarksRow(int Exhibit, long Sequence, ImmutableArray<Mark> Marks);

/// <summary>What somebody just did to the marks of an exhibit.</summary>
/// <param name="Sequence">The one after that of the act before.</param>
public sealed record MarkActRow(int Exhibit, long Sequence, SeatId By, ImmutableArray<Mark> Put, ImmutableArray<int> Drop);

/// <summary>A piece of what is being drawn.</summary>
/// <param name="Stroke">Chosen by who draws, to tell one stroke from the next.</param>
/// <param name="Shape">Null for the pointer.</param>
/// <param name="Line">
/// The points since the last piece, the first as its place on the page; of shapes with two corners, both. Empty when the pointer has gone,
/// or the stroke was given up.
/// </param>
public sealed record StrokeWish(int Exhibit, int Page, int Stroke, MarkShape? Shape, MarkColour Colour, int Width, string Line)
{
    /// <summary>Longest piece, in characters: some hundred points.</summary>
    public const int Longest = 1_500;
}

public sealed record StrokeRow(
    SeatId By, int Exhibit, int Page, int Stroke, MarkShape? Shape, MarkColour Colour, int Width, string Line);
