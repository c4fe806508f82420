using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Handouts;

/// <summary>What kind of file it is, as the server judged by its first bytes.</summary>
public enum FileSort
{
    /// <summary>Pages or text: PDF, what an office program writes, plain text.</summary>
    Document,
    Picture,

    /// <summary>Archives, programs, and whatever is not known.</summary>
    Other
}

/// <summary>What may be handed out.</summary>
/// <param name="LargestMegabytes">1 to <see cref="MostMegabytes"/>, of a million bytes each.</param>
/// <param name="Others">Archives, programs, and whatever is not known.</param>
public sealed record HandoutRules(int LargestMegabytes, bool Documents, bool Pictures, bool Others) : IFacet<HandoutRules>
{
    static HandoutRules IFacet<HandoutRules>.Of(Sitting sitting, Viewpoint from) =>
        sitting.MayKnow(from, Matter.Inside) ? sitting.Handouts.Rules : Usual;

    static bool IFacet<HandoutRules>.IsSame(Step step) => step.Before.Handouts.Rules == step.After.Handouts.Rules;

    static IEnumerable<SeatId> IFacet<HandoutRules>.Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        HandoutRow.Touched(before, after, all);

    public const int MostMegabytes = 100;

    /// <summary>What runs by itself is not handed out unless the bench says so.</summary>
    public static HandoutRules Usual { get; } = new(MostMegabytes, Documents: true, Pictures: true, Others: false);

    [JsonIgnore] public bool IsMeaningful => LargestMegabytes is >= 1 and <= MostMegabytes;
    [JsonIgnore] public long Largest => LargestMegabytes * 1_000_000L;

    public bool Allows(FileSort sort) => sort switch
    {
        FileSort.Document => Documents,
        FileSort.Picture => Pictures,
        _ => Others
    };
}

/// <summary>A file that somebody gives to everyone inside, or to one person.</summary>
/// <param name="File">Under which the server keeps it.</param>
/// <param name="Size">In bytes.</param>
/// <param name="To">Null for everyone, those too who come later.</param>
/// <param name="Prints">Meant to be printed: whoever takes it is led to the own print dialog.</param>
/// <param name="Kept">It stands among the session's papers.</param>
/// <param name="Taken">Who has taken it, in that order.</param>
/// <param name="Refused">Who wanted none of it.</param>
/// <param name="Room">
/// The room in which it was handed out, which is closed: the bench may hand it out in the hall. Null for what is handed out where it is.
/// </param>
/// <param name="HandedOn">The bench has handed it out in the hall, to everyone.</param>
public sealed record Handout(
    int Number, string File, string Name, long Size, FileSort Sort, SeatId By, SeatId? To, bool Prints, Instant Since,
    ImmutableList<SeatId> Taken, ImmutableList<SeatId> Refused, bool Kept = false, int? Room = null,
    bool HandedOn = false)
{
    /// <summary>It is kept of a room that is closed, for those who took it there, and the bench.</summary>
    [JsonIgnore]
    public bool IsOfRoom => Room is not null && !HandedOn;

    /// <summary>In characters.</summary>
    public const int LongestName = 120;
}

/// <summary>The files that are handed out now.</summary>
/// <param name="Last">Number of the one handed out last; 0 before the first.</param>
public sealed record HandoutList(ImmutableArray<Handout> Out, int Last, HandoutRules Rules)
{
    /// <summary>At once, of all and of one person: nobody takes the room of the others.</summary>
    public const int Most = 60, MostOfOne = 15;

    /// <summary>So many of rooms that are closed are kept, the newest.</summary>
    public const int MostOfRooms = 500;

    public static HandoutList Empty { get; } = new([], 0, HandoutRules.Usual);

    public Handout? Find(int number) => Out.FirstOrDefault(handout => handout.Number == number);

    internal HandoutList With(Handout handout) => this with { Out = [.. Out.Select(one => one.Number == handout.Number ? handout : one)] };

    internal HandoutList Without(Predicate<Handout> ends)
    {
        ImmutableArray<Handout> stay = [.. Out.Where(handout => !ends(handout))];
        return stay.Length == Out.Length ? this : this with { Out = stay };
    }
}
