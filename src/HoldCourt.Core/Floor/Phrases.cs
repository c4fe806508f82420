using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Floor;

/// <summary>What the command line understands of this topic.</summary>
internal static class FloorPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<GiveFloor>("floor to the next", "głos dla następnego", (_, _) => new GiveFloor()),
        Say<GiveFloor>("floor to {person}", "głos dla {person}", (_, a) => new GiveFloor((SeatId)a[0])),
        Say<GiveFloor>(
            "floor to {person} for {length}", "głos dla {person} na {length}",
            (_, a) => new GiveFloor((SeatId)a[0], Seconds(a[1]))),
        Say<GiveFloor>("give the floor to {person}", "udziel głosu {person}", (_, a) => new GiveFloor((SeatId)a[0])),
        Say<TakeFloor>("take the floor back", "odbierz głos", (_, _) => new TakeFloor()),
        Say<YieldFloor>("yield", "oddaję głos", (_, _) => new YieldFloor()),
        Say<RaiseHand>("raise my hand", "podnieś moją rękę", (_, _) => new RaiseHand()),
        Say<LowerHand>("lower my hand", "opuść moją rękę", (_, _) => new LowerHand()),
        Say<LowerHands>("lower {people}", "opuść ręce {people}", (_, a) => new LowerHands(Seats(a[0]))),
        Say<SetFloor>("floor fair", "głos po równo", (s, _) => new SetFloor(s.Sitting.Floor with { Order = FloorOrder.Fair })),
        Say<SetFloor>("floor by hand", "głos według rąk", (s, _) => new SetFloor(s.Sitting.Floor with { Order = FloorOrder.ByHand })),
        Say<SetFloor>(
            "turns of {length}", "wypowiedzi po {length}",
            (s, a) => new SetFloor(s.Sitting.Floor with { Seconds = Seconds(a[0]) })),
        Say<SetFloor>(
            "turns without limit", "wypowiedzi bez limitu",
            (s, _) => new SetFloor(s.Sitting.Floor with { Seconds = null, EndsItself = false })),
        Say<SetFloor>(
            "turns end by themselves", "wypowiedzi kończą się same",
            (s, _) => new SetFloor(s.Sitting.Floor with { EndsItself = true }))
    ]);
}
