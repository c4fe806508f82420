using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>How people are spread over rooms.</summary>
public enum Spread
{
    /// <summary>Evenly, those of one group as far from each other as can be.</summary>
    Mixed,

    /// <summary>Those of one group together. A group that is large has several rooms, small ones share one.</summary>
    ByGroup
}

/// <summary>What a plan of rooms is made from. People are numbered from 0, rooms too.</summary>
/// <param name="Groups">For each person; null for whoever is of none.</param>
/// <param name="Fixed">For each person the room that was chosen by hand, or that they lead; null leaves it open.</param>
/// <param name="Together">People who are to be in one room.</param>
/// <param name="Apart">Two and two who are not.</param>
/// <param name="Earlier">For each earlier round and person the room they were in; null for whoever was in none.</param>
/// <param name="Seed">The same wishes with the same seed give the same plan.</param>
public sealed record RoomWishes(
    int Rooms, ImmutableArray<string?> Groups, ImmutableArray<int?> Fixed, ImmutableArray<ImmutableArray<int>> Together,
    ImmutableArray<(int One, int Other)> Apart, ImmutableArray<ImmutableArray<int?>> Earlier, Spread Spread, int Seed)
{
    /// <summary>Most for which pairs are looked at; a plan for more is even, and no more.</summary>
    public const int MostPeople = 2_000, MostRooms = 100;

    public int People => Groups.Length;

    /// <summary>Nothing is wished but that rooms are even.</summary>
    public static RoomWishes Of(int people, int rooms, int seed = 1) => new(
        rooms, [.. new string?[people]], [.. new int?[people]], [], [], [], Spread.Mixed, seed);

    /// <summary>So many rooms hold so many people each, as nearly as can be.</summary>
    public static int RoomsOf(int people, int size) => Math.Clamp((int)Math.Round((double)people / Math.Max(1, size)), 1, MostRooms);
}

/// <summary>Why wishes cannot all be kept.</summary>
public enum ClashKind
{
    /// <summary>Two are to be apart whom other wishes put together.</summary>
    ApartAndTogether,

    /// <summary>Two who are to be apart were put into one room by hand, or lead it.</summary>
    ApartInOneRoom,

    /// <summary>Several who are to be together were put into different rooms by hand.</summary>
    TogetherInTwoRooms,

    /// <summary>More are to be together than a room holds when all are even.</summary>
    TogetherTooMany,

    /// <summary>These two could not be kept apart: too many are to be apart from each other for so few rooms.</summary>
    NotApart
}

/// <param name="People">Whom it is about, in rising order.</param>
public sealed record Clash(ClashKind Kind, ImmutableArray<int> People);

/// <summary>Who goes where.</summary>
/// <param name="RoomOf">For each person.</param>
/// <param name="Repeated">Pairs who meet again, each once for every earlier round in which they met.</param>
/// <param name="Least">Fewer cannot be, by the pigeonhole principle; it may be that so few cannot be reached either.</param>
/// <param name="Clashes">Wishes that could not all be kept.</param>
public sealed record RoomPlan(ImmutableArray<int> RoomOf, int Repeated, int Least, ImmutableArray<Clash> Clashes)
{
    public int SizeOf(int room) => RoomOf.Count(one => one == room);
}
