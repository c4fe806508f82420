using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Signs;

/// <summary>What the command line understands of this topic.</summary>
internal static class SignPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<SetState>("i am {state}", "ja {state}", (_, a) => new SetState((State)a[0])),
        Say<SetState>("state {state}", "stan {state}", (_, a) => new SetState((State)a[0])),
        Say<SetState>("no state", "bez stanu", (_, _) => new SetState(null)),
        Say<ClearStates>("clear states", "zdejmij stany", (_, _) => new ClearStates()),
        Say<React>("react {sign}", "reakcja {sign}", (_, a) => new React((Sign)a[0]))
    ],
    [
        Choose("state",
            ("following", "nadążam", State.Following),
            ("lost you", "gubię się", State.LostYou),
            ("cannot hear", "nie słyszę", State.CannotHear),
            ("done", "gotowe", State.Done),
            ("back soon", "zaraz wracam", State.BackSoon)),
        Choose("sign",
            ("agreed", "zgoda", Sign.Agreed),
            ("thanks", "dziękuję", Sign.Thanks),
            ("applause", "brawo", Sign.Applause),
            ("laughing", "śmiech", Sign.Laughing))
    ]);
}
