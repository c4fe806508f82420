using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Ledger;

/// <summary>What the command line understands of this topic.</summary>
internal static class LedgerPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<TakeBack>("take back", "cofnij", (_, _) => new TakeBack()),
        Say<TakeBack>("take back entry {number}", "cofnij wpis {number}", (_, a) => new TakeBack((int)a[0]))
    ]);
}
