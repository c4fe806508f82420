using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.RunSheets;

/// <summary>What the command line understands of this topic.</summary>
internal static class RunSheetPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<NextItem>("next item", "następny punkt", (_, _) => new NextItem()),
        Say<TurnToItem>("item {item}", "punkt {item}", (_, a) => new TurnToItem((int)a[0])),
        Say<EndItem>("end item", "zakończ punkt", (_, _) => new EndItem()),
        Say<SetRunSheet>("add item {text} of {length}", "dodaj punkt {text} na {length}", (s, a) => Added(s, (string)a[0], Minutes(a[1]))),
        Say<SetRunSheet>("add item {text}", "dodaj punkt {text}", (s, a) => Added(s, (string)a[0], null)),
        Say<SetRunSheet>(
            "drop item {item}", "usuń punkt {item}",
            (s, a) => new SetRunSheet(s.Sitting.RunSheet.Items.RemoveAll(item => item.Id == (int)a[0])))
    ]);

    private static SetRunSheet Added(Scope scope, string title, int? minutes)
    {
        var items = scope.Sitting.RunSheet.Items;
        return new SetRunSheet(items.Add(new Item(items is [] ? 1 : items.Max(item => item.Id) + 1, title, minutes)));
    }
}
