namespace HoldCourt.Core.Handouts;

/// <summary>
/// Gives a file to everyone inside, or to one person. Only the server has this wish, on behalf of whoever sent the file: a browser
/// cannot name files of others.
/// </summary>
/// <param name="Size">In bytes.</param>
/// <param name="To">Null for everyone.</param>
public sealed record GiveFile(string File, string Name, long Size, FileSort Sort, SeatId? To = null, bool Prints = false) : Command
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.HandOut) is { } refusal) return refusal;
        if (by.Seat is not { } from) return Decision.Refused(Reason.NotUnderstood);
        var (rules, there) = (sitting.Handouts.Rules, sitting.Handouts.Out.Where(handout => !handout.IsOfRoom).ToList());
        if (Size > rules.Largest) return Decision.Refused(Reason.HandoutTooLarge);
        if (!rules.Allows(Sort)) return Decision.Refused(Reason.HandoutKindNotAllowed, Remedy.AskBench);
        if (To is { } to && !Reaches(sitting, from, to)) return Decision.Refused(Reason.NobodySeated);
        if (there.Any(handout => handout.File == File && handout.To == To)) return Decision.Refused(Reason.NoChange);
        if (there.Count >= HandoutList.Most || there.Count(handout => handout.By == from) >= HandoutList.MostOfOne)
            return Decision.Refused(Reason.TooManyHandouts);
        var name = Bounds.Clean(Name, lines: false);
        if (name.Length is 0 or > Handout.LongestName || Size < 1) return Decision.Refused(Reason.NotUnderstood);
        return new HandedOut(new Handout(
            Number: sitting.NextHandout(), File: File, Name: name, Size: Size, Sort: Sort, By: from, To: To, Prints: Prints, Since: now,
            Taken: [], Refused: []));
    }

    /// <summary>To one person it goes as a message to one person does: nobody is found out by it.</summary>
    private static bool Reaches(Sitting sitting, SeatId from, SeatId to) =>
        to != from && sitting.Seats.TryGet(to, out var reader) && sitting.IsHere(reader)
            && sitting.MayKnow(sitting.Seats[from], new Matter.Person(reader));
}

/// <summary>Takes a file that was handed out, so that it may be fetched; also after having refused it.</summary>
public sealed record TakeFile(int Handout) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat || sitting.Handouts.Find(Handout) is not { } handout
            || !sitting.IsFor(sitting.Seats[seat], handout))
            return Decision.Refused(Reason.NoSuchHandout);
        return handout.Taken.Contains(seat) ? Decision.AlreadySo : new FileTaken(handout.Number, handout.By, seat, Took: true);
    }
}

/// <summary>Wants none of a file that was handed out; it does not ask again.</summary>
public sealed record RefuseFile(int Handout) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat || sitting.Handouts.Find(Handout) is not { } handout
            || !sitting.IsFor(sitting.Seats[seat], handout))
            return Decision.Refused(Reason.NoSuchHandout);
        return handout.Refused.Contains(seat) || handout.Taken.Contains(seat)
            ? Decision.AlreadySo
            : new FileTaken(handout.Number, handout.By, seat, Took: false);
    }
}

/// <summary>A file is handed out no longer. Whoever gave it may say so, and the bench of what goes to everyone.</summary>
public sealed record EndHandout(int Handout) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat || sitting.Handouts.Find(Handout) is not { } handout
            || !sitting.MayKnow(sitting.Seats[seat], new Matter.OfHandout(handout))) return Decision.Refused(Reason.NoSuchHandout);
        if (handout.By != seat && sitting.Forbids(by, Capability.KeepPapers) is { } refusal) return refusal;
        return new HandoutEnded(handout);
    }
}

/// <summary>What may be handed out from now on; what is handed out stays.</summary>
public sealed record SetHandoutRules(HandoutRules To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepPapers) is { } refusal) return refusal;
        if (To is not { IsMeaningful: true }) return Decision.Refused(Reason.NotUnderstood);
        var from = sitting.Handouts.Rules;
        return To == from ? Decision.AlreadySo : new HandoutRulesSet(from, To);
    }
}

/// <summary>Puts a file that was handed out to everyone among the session's papers.</summary>
public sealed record KeepHandout(int Handout) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepPapers) is { } refusal) return refusal;
        if (by.Seat is not { } seat || sitting.Handouts.Find(Handout) is not { } handout
            || !sitting.MayKnow(sitting.Seats[seat], new Matter.OfHandout(handout))) return Decision.Refused(Reason.NoSuchHandout);
        // What is between two people is not for all.
        if (handout.To is not null) return Decision.Refused(Reason.NotForPapers);
        return handout.Kept ? Decision.AlreadySo : new HandoutKept(handout.Number, handout.Name, handout.By);
    }
}

/// <summary>Hands out to everyone what was handed out in a room that is closed.</summary>
public sealed record HandOnFile(int Handout) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepPapers) is { } refusal) return refusal;
        if (by.Seat is not { } seat || sitting.Handouts.Find(Handout) is not { } handout
            || !sitting.MayKnow(sitting.Seats[seat], new Matter.OfHandout(handout))) return Decision.Refused(Reason.NoSuchHandout);
        if (!handout.IsOfRoom) return Decision.AlreadySo;
        return sitting.Handouts.Out.Count(other => !other.IsOfRoom) >= HandoutList.Most
            ? Decision.Refused(Reason.TooManyHandouts)
            : new FileHandedOn(handout.Number, handout.Name, handout.By, On: true);
    }
}

/// <summary>Puts an exhibit with pages, as it stands now with its marks, among the session's papers.</summary>
public sealed record KeepExhibit(int Exhibit) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepPapers) is { } refusal) return refusal;
        if (sitting.Shelf.Find(Exhibit) is not { } exhibit || !sitting.KnowsOf(by, exhibit))
            return Decision.Refused(Reason.NoSuchExhibit);
        return exhibit.Pages is { AreThere: true }
            ? new ExhibitKept(exhibit.Number, exhibit.Title, exhibit.By)
            : Decision.Refused(Reason.NoPages);
    }
}
