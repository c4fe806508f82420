using System.Collections.Immutable;
using System.Text.Json;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Docket;
using HoldCourt.Core.Floor;
using HoldCourt.Core.Ledger;
using HoldCourt.Core.Orders;
using HoldCourt.Core.People;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Core.Views;

/// <summary>Takes from an entry what a sentence about it needs. The words stand in the message catalogue under <see cref="LedgerRow.What"/>.</summary>
public static class Sentences
{
    /// <summary>How many names a row carries; the count tells the rest.</summary>
    private const int MostNames = 3;

    public static LedgerRow Of(Sitting sitting, Entry entry)
    {
        var fact = entry.Fact;
        var seats = SeatsOf(fact);
        return new LedgerRow(
            entry.Sequence, entry.At, entry.By.Seat is { } by ? NameOf(sitting, by) : null, WhatOf(fact, entry.By), seats.Length,
            [.. seats.Take(MostNames).Select(seat => NameOf(sitting, seat))], DetailOf(fact),
            fact is TakenBack back ? Of(sitting, entry with { Fact = back.Opposite }) : null);
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
        DoorSet { To.Lock: not null } => "doorLocked",
        DoorSet { From.Lock: not null } => "doorUnlocked",
        _ => JsonNamingPolicy.CamelCase.ConvertName(fact.GetType().Name)
    };

    private static ImmutableArray<SeatId> SeatsOf(Fact fact) => fact switch
    {
        Announced announced => [announced.Seat],
        Entered entered => [entered.Seat],
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
        FloorReturned returned => returned.To is { } again ? [again.Seat] : returned.From is { } former ? [former.Seat] : [],
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
        _ => null
    };

    private static string NameOf(Sitting sitting, SeatId id) => sitting.Seats.TryGet(id, out var seat) ? seat.Name : "";
}
