using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Handouts;

/// <summary>What the command line understands of this topic.</summary>
internal static class HandoutPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<TakeFile>("take {handout}", "weź {handout}", (_, a) => new TakeFile((int)a[0])),
        Say<RefuseFile>("no thanks to {handout}", "dziękuję za {handout}", (_, a) => new RefuseFile((int)a[0])),
        Say<EndHandout>("hand out no longer {handout}", "nie rozdawaj już {handout}", (_, a) => new EndHandout((int)a[0])),
        Say<KeepHandout>("keep file {handout}", "zachowaj plik {handout}", (_, a) => new KeepHandout((int)a[0])),
        Say<HandOnFile>("hand out file {handout} to everyone", "rozdaj plik {handout} wszystkim", (_, a) => new HandOnFile((int)a[0])),
        Say<KeepExhibit>("keep {exhibit}", "zachowaj {exhibit}", (_, a) => new KeepExhibit((int)a[0])),
        Say<SetHandoutRules>("files up to {number} megabytes", "pliki do {number} megabajtów",
            (s, a) => new SetHandoutRules(s.Sitting.Handouts.Rules with { LargestMegabytes = (int)a[0] })),
        Say<SetHandoutRules>("files of all kinds", "pliki wszystkich rodzajów",
            (s, _) => new SetHandoutRules(s.Sitting.Handouts.Rules with { Documents = true, Pictures = true, Others = true })),
        Say<SetHandoutRules>("documents and pictures only", "tylko dokumenty i obrazy",
            (s, _) => new SetHandoutRules(s.Sitting.Handouts.Rules with { Documents = true, Pictures = true, Others = false }))
    ]);
}
