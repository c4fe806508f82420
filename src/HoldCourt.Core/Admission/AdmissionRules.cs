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
        return sitting.Find(announce.Person) is { } seat ? AtTheDoorAgain(sitting, seat, name, announce.HostKey) : Newcomer(sitting, announce with { Name = name }, now);
    }

    private static Decision Newcomer(Sitting sitting, Announce announce, Instant now)
    {
        var (person, name, proof, hostKey, byPhone) = announce;
        if (sitting.Seats.Count >= MostSeats) return Decision.Refused(Reason.SittingFull, Remedy.AskBench);
        var seat = sitting.Seats.Next;
        if (hostKey || person == sitting.Owner) return new Entered(seat, person, name, sitting.Host is null ? Role.Host : Role.Deputy, proof, byPhone);
        if (sitting.Door.Lock is { } locked)
            return locked.LateWait ? new Announced(seat, person, name, proof, byPhone) : Decision.Refused(Reason.DoorLocked, Remedy.AskHost, locked.Words);
        if (sitting.Phase != Phase.Prepare && sitting.Door.Mode == DoorMode.Open) return new Entered(seat, person, name, Role.Attendee, proof, byPhone);
        var recognition = DocketRules.Foresee(sitting, name, proof, now);
        var expected = recognition.Match == Match.Sure ? sitting.Docket[recognition.Line]?.Role : null;
        var walksIn = sitting.Phase == Phase.Prepare
            ? sitting.Door.Mode != DoorMode.Attended && expected >= Role.Presenter
            : sitting.Door.Mode == DoorMode.Listed && expected is not null;
        return walksIn ? new Entered(seat, person, name, expected!.Value, proof, byPhone) : new Announced(seat, person, name, proof, byPhone);
    }

    private static Decision AtTheDoorAgain(Sitting sitting, Seat seat, string name, bool hostKey)
    {
        if (hostKey && !seat.OnBench && seat.Exit != Exit.RemovedForGood) return new Entered(seat.Id, seat.Person, name, sitting.Host is null ? Role.Host : Role.Deputy, seat.Proof);
        if (seat.Place != Place.Gone) return seat.Connected ? Decision.Of() : new Reconnected(seat.Id);
        if (seat.Exit == Exit.RemovedForGood) return Decision.Refused(Reason.Barred);
        if (seat.OnBench) return new Entered(seat.Id, seat.Person, seat.Name, seat.Role, seat.Proof);
        if (sitting.Door.Lock is { LateWait: false } locked) return Decision.Refused(Reason.DoorLocked, Remedy.AskHost, locked.Words);
        return seat.Exit == Exit.Left && sitting.Door.Lock is null
            ? new Entered(seat.Id, seat.Person, seat.Name, seat.Role, seat.Proof)
            : new Announced(seat.Id, seat.Person, name, seat.Proof);
    }

    public static Decision Decide(Sitting sitting, Drop drop) =>
        sitting.Those(drop.Seats, seat => seat.Connected) is { Length: > 0 } seats ? new Dropped(seats) : Decision.Of();

    public static Decision Decide(Sitting sitting, Reconnect reconnect) =>
        sitting.Seats.TryGet(reconnect.Seat, out var seat)
            ? seat.Connected ? Decision.Of() : new Reconnected(seat.Id)
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
        return seats is [] ? Decision.Refused(Reason.NobodyWaits) : new Declined(seats, Meaningful(decline.Words));
    }

    public static Decision Decide(Sitting sitting, SendToLobby send, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        var seats = sitting.Those(send.Seats, seat => seat.IsSeated && by.Seat != seat.Id);
        var within = sitting.Those(seats, seat => sitting.Forbids(by, Capability.KeepDoor, seat) is null);
        return within is [] ? Decision.Refused(seats is [] ? Reason.NobodySeated : Reason.HostIsOutOfReach) : new SentToLobby(within);
    }

    public static Decision Decide(Sitting sitting, SetDoor set, Actor by) =>
        sitting.Forbids(by, Capability.KeepDoor) ?? Change(sitting, sitting.Door with { Mode = set.Mode, Lock = null });

    public static Decision Decide(Sitting sitting, LockDoor locks, Actor by) =>
        locks.Words.Length > LongestWords
            ? Decision.Refused(Reason.WordsTooLong, Remedy.Shorten)
            : sitting.Forbids(by, Capability.KeepDoor) ?? Change(sitting, sitting.Door with { Lock = new DoorLock(locks.Words.Trim(), locks.LateWait) });

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
        ImmutableArray<Seat> early = sitting.Door is { Lock: null, Mode: not DoorMode.Attended } door
            ? [.. sitting.Seats.Where(seat => seat.Place == Place.Lobby && (door.Mode == DoorMode.Open || seat.Match == Match.Sure))]
            : [];
        return early is [] ? new Begun() : Decision.Of(new Begun(), AdmittedAsExpected(sitting, early));
    }

    private static Admitted AdmittedAsExpected(Sitting sitting, ImmutableArray<Seat> seats) => new(
        [.. seats.Select(seat => seat.Id)],
        [.. seats.Select(seat => Highest(seat.Match == Match.Sure ? sitting.Docket[seat.Recognition.Line]?.Role ?? Role.Attendee : Role.Attendee, seat.Role))]);

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
        Admitted admitted => admitted.Seats.Zip(admitted.As).Aggregate(sitting, (state, pair) =>
            state.With(pair.First, seat => Moved(seat, Place.Seated, at) with { Role = pair.Second })),
        Declined declined => sitting.WithEach(declined.Seats, seat => Moved(seat, Place.Gone, at) with { Exit = Exit.Declined, Words = declined.Words }),
        SentToLobby sent => sitting.WithEach(sent.Seats, seat => Moved(seat, Place.Lobby, at)),
        Reseated reseated => sitting.WithEach(reseated.Seats, seat => Moved(seat, Place.Seated, at)),
        DoorSet set => sitting with { Door = set.To },
        Left left => sitting.With(left.Seat, seat => Moved(seat, Place.Gone, at) with { Exit = Exit.Left }),
        Dropped dropped => sitting.WithEach(dropped.Seats, seat => seat with { Connected = false, DroppedAt = at }),
        Reconnected back => sitting.With(back.Seat, seat => seat with { Connected = true, DroppedAt = null }),
        Adjourned => sitting with { Phase = Phase.Adjourned, AdjournedAt = at },
        _ => sitting
    };

    /// <summary>Nothing that was open stays open across a change of place.</summary>
    internal static Seat Moved(Seat seat, Place to, Instant at) => seat with
    {
        Place = to,
        Since = at,
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
            ? Moved(before, place, at) with { Name = name, Proof = proof, Connected = true, DroppedAt = null, Role = Highest(role, before.Role) }
            : new Seat { Id = id, Person = person, Name = name, Role = role, Place = place, Since = at, Proof = proof, ByPhone = byPhone, Connected = true };
        return sitting with
        {
            Seats = sitting.Seats.With(seat),
            SeatOf = sitting.SeatOf.SetItem(person, id),
            Host = role == Role.Host ? id : sitting.Host
        };
    }

    private static Role Highest(Role a, Role b) => a > b ? a : b;

    private static string? Meaningful(string? words) => string.IsNullOrWhiteSpace(words) ? null : words.Trim();
}
