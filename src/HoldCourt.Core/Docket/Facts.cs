using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

public sealed record Expected(DocketLine Line) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with { Docket = sitting.Docket.With(Line) };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Door;
    internal override string? Detail => Line.Name;
}

/// <param name="Closed">Whose visit is over.</param>
/// <param name="Called">Who comes in; empty when nobody who waits is sure.</param>
public sealed record VisitsTurned(ImmutableArray<SeatId> Closed, ImmutableArray<SeatId> Called, ImmutableArray<Role> As) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => Moves.WithRoles(
        sitting.WithEach(Closed, seat => Moves.PutOut(seat, Place.Gone, at) with { Exit = Exit.VisitOver }), Called, As,
        (seat, role) => Moves.Moved(seat, Place.Seated, at) with { Role = Moves.Highest(role, seat.Role) });

    internal override ImmutableArray<SeatId> About => Called is [] ? Closed : Called;
    internal override Topic Topic => Topic.Door;
    internal override string NameFor(Actor by) => Called is [] ? "visitClosed" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting)
    {
        var back = sitting.Those(Closed, seat => seat.Exit == Exit.VisitOver);
        var lobby = sitting.Those(Called, seat => seat is { IsSeated: true, Role: not Role.Host });
        return back is [] && lobby is [] ? null : new VisitsReturned(back, lobby);
    }
}

/// <summary>The way back: those called wait again, those whose visit was closed are inside again.</summary>
public sealed record VisitsReturned(ImmutableArray<SeatId> Back, ImmutableArray<SeatId> ToLobby) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting
        .WithEach(ToLobby, seat => Moves.PutOut(seat, Place.Lobby, at))
        .WithEach(Back, seat => Moves.Moved(seat, Place.Seated, at));

    internal override ImmutableArray<SeatId> About => Back is [] ? ToLobby : Back;
    internal override Topic Topic => Topic.Door;
}

/// <summary>Who these people are thought to be from now on. It is noted, so that it stays when the way of judging gets better.</summary>
public sealed record Recognized(ImmutableArray<Recognized.Person> People) : Fact
{
    public sealed record Person(SeatId Seat, Recognition As);

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        People.Aggregate(sitting, (state, person) => state.With(person.Seat, seat => seat with { Recognition = person.As }));

    internal override ImmutableArray<SeatId> About => [.. People.Select(person => person.Seat)];
    internal override Topic Topic => Topic.Door;
    internal override bool StandsInLedger => false;
}

/// <summary>Visits that began, ended, or go on.</summary>
public sealed record VisitsNoted(ImmutableArray<VisitsNoted.Change> Changes) : Fact
{
    /// <param name="At">Place in the list of visits, from 0; one beyond its end for a new one.</param>
    public sealed record Change(int At, Visit Visit);

    internal override Sitting Apply(Sitting sitting, Instant at) => sitting with
    {
        Visits = Changes.Aggregate(sitting.Visits, (visits, change) =>
            change.At < visits.Count ? visits.SetItem(change.At, change.Visit) : visits.Add(change.Visit))
    };

    internal override ImmutableArray<SeatId> About => [.. Changes.Select(change => change.Visit.Seat)];
    internal override Topic Topic => Topic.Door;
    internal override bool StandsInLedger => false;
}
