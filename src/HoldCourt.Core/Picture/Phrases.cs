using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Picture;

/// <summary>What the command line understands of this topic.</summary>
internal static class PicturePhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<SetArrangement>("picture {arrangement}", "obraz {arrangement}", (_, a) => new SetArrangement((Arrangement)a[0])),
        Say<SetArrangement>("picture free", "obraz dowolny", (_, _) => new SetArrangement(null)),
        Say<PutInFront>("front {people}", "pierwszy plan {people}", (_, a) => new PutInFront(Seats(a[0]))),
        Say<PutInFront>("front nobody", "pierwszy plan pusty", (_, _) => new PutInFront([]))
    ],
    [
        Choose("arrangement",
            ("even", "równy", Arrangement.Even),
            ("lead", "wiodący", Arrangement.Lead),
            ("pair", "para", Arrangement.Pair),
            ("exhibit", "eksponat", Arrangement.Exhibit))
    ]);
}
