using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

public enum Phase
{
    /// <summary>Nothing has happened yet; only opening is possible.</summary>
    New,

    /// <summary>The bench and presenters are inside early; the others wait in quiet.</summary>
    Prepare,
    InSession,

    /// <summary>Everybody stays; what they send rests.</summary>
    Recess,
    Adjourned
}

/// <summary>
/// The whole state of one run of a session: a value, made only by <see cref="SittingRules.Evolve(Sitting, Entry)"/> from entries.
/// </summary>
public sealed record Sitting
{
    public static Sitting Empty { get; } = new();

    public string Title { get; init; } = "";
    public Phase Phase { get; init; }
    public Instant OpenedAt { get; init; }
    public Instant? AdjournedAt { get; init; }

    /// <summary>The account that opened the session; takes the host's role on first entry.</summary>
    public PersonKey Owner { get; init; }

    /// <summary>The seat that leads, once the owner has entered.</summary>
    public SeatId? Host { get; init; }

    public Door Door { get; init; } = new(DoorMode.Attended);
    public StandingOrders Orders { get; init; } = StandingOrders.Usual;

    /// <summary>What groups of the docket may or may not do whatever the orders say, at most one for each group and order.</summary>
    public ImmutableArray<GroupRule> GroupRules { get; init; } = [];

    public FloorRule Floor { get; init; } = FloorRule.Usual;

    /// <summary>Who has the floor; null while nobody has.</summary>
    public Turn? Turn { get; init; }

    public ChatLog Chat { get; init; } = ChatLog.Empty;

    /// <summary>The message that is shown to all beside the picture.</summary>
    public int? PutUp { get; init; }

    public PictureSetting Picture { get; init; } = PictureSetting.Free;
    public Shelf Shelf { get; init; } = Shelf.Empty;
    public HandoutList Handouts { get; init; } = HandoutList.Empty;
    public RunSheet RunSheet { get; init; } = RunSheet.None;
    public RecordingRules RecordingRules { get; init; } = RecordingRules.Usual;

    /// <summary>The newest recording; null before the first.</summary>
    public Recorder? Recorder { get; init; }

    /// <summary>Those who record on their own machines.</summary>
    public ImmutableArray<SeatId> OwnRecorders { get; init; } = [];

    public CaptionDesk Captions { get; init; } = CaptionDesk.Empty;
    public PollBook Polls { get; init; } = PollBook.Empty;
    public RoomBook Rooms { get; init; } = RoomBook.Empty;

    /// <summary>
    /// The number of the room from which it is looked at, by <see cref="RoomPlaces.At"/>; null for the hall, as in every state that is
    /// kept.
    /// </summary>
    [JsonIgnore]
    public int? Here { get; init; }

    /// <summary>Set exactly while <see cref="Here"/> is.</summary>
    [JsonIgnore]
    internal HallAside? Aside { get; init; }

    /// <summary>Set exactly while <see cref="Phase"/> is <see cref="Phase.Recess"/>.</summary>
    public Recess? Recess { get; init; }

    /// <summary>When it is planned to end; null when that is open.</summary>
    public Instant? EndsAt { get; init; }

    /// <summary>Seconds that the host's connection may be lost before the first deputy leads; null when nobody takes over.</summary>
    public int? Succession { get; init; } = UsualSuccession;

    public const int UsualSuccession = 120;

    public DocketList Docket { get; init; } = DocketList.Empty;

    /// <summary>Visits that have begun, in that order; none unless the docket has slots.</summary>
    public ImmutableList<Visit> Visits { get; init; } = [];

    /// <summary>Messages of the bench to those who wait, newest last, at most <see cref="Notice.MostKept"/>.</summary>
    public ImmutableList<Notice> Notices { get; init; } = [];

    /// <summary>People may be inside and be heard.</summary>
    public bool IsRunning => Phase is Phase.Prepare or Phase.InSession or Phase.Recess;

    public Roll Seats { get; init; } = Roll.Empty;

    /// <summary>Each person has at most one seat.</summary>
    public ImmutableDictionary<PersonKey, SeatId> SeatOf { get; init; } = ImmutableDictionary<PersonKey, SeatId>.Empty;

    /// <summary>Sequence of the last entry; 0 before the first.</summary>
    public long Sequence { get; init; }

    /// <summary>Entries that may still be taken back, newest first, at most <see cref="Taking.Depth"/>.</summary>
    public ImmutableList<Entry> Takeable { get; init; } = [];

    public Seat? Find(PersonKey person) => SeatOf.TryGetValue(person, out var id) ? Seats[id] : null;

    /// <summary>The seats among <paramref name="ids"/> that exist and satisfy <paramref name="condition"/>, each once.</summary>
    internal ImmutableArray<SeatId> Those(ImmutableArray<SeatId> ids, Func<Seat, bool> condition) =>
        [.. (ids.IsDefault ? [] : ids).Distinct().Where(id => Seats.TryGet(id, out var seat) && condition(seat))];

    /// <summary>May open the microphone now.</summary>
    internal bool MaySpeak(Seat seat) => this.Forbids(Actor.Of(seat.Id), Capability.Speak) is null;

    /// <summary>May turn the camera on now.</summary>
    internal bool MayShow(Seat seat) => this.Forbids(Actor.Of(seat.Id), Capability.ShowCamera) is null;

    internal Sitting With(SeatId id, Func<Seat, Seat> change) => this with { Seats = Seats.With(change(Seats[id])) };

    internal Sitting WithEach(IEnumerable<SeatId> ids, Func<Seat, Seat> change) =>
        Seats.WithEach(ids, change) is var changed && ReferenceEquals(changed, Seats) ? this : this with { Seats = changed };
}
