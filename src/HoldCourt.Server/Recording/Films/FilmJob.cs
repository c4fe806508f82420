using System.Collections.Immutable;

namespace HoldCourt.Server.Recording.Films;

/// <summary>All that a film is composed from, beside the tracks: written into a file, so that a process of its own can do it.</summary>
/// <param name="Folder">Of the recording.</param>
/// <param name="Output">Folder that gets the film and what belongs to it.</param>
/// <param name="Framing">Null for the one that was chosen while it ran.</param>
/// <param name="Cuts">Passages of the recording that are left out.</param>
/// <param name="Erased">Numbers of the seats of whom nothing is shown or heard.</param>
/// <param name="Marks">What was done to the marks of exhibits while they were shown.</param>
internal sealed record FilmJob(
    string Folder, string Output, Score Score, Framing? Framing, bool Names, bool Questions, ImmutableArray<Passage> Cuts,
    ImmutableArray<int> Erased, ImmutableArray<ExhibitMarks> Marks, string Beginning, string GoesOn)
{
    public const int Wide = 1280, High = 720, FramesPerSecond = 20;

    public Timeline Timeline => Timeline.Of(Score.Stretches).Without(Cuts);

    public static string FileOf(string output) => Path.Combine(output, "job.json");

    public static string PageOf(string output, int exhibit, int page) => Path.Combine(output, "pages", $"{exhibit}-{page}.png");
}

/// <param name="Acts">In order.</param>
internal sealed record ExhibitMarks(int Exhibit, ImmutableArray<MarkAct> Acts);

/// <summary>What became of a film.</summary>
/// <param name="Length">In milliseconds.</param>
/// <param name="Peaks">Loudest of each tenth of a second, 0 to 255.</param>
internal sealed record FilmMade(long Length, byte[] Peaks);
