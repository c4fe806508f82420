using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Captions;

/// <summary>What the command line understands of this topic.</summary>
internal static class CaptionPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<NameCaptioner>("{person} captions", "{person} pisze napisy", (_, a) => new NameCaptioner((SeatId)a[0])),
        Say<NameCaptioner>("{person} captions no more", "{person} nie pisze już napisów", (_, a) => new NameCaptioner((SeatId)a[0], false)),
        Say<TakeCaptionTurn>("i caption now", "teraz ja piszę napisy", (_, _) => new TakeCaptionTurn()),
        Say<WriteCaption>("caption : {text}", "napis : {text}", (_, a) => new WriteCaption((string)a[0])),
        Say<CorrectCaption>("caption {number} should say {text}", "napis {number} ma brzmieć {text}",
            (_, a) => new CorrectCaption((int)a[0], (string)a[1])),
        Say<CaptionByMachine>("captions by machine", "napisy automatyczne", (_, _) => new CaptionByMachine(true)),
        Say<CaptionByMachine>("no captions by machine", "bez napisów automatycznych", (_, _) => new CaptionByMachine(false))
    ], []);
}
