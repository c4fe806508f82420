using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>The kinds of people who see a sitting differently.</summary>
public enum Viewer
{
    /// <summary>Host and deputies.</summary>
    Bench,
    Presenter,
    Attendee,

    /// <summary>In the lobby, or gone.</summary>
    Outside
}

public enum MicrophoneState { Open, Closed, ByLeave }

/// <summary>One person as the viewer's kind may know them. What the kind may not know is null or left out.</summary>
public sealed record SeatRow(
    SeatId Id, string Name, Role Role, Place Place, Instant Since, MicrophoneState Microphone, bool CameraOn, bool Connected,
    Instant? Hand, State? State, bool ByPhone, BenchNote? Note);

/// <summary>What only the bench knows of a person.</summary>
/// <param name="Line">The line of the docket this person is thought to be, with its slot.</param>
/// <param name="Talked">Milliseconds this person's voice has been heard.</param>
/// <param name="HadFloor">Milliseconds of turns that are over.</param>
/// <param name="LooksLike">Somebody on the bench whose name is shown like this one's.</param>
public sealed record BenchNote(
    Recognition Recognition, DocketLine? Line, Exit? Exit, bool Asked, bool HasLeave, bool Consents, Instant? DroppedAt,
    ImmutableArray<Order> Given, ImmutableArray<Order> Taken, long Talked, long HadFloor, string? LooksLike);

/// <summary>The session's state in one record.</summary>
/// <param name="HasSlots">People come for visits one at a time.</param>
/// <param name="NextUp">Whom "Next" would call.</param>
/// <param name="Notice">The newest notice to those who wait.</param>
/// <param name="Floor">Null for those outside.</param>
/// <param name="Queue">The raised hands in the order of the floor; for the bench alone.</param>
/// <param name="Takeable">The entries that may still be taken back, newest first; for the bench alone.</param>
/// <param name="Item">The item of the run sheet that is on.</param>
/// <param name="RunSheet">For the bench alone.</param>
/// <param name="Succession">Seconds after which the first deputy leads when the host's connection is lost; for the bench alone.</param>
public sealed record SittingRow(
    string Title, Phase Phase, Instant OpenedAt, Instant? AdjournedAt, SeatId? Host, string? HostName, OrderSheet Orders,
    DoorMode? Door, bool DoorByName, DoorLock? Lock, bool Locked, int Inside, int Waiting, TakeableRow? TakeBack, bool HasSlots, SeatId? NextUp, Notice? Notice,
    FloorSheet? Floor, TurnRow? Turn, ImmutableArray<SeatId>? Queue, ImmutableArray<long>? Takeable,
    Instant? EndsAt, Recess? Recess, PictureSheet? Picture, MessageRow? PutUp, ItemRow? Item, RunSheet? RunSheet, int? Succession);

/// <summary>What all may know of the item that is on.</summary>
/// <param name="Number">From 1.</param>
public sealed record ItemRow(string Title, int Number, int Of, int? Minutes, Instant Since);

/// <summary>A message as somebody who may read it sees it.</summary>
/// <param name="Name">Of the sender; null where people may not know who else is here.</param>
/// <param name="ToName">Set when it was written to one person.</param>
public sealed record MessageRow(
    int Number, Instant At, SeatId From, string? Name, Role Role, Recipient To, string? ToName, string Text, Question Question, bool Edited, Deletion Deleted);

/// <summary>Who has the floor, since when, and for how many seconds at most.</summary>
public sealed record TurnRow(SeatId Seat, string Name, Instant Since, int? Seconds);

/// <summary>What "take back" would undo.</summary>
public sealed record TakeableRow(long Sequence, LedgerRow Row);

/// <summary>What an entry is about, for those who look for it.</summary>
public enum Topic { Door, People, Microphones, Cameras, Orders, Floor, Chat, Picture, RunSheet, Time, Connections }

/// <summary>An entry for a sentence: what happened, by whom, to how many, and the names in it. Person keys stay out.</summary>
public sealed record LedgerRow(
    long Sequence, Instant At, string? By, string What, int Count, ImmutableArray<string> Names, string? Detail, LedgerRow? Undone, Topic Topic);

/// <summary>One's own part of the state; nobody else gets it.</summary>
public sealed record MeRow(
    SeatId Seat, string Name, Role Role, Viewer Viewer, Place Place, Exit? Exit, string? Words, Instant Since, MicrophoneState Microphone,
    bool CameraOn, bool Asked, bool Consents, Instant? Hand, State? State, ImmutableArray<Capability> May);

/// <summary>A whole view of one kind at a version.</summary>
public sealed record WholeView(long V, Viewer Viewer, SittingRow Sitting, ImmutableArray<SeatRow> Seats, ImmutableArray<LedgerRow> Ledger);

/// <summary>Rows of which only microphone and camera changed, and what both are now. So a mute of everyone is a list of numbers.</summary>
public sealed record SwitchedRows(MicrophoneState Microphone, bool CameraOn, ImmutableArray<SeatId> Seats)
{
    public SeatRow Apply(SeatRow row) => row with { Microphone = Microphone, CameraOn = CameraOn };
}

/// <summary>The way from one version of a view to the next: records to set, rows to put or to switch, keys to drop.</summary>
/// <param name="From">The version the browser must hold.</param>
/// <param name="V">The version reached.</param>
/// <param name="Set">Null when the single record is as before.</param>
public sealed record ViewChange(
    long From, long V, SittingRow? Set, ImmutableArray<SeatRow> Put, ImmutableArray<SwitchedRows> Switched, ImmutableArray<SeatId> Drop, ImmutableArray<LedgerRow> Ledger)
{
    public bool IsEmpty => Set is null && Put is [] && Switched is [] && Drop is [] && Ledger is [];
}
