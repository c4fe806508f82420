using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Docket;

/// <summary>What the command line understands of this topic.</summary>
internal static class DocketPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<Next>("next", "następna osoba", (_, _) => new Next()),
        Say<Expect>(
            "expect {text}", "oczekuj {text}",
            (_, a) => DocketText.Read((string)a[0]) is [{ Flaw: null } line]
                ? new Expect(new DocketLine(line.Name, line.Role, line.Email, line.Group))
                : null)
    ]);
}
