using System.Collections.Immutable;

namespace HoldCourt.Core.Sittings;

/// <summary>The whole live rule book: two pure functions that hand each topic its own.</summary>
public static class SittingRules
{
    /// <summary>What follows from a wish: facts, or a refusal with reason and remedy. Changes nothing.</summary>
    public static Decision Decide(Sitting sitting, Command command, Actor by, Instant now)
    {
        if (OutOfPlace(sitting, command, by) is { } refusal) return refusal;
        return RoomPlaces.Decide(sitting, command, by, now);
    }

    /// <summary>
    /// The state after an entry. Never fails for an entry that <see cref="Decide"/> gave for that state. What was judged when it
    /// happened stands in the entry; only of entries of before that was noted it is judged again, and the golden entries in the
    /// tests hold that it comes out as it did then.
    /// </summary>
    public static Sitting Evolve(Sitting sitting, Entry entry)
    {
        var after = Applied(sitting, entry.Fact, entry.At);
        return Evolve(sitting, entry, after, entry.Follows ?? Judged(sitting, after, entry.At, isOld: true));
    }

    /// <summary>Gives facts their places in the ledger, and the state after them.</summary>
    public static (ImmutableArray<Entry> Entries, Sitting After) Record(
        Sitting sitting, ImmutableArray<Fact> facts, Actor by, Instant now, string? wish = null)
    {
        var entries = ImmutableArray.CreateBuilder<Entry>(facts.Length);
        foreach (var fact in facts)
        {
            var after = Applied(sitting, fact, now);
            var follows = Judged(sitting, after, now, isOld: false);
            var entry = new Entry(sitting.Sequence + 1, now, by, fact, wish, follows);
            entries.Add(entry);
            sitting = Evolve(sitting, entry, after, follows);
        }
        return (entries.MoveToImmutable(), sitting);
    }

    /// <summary>The state after the facts, one after the other.</summary>
    internal static Sitting ApplyTo(this ImmutableArray<Fact> facts, Sitting sitting, Instant at) =>
        facts.Aggregate(sitting, (state, fact) => fact.Apply(state, at));

    private static Sitting Evolve(Sitting before, Entry entry, Sitting after, ImmutableArray<Fact> follows) =>
        Taking.Remember(follows.ApplyTo(after, entry.At), before, entry) with { Sequence = entry.Sequence };

    /// <summary>Whoever is not seated any more has neither the floor nor a place in front, nor a screen on the shelf; a recording
    /// rests with the session, and a poll ends with it; whoever is put out captions no more.</summary>
    private static Sitting Applied(Sitting sitting, Fact fact, Instant at) =>
        Polling.Follow(CaptionDesks.Follow(OwnRecordings.Follow(Recorders.Follow(
            RoomPlaces.Follow(RoomMoves.Follow(sitting, fact.Apply(sitting, at)), InEachPlace), at))), at);

    private static Sitting InEachPlace(Sitting sitting) =>
        HandedOut.Follow(ExhibitOpened.Follow(PictureSet.Follow(FloorTurned.Follow(sitting))));

    /// <summary>What is thought of people because of a change: who is who, whose name looks like whose, whose visit is on; and who votes
    /// late.</summary>
    private static ImmutableArray<Fact> Judged(Sitting before, Sitting after, Instant at, bool isOld)
    {
        var judged = ImmutableArray.CreateBuilder<Fact>();
        Add(Judging.Note(before, after, keysFirst: !isOld));
        Add(Likeness.Note(before, after));
        Add(Visits.Note(before, after, at));
        Add(Polling.Note(before, after));
        Add(RoomPlacing.Note(before, after));
        return judged.DrainToImmutable();

        void Add(Fact? fact)
        {
            if (fact is null) return;
            judged.Add(fact);
            after = fact.Apply(after, at);
        }
    }

    private static Refusal? OutOfPlace(Sitting sitting, Command command, Actor by)
    {
        if (command is HouseCommand && !by.IsHouse) return new Refusal(Reason.NotUnderstood);
        if (sitting.Phase == Phase.Adjourned && !command.IsForTheEnd) return new Refusal(Reason.SittingOver);
        if (sitting.Phase == Phase.New && command is not Open) return new Refusal(Reason.NotOpen);
        if (by.Seat is { } id)
        {
            if (!sitting.Seats.TryGet(id, out var seat)) return new Refusal(Reason.NoSuchSeat);
            // Whoever waits or has gone does nothing here but leave, whatever they brought or were given when they were inside.
            if (!seat.IsSeated && command is not Leave) return new Refusal(Reason.NotInside, Remedy.AskBench);
        }
        return Bounds.Refuses(command);
    }
}
