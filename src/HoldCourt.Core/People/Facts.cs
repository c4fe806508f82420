using System.Collections.Immutable;

namespace HoldCourt.Core.People;

/// <summary>These microphones were open and are closed.</summary>
/// <param name="Leaves">Those of them, or others, whose leave to speak ended with it.</param>
public sealed record Muted(ImmutableArray<SeatId> Seats, ImmutableArray<SeatId> Leaves) : Fact
{
    internal static Decision Of(Sitting sitting, ImmutableArray<SeatId> seats)
    {
        var (open, leaves) = (sitting.Those(seats, seat => seat.MicrophoneOpen), sitting.Those(seats, seat => seat.HasLeave));
        return open is [] && leaves is [] ? Decision.AlreadySo : new Muted(open, leaves);
    }

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting
        .WithEach(Leaves, seat => seat with { HasLeave = false, Asked = false })
        .WithEach(Seats, seat => seat with { MicrophoneOpen = false, Asked = false });

    internal override ImmutableArray<SeatId> About => Seats is [] ? Leaves : Seats;
    internal override Topic Topic => Topic.Microphones;
    internal override string NameFor(Actor by) => Seats.IsOnly(by.Seat) ? "closedMicrophone" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => !Seats.IsOnly(by) || Leaves is not [];

    /// <summary>Opens again those who are still here, still muted, and may speak with the leave they had.</summary>
    internal override Fact? OppositeIn(Sitting sitting)
    {
        var leaves = sitting.Those(Leaves, seat => seat is { IsSeated: true, HasLeave: false });
        var given = sitting.WithEach(leaves, seat => seat with { HasLeave = true });
        var seats = given.Those(Seats, seat => !seat.MicrophoneOpen && given.MaySpeak(seat));
        return seats is [] && leaves is [] ? null : new MicrophonesOpened(seats, leaves);
    }
}

/// <param name="Leaves">On the way back from a mute: those whose leave to speak is given again.</param>
public sealed record MicrophonesOpened(ImmutableArray<SeatId> Seats, ImmutableArray<SeatId> Leaves) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting
        .WithEach(Leaves, seat => seat with { HasLeave = true })
        .WithEach(Seats, seat => seat with { MicrophoneOpen = true, Asked = false });

    internal override ImmutableArray<SeatId> About => Seats is [] ? Leaves : Seats;
    internal override Topic Topic => Topic.Microphones;
    internal override string NameFor(Actor by) => Seats.IsOnly(by.Seat) ? "openedMicrophone" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => !Seats.IsOnly(by);

    internal override Fact? OppositeIn(Sitting sitting) => sitting.Those(Seats, seat => seat.MicrophoneOpen) is { Length: > 0 } seats
        ? new Muted(seats, sitting.Those(Leaves, seat => seat.HasLeave))
        : null;
}

public sealed record AskedToUnmute(ImmutableArray<SeatId> Seats) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithEach(Seats, seat => seat with { Asked = true, HasLeave = true });
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Microphones;
}

public sealed record UnmuteAnswered(SeatId Seat, bool Agreed, bool Consents) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Seat, seat => seat with
    {
        Asked = false,
        MicrophoneOpen = Agreed || seat.MicrophoneOpen,
        HasLeave = (Agreed || sitting.Turn?.Seat == seat.Id) && seat.HasLeave,
        Consents = Consents
    });

    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.Microphones;
    internal override string NameFor(Actor by) => Agreed ? "agreedToUnmute" : "refusedToUnmute";
}

public sealed record CamerasTurned(ImmutableArray<SeatId> Seats, bool On) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithEach(Seats, seat => seat with { CameraOn = On });
    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.Cameras;

    internal override string NameFor(Actor by) => (Seats.IsOnly(by.Seat), On) switch
    {
        (true, true) => "cameraOn",
        (true, false) => "cameraOff",
        (false, true) => "camerasTurnedOn",
        _ => "camerasTurnedOff"
    };

    internal override bool IsTakeable(SeatId by) => !Seats.IsOnly(by);

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var seats = sitting.Those(Seats, seat => seat.IsSeated && seat.CameraOn == On && (On || sitting.MayShow(seat)));
        return seats is [] ? null : new CamerasTurned(seats, !On);
    }
}

/// <param name="Roles">The role each had, in the order of <paramref name="Seats"/>.</param>
public sealed record Removed(ImmutableArray<SeatId> Seats, ImmutableArray<Role> Roles, bool MayReturn) : Fact
{
    // Coming back after a removal does not bring back powers.
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithEach(Seats, seat => Moves.PutOut(seat, Place.Gone, at) with
    {
        Role = Role.Attendee,
        Exit = MayReturn ? Exit.Removed : Exit.RemovedForGood
    });

    internal override ImmutableArray<SeatId> About => Seats;
    internal override Topic Topic => Topic.People;
    internal override string NameFor(Actor by) => MayReturn ? "removed" : "removedForGood";
    internal override bool IsTakeable(SeatId by) => MayReturn;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        if (!MayReturn) return null;
        var back = Seats.Zip(Roles).Where(pair => sitting.Seats[pair.First].Exit == Exit.Removed).ToList();
        return back is [] ? null : new Admitted([.. back.Select(pair => pair.First)], [.. back.Select(pair => pair.Second)]);
    }
}

public sealed record RoleChange(SeatId Seat, Role From, Role To);

public sealed record RolesGiven(ImmutableArray<RoleChange> Changes) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => With(sitting, Changes, at);
    internal override ImmutableArray<SeatId> About => [.. Changes.Select(change => change.Seat)];
    internal override Topic Topic => Topic.People;
    internal override string? Detail => Changes is [var first, ..] ? CoreJson.NameOf(first.To) : null;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        ImmutableArray<RoleChange> back =
        [
            .. Changes.Where(change => sitting.Seats[change.Seat] is { Place: not Place.Gone } seat && seat.Role == change.To)
                .Select(change => new RoleChange(change.Seat, change.To, change.From))
        ];
        return back is [] ? null : new RolesGiven(back);
    }

    /// <summary>Whoever may no longer speak or show a camera after the change does not go on doing so.</summary>
    internal static Sitting With(Sitting sitting, ImmutableArray<RoleChange> changes, Instant at)
    {
        var changed = changes.Aggregate(sitting, (state, change) => state.With(change.Seat, seat => Changed(seat, change.To, at)));
        return changed.WithEach(changes.Select(change => change.Seat), seat => seat with
        {
            MicrophoneOpen = seat.MicrophoneOpen && changed.MaySpeak(seat),
            CameraOn = seat.CameraOn && changed.MayShow(seat)
        });
    }

    private static Seat Changed(Seat seat, Role to, Instant at) => seat with
    {
        Role = to,
        RoleSince = at,
        LoweredAt = to == seat.Role ? seat.LoweredAt : Moves.Highest(to, seat.Role) == to ? null : at
    };
}

/// <param name="ToWas">The role of the new host before.</param>
/// <param name="FromBecomes">The role of the old host from now on.</param>
public sealed record HandedOver(SeatId From, SeatId To, Role ToWas, Role FromBecomes) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        RolesGiven.With(sitting with { Host = To }, [new(From, Role.Host, FromBecomes), new(To, ToWas, Role.Host)],
            at);

    internal override ImmutableArray<SeatId> About => [To];
    internal override Topic Topic => Topic.People;
    internal override string NameFor(Actor by) => by.IsHouse ? "succeeded" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => true;
    internal override Capability? ToTakeBack => Capability.HandOver;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.Host == To && sitting.Seats[From].IsSeated
        ? new HandedOver(To, From, sitting.Seats[From].Role, ToWas)
        : null;
}

public sealed record Renamed(SeatId Seat, string From, string To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Seat, seat => seat with { Name = To });
    internal override ImmutableArray<SeatId> About => [Seat];
    internal override Topic Topic => Topic.People;
    internal override string? Detail => From;
    internal override bool IsTakeable(SeatId by) => Seat != by;
    internal override Fact? OppositeIn(Sitting sitting) => sitting.Seats[Seat].Name == To ? new Renamed(Seat, To, From) : null;
}

/// <summary>Whose names look like that of somebody on the bench from now on, or no longer do.</summary>
public sealed record LikenessNoted(ImmutableArray<LikenessNoted.Person> People) : Fact
{
    /// <param name="LooksLike">The name of somebody on the bench; null when it looks like nobody's any more.</param>
    /// <param name="Model">Whose name that is; null when it is a docket's line's.</param>
    public sealed record Person(SeatId Seat, string? LooksLike, SeatId? Model);

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        People.Aggregate(sitting, (state, person) => state.With(person.Seat, seat => seat with { LooksLike = person.LooksLike }));

    internal override ImmutableArray<SeatId> About => [.. People.Select(person => person.Seat)];
    internal override Topic Topic => Topic.People;
    internal override bool StandsInLedger => false;
}
