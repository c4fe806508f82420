using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.People;

/// <summary>What the command line understands of this topic.</summary>
internal static class PeoplePhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<MuteAll>("mute all", "wycisz wszystkich", (_, _) => new MuteAll(true)),
        Say<MuteAll>("mute everyone", "wycisz każdego", (_, _) => new MuteAll(true)),
        Say<MuteAll>("mute all but presenters", "wycisz wszystkich oprócz prezenterów", (_, _) => new MuteAll()),
        Say<CloseMicrophone>("mute me", "wycisz mnie", (_, _) => new CloseMicrophone()),
        Say<Mute>("mute {people}", "wycisz {people}", (_, a) => new Mute(Seats(a[0]))),
        Say<OpenMicrophone>("unmute me", "włącz mój mikrofon", (_, _) => new OpenMicrophone()),
        Say<Unmute>("unmute {people}", "przywróć głos {people}", (_, a) => new Unmute(Seats(a[0]))),
        Say<AskToUnmute>("ask {people} to unmute", "poproś {people} o mikrofon", (_, a) => new AskToUnmute(Seats(a[0]))),
        Say<AnswerUnmute>("open my microphone as asked", "zgoda na mikrofon", (_, _) => new AnswerUnmute(true)),
        Say<AnswerUnmute>("keep my microphone closed", "mikrofon zostaje wyłączony", (_, _) => new AnswerUnmute(false)),
        Say<TurnCamera>("camera on", "włącz kamerę", (_, _) => new TurnCamera(true)),
        Say<TurnCamera>("camera off", "wyłącz kamerę", (_, _) => new TurnCamera(false)),
        Say<CamerasOff>("cameras off {people}", "wyłącz kamery {people}", (_, a) => new CamerasOff(Seats(a[0]))),
        Say<Remove>("remove {people}", "usuń {people}", (_, a) => new Remove(Seats(a[0]), true)),
        Say<Remove>("remove {people} for good", "usuń {people} na stałe", (_, a) => new Remove(Seats(a[0]), false)),
        Say<GiveRole>("make {people} {role}", "mianuj {people} {role}", (_, a) => new GiveRole(Seats(a[0]), (Role)a[1])),
        Say<HandOver>("hand over to {person}", "przekaż prowadzenie {person}", (_, a) => new HandOver((SeatId)a[0])),
        Say<Rename>("rename {person} to {text}", "zmień imię {person} na {text}", (_, a) => new Rename((SeatId)a[0], (string)a[1]))
    ],
    [
        Choose("role",
            ("attendee", "uczestnikiem", Role.Attendee),
            ("attendees", "uczestników", Role.Attendee),
            ("presenter", "prezenterem", Role.Presenter),
            ("presenters", "prezenterów", Role.Presenter),
            ("deputy", "zastępcą", Role.Deputy),
            ("deputies", "zastępców", Role.Deputy))
    ]);
}
