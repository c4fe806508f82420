using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Rooms;

/// <summary>What becomes of people who come in while rooms are open.</summary>
public enum LateRule
{
    /// <summary>Into the smallest room.</summary>
    SmallestRoom,

    /// <summary>To those of their group; where there are none, into the smallest room.</summary>
    OwnGroup,

    /// <summary>They stay in the hall until the bench moves them.</summary>
    Wait
}

/// <summary>A room as it is wished.</summary>
/// <param name="Name">Empty for one that is called by its number.</param>
/// <param name="Task">What is to be done in it; null where the task is that of all.</param>
/// <param name="Leads">Names of those who lead it, as the command line takes them.</param>
/// <param name="People">Names of those who are to be in it, chosen by hand.</param>
/// <param name="Shows">Title of the document that goes with the task; null where it is that of all.</param>
public sealed record RoomSpec(
    string Name, string? Task, ImmutableArray<string> Leads, ImmutableArray<string> People, string? Shows = null)
{
    public static RoomSpec Called(string name) => new(name, null, [], []);

    public bool Equals(RoomSpec? other) => other is not null && (Name, Task, Shows) == (other.Name, other.Task, other.Shows)
        && Leads.SequenceEqual(other.Leads) && People.SequenceEqual(other.People);

    public override int GetHashCode() => HashCode.Combine(Name, Task, Leads.Length, People.Length);
}

/// <summary>People by their names, who are to be together, or apart.</summary>
public sealed record NameSet(ImmutableArray<string> Names)
{
    public bool Equals(NameSet? other) => other is not null && Names.SequenceEqual(other.Names);
    public override int GetHashCode() => Names.Length;
}

/// <summary>How rooms are wished: all of a plan but who is there.</summary>
/// <param name="Spread">How the others are spread over them.</param>
/// <param name="NotAgain">Those who met in earlier rounds are kept apart where that can be.</param>
/// <param name="Together">Each a set of people who are to be in one room.</param>
/// <param name="Apart">Each a set of people no two of whom are to be in one room.</param>
/// <param name="Task">What is to be done in each room that has no task of its own.</param>
/// <param name="Minutes">1 to <see cref="MostMinutes"/>; null leaves them open until they are closed.</param>
/// <param name="MayGoBack">People may go back to the hall by themselves.</param>
/// <param name="MayListen">The bench may listen in a room without speaking; it is always visible there.</param>
/// <param name="KeepsChat">The bench reads afterwards what was written in rooms; that is said there.</param>
/// <param name="Seed">The same wishes and people with the same seed give the same plan.</param>
/// <param name="Shows">
/// Title of a document on the hall's shelf, or among the session's papers, of which each room gets a copy of its own; null for none.
/// </param>
public sealed record RoomForm(
    ImmutableArray<RoomSpec> Rooms, Spread Spread, bool NotAgain, ImmutableArray<NameSet> Together, ImmutableArray<NameSet> Apart,
    string? Task, int? Minutes, LateRule Late, bool MayGoBack, bool MayListen, bool KeepsChat, int Seed,
    string? Shows = null)
{
    public const int LongestName = 60, LongestTask = 2_000, MostMinutes = 600, MostSets = 500;

    public static RoomForm Of(params ImmutableArray<string> names) => new(
        [.. names.Select(RoomSpec.Called)], Spread.Mixed, NotAgain: true, [], [], null, null, LateRule.SmallestRoom, MayGoBack: true,
        MayListen: false, KeepsChat: false, Seed: 1);

    internal RoomForm Clean() => this with
    {
        Rooms =
        [
            .. Rooms.Select(room => new RoomSpec(
                Bounds.Clean(room.Name, lines: false), Bounds.Meaningful(room.Task), CleanNames(room.Leads), CleanNames(room.People),
                CleanTitle(room.Shows)))
        ],
        Together = CleanSets(Together),
        Apart = CleanSets(Apart),
        Task = Bounds.Meaningful(Task),
        Shows = CleanTitle(Shows)
    };

    /// <summary>Why a form cannot be kept in a plan; null when it can.</summary>
    public static Refusal? Refuses(RoomForm? form) => form?.Clean().Refuses();

    /// <summary>The form as it may be kept; null for none.</summary>
    public static RoomForm? Clean(RoomForm? form) => form?.Clean();

    /// <summary>What is wrong with it, once it is clean; null when nothing is.</summary>
    internal Refusal? Refuses()
    {
        if (Rooms is []) return new Refusal(Reason.NoRoomsPlanned);
        if (Rooms.Length > RoomWishes.MostRooms) return new Refusal(Reason.TooManyRooms);
        if (Rooms.Any(room => room.Name.Length > LongestName)) return new Refusal(Reason.RoomNameTooLong, Remedy.Shorten);
        if (Rooms.Where(room => room.Name.Length > 0).GroupBy(room => room.Name, StringComparer.OrdinalIgnoreCase)
            .FirstOrDefault(same => same.Count() > 1) is { } twice) return new Refusal(Reason.RoomNameTwice, Words: twice.Key);
        if (Rooms.Select(room => room.Task).Append(Task).Any(task => task?.Length > LongestTask))
            return new Refusal(Reason.RoomTaskTooLong, Remedy.Shorten);
        if (Documents.Any(title => title.Length > LongestTitle)) return new Refusal(Reason.TooLong, Remedy.Shorten);
        if (Minutes is < 1 or > MostMinutes) return new Refusal(Reason.RoomMinutesOutOfRange);
        return Together.Length > MostSets || Apart.Length > MostSets ? new Refusal(Reason.TooMany) : null;
    }

    /// <summary>Of a document; of a paper it may have the ending of a file's name.</summary>
    private const int LongestTitle = 120;

    /// <summary>What each room shows; null for nothing.</summary>
    internal string? ShownIn(int room) => Rooms[room].Shows ?? Shows;

    /// <summary>The titles of what any room shows.</summary>
    [JsonIgnore]
    public IEnumerable<string> Documents => Enumerable.Range(0, Rooms.Length).Select(ShownIn).OfType<string>()
        .Distinct(StringComparer.OrdinalIgnoreCase);

    private static string? CleanTitle(string? title) => Bounds.Clean(title, lines: false) is { Length: > 0 } clean ? clean : null;

    private static ImmutableArray<string> CleanNames(ImmutableArray<string> names) =>
        [.. names.Select(name => Bounds.Clean(name, lines: false)).Where(name => name.Length > 0)
            .Distinct(StringComparer.OrdinalIgnoreCase)];

    private static ImmutableArray<NameSet> CleanSets(ImmutableArray<NameSet> sets) =>
        [.. sets.Select(set => new NameSet(CleanNames(set.Names))).Where(set => set.Names.Length > 1)];

    public bool Equals(RoomForm? other) => other is not null && Rooms.SequenceEqual(other.Rooms)
        && (Spread, NotAgain, Task, Minutes, Late, Shows)
            == (other.Spread, other.NotAgain, other.Task, other.Minutes, other.Late, other.Shows)
        && (MayGoBack, MayListen, KeepsChat, Seed) == (other.MayGoBack, other.MayListen, other.KeepsChat, other.Seed)
        && Together.SequenceEqual(other.Together) && Apart.SequenceEqual(other.Apart);

    public override int GetHashCode() => HashCode.Combine(Rooms.Length, Spread, Task, Minutes, Seed);
}

/// <summary>Wishes of a plan that could not all be kept.</summary>
public sealed record RoomClash(ClashKind Kind, ImmutableArray<SeatId> People)
{
    public bool Equals(RoomClash? other) => other is not null && Kind == other.Kind && People.SequenceEqual(other.People);
    public override int GetHashCode() => HashCode.Combine(Kind, People.Length);
}

/// <summary>A plan that nobody but the bench sees.</summary>
/// <param name="Number">Rises with each change, so that nobody changes a plan that they have not seen.</param>
/// <param name="RoomOf">For the number of each seat that is planned, which room of the form, from 0.</param>
/// <param name="ByHand">
/// Those who were put somewhere by hand while it was planned, and stay there when it is planned anew; <see cref="Out"/> for whoever stays
/// in the hall.
/// </param>
/// <param name="Leads">Numbers of the seats that lead each room.</param>
/// <param name="Repeated">Pairs who meet again.</param>
/// <param name="Least">Fewer cannot be.</param>
/// <param name="Unknown">Names in the wishes that mean nobody here, or more than one.</param>
public sealed record RoomDraft(
    int Number, RoomForm Form, ImmutableSortedDictionary<int, int> RoomOf, ImmutableSortedDictionary<int, int> ByHand,
    ImmutableArray<ImmutableArray<int>> Leads, int Repeated, int Least, ImmutableArray<RoomClash> Clashes, ImmutableArray<string> Unknown)
{
    /// <summary>In place of a room: was taken out of the plan.</summary>
    public const int Out = -1;
}

/// <summary>Words of the bench in a room.</summary>
public sealed record RoomWords(string Text, Instant At)
{
    /// <summary>In UTF-16 units.</summary>
    public const int Longest = 500;
}

/// <summary>A room that is open.</summary>
/// <param name="Number">1, 2, 3 … in each sitting; never given twice.</param>
/// <param name="Ordinal">Its place among those that were opened with it, from 1: a room without a name is called by it.</param>
/// <param name="EndsAt">When everybody comes back by themselves; null while that is open.</param>
/// <param name="CalledAt">Since when somebody in it calls the bench; null while nobody does.</param>
/// <param name="CalledBy">Who does.</param>
/// <param name="HeardAt">When a voice was heard in it last, to about ten seconds; when it was opened while none was.</param>
/// <param name="HeardLast">Whose it was.</param>
public sealed record Room(
    int Number, int Ordinal, string Name, string? Task, ImmutableArray<SeatId> Leads, Instant? EndsAt, Scenery Scenery,
    Instant? CalledAt = null, SeatId? CalledBy = null, Instant? HeardAt = null, SeatId? HeardLast = null, RoomWords? Words = null);

/// <summary>A room that was closed: what was written there still has its name.</summary>
/// <param name="Round">1 for the first time that rooms were open.</param>
public sealed record PastRoom(
    int Number, int Ordinal, string Name, string? Task, ImmutableArray<SeatId> Leads, int Round, bool KeepsChat);

/// <summary>All about rooms in a sitting.</summary>
public sealed record RoomBook
{
    /// <summary>Among few, everybody speaks, shows and writes.</summary>
    public static StandingOrders UsualOrders { get; } = StandingOrders.Usual with { Exhibit = Audience.Everyone, Mark = Audience.Everyone };

    public static RoomBook Empty { get; } = new();

    /// <summary>Before people are moved, everybody sees for so long where they go.</summary>
    public static TimeSpan Countdown { get; } = TimeSpan.FromSeconds(5);

    /// <summary>Seconds until rooms close, unless it is said otherwise.</summary>
    public const int UsualClosing = 60;

    /// <summary>So many that were closed are remembered.</summary>
    public const int MostPast = 500;

    public RoomDraft? Draft { get; init; }

    /// <summary>How often a plan was made or changed.</summary>
    public int Drafts { get; init; }

    /// <summary>In the order of the plan; none while everybody is in the hall.</summary>
    public ImmutableArray<Room> Open { get; init; } = [];

    /// <summary>How the rooms that are open were wished, or were the last time.</summary>
    public RoomForm? Form { get; init; }

    /// <summary>When people are moved into the rooms; null when they have been, and while none are open.</summary>
    public Instant? OpensAt { get; init; }

    /// <summary>For the number of a seat the number of the room where it belongs.</summary>
    public ImmutableSortedDictionary<int, int> Assigned { get; init; } = ImmutableSortedDictionary<int, int>.Empty;

    /// <summary>Numbers of the seats that were taken out of the plan, and stay in the hall.</summary>
    public ImmutableArray<int> LeftOut { get; init; } = [];

    /// <summary>Who belonged where in the rounds that are over, the last one last.</summary>
    public ImmutableArray<ImmutableSortedDictionary<int, int>> Rounds { get; init; } = [];

    public ImmutableArray<PastRoom> Past { get; init; } = [];

    /// <summary>The number that a room was given last.</summary>
    public int Last { get; init; }

    /// <summary>The orders in all rooms; those of the hall hold in the hall.</summary>
    public StandingOrders Orders { get; init; } = UsualOrders;

    /// <summary>Whose voice goes into all rooms; null while nobody's does.</summary>
    public SeatId? Voice { get; init; }

    public Room? Find(int? number) => number is null ? null : Open.FirstOrDefault(room => room.Number == number);

    internal RoomBook With(int number, Func<Room, Room> change)
    {
        var at = Open.IndexOf(Find(number)!);
        if (at < 0) return this;
        var room = change(Open[at]);
        return ReferenceEquals(room, Open[at]) ? this : this with { Open = Open.SetItem(at, room) };
    }

    internal RoomBook WithEach(IEnumerable<int> numbers, Func<Room, Room> change) =>
        numbers.Aggregate(this, (book, number) => book.With(number, change));

    public PastRoom? FindPast(int number) => Past.FirstOrDefault(room => room.Number == number);

    /// <summary>They lead the room that they are in.</summary>
    internal bool Leads(Seat seat) => seat.Room is { } number && Find(number)?.Leads.Contains(seat.Id) == true;
}
