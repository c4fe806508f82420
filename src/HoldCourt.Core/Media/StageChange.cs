using System.Collections.Immutable;

namespace HoldCourt.Core.Media;

/// <summary>What the relay must know of a seat.</summary>
/// <param name="Here">May have a media socket: is in the lobby or inside.</param>
/// <param name="Receives">Hears and sees others.</param>
/// <param name="Heard">What the microphone sends is passed on.</param>
/// <param name="SeenFrom">The viewpoints from which the camera's picture may be seen; none while it is off.</param>
/// <param name="Screen">Null while the seat has none open, or rests.</param>
/// <param name="Recorded">What all may hear and see of the seat goes into the recording.</param>
/// <param name="Transcribed">A machine turns the voice into words.</param>
/// <param name="HasFloor">Has the floor where it is, and is always heard there.</param>
/// <param name="HeardInRooms">The voice goes into all rooms, too.</param>
public sealed record StageRow(
    SeatId Seat, Viewpoint From, bool Here, bool Receives, bool Heard, ImmutableArray<Viewpoint> SeenFrom, ScreenRow? Screen = null,
    bool Recorded = false, bool Transcribed = false, bool HasFloor = false, bool HeardInRooms = false)
{
    public static StageRow Of(Sitting sitting, Seat seat) => InPlace(sitting.AtPlaceOf(seat), seat);

    /// <summary>Whether frames of this kind are passed on, to whomever.</summary>
    public bool Passes(Service service) => service switch
    {
        Service.Voice => Heard,
        Service.Camera => SeenFrom is not [],
        Service.Sound => Screen is { Held: false, Shown: true },
        _ => Screen is { Held: false }
    };

    private static StageRow InPlace(Sitting sitting, Seat seat) => new(
        Seat: seat.Id,
        From: Knowledge.ViewpointOf(sitting, seat),
        Here: seat.Place != Place.Gone && sitting.Phase != Phase.Adjourned,
        Receives: ForwardingPlan.MayReceive(sitting, seat),
        Heard: ForwardingPlan.MayBeHeard(sitting, seat),
        SeenFrom: ForwardingPlan.MayBeSeen(sitting, seat)
            ? [.. Viewpoint.Inside(seat.Room).Where(from => sitting.MayKnow(from, new Matter.Person(seat)))]
            : [],
        Screen: ScreenRow.Of(sitting, seat),
        Recorded: sitting.IsRecorded(seat),
        Transcribed: sitting.IsTranscribed(seat),
        HasFloor: sitting.Turn?.Seat == seat.Id,
        HeardInRooms: sitting.Rooms.Voice == seat.Id);

    public bool Equals(StageRow? other) =>
        other is not null && (Seat, From, Here, Receives, Heard) == (other.Seat, other.From, other.Here, other.Receives, other.Heard)
        && Screen == other.Screen && Recorded == other.Recorded && Transcribed == other.Transcribed
        && HasFloor == other.HasFloor && HeardInRooms == other.HeardInRooms
        && SeenFrom.SequenceEqual(other.SeenFrom);

    public override int GetHashCode() => HashCode.Combine(Seat, From, Here, Receives, Heard, SeenFrom.Length);
}

/// <summary>A screen that somebody has open: unseen, only they themselves get it.</summary>
/// <param name="Held">Not a frame more is passed on.</param>
public sealed record ScreenRow(bool Shown, bool Held)
{
    internal static ScreenRow? Of(Sitting sitting, Seat seat) =>
        sitting.IsRunning && seat.IsSeated && !sitting.Rests(seat) && sitting.Shelf.ScreenOf(seat.Id) is { } screen
            ? new ScreenRow(sitting.Shelf.IsShown(screen), screen.Held)
            : null;
}

/// <summary>
/// What a sitting tells its relay: only what is different now, in values that can cross to another process. The relay has its answers
/// from these alone, and decides nothing itself.
/// </summary>
/// <param name="IsOver">The sitting is adjourned.</param>
/// <param name="Floor">Who has the floor, and is always heard.</param>
/// <param name="Recording">The number of the recording that is being made, paused or not; null without one.</param>
public sealed record StageChange(bool IsOver, SeatId? Floor, ImmutableArray<StageRow> Rows, int? Recording = null)
{
    /// <summary>All of it, for a relay that knows nothing yet.</summary>
    public static StageChange Whole(Sitting sitting) => Of(Sitting.Empty, sitting)
        ?? new StageChange(sitting.Phase == Phase.Adjourned, sitting.Turn?.Seat, [], NumberOf(sitting));

    private static int? NumberOf(Sitting sitting) =>
        sitting.Recorder is { Phase: not RecordingPhase.Stopped, Number: var number } ? number : null;

    /// <summary>Null when the relay need not be told.</summary>
    public static StageChange? Of(Sitting before, Sitting after)
    {
        var touchesAll = before.Phase != after.Phase || before.Orders.SeePeople != after.Orders.SeePeople
            || before.Turn?.Seat != after.Turn?.Seat || !ReferenceEquals(before.Picture, after.Picture)
            || !ReferenceEquals(before.Shelf, after.Shelf) || !ReferenceEquals(before.Rooms, after.Rooms)
            || before.IsRecorded() != after.IsRecorded()
            || before.Captions.ByMachine != after.Captions.ByMachine
            || before.RecordingRules.AsksConsent != after.RecordingRules.AsksConsent;
        var rows = ImmutableArray.CreateBuilder<StageRow>();
        foreach (var seat in touchesAll ? after.Seats : after.Seats.ChangedSince(before.Seats).Select(pair => pair.After))
        {
            var row = StageRow.Of(after, seat);
            if (!before.Seats.TryGet(seat.Id, out var was) || StageRow.Of(before, was) != row) rows.Add(row);
        }
        var isOver = after.Phase == Phase.Adjourned;
        return rows.Count == 0 && before.Turn?.Seat == after.Turn?.Seat && before.Phase == Phase.Adjourned == isOver
            && NumberOf(before) == NumberOf(after)
            ? null
            : new StageChange(isOver, after.Turn?.Seat, rows.DrainToImmutable(), NumberOf(after));
    }
}

/// <summary>What the relay knows of a sitting.</summary>
public sealed record StageState
{
    private readonly ImmutableDictionary<SeatId, StageRow> _rows = ImmutableDictionary<SeatId, StageRow>.Empty;

    /// <summary>Nothing was told yet.</summary>
    public static StageState Unknown { get; } = new();

    public bool IsKnown { get; private init; }
    public bool IsOver { get; private init; }
    public SeatId? Floor { get; private init; }

    public StageState With(StageChange change) => new(
        _rows.SetItems(change.Rows.Select(row => KeyValuePair.Create(row.Seat, row))), change.IsOver, change.Floor);

    private StageState() { }

    private StageState(ImmutableDictionary<SeatId, StageRow> rows, bool isOver, SeatId? floor) =>
        (_rows, IsKnown, IsOver, Floor) = (rows, true, isOver, floor);

    /// <summary>May have a media socket. While nothing is known nobody is sent away.</summary>
    public bool IsHere(SeatId seat) => !IsKnown || (!IsOver && _rows.GetValueOrDefault(seat) is { Here: true });

    /// <summary>What is known of a seat; null when it is nobody's, or the sitting is over.</summary>
    public StageRow? Of(SeatId seat) => IsOver ? null : _rows.GetValueOrDefault(seat);

    /// <summary>The place where somebody is; null for the hall.</summary>
    public int? RoomOf(SeatId seat) => _rows.GetValueOrDefault(seat)?.From.Room;

    /// <summary>Whose voice goes into all rooms.</summary>
    public bool IsHeardInRooms(SeatId sender) => Of(sender) is { Heard: true, HeardInRooms: true };

    /// <summary>Who has the floor where they are.</summary>
    public bool HasFloor(SeatId seat) => _rows.GetValueOrDefault(seat) is { HasFloor: true };

    public bool MayReceive(SeatId viewer) => !IsOver && _rows.GetValueOrDefault(viewer) is { Receives: true };

    public bool MayBeHeard(SeatId sender) => Of(sender)?.Passes(Service.Voice) == true;

    /// <summary>Somebody at all may see the picture.</summary>
    public bool MayBeSeen(SeatId sender) => Of(sender)?.Passes(Service.Camera) == true;

    /// <summary>What the screen sends is passed on.</summary>
    public bool ScreenGoesOn(SeatId sender) => Of(sender)?.Passes(Service.Screen) == true;

    /// <summary>What the screen sounds like is heard by all but its owner, while all see it go on.</summary>
    public bool ScreenSounds(SeatId sender) => Of(sender)?.Passes(Service.Sound) == true;

    /// <summary>A shown screen is seen by all in its place who see anybody; one that is not, by whoever has it open.</summary>
    public bool MayGetScreen(SeatId sender, SeatId viewer) =>
        MayReceive(viewer) && _rows.GetValueOrDefault(sender)?.Screen is { } screen
        && (sender == viewer || (screen.Shown && RoomOf(sender) == RoomOf(viewer)));

    public bool IsVoiceRecorded(SeatId sender) => MayBeHeard(sender) && _rows[sender].Recorded;

    /// <summary>A recording shows what an attendee sees: whom the orders hide from them is in none.</summary>
    public bool IsCameraRecorded(SeatId sender) =>
        !IsOver && _rows.GetValueOrDefault(sender) is { Recorded: true } row && row.SeenFrom.Contains(Viewer.Attendee);

    /// <summary>Also while it is held: what stands still before all does so in the recording.</summary>
    public bool IsScreenRecorded(SeatId sender) => !IsOver && _rows.GetValueOrDefault(sender) is { Recorded: true, Screen.Shown: true };

    /// <summary>What a recording gets of a seat's frames.</summary>
    public bool IsRecorded(SeatId sender, Service service) => service switch
    {
        Service.Voice => IsVoiceRecorded(sender),
        Service.Camera => IsCameraRecorded(sender),
        _ => IsScreenRecorded(sender)
    };

    /// <summary>Those of whom anything is recorded.</summary>
    public IEnumerable<SeatId> Recorded => _rows.Values.Where(row => row.Recorded).Select(row => row.Seat);

    public bool MayBeSeen(SeatId sender, SeatId viewer) =>
        sender != viewer && MayReceive(viewer) && MayBeSeen(sender) && _rows[sender].SeenFrom.Contains(_rows[viewer].From);
}
