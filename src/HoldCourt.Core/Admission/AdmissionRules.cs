using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

internal static class AdmissionRules
{
    /// <summary>Longest message of the bench to somebody at the door, in UTF-16 units.</summary>
    public const int LongestWords = 500;

    /// <summary>Most seats a sitting may ever hold, the gone included.</summary>
    public const int MostSeats = 5_000;

    /// <summary>How many notices those who wait can read back.</summary>
    public const int MostNotices = 20;

    public static Decision Decide(Sitting sitting, Open open) =>
        sitting.Phase == Phase.New
            ? new Opened(open.Title, open.Owner, open.Door, open.Orders, open.Docket, open.Prepare, open.EndsAt, open.Items)
            : Decision.Refused(Reason.AlreadyOpen);

    public static Decision Decide(Sitting sitting, Announce announce, Instant now)
    {
        if (PersonName.Refuses(announce.Name) is { } refusal) return refusal;
        var name = PersonName.Tidy(announce.Name);
        var seat = sitting.Find(announce.Person);
        if (Threshold.IsBarred(sitting, seat, announce.Proof ?? seat?.Proof)) return Decision.Refused(Reason.Barred);
        return seat is not null ? AtTheDoorAgain(sitting, seat, announce with { Name = name }, now) : Newcomer(sitting, announce with { Name = name }, now);
    }

    private static Decision Newcomer(Sitting sitting, Announce announce, Instant now)
    {
        if (sitting.Seats.Count >= MostSeats) return Decision.Refused(Reason.SittingFull, Remedy.AskBench);
        var (seat, person, name, proof) = (sitting.Seats.Next, announce.Person, announce.Name, announce.Proof);
        if (Threshold.LetsIn(sitting, null, announce, now) is var (ground, role)) return new Entered(seat, person, name, role, proof, announce.ByPhone, ground);
        return TurnsAway(sitting) ?? (Decision)new Announced(seat, person, name, proof, announce.ByPhone);
    }

    private static Decision AtTheDoorAgain(Sitting sitting, Seat seat, Announce announce, Instant now)
    {
        var (proof, isNews) = (announce.Proof ?? seat.Proof, announce.Proof is not null && announce.Proof != seat.Proof);
        var walksIn = Threshold.LetsIn(sitting, seat, announce with { Proof = proof }, now);
        if (seat.Place == Place.Gone)
        {
            if (walksIn is var (ground, role)) return new Entered(seat.Id, seat.Person, ground == Ground.Back ? seat.Name : announce.Name, role, proof, seat.ByPhone, ground);
            return TurnsAway(sitting) ?? (Decision)new Announced(seat.Id, seat.Person, announce.Name, proof, seat.ByPhone);
        }
        // Who waits goes on waiting, even if the door has been opened since, unless something new is shown.
        if (seat.Place == Place.Lobby && (isNews || announce.HostKey) && walksIn is var (onGround, inRole))
            return new Entered(seat.Id, seat.Person, seat.Name, inRole, proof, seat.ByPhone, onGround);
        // Only the live line says that somebody is here.
        return isNews ? new Proved(seat.Id, announce.Proof!) : Decision.Of();
    }

    private static Refusal? TurnsAway(Sitting sitting) =>
        sitting.Door.Lock is { LateWait: false } locked ? new Refusal(Reason.DoorLocked, Remedy.AskHost, locked.Words) : null;

    public static Decision Decide(Sitting sitting, Drop drop) =>
        sitting.Those(drop.Seats, seat => seat is { Connected: true, Place: not Place.Gone }) is { Length: > 0 } seats ? new Dropped(seats) : Decision.Of();

    public static Decision Decide(Sitting sitting, Reconnect reconnect) =>
        sitting.Seats.TryGet(reconnect.Seat, out var seat)
            ? seat.Connected || seat.Place == Place.Gone ? Decision.Of() : new Reconnected(seat.Id, First: seat.DroppedAt is null)
            : Decision.Refused(Reason.NoSuchSeat);

    public static Decision Decide(Sitting sitting, Admit admit, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (admit.As == Role.Host) return Decision.Refused(Reason.RoleNotGiven, Remedy.HandOverFirst);
        var seats = sitting.Those(admit.Seats, seat => seat.Place == Place.Lobby);
        return seats is []
            ? Decision.Refused(Reason.NobodyWaits)
            : new Admitted(seats, [.. seats.Select(id => Highest(admit.As, sitting.Seats[id].Role))]);
    }

    public static Decision DecideSure(Sitting sitting, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        ImmutableArray<Seat> sure = [.. sitting.Seats.Where(seat => seat.Place == Place.Lobby && seat.Match == Match.Sure)];
        return sure is [] ? Decision.Refused(Reason.NobodyWaits) : AdmittedAsExpected(sitting, sure);
    }

    public static Decision Decide(Sitting sitting, Decline decline, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (decline.Words?.Length > LongestWords) return Decision.Refused(Reason.WordsTooLong, Remedy.Shorten);
        var seats = sitting.Those(decline.Seats, seat => seat.Place == Place.Lobby);
        return seats is [] ? Decision.Refused(Reason.NobodyWaits) : new Declined(seats, Meaningful(decline.Words), [.. seats.Select(id => sitting.Seats[id].Role)]);
    }

    public static Decision Decide(Sitting sitting, SendToLobby send, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        var seats = sitting.Those(send.Seats, seat => seat.IsSeated && by.Seat != seat.Id);
        var within = sitting.Those(seats, seat => sitting.Forbids(by, Capability.KeepDoor, seat) is null);
        return within is [] ? Decision.Refused(seats is [] ? Reason.NobodySeated : Reason.HostIsOutOfReach) : new SentToLobby(within);
    }

    public static Decision Decide(Sitting sitting, SetDoor set, Actor by) =>
        sitting.Forbids(by, Capability.KeepDoor) ?? Change(sitting, new Door(set.Mode, null, set.ByName && set.Mode == DoorMode.Listed));

    public static Decision Decide(Sitting sitting, LockDoor locks, Actor by) =>
        locks.Words.Length > LongestWords
            ? Decision.Refused(Reason.WordsTooLong, Remedy.Shorten)
            : sitting.Forbids(by, Capability.KeepDoor) ?? Change(sitting, sitting.Door with { Lock = new DoorLock(Bounds.Clean(locks.Words), locks.LateWait) });

    public static Decision DecideUnlock(Sitting sitting, Actor by) =>
        sitting.Forbids(by, Capability.KeepDoor) ?? Change(sitting, sitting.Door with { Lock = null });

    private static Decision Change(Sitting sitting, Door to) =>
        to == sitting.Door ? Decision.Refused(Reason.NoChange) : new DoorSet(sitting.Door, to);

    public static Decision Decide(Sitting sitting, Leave leave, Actor by)
    {
        if (by.Seat is not { } id || sitting.Seats[id] is { Place: Place.Gone }) return Decision.Refused(Reason.NotInside);
        if (sitting.Host != id) return new Left(id);
        if (leave.Successor is { } successor)
            return PeopleRules.Decide(sitting, new HandOver(successor), by) is { Facts: [var handedOver] } ? Decision.Of(handedOver, new Left(id)) : HandOverRefused;
        return sitting.Seats.Any(seat => seat.IsSeated && seat.Id != id)
            ? Decision.Refused(Reason.HostMustHandOver, Remedy.HandOverFirst)
            : new Left(id);
    }

    private static Decision HandOverRefused => Decision.Refused(Reason.NotADeputyOrSeated, Remedy.ChooseAnother);

    /// <summary>Opens to all; those who came early and would walk in now do so.</summary>
    public static Decision DecideBegin(Sitting sitting, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (sitting.Phase != Phase.Prepare) return Decision.Refused(Reason.NoChange);
        var open = sitting with { Phase = Phase.InSession };
        ImmutableArray<Seat> early = [.. sitting.Seats.Where(seat => seat.Place == Place.Lobby && Threshold.WouldLetIn(open, seat))];
        return early is [] ? new Begun() : Decision.Of(new Begun(), AdmittedAsExpected(sitting, early));
    }

    private static Admitted AdmittedAsExpected(Sitting sitting, ImmutableArray<Seat> seats) => new(
        [.. seats.Select(seat => seat.Id)], [.. seats.Select(seat => Highest(Threshold.RoleOf(sitting, seat), seat.Role))]);

    public static Decision Decide(Sitting sitting, SendNotice notice, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (Meaningful(notice.Words) is not { } words) return Decision.Refused(Reason.NoticeEmpty);
        return words.Length > LongestWords ? Decision.Refused(Reason.WordsTooLong, Remedy.Shorten) : new NoticeSent(words);
    }

    public static Decision DecideAdjourn(Sitting sitting, Actor by) =>
        sitting.Forbids(by, Capability.Adjourn) ?? (Decision)new Adjourned();

    public static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        Opened opened => sitting with
        {
            Title = opened.Title,
            Owner = opened.Owner,
            Door = opened.Door,
            Orders = opened.Orders,
            Docket = new DocketList(opened.Docket),
            OpenedAt = at,
            EndsAt = opened.EndsAt,
            RunSheet = sitting.RunSheet with { Items = opened.Items ?? [] },
            Phase = opened.Prepare ? Phase.Prepare : Phase.InSession
        },
        Begun => sitting with { Phase = Phase.InSession, OpenedAt = at },
        NoticeSent sent => sitting with { Notices = sitting.Notices.Add(new Notice(at, sent.Words)).RemoveRange(0, Math.Max(0, sitting.Notices.Count + 1 - MostNotices)) },
        Announced announced => Arrive(sitting, announced.Seat, announced.Person, announced.Name, announced.Proof, announced.ByPhone, Place.Lobby, Role.Attendee, at),
        Entered entered => Arrive(sitting, entered.Seat, entered.Person, entered.Name, entered.Proof, entered.ByPhone, Place.Seated, entered.As, at),
        Proved proved => sitting.With(proved.Seat, seat => seat with { Proof = proved.Proof }),
        Admitted admitted => admitted.Seats.Zip(admitted.As).Aggregate(sitting, (state, pair) =>
            state.With(pair.First, seat => Moved(seat, Place.Seated, at) with { Role = pair.Second })),
        // Coming back does not bring back powers; before roles were noted with it, it did.
        Declined declined => sitting.WithEach(declined.Seats, seat => PutOut(seat, Place.Gone, at) with { Role = declined.Roles is null ? seat.Role : Role.Attendee, Exit = Exit.Declined, Words = declined.Words }),
        SentToLobby { Roles: { } roles } sent => sent.Seats.Zip(roles).Aggregate(sitting, (state, pair) => state.With(pair.First, seat => PutOut(seat, Place.Lobby, at) with { Role = pair.Second })),
        SentToLobby sent => sitting.WithEach(sent.Seats, seat => PutOut(seat, Place.Lobby, at)),
        Reseated reseated => sitting.WithEach(reseated.Seats, seat => Moved(seat, Place.Seated, at)),
        DoorSet set => sitting with { Door = set.To },
        Left left => sitting.With(left.Seat, seat => Moved(seat, Place.Gone, at) with { Exit = Exit.Left }),
        Dropped dropped => sitting.WithEach(dropped.Seats, seat => seat with { Connected = false, DroppedAt = at }),
        Reconnected back => sitting.With(back.Seat, seat => seat with { Connected = true, DroppedAt = null }),
        Adjourned => sitting with { Phase = Phase.Adjourned, AdjournedAt = at },
        _ => sitting
    };

    /// <summary>From here on only the bench lets in again.</summary>
    internal static Seat PutOut(Seat seat, Place to, Instant at) => Moved(seat, to, at) with { Admittance = Admittance.Withdrawn };

    /// <summary>Nothing that was open stays open across a change of place. Whoever is seated has been let in.</summary>
    internal static Seat Moved(Seat seat, Place to, Instant at) => seat with
    {
        Place = to,
        Since = at,
        Admittance = to == Place.Seated ? Admittance.Granted : seat.Admittance,
        // Of the gone nobody knows whether a page of theirs is still open.
        Connected = seat.Connected && to != Place.Gone,
        DroppedAt = to == Place.Gone ? null : seat.DroppedAt,
        Exit = null,
        Words = null,
        MicrophoneOpen = false,
        CameraOn = false,
        Asked = false,
        HasLeave = false,
        HandSince = null,
        State = null
    };

    private static Sitting Arrive(Sitting sitting, SeatId id, PersonKey person, string name, string? proof, bool byPhone, Place place, Role role, Instant at)
    {
        var seat = sitting.Seats.TryGet(id, out var before)
            ? Moved(before, place, at) with { Name = name, Proof = proof, Role = Highest(role, before.Role) }
            : Moved(new Seat { Id = id, Person = person, Name = name, Role = role, Place = place, Since = at, Proof = proof, ByPhone = byPhone }, place, at);
        return sitting with
        {
            Seats = sitting.Seats.With(seat),
            SeatOf = sitting.SeatOf.SetItem(person, id),
            Host = role == Role.Host ? id : sitting.Host
        };
    }

    private static Role Highest(Role a, Role b) => a > b ? a : b;

    private static string? Meaningful(string? words) => Bounds.Clean(words) is { Length: > 0 } clean ? clean : null;
}
