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
        Say<HoldScreen>("hold my screen", "wstrzymaj mój ekran", (_, _) => new HoldScreen(true)),
        Say<HoldScreen>("my screen goes on", "wznów mój ekran", (_, _) => new HoldScreen(false))
    ]);
}
