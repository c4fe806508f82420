using System.Collections.Immutable;

namespace HoldCourt.Core.Signs;

/// <summary>How it goes for somebody, in one word; it stays until it is changed.</summary>
public enum State { Following, LostYou, CannotHear, Done, BackSoon }

/// <summary>A reaction: seen for some seconds, counted, and gone.</summary>
public enum Sign { Agreed, Thanks, Applause, Laughing }

/// <summary>Says how it goes for oneself; null takes it off.</summary>
public sealed record SetState(State? To) : SeatCommand;

/// <summary>Takes the states off everybody.</summary>
public sealed record ClearStates : SeatCommand;

/// <summary>Shows a reaction. It leaves no entry, since it fades.</summary>
public sealed record React(Sign Sign) : SeatCommand;

public sealed record StateSet(SeatId Seat, State? From, State? To) : Fact;
public sealed record StatesCleared(ImmutableArray<SeatId> Seats, ImmutableArray<State> States) : Fact;

/// <summary>On the way back: each has the state it had.</summary>
public sealed record StatesBack(ImmutableArray<SeatId> Seats, ImmutableArray<State> States) : Fact;

internal static class SignRules
{
    public static Decision Decide(Sitting sitting, SetState set, Actor by)
    {
        if (sitting.Forbids(by, Capability.RaiseHand) is { } refusal) return refusal;
        if (by.Seat is not { } id || (set.To is { } to && !Enum.IsDefined(to))) return Decision.Refused(Reason.NotUnderstood);
        var from = sitting.Seats[id].State;
        return from == set.To ? Decision.Refused(Reason.NoChange) : new StateSet(id, from, set.To);
    }

    public static Decision DecideClear(Sitting sitting, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        var shown = sitting.Seats.Where(seat => seat is { IsSeated: true, State: not null }).ToList();
        return shown is [] ? Decision.Refused(Reason.NoStates) : new StatesCleared([.. shown.Select(seat => seat.Id)], [.. shown.Select(seat => seat.State!.Value)]);
    }

    public static Decision Decide(Sitting sitting, React react, Actor by) =>
        Enum.IsDefined(react.Sign) ? sitting.Forbids(by, Capability.React) ?? Decision.Of() : Decision.Refused(Reason.NotUnderstood);

    public static StatesBack? Opposite(Sitting sitting, StatesCleared cleared)
    {
        var pairs = cleared.Seats.Zip(cleared.States).Where(pair => sitting.Seats[pair.First] is { IsSeated: true, State: null }).ToList();
        return pairs is [] ? null : new StatesBack([.. pairs.Select(pair => pair.First)], [.. pairs.Select(pair => pair.Second)]);
    }

    public static Sitting Apply(Sitting sitting, Fact fact) => fact switch
    {
        StateSet set => sitting.With(set.Seat, seat => seat with { State = set.To }),
        StatesCleared cleared => sitting.WithEach(cleared.Seats, seat => seat with { State = null }),
        StatesBack back => back.Seats.Zip(back.States).Aggregate(sitting, (state, pair) => state.With(pair.First, seat => seat with { State = pair.Second })),
        _ => sitting
    };
}
