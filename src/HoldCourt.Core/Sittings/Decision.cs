using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

/// <summary>Why something was refused. The words stand in the interface's message catalogue under the same name.</summary>
public enum Reason
{
    NotOpen, AlreadyOpen, SittingOver, NotInside, OnlyHost, OnlyBench, HostIsOutOfReach, DoorLocked, Barred, NobodyWaits,
    NobodySeated, NobodyConsents, NoChange, NoSuchSeat, NotAsked, MicrophonesByLeave,
    CameraNotAllowed, RenameNotAllowed, NameEmpty, NameTooLong, NameHidden, NameMarks, WordsTooLong, HostMustHandOver, NotADeputyOrSeated, OutOfReach,
    RoleNotGiven, NothingToTakeBack, ChangedSince, TooMany, NotUnderstood, NotStored, Superseded, SittingFull, NobodyNext, NoticeEmpty, NoHands, NobodyOnFloor,
    NoExceptions, BenchNotExcepted, TakenFromYou, WritingNotAllowed, ChatHidden, ReactionsOff, NoStates, TooManyInFront,
    MessageEmpty, MessageTooLong, TooFast, NotYourMessage, NoSuchMessage, NotInSession, MinutesOutOfRange, EndOutOfRange, TimeOutOfRange, TooLong, TooManyEdits, HostNeedsNoHand,
    ItemWithoutTitle, NoRunSheet, NoItemLeft, NoSuchItem
}

/// <summary>What helps after a refusal.</summary>
public enum Remedy { None, AskHost, AskBench, WaitForLeave, ChooseAnother, Shorten, HandOverFirst, TryAgain, OpenFirst }

/// <summary>A "no" with its reason and remedy, and the words of the bench where there are some.</summary>
public sealed record Refusal(Reason Reason, Remedy Remedy = Remedy.None, string? Words = null);

/// <summary>The answer to a command: facts to record, or a refusal.</summary>
public sealed record Decision
{
    private Decision(ImmutableArray<Fact> facts, Refusal? refusal)
    {
        Facts = facts;
        Refusal = refusal;
    }

    public ImmutableArray<Fact> Facts { get; }
    public Refusal? Refusal { get; }

    [JsonIgnore]
    public bool IsRefused => Refusal is not null;

    /// <summary>It is so already, whoever made it so: a control that is pressed as its meaning changes does not do the opposite.</summary>
    public static Decision AlreadySo { get; } = new([], null);

    public static Decision Of(params ImmutableArray<Fact> facts) => new(facts, null);
    public static Decision Refused(Reason reason, Remedy remedy = Remedy.None, string? words = null) => new([], new Refusal(reason, remedy, words));
    public static implicit operator Decision(Refusal refusal) => new([], refusal);
    public static implicit operator Decision(Fact fact) => Of(fact);
}
