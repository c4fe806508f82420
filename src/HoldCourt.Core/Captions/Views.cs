using System.Collections.Immutable;

namespace HoldCourt.Core.Captions;

/// <summary>A line as somebody who may read it sees it.</summary>
/// <param name="Name">Of the speaker; null where it was not noted, or may not be known.</param>
/// <param name="Text">Empty when it was withdrawn.</param>
/// <param name="Draft">By a machine, and not corrected by anybody.</param>
public sealed record CaptionRow(int Number, Instant Heard, SeatId? Speaker, string? Name, string Text, bool Draft)
{
    /// <summary>For a viewpoint from which all may read it.</summary>
    public static CaptionRow Of(Sitting sitting, CaptionLine line, Viewpoint from) =>
        Of(sitting, line, seat => sitting.MayKnow(from, new Matter.Person(seat)));

    /// <summary>For somebody who may read it.</summary>
    public static CaptionRow Of(Sitting sitting, CaptionLine line, Seat reader) =>
        Of(sitting, line, seat => sitting.MayKnow(reader, new Matter.Person(seat)));

    private static CaptionRow Of(Sitting sitting, CaptionLine line, Func<Seat, bool> knows)
    {
        var speaker = line.Speaker is { } id && knows(sitting.Seats[id]) ? sitting.Seats[id] : null;
        return new CaptionRow(line.Number, line.Heard, speaker?.Id, speaker?.Name, line.Text, line.IsDraft);
    }
}

/// <summary>Whether there are captions, and who makes them.</summary>
/// <param name="On">Somebody or something turns what is said into words.</param>
/// <param name="Captioners">In the order in which they were named; for the bench alone.</param>
/// <param name="Turn">Who writes now; for the bench alone.</param>
public sealed record CaptionsFacet(bool On, bool ByMachine, ImmutableArray<SeatId> Captioners, SeatId? Turn)
    : IFacet<CaptionsFacet>
{
    public static CaptionsFacet Of(Sitting sitting, Viewpoint from)
    {
        if (!sitting.MayKnow(from, Matter.Inside)) return new CaptionsFacet(false, false, [], null);
        var books = sitting.MayKnow(from, Matter.Books);
        return new CaptionsFacet(
            On: sitting.HasCaptions(),
            ByMachine: sitting.Captions.ByMachine,
            Captioners: books ? sitting.Captions.Captioners : [],
            Turn: books ? sitting.WhoseTurn() : null);
    }

    public static bool IsSame(Step step) =>
        step is { Before.Captions: { ByMachine: false, Captioners: [] }, After.Captions: { ByMachine: false, Captioners: [] } };

    public static IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        before.Captions.Captioners.Equals(after.Captions.Captioners) && before.WhoseTurn() == after.WhoseTurn()
            ? []
            : before.Captions.Captioners.Union(after.Captions.Captioners);

    public bool Equals(CaptionsFacet? other) =>
        other is not null && (On, ByMachine, Turn) == (other.On, other.ByMachine, other.Turn)
        && Captioners.SequenceEqual(other.Captioners);

    public override int GetHashCode() => HashCode.Combine(On, ByMachine, Turn, Captioners.Length);
}

/// <summary>What a captioner is told, and nobody else.</summary>
/// <param name="Turn">One writes now.</param>
/// <param name="Writer">Who writes now, where that is another.</param>
/// <param name="Others">How many others caption.</param>
public sealed record CaptionerRow(bool Turn, string? Writer, int Others)
{
    internal static CaptionerRow? Of(Sitting sitting, Seat seat)
    {
        if (!sitting.IsCaptioner(seat)) return null;
        var turn = sitting.WhoseTurn();
        return new CaptionerRow(
            turn == seat.Id, turn is { } other && other != seat.Id ? sitting.Seats[other].Name : null,
            sitting.Captions.Captioners.Count(id => id != seat.Id && sitting.Seats[id].IsSeated));
    }
}
