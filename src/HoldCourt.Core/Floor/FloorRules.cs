namespace HoldCourt.Core.Floor;

/// <summary>Who wants to speak, in order, and who has the floor.</summary>
public static class FloorRules
{
    public const int ShortestTurn = 10, LongestTurn = 3_600;

    /// <summary>The raised hands in the order in which they would be given the floor.</summary>
    public static IEnumerable<Seat> Queue(Sitting sitting)
    {
        var hands = sitting.Seats.Where(seat => seat is { IsSeated: true, HandSince: not null });
        return sitting.Floor.Order == FloorOrder.Fair
            ? hands.OrderBy(seat => seat.TalkTime).ThenBy(seat => seat.FloorTime).ThenBy(seat => seat.HandSince).ThenBy(seat => seat.Id)
            : hands.OrderBy(seat => seat.HandSince).ThenBy(seat => seat.Id);
    }

    internal static Decision DecideRaise(Sitting sitting, Actor by)
    {
        if (sitting.Forbids(by, Capability.RaiseHand) is { } refusal) return refusal;
        return by.Seat is { } id && sitting.Seats[id].HandSince is null && sitting.Turn?.Seat != id ? new HandRaised(id) : Decision.Refused(Reason.NoChange);
    }

    internal static Decision DecideLower(Sitting sitting, Actor by) =>
        by.Seat is { } id && sitting.Seats[id].HandSince is { } since ? new HandsLowered([id], [since]) : Decision.Refused(Reason.NoChange);

    internal static Decision Decide(Sitting sitting, LowerHands lower, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        var up = sitting.Those(lower.Seats, seat => seat.HandSince is not null);
        return up is [] ? Decision.Refused(Reason.NoHands) : new HandsLowered(up, [.. up.Select(id => sitting.Seats[id].HandSince!.Value)]);
    }

    internal static Decision Decide(Sitting sitting, GiveFloor give, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        if (give.Seconds is < ShortestTurn or > LongestTurn) return Decision.Refused(Reason.NotUnderstood);
        if ((give.Seat ?? Queue(sitting).FirstOrDefault()?.Id) is not { } to) return Decision.Refused(Reason.NoHands);
        if (!sitting.Seats.TryGet(to, out var seat) || !seat.IsSeated) return Decision.Refused(Reason.NobodySeated);
        if (sitting.Turn?.Seat == to) return Decision.Refused(Reason.NoChange);
        var lends = sitting.Forbids(Actor.Of(to), Capability.Speak) is not null;
        return Ended(sitting, now) with
        {
            To = to,
            Seconds = give.Seconds ?? sitting.Floor.Seconds,
            Lends = lends,
            Opens = !seat.MicrophoneOpen && seat.Consents,
            Asks = seat is { MicrophoneOpen: false, Consents: false } && by.Seat != to,
            Hand = seat.HandSince
        };
    }

    internal static Decision DecideTake(Sitting sitting, Actor by, Instant now) =>
        sitting.Forbids(by, Capability.KeepFloor) ?? (sitting.Turn is null ? Decision.Refused(Reason.NobodyOnFloor) : Ended(sitting, now));

    internal static Decision DecideYield(Sitting sitting, Actor by, Instant now) =>
        by.Seat is { } id && sitting.Turn?.Seat == id ? Ended(sitting, now) : Decision.Refused(Reason.NobodyOnFloor);

    internal static Decision DecideEnd(Sitting sitting, Instant now) =>
        sitting is { Turn: { Seconds: { } seconds } turn, Floor.EndsItself: true } && now - turn.Since >= TimeSpan.FromSeconds(seconds) ? Ended(sitting, now) : Decision.Of();

    internal static Decision Decide(Sitting sitting, SetFloor set, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepFloor) is { } refusal) return refusal;
        if (!Enum.IsDefined(set.To.Order) || set.To.Seconds is < ShortestTurn or > LongestTurn) return Decision.Refused(Reason.NotUnderstood);
        return set.To == sitting.Floor ? Decision.Refused(Reason.NoChange) : new FloorSet(sitting.Floor, set.To);
    }

    internal static Decision Decide(Sitting sitting, CountTalk count)
    {
        var heard = count.Seats.Zip(count.Milliseconds).Where(pair => pair.Second > 0 && sitting.Seats.TryGet(pair.First, out _)).ToList();
        return heard is [] ? Decision.Of() : new Talked([.. heard.Select(pair => pair.First)], [.. heard.Select(pair => pair.Second)]);
    }

    private static FloorTurned Ended(Sitting sitting, Instant now) => sitting.Turn is { } turn
        ? new FloorTurned(turn, Silences(sitting, turn), (long)(now - turn.Since).TotalMilliseconds, null, null, false, false, false, null)
        : new FloorTurned(null, false, 0, null, null, false, false, false, null);

    /// <summary>Without the floor the person may not go on speaking.</summary>
    private static bool Silences(Sitting sitting, Turn turn) =>
        turn.LentLeave && sitting.Seats[turn.Seat].MicrophoneOpen
        && sitting.With(turn.Seat, seat => seat with { HasLeave = false }).Forbids(Actor.Of(turn.Seat), Capability.Speak) is not null;

    internal static Fact? Opposite(Sitting sitting, FloorTurned turned)
    {
        if (sitting.Turn?.Seat != turned.To) return null;
        var back = turned.From is { } before && sitting.Seats[before.Seat].IsSeated ? before : null;
        if (back is null && sitting.Turn is null) return null;
        return new FloorReturned(sitting.Turn, sitting.Turn is { } now && Silences(sitting, now), turned.Hand, back, back is not null && turned.Mutes, turned.Spent);
    }

    internal static HandsBack? Opposite(Sitting sitting, HandsLowered lowered)
    {
        var pairs = lowered.Seats.Zip(lowered.Since).Where(pair => sitting.Seats[pair.First] is { IsSeated: true, HandSince: null } && sitting.Turn?.Seat != pair.First).ToList();
        return pairs is [] ? null : new HandsBack([.. pairs.Select(pair => pair.First)], [.. pairs.Select(pair => pair.Second)]);
    }

    internal static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        HandRaised raised => sitting.With(raised.Seat, seat => seat with { HandSince = at }),
        HandsLowered lowered => sitting.WithEach(lowered.Seats, seat => seat with { HandSince = null }),
        HandsBack back => back.Seats.Zip(back.Since).Aggregate(sitting, (state, pair) => state.With(pair.First, seat => seat with { HandSince = pair.Second })),
        FloorTurned turned => Given(WithoutFloor(sitting, turned.From, turned.Mutes, null, turned.Spent), turned, at),
        FloorReturned returned => Returned(WithoutFloor(sitting, returned.From, returned.Mutes, returned.Hand, 0), returned),
        FloorSet set => sitting with { Floor = set.To },
        Talked talked => talked.Seats.Zip(talked.Milliseconds).Aggregate(sitting, (state, pair) =>
            state.With(pair.First, seat => seat with { TalkTime = seat.TalkTime + TimeSpan.FromMilliseconds(pair.Second) })),
        _ => sitting
    };

    private static Sitting WithoutFloor(Sitting sitting, Turn? turn, bool mutes, Instant? hand, long spent) => turn is null
        ? sitting
        : (sitting with { Turn = null }).With(turn.Seat, seat => seat with
        {
            HasLeave = seat.HasLeave && !turn.LentLeave,
            Asked = false,
            MicrophoneOpen = seat.MicrophoneOpen && !mutes,
            HandSince = hand,
            FloorTime = seat.FloorTime + TimeSpan.FromMilliseconds(spent)
        });

    private static Sitting Given(Sitting sitting, FloorTurned turned, Instant at) => turned.To is not { } to
        ? sitting
        : (sitting with { Turn = new Turn(to, at, turned.Seconds, turned.Lends) }).With(to, seat => seat with
        {
            HandSince = null,
            HasLeave = seat.HasLeave || turned.Lends,
            MicrophoneOpen = seat.MicrophoneOpen || turned.Opens,
            Asked = turned.Asks
        });

    private static Sitting Returned(Sitting sitting, FloorReturned returned) => returned.To is not { } turn
        ? sitting
        : (sitting with { Turn = turn }).With(turn.Seat, seat => seat with
        {
            HandSince = null,
            HasLeave = seat.HasLeave || turn.LentLeave,
            MicrophoneOpen = seat.MicrophoneOpen || returned.Opens,
            FloorTime = seat.FloorTime - TimeSpan.FromMilliseconds(returned.Spent)
        });

    /// <summary>Whoever goes out does not have the floor any more.</summary>
    internal static Sitting Follow(Sitting sitting) => sitting.Turn is { } turn && !sitting.Seats[turn.Seat].IsSeated ? sitting with { Turn = null } : sitting;
}
