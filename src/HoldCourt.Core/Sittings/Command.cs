using System.Text.Json.Serialization;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Chat;
using HoldCourt.Core.Docket;
using HoldCourt.Core.Floor;
using HoldCourt.Core.Ledger;
using HoldCourt.Core.Orders;
using HoldCourt.Core.People;
using HoldCourt.Core.Picture;
using HoldCourt.Core.RunSheets;
using HoldCourt.Core.Signs;
using HoldCourt.Core.Timing;

namespace HoldCourt.Core.Sittings;

/// <summary>A wish. Each topic's folder holds its own.</summary>
public abstract record Command;

/// <summary>A wish that a person in the sitting may send.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "do")]
[JsonDerivedType(typeof(Admit), "admit")]
[JsonDerivedType(typeof(AdmitSure), "admitSure")]
[JsonDerivedType(typeof(Decline), "decline")]
[JsonDerivedType(typeof(SendToLobby), "sendToLobby")]
[JsonDerivedType(typeof(SetDoor), "setDoor")]
[JsonDerivedType(typeof(LockDoor), "lockDoor")]
[JsonDerivedType(typeof(UnlockDoor), "unlockDoor")]
[JsonDerivedType(typeof(Leave), "leave")]
[JsonDerivedType(typeof(Adjourn), "adjourn")]
[JsonDerivedType(typeof(Begin), "begin")]
[JsonDerivedType(typeof(SendNotice), "sendNotice")]
[JsonDerivedType(typeof(Expect), "expect")]
[JsonDerivedType(typeof(Next), "next")]
[JsonDerivedType(typeof(OpenMicrophone), "openMicrophone")]
[JsonDerivedType(typeof(CloseMicrophone), "closeMicrophone")]
[JsonDerivedType(typeof(TurnCamera), "turnCamera")]
[JsonDerivedType(typeof(Mute), "mute")]
[JsonDerivedType(typeof(MuteAll), "muteAll")]
[JsonDerivedType(typeof(Unmute), "unmute")]
[JsonDerivedType(typeof(AskToUnmute), "askToUnmute")]
[JsonDerivedType(typeof(AnswerUnmute), "answerUnmute")]
[JsonDerivedType(typeof(CamerasOff), "camerasOff")]
[JsonDerivedType(typeof(Remove), "remove")]
[JsonDerivedType(typeof(GiveRole), "giveRole")]
[JsonDerivedType(typeof(HandOver), "handOver")]
[JsonDerivedType(typeof(Rename), "rename")]
[JsonDerivedType(typeof(SetOrder), "setOrder")]
[JsonDerivedType(typeof(TakePreset), "takePreset")]
[JsonDerivedType(typeof(Except), "except")]
[JsonDerivedType(typeof(RaiseHand), "raiseHand")]
[JsonDerivedType(typeof(LowerHand), "lowerHand")]
[JsonDerivedType(typeof(LowerHands), "lowerHands")]
[JsonDerivedType(typeof(GiveFloor), "giveFloor")]
[JsonDerivedType(typeof(TakeFloor), "takeFloor")]
[JsonDerivedType(typeof(YieldFloor), "yieldFloor")]
[JsonDerivedType(typeof(SetFloor), "setFloor")]
[JsonDerivedType(typeof(SetState), "setState")]
[JsonDerivedType(typeof(ClearStates), "clearStates")]
[JsonDerivedType(typeof(React), "react")]
[JsonDerivedType(typeof(Write), "write")]
[JsonDerivedType(typeof(EditMessage), "editMessage")]
[JsonDerivedType(typeof(DeleteMessage), "deleteMessage")]
[JsonDerivedType(typeof(MarkQuestion), "markQuestion")]
[JsonDerivedType(typeof(PutUp), "putUp")]
[JsonDerivedType(typeof(SetArrangement), "setArrangement")]
[JsonDerivedType(typeof(PutInFront), "putInFront")]
[JsonDerivedType(typeof(CallRecess), "callRecess")]
[JsonDerivedType(typeof(Resume), "resume")]
[JsonDerivedType(typeof(SetEnd), "setEnd")]
[JsonDerivedType(typeof(Extend), "extend")]
[JsonDerivedType(typeof(SetSuccession), "setSuccession")]
[JsonDerivedType(typeof(SetRunSheet), "setRunSheet")]
[JsonDerivedType(typeof(NextItem), "nextItem")]
[JsonDerivedType(typeof(TurnToItem), "turnToItem")]
[JsonDerivedType(typeof(EndItem), "endItem")]
[JsonDerivedType(typeof(TakeBack), "takeBack")]
public abstract record SeatCommand : Command;

/// <summary>A wish that only the server itself has: somebody is at the door, a connection dropped. Never read from a browser.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "house")]
[JsonDerivedType(typeof(Open), "open")]
[JsonDerivedType(typeof(Announce), "announce")]
[JsonDerivedType(typeof(Drop), "drop")]
[JsonDerivedType(typeof(Reconnect), "reconnect")]
[JsonDerivedType(typeof(EndTurn), "endTurn")]
[JsonDerivedType(typeof(EndRecess), "endRecess")]
[JsonDerivedType(typeof(Succeed), "succeed")]
[JsonDerivedType(typeof(CountTalk), "countTalk")]
public abstract record HouseCommand : Command;
