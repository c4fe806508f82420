using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

/// <summary>On what somebody walks in without being admitted by the bench.</summary>
public enum Ground
{
    /// <summary>The door stands open to all.</summary>
    OpenDoor,

    /// <summary>An account whose session it is: the owner's, or a co-owner's.</summary>
    Account,

    HostKey,

    /// <summary>A listed door, and a personal link or an account that proves a line of the docket.</summary>
    Proof,

    /// <summary>A listed door at which the host lets typed names do, and one that surely is a line's.</summary>
    Name,

    /// <summary>Was let in before, and never put out since.</summary>
    Back
}

/// <summary>
/// The one place that says who is let in. Beside it only the bench lets people in, by admitting, calling and taking back.
/// Being put out ends what was granted; a lock holds for everybody but the bench's own; a role above attendee never comes
/// from a typed name.
/// </summary>
internal static class Threshold
{
    /// <summary>On what this person walks in now, and in which role; null when they do not.</summary>
    /// <param name="seat">What the person holds already; null for a newcomer.</param>
    /// <param name="comer">With the best proof the person has shown.</param>
    public static (Ground On, Role As)? LetsIn(Sitting sitting, Seat? seat, Announce comer, Instant now)
    {
        var others = Persons.OthersOf(sitting, seat, comer.Proof);
        if (IsBarred(seat, others)) return null;
        if (comer.HostKey) return (Ground.HostKey, ToBench(sitting, seat));
        if (seat is null && comer.Owns) return (Ground.Account, ToBench(sitting, seat));
        if (IsOut(seat, others)) return null;
        if (seat?.Admittance == Admittance.Granted && (seat.OnBench || sitting.Door.Lock is null))
            return (Ground.Back, RoleOfBack(seat, others));
        if (sitting.Door.Lock is not null || sitting.Door.Mode == DoorMode.Attended) return null;
        if (comer.Proof is null && sitting.Phase != Phase.Prepare && sitting.Door.Mode == DoorMode.Open)
            return (Ground.OpenDoor, Role.Attendee);
        if (comer.Proof is null && !sitting.Door.ByName) return null;
        return ByDoor(sitting, Judging.Foresee(sitting, comer.Name, comer.Proof, now, seat?.Id), comer.Proof, others);
    }

    /// <summary>Whether somebody who waits would walk in now, as far as nothing new is shown.</summary>
    public static bool WouldLetIn(Sitting sitting, Seat seat) =>
        sitting.Door.Lock is null && Persons.OthersOf(sitting, seat, null) is var others && !IsOut(seat, others)
            && (seat.Admittance == Admittance.Granted || ByDoor(sitting, seat.Recognition, seat.Proof, others) is not null);

    /// <summary>The role in which somebody expected comes in: the docket's when it is proved, otherwise an attendee's.</summary>
    public static Role RoleOf(Sitting sitting, Seat seat) =>
        Proved(sitting, seat.Recognition, seat.Proof, Persons.OthersOf(sitting, seat, null)) ?? Role.Attendee;

    /// <summary>
    /// Somebody removed for good is turned away, also in another browser in which they show a key that they ever showed. Whoever sits
    /// inside is not: the bench sees them, and puts out whom it means.
    /// </summary>
    public static bool IsBarred(Sitting sitting, Seat? seat, string? proof) =>
        seat?.IsSeated != true && IsBarred(seat, Persons.OthersOf(sitting, seat, proof));

    private static bool IsBarred(Seat? seat, ImmutableArray<Seat> others) => seat?.Exit == Exit.RemovedForGood
        || others.Any(other => other.Exit == Exit.RemovedForGood && Persons.WasPutOutBy(other, seat));

    /// <summary>Was put out, here or in another browser, and only the bench lets in again.</summary>
    private static bool IsOut(Seat? seat, ImmutableArray<Seat> others) =>
        seat?.Admittance == Admittance.Withdrawn || others.Any(other => Persons.WasPutOutBy(other, seat));

    /// <summary>The role one had, unless the bench has taken it in another browser meanwhile.</summary>
    private static Role RoleOfBack(Seat seat, ImmutableArray<Seat> others) =>
        others.Where(other => WasLoweredBy(other, seat)).Select(other => other.Role).Append(seat.Role).Min();

    /// <summary>The bench took a role from this person in another seat, and has not given one to this seat since.</summary>
    private static bool WasLoweredBy(Seat other, Seat self) =>
        other is { Admittance: Admittance.Granted, LoweredAt: not null } && self.Role != Role.Host && other.Role < self.Role
            && !Persons.IsSince(self.RoleSince, other.LoweredAt);

    private static (Ground, Role)? ByDoor(Sitting sitting, Recognition recognition, string? proof, ImmutableArray<Seat> others)
    {
        var (mode, byName) = (sitting.Door.Mode, sitting.Door.ByName);
        var proved = Proved(sitting, recognition, proof, others);
        var role = proved ?? Role.Attendee;
        // Early, only the bench and presenters come in.
        if (sitting.Phase == Phase.Prepare) return mode != DoorMode.Attended && role >= Role.Presenter ? (Ground.Proof, role) : null;
        return mode switch
        {
            DoorMode.Open => (Ground.OpenDoor, role),
            DoorMode.Listed when proved is not null => (Ground.Proof, role),
            DoorMode.Listed when byName && recognition.Match == Match.Sure && IsWholeName(recognition) => (Ground.Name, Role.Attendee),
            _ => null
        };
    }

    /// <summary>
    /// The role that a proof gives: its line's, where the line that is meant is the very one proved and nobody inside has it
    /// already. What the bench did to somebody who showed the same proof in another browser holds here, too: a role taken
    /// stays taken, and the proof of somebody put out lets nobody in. Null when it proves nothing.
    /// </summary>
    private static Role? Proved(Sitting sitting, Recognition recognition, string? proof, ImmutableArray<Seat> others)
    {
        if (proof is null || recognition.Match != Match.Sure || sitting.Docket[recognition.Line] is not { } line
            || !Persons.KeyComparer.Equals(line.Key, proof) || others.Any(other => other.Admittance == Admittance.Withdrawn)) return null;
        return others.Where(other => other.Admittance == Admittance.Granted).Select(other => other.Role).Append(line.Role).Min();
    }

    /// <summary>
    /// All of the name was typed, and nothing beside it: a slip, an initial or a part may be somebody else's. Whom a link names is
    /// recognized by that, whatever was typed; a link that lets nobody in does not become a name.
    /// </summary>
    private static bool IsWholeName(Recognition recognition) => !recognition.Reasons.Any(reason =>
        reason is MatchReason.PersonalLink or MatchReason.OneSlip or MatchReason.Initial or MatchReason.PartOfName or MatchReason.MoreWords
            or MatchReason.ShortForm);

    private static Role ToBench(Sitting sitting, Seat? seat) =>
        sitting.Host is null || seat?.Role == Role.Host ? Role.Host : Role.Deputy;
}
