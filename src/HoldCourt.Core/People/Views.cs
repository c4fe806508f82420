using System.Collections.Immutable;

namespace HoldCourt.Core.People;

public enum MicrophoneState { Open, Closed, ByLeave }

/// <summary>One person as they may be known from a viewpoint. What may not be known is null or left out.</summary>
/// <param name="Recordable">Would be in a recording.</param>
/// <param name="Room">The number of the room they are in; null in the hall.</param>
/// <param name="Listens">Of the bench: is in that room only to listen.</param>
public sealed record SeatRow(
    SeatId Id, string Name, Role Role, Place Place, Instant Since, MicrophoneState Microphone, bool CameraOn, bool Connected,
    Instant? Hand, State? State, bool ByPhone, bool Recordable, int? Room, bool Listens, BenchNote? Note)
{
    /// <summary>Null when it may not be known that the person is here.</summary>
    public static SeatRow? Of(Sitting sitting, Seat seat, Viewpoint from)
    {
        if (!sitting.MayKnow(from, new Matter.Person(seat))) return null;
        return new SeatRow(
            Id: seat.Id,
            Name: seat.Name,
            Role: seat.Role,
            Place: seat.Place,
            Since: seat.Since,
            Microphone: MicrophoneOf(sitting, seat),
            CameraOn: seat.CameraOn,
            Connected: seat.Connected,
            Hand: seat.HandSince,
            State: seat.State,
            ByPhone: seat.ByPhone,
            Recordable: sitting.Agrees(seat),
            Room: seat.Room,
            Listens: seat.Listens,
            Note: sitting.MayKnow(from, Matter.Books) ? BenchNote.Of(sitting, seat) : null);
    }

    internal static MicrophoneState MicrophoneOf(Sitting sitting, Seat seat) =>
        seat.MicrophoneOpen ? MicrophoneState.Open
        : seat.IsSeated && sitting.Forbids(Actor.Of(seat.Id), Capability.Speak)?.Reason == Reason.MicrophonesByLeave
            ? MicrophoneState.ByLeave
        : MicrophoneState.Closed;
}

/// <summary>What only the bench knows of a person.</summary>
/// <param name="Line">The line of the docket this person is thought to be, with its slot.</param>
/// <param name="Talked">Milliseconds this person's voice has been heard.</param>
/// <param name="HadFloor">Milliseconds of turns that are over.</param>
/// <param name="LooksLike">Somebody on the bench whose name is shown like this one's.</param>
/// <param name="Voted">In the poll that is open; null for whoever may not, and while none is.</param>
public sealed record BenchNote(
    Recognition Recognition, DocketLine? Line, Exit? Exit, bool Asked, bool HasLeave, bool Consents, Instant? DroppedAt,
    ImmutableArray<Order> Given, ImmutableArray<Order> Taken, long Talked, long HadFloor, string? LooksLike, Instant? WantsToShow,
    bool ShowsOnce, RecordingAnswer? RecordingAnswer, bool? Voted)
{
    internal static BenchNote Of(Sitting sitting, Seat seat) => new(
        Recognition: seat.Recognition,
        Line: sitting.Docket[seat.Recognition.Line],
        Exit: seat.Exit,
        Asked: seat.Asked,
        HasLeave: seat.HasLeave,
        Consents: seat.Consents,
        DroppedAt: seat.DroppedAt,
        Given: seat.Given,
        Taken: seat.Taken,
        Talked: (long)seat.TalkTime.TotalMilliseconds,
        HadFloor: (long)seat.FloorTime.TotalMilliseconds,
        LooksLike: seat.LooksLike,
        WantsToShow: sitting.StillWantsToShow(seat),
        ShowsOnce: seat.ShowsOnce,
        RecordingAnswer: seat.RecordingAnswer,
        Voted: sitting.Polls.Open is { } poll && poll.Voters.Contains(seat.Id.Number) ? poll.Votes.ContainsKey(seat.Id.Number) : null);
}

/// <summary>One's own part of the state; nobody else gets it.</summary>
/// <param name="V">The version of the view that it belongs to.</param>
/// <param name="Captioner">Set while one captions.</param>
/// <param name="Ballot">Set while a poll is open.</param>
/// <param name="Room">The room one is in; null in the hall.</param>
/// <param name="OwnRoom">Set while one belongs to a room and is not in it.</param>
/// <param name="Exhibits">Those one brought, shown or not, and those of which one turns the pages.</param>
/// <param name="Handouts">Files that one gave, or that are for oneself.</param>
public sealed record MeRow(
    long V, SeatId Seat, string Name, Role Role, Viewer Viewer, Place Place, Exit? Exit, string? Words, Instant Since,
    MicrophoneState Microphone, bool CameraOn, bool Asked, bool Consents, Instant? Hand, State? State, Instant? WantsToShow,
    RecordingAnswer? RecordingAnswer, CaptionerRow? Captioner, BallotRow? Ballot, int? Room, OwnRoomRow? OwnRoom,
    ImmutableArray<Capability> May,
    ImmutableArray<ExhibitRow> Exhibits, ImmutableArray<HandoutRow> Handouts)
{
    public static MeRow Of(Sitting sitting, Seat seat) => Here(sitting.AtPlaceOf(seat), seat);

    private static MeRow Here(Sitting sitting, Seat seat) => new(
        V: sitting.Sequence,
        Seat: seat.Id,
        Name: seat.Name,
        Role: seat.Role,
        Viewer: Knowledge.ViewpointOf(sitting, seat).Viewer,
        Place: seat.Place,
        Exit: seat.Exit,
        Words: seat.Words,
        Since: seat.Since,
        Microphone: SeatRow.MicrophoneOf(sitting, seat),
        CameraOn: seat.CameraOn,
        Asked: seat.Asked,
        Consents: seat.Consents,
        Hand: seat.HandSince,
        State: seat.State,
        WantsToShow: sitting.StillWantsToShow(seat),
        RecordingAnswer: seat.RecordingAnswer,
        Captioner: CaptionerRow.Of(sitting, seat),
        Ballot: BallotRow.Of(sitting, seat),
        Room: seat.Room,
        OwnRoom: OwnRoomRow.Of(sitting, seat),
        May: [.. Powers.Of(sitting, seat.Id)],
        Exhibits: ExhibitRow.OwnOf(sitting, seat),
        Handouts: HandoutRow.AllOf(sitting, seat));
}
