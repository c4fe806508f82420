using System.Collections.Immutable;

namespace HoldCourt.Core.Ledger;

/// <summary>Undoes an entry of the bench: the one named, or the newest that can be. The undoing is an entry itself.</summary>
public sealed record TakeBack(long? Of = null) : SeatCommand;

/// <param name="Of">Sequence of the entry undone.</param>
/// <param name="Opposite">What undoes it, for those to whom it still applies.</param>
public sealed record TakenBack(long Of, Fact Opposite) : Fact;

public static class LedgerRules
{
    /// <summary>How many entries back the bench can go.</summary>
    public const int TakeableDepth = 50;

    internal static Decision Decide(Sitting sitting, TakeBack back, Actor by)
    {
        if (sitting.Forbids(by, Capability.TakeBack) is { } refusal) return refusal;
        var entry = back.Of is { } sequence ? sitting.Takeable.Find(taken => taken.Sequence == sequence) : Newest(sitting);
        if (entry is null) return Decision.Refused(Reason.NothingToTakeBack);
        if (entry.Fact is HandedOver && sitting.Forbids(by, Capability.HandOver) is { } hostOnly) return hostOnly;
        return Opposite(sitting, entry.Fact) is { } opposite
            ? new TakenBack(entry.Sequence, opposite)
            : Decision.Refused(Reason.ChangedSince);
    }

    /// <summary>The newest entry of which something is left to take back; null when there is none.</summary>
    public static Entry? Newest(Sitting sitting) => sitting.IsRunning ? sitting.Takeable.Find(entry => Opposite(sitting, entry.Fact) is not null) : null;

    /// <summary>What would undo the parts of a fact, the last first; what is changed since is left as it is.</summary>
    internal static ImmutableArray<Fact> OppositesOf(Sitting sitting, ImmutableArray<Fact> parts)
    {
        var back = ImmutableArray.CreateBuilder<Fact>();
        foreach (var part in parts.Reverse())
        {
            if (Opposite(sitting, part) is not { } opposite) continue;
            back.Add(opposite);
            sitting = SittingRules.Apply(sitting, opposite, sitting.OpenedAt);
        }
        return back.ToImmutable();
    }

    /// <summary>Keeps the list of what can be taken back: acts of the bench on others or on the session, not on oneself.</summary>
    internal static Sitting Remember(Sitting after, Sitting before, Entry entry)
    {
        if (entry.Fact is TakenBack back) return after with { Takeable = after.Takeable.RemoveAll(taken => taken.Sequence == back.Of) };
        if (entry.By.Seat is not { } by || !before.Seats.TryGet(by, out var seat) || !Powers.ActsAreTakenBack(seat) || !CanBeTakenBack(entry.Fact, by)) return after;
        var takeable = after.Takeable.Insert(0, entry);
        return after with { Takeable = takeable.Count > TakeableDepth ? takeable.RemoveAt(TakeableDepth) : takeable };
    }

    /// <summary>What would undo the fact now, for those to whom it still applies; null when nothing is left of it.</summary>
    private static Fact? Opposite(Sitting sitting, Fact fact) => fact switch
    {
        Admitted admitted => Some(sitting.Those(admitted.Seats, seat => seat is { IsSeated: true, Role: not Role.Host }), seats => new SentToLobby(seats)),
        Declined declined => Undeclined(sitting, declined),
        VisitsTurned turned => VisitRules.Opposite(sitting, turned),
        SentToLobby sent => Some(sitting.Those(sent.Seats, seat => seat.Place == Place.Lobby), seats => new Reseated(seats)),
        Removed { MayReturn: true } removed => Readmit(sitting, removed),
        DoorSet set => sitting.Door == set.To ? new DoorSet(set.To, set.From) : null,
        Muted muted => MicrophoneRules.Opposite(sitting, muted),
        MicrophonesOpened opened => MicrophoneRules.Opposite(sitting, opened),
        CamerasTurned turned => CameraRules.Opposite(sitting, turned),
        RolesGiven given => PeopleRules.Opposite(sitting, given),
        HandedOver over => PeopleRules.Opposite(sitting, over),
        Renamed renamed => PeopleRules.Opposite(sitting, renamed),
        OrderSet set => OrderRules.Opposite(sitting, set),
        OrdersSet set => OrderRules.Opposite(sitting, set),
        PresetTaken taken => OppositesOf(sitting, taken.Parts) is { IsEmpty: false } parts ? taken with { Parts = parts } : null,
        Excepted excepted => OrderRules.Opposite(sitting, excepted),
        StatesCleared cleared => SignRules.Opposite(sitting, cleared),
        MessageDeleted deleted => ChatRules.Opposite(sitting, deleted),
        QuestionMarked marked => ChatRules.Opposite(sitting, marked),
        MessagePutUp put => ChatRules.Opposite(sitting, put),
        PictureSet set => PictureRules.Opposite(sitting, set),
        RecessCalled or RecessEnded or EndSet or SuccessionSet => TimingRules.Opposite(sitting, fact),
        RunSheetSet set => RunSheetRules.Opposite(sitting, set),
        ItemTurned turned => RunSheetRules.Opposite(sitting, turned),
        FloorTurned turned => FloorRules.Opposite(sitting, turned),
        HandsLowered lowered => FloorRules.Opposite(sitting, lowered),
        FloorSet set => sitting.Floor == set.To ? new FloorSet(set.To, set.From) : null,
        _ => null
    };

    private static bool CanBeTakenBack(Fact fact, SeatId by) => fact switch
    {
        Admitted or Declined or SentToLobby or VisitsTurned or DoorSet or RolesGiven or HandedOver or OrderSet or PresetTaken or Excepted or FloorSet or PictureSet
            or RecessCalled or RecessEnded or EndSet or SuccessionSet or RunSheetSet or ItemTurned or MessagePutUp or QuestionMarked or StatesCleared => true,
        MessageDeleted deleted => deleted.By == Deletion.ByBench,
        FloorTurned turned => turned.From?.Seat != by || turned.To is not null,
        HandsLowered lowered => !IsSelf(lowered.Seats, by),
        Removed removed => removed.MayReturn,
        Renamed renamed => renamed.Seat != by,
        Muted muted => !IsSelf(muted.Seats, by) || muted.Leaves is not [],
        MicrophonesOpened opened => !IsSelf(opened.Seats, by),
        CamerasTurned turned => !IsSelf(turned.Seats, by),
        _ => false
    };

    private static bool IsSelf(ImmutableArray<SeatId> seats, SeatId by) => seats is [var only] && only == by;

    private static Fact? Some(ImmutableArray<SeatId> seats, Func<ImmutableArray<SeatId>, Fact> fact) => seats is [] ? null : fact(seats);

    private static SentToLobby? Undeclined(Sitting sitting, Declined declined)
    {
        var roles = declined.Roles is { IsDefault: false } noted ? noted : [.. declined.Seats.Select(_ => Role.Attendee)];
        var back = declined.Seats.Zip(roles).Where(pair => sitting.Seats[pair.First].Exit == Exit.Declined).ToList();
        return back is [] ? null : new SentToLobby([.. back.Select(pair => pair.First)], [.. back.Select(pair => pair.Second)]);
    }

    private static Admitted? Readmit(Sitting sitting, Removed removed)
    {
        var back = removed.Seats.Zip(removed.Roles).Where(pair => sitting.Seats[pair.First].Exit == Exit.Removed).ToList();
        return back is [] ? null : new Admitted([.. back.Select(pair => pair.First)], [.. back.Select(pair => pair.Second)]);
    }
}
