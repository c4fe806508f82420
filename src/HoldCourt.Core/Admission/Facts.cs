using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

public sealed record Opened(
    string Title, PersonKey Owner, Door Door, StandingOrders Orders, ImmutableArray<DocketLine> Docket, bool Prepare = false,
    Instant? EndsAt = null, ImmutableArray<Item>? Items = null, RecordingRules? Recording = null,
    ImmutableArray<PollForm>? Polls = null, RoomForm? Rooms = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Title = Title,
        Owner = Owner,
        Door = Door,
        Orders = Orders,
        Docket = new DocketList(Docket),
        OpenedAt = at,
        EndsAt = EndsAt,
        RunSheet = sitting.RunSheet with { Items = Items ?? [] },
        RecordingRules = Recording ?? RecordingRules.Usual,
        Polls = sitting.Polls with { Prepared = Polls ?? [] },
        Rooms = Rooms is null ? sitting.Rooms : sitting.Rooms with { Form = Rooms },
        Phase = Prepare ? Phase.Prepare : Phase.InSession
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
    internal override string? Detail => Title;
}

/// <summary>Waits in the lobby, newly or again.</summary>
/// <param name="Taken">What was taken from whoever showed the same link in another browser; null for nothing.</param>
public sealed record Announced(
    SeatId Seat, PersonKey Person, string Name, string? Proof = null, bool ByPhone = false, ImmutableArray<Order>? Taken = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Moves.Arrive(sitting, new Seat
    {
        Id = Seat,
        Person = Person,
        Name = Name,
        Role = Role.Attendee,
        Place = Place.Lobby,
        Since = at,
        Proof = Proof,
        ByPhone = ByPhone
    }, at, Taken);

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Door;
}

/// <summary>Walked in without waiting, newly or again.</summary>
/// <param name="On">Why this person could; null in entries of before it was noted.</param>
/// <param name="Taken">As in <see cref="Announced"/>.</param>
public sealed record Entered(
    SeatId Seat, PersonKey Person, string Name, Role As, string? Proof = null, bool ByPhone = false, Ground? On = null,
    ImmutableArray<Order>? Taken = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Moves.Arrive(sitting, new Seat
    {
        Id = Seat,
        Person = Person,
        Name = Name,
        Role = As,
        Place = Place.Seated,
        Since = at,
        Proof = Proof,
        ByPhone = ByPhone
    }, at, Taken, back: On == Ground.Back);

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Door;
}

/// <summary>Showed a personal link while holding a seat already.</summary>
/// <param name="Taken">As in <see cref="Announced"/>.</param>
public sealed record Proved(SeatId Seat, string Proof, ImmutableArray<Order>? Taken = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.With(Seat, seat => Moves.WithoutWhatWasTaken(seat.Showing(Proof), Taken));
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Door;
}

/// <summary>Let in from the lobby.</summary>
/// <param name="As">The role of each, in the order of <paramref name="Seats"/>.</param>
/// <param name="Picked">The bench chose these people, rather than all who are expected; null in entries of before it was noted.</param>
public sealed record Admitted(ImmutableArray<SeatId> Seats, ImmutableArray<Role> As, bool? Picked = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        Moves.WithRoles(sitting, Seats, As, (seat, role) => Moves.Moved(seat, Place.Seated, at) with
        {
            Role = role,
            VouchedFor = Picked == true && seat.Match == Match.Sure ? seat.Recognition.Line : null
        });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Door;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Those(Seats, seat => seat is { IsSeated: true, Role: not Role.Host }) is { Length: > 0 } seats
            ? new SentToLobby(seats)
            : null;
}

/// <param name="Roles">The role each had, in the order of <paramref name="Seats"/>; null in entries of before it was noted.</param>
public sealed record Declined(ImmutableArray<SeatId> Seats, string? Words, ImmutableArray<Role>? Roles = null) : Fact
{
    // Coming back does not bring back powers; before roles were noted with it, it did.
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithEach(Seats, seat => Moves.PutOut(seat, Place.Gone, at) with
    {
        Role = Roles is null ? seat.Role : Role.Attendee,
        Exit = Exit.Declined,
        Words = Words
    });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Door;
    internal override string? Detail => Words;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var roles = Roles is { IsDefault: false } noted ? noted : [.. Seats.Select(_ => Role.Attendee)];
        var back = Seats.Zip(roles).Where(pair => sitting.Seats[pair.First].Exit == Exit.Declined).ToList();
        return back is [] ? null : new SentToLobby([.. back.Select(pair => pair.First)], [.. back.Select(pair => pair.Second)]);
    }
}

/// <param name="Roles">On the way back from a decline: the role each has again.</param>
public sealed record SentToLobby(ImmutableArray<SeatId> Seats, ImmutableArray<Role>? Roles = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Roles is { } roles
        ? Moves.WithRoles(sitting, Seats, roles, (seat, role) => Moves.PutOut(seat, Place.Lobby, at) with { Role = role })
        : sitting.WithEach(Seats, seat => Moves.PutOut(seat, Place.Lobby, at));

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Door;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Those(Seats, seat => seat.Place == Place.Lobby) is { Length: > 0 } seats ? new Reseated(seats) : null;
}

/// <summary>Back inside with the role they had.</summary>
public sealed record Reseated(ImmutableArray<SeatId> Seats) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithEach(Seats, seat => Moves.Moved(seat, Place.Seated, at));
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Door;
}

public sealed record DoorSet(Door From, Door To) : Fact
{
    internal static Decision Towards(Sitting sitting, Door to) =>
        to == sitting.Door ? Decision.Refused(Reason.NoChange) : new DoorSet(sitting.Door, to);

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Door = To };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Door;
    internal override string NameFor(Actor by) =>
        To.Lock is not null ? "doorLocked" : From.Lock is not null ? "doorUnlocked" : base.NameFor(by);
    internal override string? Detail => To.Lock is { } locked ? locked.Words : CoreJson.NameOf(To.Mode);
    internal override bool IsTakeable(SeatId by) => true;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.Door == To ? new DoorSet(To, From) : null;
}

public sealed record Left(SeatId Seat) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.With(Seat, seat => Moves.Moved(seat, Place.Gone, at) with { Exit = Exit.Left });

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Door;
}

public sealed record Dropped(ImmutableArray<SeatId> Seats) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithEach(Seats, seat => seat with { Connected = false, DroppedAt = at });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Connections;
}

/// <param name="First">The page of somebody who has just been announced opened its line.</param>
public sealed record Reconnected(SeatId Seat, bool First = false) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.With(Seat, seat => seat with { Connected = true, DroppedAt = null });
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Connections;
    internal override bool StandsInLedger => !First;
}

public sealed record Adjourned : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Phase = Phase.Adjourned, AdjournedAt = at };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
}

public sealed record Begun : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Phase = Phase.InSession, OpenedAt = at };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Time;
}

public sealed record NoticeSent(string Words) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Notices = sitting.Notices.Add(new Notice(at, Words)).RemoveRange(0, Math.Max(0, sitting.Notices.Count + 1 - Notice.MostKept))
    };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Door;
    internal override string? Detail => Words;
}
