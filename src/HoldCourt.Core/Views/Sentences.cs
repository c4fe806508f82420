using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;

namespace HoldCourt.Core.Views;

/// <summary>Takes from an entry what a sentence about it needs. The words stand in the message catalogue under <see cref="LedgerRow.What"/>.</summary>
public static class Sentences
{
    /// <summary>How many names a row carries; the count tells the rest.</summary>
    private const int MostNames = 3;

    /// <summary>The rows of those entries that are told: what people write stands in the chat, and who was heard is a count.</summary>
    public static ImmutableArray<LedgerRow> Of(Sitting sitting, IEnumerable<Entry> entries) => [.. entries.Where(entry => IsTold(entry.Fact)).Select(entry => Of(sitting, entry))];

    public static bool IsTold(Fact fact) => fact is TakenBack back ? IsTold(back.Opposite) : fact is not (Talked or Reconnected { First: true } or Written or MessageEdited or MessageDeleted { By: Deletion.BySender });

    public static LedgerRow Of(Sitting sitting, Entry entry)
    {
        var fact = entry.Fact;
        var seats = SeatsOf(fact);
        return new LedgerRow(
            entry.Sequence, entry.At, entry.By.Seat is { } by ? NameOf(sitting, by) : null, WhatOf(fact, entry.By), seats.Length,
            [.. seats.Take(MostNames).Select(seat => NameOf(sitting, seat))], DetailOf(fact),
            fact is TakenBack back ? Of(sitting, entry with { Fact = back.Opposite }) : null,
            TopicOf(fact));
    }

    private static string WhatOf(Fact fact, Actor by) => fact switch
    {
        Muted { Seats: [var only] } when by.Seat == only => "closedMicrophone",
        MicrophonesOpened { Seats: [var only] } when by.Seat == only => "openedMicrophone",
        CamerasTurned { Seats: [var only] } turned when by.Seat == only => turned.On ? "cameraOn" : "cameraOff",
        CamerasTurned turned => turned.On ? "camerasTurnedOn" : "camerasTurnedOff",
        UnmuteAnswered answered => answered.Agreed ? "agreedToUnmute" : "refusedToUnmute",
        Removed removed => removed.MayReturn ? "removed" : "removedForGood",
        VisitsTurned { Called: [] } => "visitClosed",
        FloorTurned { To: not null } => "floorGiven",
        FloorTurned turned => by.IsHouse ? "turnOver" : by.Seat == turned.From?.Seat ? "floorYielded" : "floorTaken",
        HandsLowered { Seats: [var only] } when by.Seat == only => "handLowered",
        HandedOver when by.IsHouse => "succeeded",
        Excepted { Changes: [{ To: true }, ..] } => "exceptionGiven",
        Excepted { Changes: [{ To: false }, ..] } => "exceptionTaken",
        Excepted => "exceptionEnded",
        StateSet set => set.To is null ? "stateOff" : "stateSet",
        MessagePutUp put => put.To is null ? "messageTakenDown" : "messagePutUp",
        QuestionMarked marked => marked.To switch { Question.Asked => "questionMarked", Question.Answered => "questionAnswered", _ => "questionUnmarked" },
        PictureSet set => set.From.Front.SequenceEqual(set.To.Front)
            ? set.To.Arrangement is null ? "arrangementFreed" : "arrangementSet"
            : set.To.Front is [] ? "frontFreed" : "frontSet",
        EndSet set => set.To is null ? "endOpened" : "endSet",
        SuccessionSet set => set.To is null ? "successionOff" : "successionSet",
        ItemTurned turned => turned.To is null ? "itemEnded" : "itemTurned",
        DoorSet { To.Lock: not null } => "doorLocked",
        DoorSet { From.Lock: not null } => "doorUnlocked",
        _ => JsonNamingPolicy.CamelCase.ConvertName(fact.GetType().Name)
    };

    /// <summary>The seats that a fact is about.</summary>
    public static ImmutableArray<SeatId> SeatsOf(Fact fact) => fact switch
    {
        Announced announced => [announced.Seat],
        Entered entered => [entered.Seat],
        Proved proved => [proved.Seat],
        Admitted admitted => admitted.Seats,
        Declined declined => declined.Seats,
        SentToLobby sent => sent.Seats,
        Reseated reseated => reseated.Seats,
        Left left => [left.Seat],
        Dropped dropped => dropped.Seats,
        Reconnected back => [back.Seat],
        Muted muted => muted.Seats is [] ? muted.Leaves : muted.Seats,
        MicrophonesOpened opened => opened.Seats is [] ? opened.Leaves : opened.Seats,
        AskedToUnmute asked => asked.Seats,
        UnmuteAnswered answered => [answered.Seat],
        CamerasTurned turned => turned.Seats,
        VisitsTurned turned => turned.Called is [] ? turned.Closed : turned.Called,
        VisitsReturned returned => returned.Back is [] ? returned.ToLobby : returned.Back,
        Removed removed => removed.Seats,
        RolesGiven given => [.. given.Changes.Select(change => change.Seat)],
        HandedOver over => [over.To],
        Renamed renamed => [renamed.Seat],
        HandRaised raised => [raised.Seat],
        HandsLowered lowered => lowered.Seats,
        HandsBack back => back.Seats,
        FloorTurned turned => turned.To is { } to ? [to] : turned.From is { } from ? [from.Seat] : [],
        Excepted excepted => [.. excepted.Changes.Select(change => change.Seat)],
        StateSet set => [set.Seat],
        StatesCleared cleared => cleared.Seats,
        StatesBack back => back.Seats,
        Talked talked => talked.Seats,
        MessageDeleted deleted => [deleted.Of],
        MessageRestored restored => [restored.Of],
        QuestionMarked marked => [marked.Of],
        PictureSet set => set.To.Front is [] ? set.From.Front : set.To.Front,
        FloorReturned returned => returned.To is { } again ? [again.Seat] : returned.From is { } former ? [former.Seat] : [],
        TakenBack back => SeatsOf(back.Opposite),
        PresetTaken taken => [.. taken.Parts.SelectMany(part => SeatsOf(part)).Distinct()],
        _ => []
    };

    private static string? DetailOf(Fact fact) => fact switch
    {
        Opened opened => opened.Title,
        Declined declined => declined.Words,
        NoticeSent sent => sent.Words,
        Expected expected => expected.Line.Name,
        DoorSet { To.Lock: { } locked } => locked.Words,
        DoorSet set => CoreJson.NameOf(set.To.Mode),
        RolesGiven { Changes: [var first, ..] } => CoreJson.NameOf(first.To),
        Renamed renamed => renamed.From,
        OrderSet set => JsonNamingPolicy.CamelCase.ConvertName($"{set.Order}{set.To}"),
        Excepted excepted => CoreJson.NameOf(excepted.Order),
        PresetTaken taken => taken.Name,
        StateSet { To: { } state } => CoreJson.NameOf(state),
        PictureSet { To.Arrangement: { } arrangement } => CoreJson.NameOf(arrangement),
        RecessCalled called => called.Words,
        EndSet { To: { } end } => end.Milliseconds.ToString(CultureInfo.InvariantCulture),
        SuccessionSet { To: { } seconds } => seconds.ToString(CultureInfo.InvariantCulture),
        ItemTurned turned => turned.Title,
        ItemReturned returned => returned.Title,
        RunSheetSet set => set.To.Length.ToString(CultureInfo.InvariantCulture),
        _ => null
    };

    /// <summary>What a fact is about.</summary>
    public static Topic TopicOf(Fact fact) => fact switch
    {
        TakenBack back => TopicOf(back.Opposite),
        Muted or MicrophonesOpened or AskedToUnmute or UnmuteAnswered => Topic.Microphones,
        CamerasTurned => Topic.Cameras,
        Removed or RolesGiven or HandedOver or Renamed => Topic.People,
        OrderSet or OrdersSet or PresetTaken or Excepted => Topic.Orders,
        HandRaised or HandsLowered or HandsBack or FloorTurned or FloorReturned or FloorSet or Talked or StateSet or StatesCleared or StatesBack => Topic.Floor,
        Written or MessageEdited or MessageDeleted or MessageRestored or QuestionMarked or MessagePutUp => Topic.Chat,
        PictureSet => Topic.Picture,
        RunSheetSet or ItemTurned or ItemReturned => Topic.RunSheet,
        Opened or Begun or Adjourned or RecessCalled or RecessEnded or EndSet or SuccessionSet => Topic.Time,
        Dropped or Reconnected => Topic.Connections,
        _ => Topic.Door
    };

    private static string NameOf(Sitting sitting, SeatId id) => sitting.Seats.TryGet(id, out var seat) ? seat.Name : "";
}
