using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Admission;

/// <summary>What the command line understands of this topic.</summary>
internal static class AdmissionPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<AdmitSure>("admit sure", "wpuść pewnych", (_, _) => new AdmitSure()),
        Say<Admit>("admit {comers}", "wpuść {comers}", (_, a) => new Admit(Seats(a[0]))),
        Say<Admit>("admit {comers} as {role}", "wpuść {comers} jako {role}", (_, a) => new Admit(Seats(a[0]), (Role)a[1])),
        Say<Decline>("decline {comers}", "odpraw {comers}", (_, a) => new Decline(Seats(a[0]))),
        Say<Decline>("decline {comers} : {text}", "odpraw {comers} : {text}", (_, a) => new Decline(Seats(a[0]), (string)a[1])),
        Say<SendToLobby>("lobby {people}", "poczekalnia {people}", (_, a) => new SendToLobby(Seats(a[0]))),
        Say<SendToLobby>("send {people} to the lobby", "odeślij {people} do poczekalni", (_, a) => new SendToLobby(Seats(a[0]))),
        Say<SetDoor>("door {door}", "drzwi {door}", (_, a) => new SetDoor((DoorMode)a[0])),
        Say<SetDoor>("door listed by name", "drzwi wpisani po imieniu", (_, _) => new SetDoor(DoorMode.Listed, ByName: true)),
        Say<LockDoor>("lock", "zamknij drzwi", (_, _) => new LockDoor("", false)),
        Say<LockDoor>("lock late people wait", "zamknij drzwi spóźnieni czekają", (_, _) => new LockDoor("", true)),
        Say<LockDoor>("lock : {text}", "zamknij drzwi : {text}", (_, a) => new LockDoor((string)a[0], false)),
        Say<UnlockDoor>("unlock", "otwórz zamek", (_, _) => new UnlockDoor()),
        Say<SendNotice>("notice {text}", "ogłoszenie {text}", (_, a) => new SendNotice((string)a[0])),
        Say<Begin>("open the session", "otwórz sesję", (_, _) => new Begin()),
        Say<Leave>("leave", "wychodzę", (_, _) => new Leave()),
        Say<Leave>("leave and hand over to {person}", "wychodzę i prowadzi {person}", (_, a) => new Leave((SeatId)a[0])),
        Say<Adjourn>("adjourn", "zamknij obrady", (_, _) => new Adjourn())
    ],
    [
        Choose("door",
            ("open", "otwarte", DoorMode.Open),
            ("listed", "wpisani", DoorMode.Listed),
            ("attended", "pod opieką", DoorMode.Attended))
    ]);
}
