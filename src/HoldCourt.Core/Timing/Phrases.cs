using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Timing;

/// <summary>What the command line understands of this topic.</summary>
internal static class TimingPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<CallRecess>("recess", "przerwa", (_, _) => new CallRecess("")),
        Say<CallRecess>("recess of {length}", "przerwa na {length}", (_, a) => new CallRecess("", Minutes(a[0]))),
        Say<CallRecess>(
            "recess of {length} : {text}", "przerwa na {length} : {text}",
            (_, a) => new CallRecess((string)a[1], Minutes(a[0]))),
        Say<Resume>("resume", "koniec przerwy", (_, _) => new Resume()),
        Say<SetEnd>("end in {length}", "koniec za {length}", (s, a) => new SetEnd(s.Now + (TimeSpan)a[0])),
        Say<SetEnd>("end open", "koniec otwarty", (_, _) => new SetEnd(null)),
        Say<Extend>("extend by {length}", "przedłuż o {length}", (_, a) => new Extend(Minutes(a[0]))),
        Say<SetSuccession>("a deputy leads after {length}", "zastępca prowadzi po {length}", (_, a) => new SetSuccession(Seconds(a[0]))),
        Say<SetSuccession>("nobody takes over", "nikt nie przejmuje", (_, _) => new SetSuccession(null))
    ]);
}
