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

/// <summary>Something that happened. Each topic's folder holds its own.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "what")]
[JsonDerivedType(typeof(Opened), "opened")]
[JsonDerivedType(typeof(Announced), "announced")]
[JsonDerivedType(typeof(Entered), "entered")]
[JsonDerivedType(typeof(Admitted), "admitted")]
[JsonDerivedType(typeof(Declined), "declined")]
[JsonDerivedType(typeof(SentToLobby), "sentToLobby")]
[JsonDerivedType(typeof(Reseated), "reseated")]
[JsonDerivedType(typeof(DoorSet), "doorSet")]
[JsonDerivedType(typeof(Left), "left")]
[JsonDerivedType(typeof(Dropped), "dropped")]
[JsonDerivedType(typeof(Reconnected), "reconnected")]
[JsonDerivedType(typeof(Adjourned), "adjourned")]
[JsonDerivedType(typeof(Begun), "begun")]
[JsonDerivedType(typeof(NoticeSent), "noticeSent")]
[JsonDerivedType(typeof(Expected), "expected")]
[JsonDerivedType(typeof(VisitsTurned), "visitsTurned")]
[JsonDerivedType(typeof(VisitsReturned), "visitsReturned")]
[JsonDerivedType(typeof(Muted), "muted")]
[JsonDerivedType(typeof(MicrophonesOpened), "microphonesOpened")]
[JsonDerivedType(typeof(AskedToUnmute), "askedToUnmute")]
[JsonDerivedType(typeof(UnmuteAnswered), "unmuteAnswered")]
[JsonDerivedType(typeof(CamerasTurned), "camerasTurned")]
[JsonDerivedType(typeof(Removed), "removed")]
[JsonDerivedType(typeof(RolesGiven), "rolesGiven")]
[JsonDerivedType(typeof(HandedOver), "handedOver")]
[JsonDerivedType(typeof(Renamed), "renamed")]
[JsonDerivedType(typeof(OrderSet), "orderSet")]
[JsonDerivedType(typeof(HandRaised), "handRaised")]
[JsonDerivedType(typeof(HandsLowered), "handsLowered")]
[JsonDerivedType(typeof(HandsBack), "handsBack")]
[JsonDerivedType(typeof(FloorTurned), "floorTurned")]
[JsonDerivedType(typeof(FloorReturned), "floorReturned")]
[JsonDerivedType(typeof(FloorSet), "floorSet")]
[JsonDerivedType(typeof(OrdersSet), "ordersSet")]
[JsonDerivedType(typeof(PresetTaken), "presetTaken")]
[JsonDerivedType(typeof(Excepted), "excepted")]
[JsonDerivedType(typeof(Talked), "talked")]
[JsonDerivedType(typeof(StateSet), "stateSet")]
[JsonDerivedType(typeof(StatesCleared), "statesCleared")]
[JsonDerivedType(typeof(StatesBack), "statesBack")]
[JsonDerivedType(typeof(Written), "written")]
[JsonDerivedType(typeof(MessageEdited), "messageEdited")]
[JsonDerivedType(typeof(MessageDeleted), "messageDeleted")]
[JsonDerivedType(typeof(MessageRestored), "messageRestored")]
[JsonDerivedType(typeof(QuestionMarked), "questionMarked")]
[JsonDerivedType(typeof(MessagePutUp), "messagePutUp")]
[JsonDerivedType(typeof(PictureSet), "pictureSet")]
[JsonDerivedType(typeof(RecessCalled), "recessCalled")]
[JsonDerivedType(typeof(RecessEnded), "recessEnded")]
[JsonDerivedType(typeof(EndSet), "endSet")]
[JsonDerivedType(typeof(SuccessionSet), "successionSet")]
[JsonDerivedType(typeof(RunSheetSet), "runSheetSet")]
[JsonDerivedType(typeof(ItemTurned), "itemTurned")]
[JsonDerivedType(typeof(ItemReturned), "itemReturned")]
[JsonDerivedType(typeof(TakenBack), "takenBack")]
public abstract record Fact;

/// <summary>A fact with its place in the ledger: when, and by whom.</summary>
/// <param name="Sequence">1, 2, 3 … without gaps in each sitting.</param>
public sealed record Entry(long Sequence, Instant At, Actor By, Fact Fact);
