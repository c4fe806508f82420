namespace HoldCourt.Core.Captions;

/// <summary>Has somebody who is inside write captions, or no more.</summary>
public sealed record NameCaptioner(SeatId Person, bool Captions = true) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunCaptions) is { } refusal) return refusal;
        var captioners = sitting.Captions.Captioners;
        if (!sitting.Seats.TryGet(Person, out var seat) || (Captions && !seat.IsSeated)) return Decision.Refused(Reason.NobodySeated);
        if (captioners.Contains(Person) == Captions) return Decision.AlreadySo;
        if (Captions && captioners.Length >= CaptionDesk.MostCaptioners) return Decision.Refused(Reason.TooManyCaptioners);
        return Captions ? new CaptionerNamed(Person) : new CaptionerReleased(Person);
    }
}

/// <summary>A captioner writes from now on, in the place of whoever did.</summary>
public sealed record TakeCaptionTurn : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (CaptionWords.Refuses(sitting, by) is { } refusal) return refusal;
        return sitting.WhoseTurn() == by.Seat ? Decision.AlreadySo : new CaptionTurnTaken(sitting.WhoseTurn(), by.Seat!.Value);
    }
}

/// <summary>A line of what is said.</summary>
/// <param name="Speaker">Who says it; null where that is not known, or several speak.</param>
/// <param name="Ago">How long ago it began to be heard, in milliseconds, 0 to <see cref="CaptionLine.LongestAgo"/>.</param>
public sealed record WriteCaption(string Text, SeatId? Speaker = null, int Ago = 0) : SeatCommand
{
    /// <summary>Most lines of one person in ten seconds.</summary>
    public const int MostInTenSeconds = 20;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (CaptionWords.Refuses(sitting, by) is { } refusal) return refusal;
        if (sitting.WhoseTurn() != by.Seat) return Decision.Refused(Reason.NotYourCaptions);
        return CaptionWords.Written(sitting, by.Seat, KnownSpeaker(sitting, by.Seat!.Value), Text, Ago, now);
    }

    /// <summary>Somebody who has just left, or whom the captioner may not know of, is nobody; the words are kept all the same.</summary>
    private SeatId? KnownSpeaker(Sitting sitting, SeatId by) =>
        Speaker is { } speaker && sitting.Seats.TryGet(speaker, out var seat)
            && seat.Room == sitting.Here && sitting.MayKnow(sitting.Seats[by], new Matter.Person(seat))
            ? speaker
            : null;
}

/// <summary>Puts right what a line says: one's own, that of a machine, or, for the bench, any. Empty words withdraw it.</summary>
public sealed record CorrectCaption(int Line, string Text) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        var runs = sitting.Forbids(by, Capability.RunCaptions) is null;
        if (!runs && CaptionWords.Refuses(sitting, by) is { } refusal) return refusal;
        if (sitting.Captions.Find(Line) is not { } line || (!runs && line.By is { } author && author != by.Seat)
            || !sitting.MayKnow(sitting.Seats[by.Seat!.Value], new Matter.Caption(line))
            || line.Corrections >= CaptionLine.MostCorrections) return Decision.Refused(Reason.NoSuchCaption);
        var text = Bounds.Clean(Text, lines: false);
        if (CaptionLine.RefusesText(text) is { } bad) return bad;
        return text == line.Text ? Decision.AlreadySo : new CaptionCorrected(line.Number, line.Speaker, line.Text, text);
    }
}

/// <summary>Has a machine write a draft of what is said, or no more.</summary>
public sealed record CaptionByMachine(bool On) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.RunCaptions) is { } refusal) return refusal;
        return sitting.Captions.ByMachine == On ? Decision.AlreadySo : new MachineCaptionsSet(On);
    }
}

/// <summary>A machine has turned into words what somebody said.</summary>
/// <param name="Ago">How long ago it began to be heard, in milliseconds.</param>
public sealed record HearCaption(SeatId Speaker, string Text, int Ago) : HouseCommand
{
    internal override SeatId? Where => Speaker;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Seats.TryGet(Speaker, out var seat) && sitting.IsTranscribed(seat)
            ? CaptionWords.Written(sitting, null, Speaker, Text, Ago, now)
            : Decision.Of();
}

internal static class CaptionWords
{
    private static readonly TimeSpan _tenSeconds = TimeSpan.FromSeconds(10);

    /// <summary>Why somebody does not caption.</summary>
    public static Refusal? Refuses(Sitting sitting, Actor by)
    {
        if (by.Seat is not { } id || !sitting.Seats.TryGet(id, out var seat)) return new Refusal(Reason.NotUnderstood);
        if (!sitting.IsRunning) return new Refusal(Reason.SittingOver);
        if (!seat.IsSeated) return new Refusal(Reason.NotInside, Remedy.AskBench);
        return sitting.IsCaptioner(seat) ? null : new Refusal(Reason.NotCaptioner, Remedy.AskBench);
    }

    public static Decision Written(Sitting sitting, SeatId? by, SeatId? speaker, string words, int ago, Instant now)
    {
        var text = Bounds.Clean(words, lines: false);
        if (text.Length == 0) return Decision.Refused(Reason.CaptionEmpty);
        if (CaptionLine.RefusesText(text) is { } bad) return bad;
        if (ago is < 0 or > CaptionLine.LongestAgo) return Decision.Refused(Reason.NotUnderstood);
        if (sitting.Captions.Count >= CaptionDesk.MostLines) return Decision.Refused(Reason.TooMany);
        if (sitting.Captions.Newest.Reverse().TakeWhile(line => now - line.At < _tenSeconds).Count(line => line.By == by)
            >= WriteCaption.MostInTenSeconds) return Decision.Refused(Reason.TooFast, Remedy.TryAgain);
        return new Captioned(by, speaker, text, ago);
    }
}
