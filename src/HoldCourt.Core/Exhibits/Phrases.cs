using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Exhibits;

/// <summary>What the command line understands of this topic.</summary>
internal static class ExhibitPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<OpenScreen>("open my screen", "otwórz mój ekran", (_, _) => new OpenScreen()),
        Say<OpenScreen>("open my screen as {text}", "otwórz mój ekran jako {text}", (_, a) => new OpenScreen((string)a[0])),
        Say<ShowExhibit>("show {exhibit}", "pokaż {exhibit}", (_, a) => new ShowExhibit((int)a[0])),
        Say<ShowExhibit>("show beside {exhibit}", "pokaż obok {exhibit}", (_, a) => new ShowExhibit((int)a[0], Beside: true)),
        Say<TakeDown>("take down {exhibit}", "schowaj {exhibit}", (_, a) => new TakeDown((int)a[0])),
        Say<TakeDown>("take down all exhibits", "schowaj wszystkie eksponaty", (_, _) => new TakeDown()),
        Say<CloseExhibit>("close {exhibit}", "zamknij {exhibit}", (_, a) => new CloseExhibit((int)a[0])),
        Say<OpenSheet>("open a sheet", "otwórz arkusz", (_, _) => new OpenSheet()),
        Say<OpenSheet>("open a sheet as {text}", "otwórz arkusz jako {text}", (_, a) => new OpenSheet((string)a[0])),
        Say<AddPage>("add a page", "dodaj stronę", (_, _) => new AddPage()),
        Say<TurnPage>("page {number}", "strona {number}", (_, a) => new TurnPage((int)a[0])),
        Say<TurnPage>("page {number} of {exhibit}", "strona {number} eksponatu {exhibit}", (_, a) => new TurnPage((int)a[0], (int)a[1])),
        Say<TurnPage>("next page", "następna strona", (s, _) => Turned(s, 1)),
        Say<TurnPage>("page before", "poprzednia strona", (s, _) => Turned(s, -1)),
        Say<LookAt>("whole page", "cała strona", (_, _) => new LookAt(PageView.Whole)),
        Say<HandPaging>("paging to {person}", "strony przewraca {person}", (_, a) => new HandPaging((SeatId)a[0])),
        Say<HandPaging>("take the paging", "przejmij strony", (_, _) => new HandPaging()),
        Say<SetFreeLook>("free look", "swobodne przeglądanie", (_, _) => new SetFreeLook(true)),
        Say<SetFreeLook>("no free look", "bez swobodnego przeglądania", (_, _) => new SetFreeLook(false)),
        Say<AskToShow>("ask to show", "poproś o pokazanie", (_, _) => new AskToShow()),
        Say<AskToShow>("ask to show no longer", "nie proś już o pokazanie", (_, _) => new AskToShow(false)),
        Say<LetShowOnce>("let {people} show once", "pozwól {people} pokazać raz", (_, a) => new LetShowOnce(Seats(a[0]), true)),
        Say<LetShowOnce>("no showing for {people}", "odmów pokazania {people}", (_, a) => new LetShowOnce(Seats(a[0]), false)),
        Say<HoldScreen>("hold", "wstrzymaj", (_, _) => new HoldScreen(true)),
        Say<HoldScreen>("hold my screen", "wstrzymaj mój ekran", (_, _) => new HoldScreen(true)),
        Say<HoldScreen>("my screen goes on", "wznów mój ekran", (_, _) => new HoldScreen(false))
    ]);

    private static TurnPage? Turned(Scope scope, int by) =>
        scope.Sitting.WithPages(Actor.Of(scope.By), null)?.Pages is { } pages ? new TurnPage(pages.At + by) : null;
}
