using System.Collections.Immutable;

namespace HoldCourt.Core.Captions;

/// <summary>Words that somebody said, as they are read.</summary>
/// <param name="Number">1, 2, 3 … in each sitting.</param>
/// <param name="At">When it was written.</param>
/// <param name="Heard">When what it says began to be heard; never later than <paramref name="At"/>.</param>
/// <param name="By">Who wrote it; null for a machine, whose lines are drafts until a person corrects them.</param>
/// <param name="Speaker">Who said it; null when that was not noted.</param>
/// <param name="Text">Empty once it is withdrawn.</param>
/// <param name="Corrections">How often it was corrected.</param>
/// <param name="Room">Where it was said; null for the hall.</param>
public sealed record CaptionLine(
    int Number, Instant At, Instant Heard, SeatId? By, SeatId? Speaker, string Text, int Corrections = 0, int? Room = null)
{
    /// <summary>Longest text, in UTF-16 units after its ends are trimmed.</summary>
    public const int LongestText = 300;

    /// <summary>Most corrections of one line.</summary>
    public const int MostCorrections = 20;

    /// <summary>How long before it was written it can have been heard, in milliseconds.</summary>
    public const int LongestAgo = 60_000;

    public bool IsDraft => By is null && Corrections == 0;

    internal static Refusal? RefusesText(string text) =>
        text.Length > LongestText ? new Refusal(Reason.CaptionTooLong, Remedy.Shorten) : null;
}

/// <summary>Who turns what is said into words, and the newest of these.</summary>
/// <param name="Captioners">Named by the bench, in that order.</param>
/// <param name="Turn">Who took the turn last, and has it while they are inside.</param>
/// <param name="ByMachine">A machine writes a draft of what is said.</param>
/// <param name="Count">How many lines were ever written.</param>
/// <param name="Newest">The last ones, oldest first.</param>
public sealed record CaptionDesk(
    ImmutableArray<SeatId> Captioners, SeatId? Turn, bool ByMachine, int Count, ImmutableList<CaptionLine> Newest)
{
    public const int MostCaptioners = 10;

    /// <summary>Most lines of a sitting.</summary>
    public const int MostLines = 50_000;

    /// <summary>How many of the newest are held, and can be corrected while the session goes on.</summary>
    public const int Depth = 60;

    public static CaptionDesk Empty { get; } = new([], null, false, 0, []);

    public CaptionLine? Find(int number) =>
        number > Count - Newest.Count && number <= Count ? Newest[number - (Count - Newest.Count) - 1] : null;

    internal CaptionDesk Add(CaptionLine line)
    {
        var lines = Newest.Add(line);
        return this with { Count = line.Number, Newest = lines.Count > Depth ? lines.RemoveAt(0) : lines };
    }

    internal CaptionDesk Correct(int number, string text) => Find(number) is { } line
        ? this with { Newest = Newest.Replace(line, line with { Text = text, Corrections = line.Corrections + 1 }) }
        : this;

    public bool Equals(CaptionDesk? other) =>
        other is not null && (Turn, ByMachine, Count) == (other.Turn, other.ByMachine, other.Count)
        && Captioners.SequenceEqual(other.Captioners) && (ReferenceEquals(Newest, other.Newest) || Newest.SequenceEqual(other.Newest));

    public override int GetHashCode() => HashCode.Combine(Turn, ByMachine, Count, Captioners.Length);
}

/// <summary>What is asked about captions.</summary>
public static class CaptionDesks
{
    /// <summary>Who writes now: whoever took the turn and is inside, or the first of the captioners who is.</summary>
    public static SeatId? WhoseTurn(this Sitting sitting)
    {
        bool IsInside(SeatId id) => sitting.Seats[id].IsSeated;
        return sitting.Captions.Turn is { } turn && IsInside(turn)
            ? turn
            : sitting.Captions.Captioners.Where(IsInside).Select(id => (SeatId?)id).FirstOrDefault();
    }

    public static bool IsCaptioner(this Sitting sitting, Seat seat) => seat.IsSeated && sitting.Captions.Captioners.Contains(seat.Id);

    /// <summary>There are captions to be read, or there may be at any moment.</summary>
    public static bool HasCaptions(this Sitting sitting) => sitting.Captions.ByMachine || sitting.WhoseTurn() is not null;

    /// <summary>A machine turns this person's voice into words. Whoever wants to be in no recording is not written down by one.</summary>
    public static bool IsTranscribed(this Sitting sitting, Seat seat) =>
        sitting is { Captions.ByMachine: true, Phase: Phase.InSession or Phase.Prepare } && seat.IsSeated && sitting.Agrees(seat);

    /// <summary>After any fact: whoever is put out captions no more, also when they are let in again.</summary>
    internal static Sitting Follow(Sitting sitting)
    {
        var desk = sitting.Captions;
        if (desk.Captioners.All(id => sitting.Seats[id].Admittance == Admittance.Granted)) return sitting;
        var left = desk.Captioners.RemoveAll(id => sitting.Seats[id].Admittance != Admittance.Granted);
        return sitting with
        {
            Captions = desk with { Captioners = left, Turn = desk.Turn is { } turn && left.Contains(turn) ? turn : null }
        };
    }
}
