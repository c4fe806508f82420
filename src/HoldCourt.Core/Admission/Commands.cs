using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

/// <summary>Starts the sitting. Refused when it has already been opened.</summary>
/// <param name="Prepare">The bench comes in first, and opens to the others later.</param>
/// <param name="EndsAt">When it is planned to end.</param>
/// <param name="Items">The run sheet.</param>
/// <param name="Polls">Questions that are prepared.</param>
/// <param name="Rooms">How rooms are wished, once they are planned.</param>
public sealed record Open(
    string Title, PersonKey Owner, Door Door, StandingOrders Orders, ImmutableArray<DocketLine> Docket, bool Prepare = false,
    Instant? EndsAt = null, ImmutableArray<Item>? Items = null, RecordingRules? Recording = null,
    ImmutableArray<PollForm>? Polls = null, RoomForm? Rooms = null) : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Phase == Phase.New
            ? new Opened(
                Title, Owner, Door, Orders, Docket, Prepare: Prepare, EndsAt: EndsAt, Items: Items, Recording: Recording, Polls: Polls,
                Rooms: Rooms)
            : Decision.Refused(Reason.AlreadyOpen);
}

/// <summary>
/// Somebody is at the door: enters, waits in the lobby, gets back the seat held before, or is turned away in the bench's words.
/// </summary>
/// <param name="Proof">What a personal link or an account proves: the key of a line of the docket; null otherwise.</param>
/// <param name="HostKey">The person showed the host key, and joins the bench.</param>
/// <param name="Owns">The person's account is one of those whose session it is, as the plan stands now.</param>
public sealed record Announce(
    PersonKey Person, string Name, string? Proof = null, bool HostKey = false, bool ByPhone = false, bool Owns = false) : HouseCommand
{
    /// <summary>Most seats a sitting may ever hold, the gone included.</summary>
    private const int MostSeats = 5_000;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (PersonName.Refuses(Name) is { } refusal) return refusal;
        var (seat, comer) = (sitting.Find(Person), this with { Name = PersonName.Tidy(Name) });
        if (Threshold.IsBarred(sitting, seat, Proof)) return Decision.Refused(Reason.Barred);
        return seat is not null ? comer.Again(sitting, seat, now) : comer.AsNewcomer(sitting, now);
    }

    private Decision AsNewcomer(Sitting sitting, Instant now)
    {
        if (sitting.Seats.Count >= MostSeats) return Decision.Refused(Reason.SittingFull, Remedy.AskBench);
        var seat = sitting.Seats.Next;
        if (Threshold.LetsIn(sitting, null, this, now) is var (ground, role))
            return new Entered(seat, Person, Name, role, Proof, ByPhone, ground, Moves.TakenWith(sitting, Proof, null));
        return TurnsAway(sitting)
            ?? (Decision)new Announced(seat, Person, Name, Proof, ByPhone, Moves.TakenWith(sitting, Proof, null));
    }

    private Decision Again(Sitting sitting, Seat seat, Instant now)
    {
        var (proof, isNews) = (Proof ?? seat.Proof, Proof is not null && Proof != seat.Proof);
        var taken = Moves.TakenWith(sitting, Proof, seat);
        var walksIn = Threshold.LetsIn(sitting, seat, this with { Proof = proof }, now);
        if (seat.Place == Place.Gone)
        {
            if (walksIn is var (ground, role))
                return new Entered(
                    seat.Id, seat.Person, ground == Ground.Back ? seat.Name : Name, role, proof, seat.ByPhone, ground, taken);
            return TurnsAway(sitting) ?? (Decision)new Announced(seat.Id, seat.Person, Name, proof, seat.ByPhone, taken);
        }
        // Who waits goes on waiting, even if the door has been opened since, unless something new is shown.
        if (seat.Place == Place.Lobby && (isNews || HostKey) && walksIn is var (onGround, inRole))
            return new Entered(seat.Id, seat.Person, seat.Name, inRole, proof, seat.ByPhone, onGround, taken);
        // Only the live line says that somebody is here.
        return isNews ? new Proved(seat.Id, Proof!, taken) : Decision.Of();
    }

    private static Refusal? TurnsAway(Sitting sitting) =>
        sitting.Door.Lock is { LateWait: false } locked ? new Refusal(Reason.DoorLocked, Remedy.AskHost, locked.Words) : null;
}

/// <summary>The last connection of these seats is gone.</summary>
public sealed record Drop(ImmutableArray<SeatId> Seats) : HouseCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Those(Seats, seat => seat is { Connected: true, Place: not Place.Gone }) is { Length: > 0 } seats
            ? new Dropped(seats)
            : Decision.Of();
}

/// <summary>A connection of this seat is there again.</summary>
public sealed record Reconnect(SeatId Seat) : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Seats.TryGet(Seat, out var seat)
            ? seat.Connected || seat.Place == Place.Gone ? Decision.Of() : new Reconnected(seat.Id, First: seat.DroppedAt is null)
            : Decision.Refused(Reason.NoSuchSeat);
}

/// <summary>Lets waiting people in. Refused when none of them waits any more.</summary>
public sealed record Admit(ImmutableArray<SeatId> Seats, Role As = Role.Attendee) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (As == Role.Host) return Decision.Refused(Reason.RoleNotGiven, Remedy.HandOverFirst);
        var seats = sitting.Those(Seats, seat => seat.Place == Place.Lobby);
        return seats is []
            ? Decision.Refused(Reason.NobodyWaits)
            : new Admitted(seats, [.. seats.Select(id => Moves.Highest(As, sitting.Seats[id].Role))], Picked: true);
    }
}

/// <summary>Lets in everybody who waits and surely is somebody expected, each in the role the docket says.</summary>
public sealed record AdmitSure : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        ImmutableArray<Seat> sure = [.. sitting.Seats.Where(seat => seat.Place == Place.Lobby && seat.Match == Match.Sure
            && !Threshold.IsBarred(sitting, seat, null))];
        return sure is [] ? Decision.Refused(Reason.NobodyWaits) : Moves.AdmittedAsExpected(sitting, sure);
    }
}

/// <summary>Turns waiting people away, with words they will read.</summary>
public sealed record Decline(ImmutableArray<SeatId> Seats, string? Words = null) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (Words?.Length > DoorLock.LongestWords) return Decision.Refused(Reason.WordsTooLong, Remedy.Shorten);
        var seats = sitting.Those(Seats, seat => seat.Place == Place.Lobby);
        return seats is []
            ? Decision.Refused(Reason.NobodyWaits)
            : new Declined(seats, Bounds.Meaningful(Words), [.. seats.Select(id => sitting.Seats[id].Role)]);
    }
}

/// <summary>Puts people out to wait. They keep their role.</summary>
public sealed record SendToLobby(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        var seats = sitting.Those(Seats, seat => seat.IsSeated && by.Seat != seat.Id);
        var within = sitting.Those(seats, seat => sitting.Forbids(by, Capability.KeepDoor, seat) is null);
        return within is [] ? Decision.Refused(seats is [] ? Reason.NobodySeated : Reason.HostIsOutOfReach) : new SentToLobby(within);
    }
}

/// <param name="ByName">See <see cref="Door"/>.</param>
public sealed record SetDoor(DoorMode Mode, bool ByName = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Forbids(by, Capability.KeepDoor) ?? DoorSet.Towards(sitting, new Door(Mode, null, ByName && Mode == DoorMode.Listed));
}

/// <summary>Nobody else enters.</summary>
public sealed record LockDoor(string Words, bool LateWait) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) => Words.Length > DoorLock.LongestWords
        ? Decision.Refused(Reason.WordsTooLong, Remedy.Shorten)
        : sitting.Forbids(by, Capability.KeepDoor)
            ?? DoorSet.Towards(sitting, sitting.Door with { Lock = new DoorLock(Bounds.Clean(Words), LateWait) });
}

public sealed record UnlockDoor : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Forbids(by, Capability.KeepDoor) ?? DoorSet.Towards(sitting, sitting.Door with { Lock = null });
}

/// <summary>Goes out of one's own will. A host names who leads from then on, unless nobody else is seated.</summary>
public sealed record Leave(SeatId? Successor = null) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id || sitting.Seats[id] is { Place: Place.Gone }) return Decision.Refused(Reason.NotInside);
        if (sitting.Host != id) return new Left(id);
        if (Successor is { } successor)
            return new HandOver(successor).Decide(sitting, by, now) is { Facts: [var handedOver] }
                ? Decision.Of(handedOver, new Left(id))
                : Decision.Refused(Reason.NotADeputyOrSeated, Remedy.ChooseAnother);
        return sitting.Seats.Any(seat => seat.IsSeated && seat.Id != id)
            ? Decision.Refused(Reason.HostMustHandOver, Remedy.HandOverFirst)
            : new Left(id);
    }
}

/// <summary>Ends the preparation: the session is open to everybody, and those who came early and would walk in now do so.</summary>
public sealed record Begin : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (sitting.Phase != Phase.Prepare) return Decision.Refused(Reason.NoChange);
        var open = sitting with { Phase = Phase.InSession };
        ImmutableArray<Seat> early = [.. sitting.Seats.Where(seat => seat.Place == Place.Lobby && Threshold.WouldLetIn(open, seat))];
        return early is [] ? new Begun() : Decision.Of(new Begun(), Moves.AdmittedAsExpected(sitting, early));
    }
}

/// <summary>A one-way message to everybody who waits.</summary>
public sealed record SendNotice(string Words) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (Bounds.Meaningful(Words) is not { } words) return Decision.Refused(Reason.NoticeEmpty);
        return words.Length > Notice.LongestWords ? Decision.Refused(Reason.WordsTooLong, Remedy.Shorten) : new NoticeSent(words);
    }
}

/// <summary>Ends the sitting for everybody.</summary>
public sealed record Adjourn : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Forbids(by, Capability.Adjourn) ?? (Decision)new Adjourned();
}
