using System.Collections.Immutable;

namespace HoldCourt.Core.Sittings;

/// <summary>The whole live rule book: two pure functions that hand each topic its own.</summary>
public static class SittingRules
{
    /// <summary>What follows from a wish: facts, or a refusal with reason and remedy. Changes nothing.</summary>
    public static Decision Decide(Sitting sitting, Command command, Actor by, Instant now)
    {
        if (OutOfPlace(sitting, command, by) is { } refusal) return refusal;
        return command switch
        {
            Open open => AdmissionRules.Decide(sitting, open),
            Announce announce => AdmissionRules.Decide(sitting, announce, now),
            Drop drop => AdmissionRules.Decide(sitting, drop),
            Reconnect reconnect => AdmissionRules.Decide(sitting, reconnect),
            Admit admit => AdmissionRules.Decide(sitting, admit, by),
            AdmitSure => AdmissionRules.DecideSure(sitting, by),
            Decline decline => AdmissionRules.Decide(sitting, decline, by),
            SendToLobby send => AdmissionRules.Decide(sitting, send, by),
            SetDoor set => AdmissionRules.Decide(sitting, set, by),
            LockDoor locks => AdmissionRules.Decide(sitting, locks, by),
            UnlockDoor => AdmissionRules.DecideUnlock(sitting, by),
            Leave leave => AdmissionRules.Decide(sitting, leave, by),
            Adjourn => AdmissionRules.DecideAdjourn(sitting, by),
            Begin => AdmissionRules.DecideBegin(sitting, by),
            SendNotice notice => AdmissionRules.Decide(sitting, notice, by),
            Expect expect => DocketRules.Decide(sitting, expect, by),
            Next => VisitRules.DecideNext(sitting, by),
            OpenMicrophone => MicrophoneRules.DecideOpen(sitting, by),
            CloseMicrophone => MicrophoneRules.DecideClose(sitting, by),
            Mute mute => MicrophoneRules.Decide(sitting, mute, by),
            MuteAll all => MicrophoneRules.Decide(sitting, all, by),
            Unmute unmute => MicrophoneRules.Decide(sitting, unmute, by),
            AskToUnmute ask => MicrophoneRules.Decide(sitting, ask, by),
            AnswerUnmute answer => MicrophoneRules.Decide(sitting, answer, by),
            TurnCamera turn => CameraRules.Decide(sitting, turn, by),
            CamerasOff off => CameraRules.Decide(sitting, off, by),
            Remove remove => PeopleRules.Decide(sitting, remove, by),
            GiveRole give => PeopleRules.Decide(sitting, give, by),
            HandOver over => PeopleRules.Decide(sitting, over, by),
            Rename rename => PeopleRules.Decide(sitting, rename, by),
            SetOrder set => OrderRules.Decide(sitting, set, by),
            TakePreset take => OrderRules.Decide(sitting, take, by),
            Except except => OrderRules.Decide(sitting, except, by),
            RaiseHand => FloorRules.DecideRaise(sitting, by),
            LowerHand => FloorRules.DecideLower(sitting, by),
            LowerHands lower => FloorRules.Decide(sitting, lower, by),
            GiveFloor give => FloorRules.Decide(sitting, give, by, now),
            TakeFloor => FloorRules.DecideTake(sitting, by, now),
            YieldFloor => FloorRules.DecideYield(sitting, by, now),
            EndTurn => FloorRules.DecideEnd(sitting, now),
            SetFloor set => FloorRules.Decide(sitting, set, by),
            CountTalk count => FloorRules.Decide(sitting, count),
            SetState set => SignRules.Decide(sitting, set, by),
            ClearStates => SignRules.DecideClear(sitting, by),
            React react => SignRules.Decide(sitting, react, by),
            Write write => ChatRules.Decide(sitting, write, by, now),
            EditMessage edit => ChatRules.Decide(sitting, edit, by),
            DeleteMessage delete => ChatRules.Decide(sitting, delete, by),
            MarkQuestion mark => ChatRules.Decide(sitting, mark, by),
            PutUp put => ChatRules.Decide(sitting, put, by),
            SetArrangement set => PictureRules.Decide(sitting, set, by),
            PutInFront put => PictureRules.Decide(sitting, put, by),
            CallRecess call => TimingRules.Decide(sitting, call, by, now),
            Resume => TimingRules.DecideResume(sitting, by),
            EndRecess => TimingRules.DecideEndRecess(sitting, now),
            SetEnd set => TimingRules.Decide(sitting, set, by, now),
            Extend extend => TimingRules.Decide(sitting, extend, by, now),
            SetSuccession set => TimingRules.Decide(sitting, set, by),
            Succeed => TimingRules.DecideSucceed(sitting, now),
            SetRunSheet set => RunSheetRules.Decide(sitting, set, by),
            NextItem => RunSheetRules.DecideNext(sitting, by, now),
            TurnToItem turn => RunSheetRules.Decide(sitting, turn, by, now),
            EndItem => RunSheetRules.DecideEnd(sitting, by, now),
            TakeBack back => LedgerRules.Decide(sitting, back, by),
            _ => Decision.Refused(Reason.NotUnderstood)
        };
    }

    /// <summary>The state after an entry. Never fails for an entry that <see cref="Decide"/> gave for that state.</summary>
    public static Sitting Evolve(Sitting sitting, Entry entry)
    {
        var after = Likeness.Renew(sitting, DocketRules.Renew(sitting, PictureRules.Follow(FloorRules.Follow(Apply(sitting, entry.Fact, entry.At)))));
        return LedgerRules.Remember(VisitRules.Follow(sitting, after, entry.At), sitting, entry) with { Sequence = entry.Sequence };
    }

    /// <summary>Gives facts their places in the ledger, and the state after them.</summary>
    public static (ImmutableArray<Entry> Entries, Sitting After) Record(Sitting sitting, ImmutableArray<Fact> facts, Actor by, Instant now, string? wish = null)
    {
        var entries = ImmutableArray.CreateBuilder<Entry>(facts.Length);
        foreach (var fact in facts)
        {
            var entry = new Entry(sitting.Sequence + 1, now, by, fact, wish);
            entries.Add(entry);
            sitting = Evolve(sitting, entry);
        }
        return (entries.MoveToImmutable(), sitting);
    }

    internal static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        TakenBack back => Apply(sitting, back.Opposite, at),
        Opened or Announced or Entered or Proved or Admitted or Declined or SentToLobby or Reseated or DoorSet or Left or Dropped or Reconnected
            or Adjourned or Begun or NoticeSent => AdmissionRules.Apply(sitting, fact, at),
        Expected expected => DocketRules.Apply(sitting, expected),
        VisitsTurned or VisitsReturned => VisitRules.Apply(sitting, fact, at),
        Muted or MicrophonesOpened or AskedToUnmute or UnmuteAnswered => MicrophoneRules.Apply(sitting, fact),
        CamerasTurned turned => CameraRules.Apply(sitting, turned),
        Removed or RolesGiven or HandedOver or Renamed => PeopleRules.Apply(sitting, fact, at),
        OrderSet or OrdersSet or Excepted => OrderRules.Apply(sitting, fact),
        PresetTaken taken => ApplyAll(sitting, taken.Parts, at),
        StateSet or StatesCleared or StatesBack => SignRules.Apply(sitting, fact),
        Written or MessageEdited or MessageDeleted or MessageRestored or QuestionMarked or MessagePutUp => ChatRules.Apply(sitting, fact, at),
        PictureSet set => sitting with { Picture = set.To },
        RecessCalled or RecessEnded or EndSet or SuccessionSet => TimingRules.Apply(sitting, fact),
        RunSheetSet or ItemTurned or ItemReturned => RunSheetRules.Apply(sitting, fact, at),
        HandRaised or HandsLowered or HandsBack or FloorTurned or FloorReturned or FloorSet or Talked => FloorRules.Apply(sitting, fact, at),
        _ => sitting
    };

    internal static Sitting ApplyAll(Sitting sitting, ImmutableArray<Fact> parts, Instant at) => parts.Aggregate(sitting, (state, part) => Apply(state, part, at));

    private static Refusal? OutOfPlace(Sitting sitting, Command command, Actor by)
    {
        if (command is HouseCommand && !by.IsHouse) return new Refusal(Reason.NotUnderstood);
        if (sitting.Phase == Phase.Adjourned) return new Refusal(Reason.SittingOver);
        if (sitting.Phase == Phase.New && command is not Open) return new Refusal(Reason.NotOpen);
        if (by.Seat is { } id && !sitting.Seats.TryGet(id, out _)) return new Refusal(Reason.NoSuchSeat);
        return Bounds.Refuses(command);
    }
}

/// <summary>A command about several seats at once.</summary>
public interface ISeats
{
    ImmutableArray<SeatId> Seats { get; }
}
