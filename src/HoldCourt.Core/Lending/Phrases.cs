using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Lending;

/// <summary>What the command line understands of this topic.</summary>
internal static class LendingPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<LendControls>("lend the controls to {person}", "użycz sterowania {person}", (_, a) => new LendControls((SeatId)a[0])),
        Say<TakeControls>("take the controls", "przejmij sterowanie", (_, _) => new TakeControls()),
        Say<EndLoan>("end the lending", "zakończ użyczenie", (_, _) => new EndLoan())
    ]);
}
