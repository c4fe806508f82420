using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>What stands in a place, the hall or a room, and is known there alone.</summary>
public sealed record Scenery(Turn? Turn, int? PutUp, PictureSetting Picture, Shelf Shelf, HandoutList Handouts)
{
    public static Scenery Empty { get; } = new(null, null, PictureSetting.Free, Shelf.Empty, HandoutList.Empty);

    internal static Scenery Of(Sitting sitting) => new(sitting.Turn, sitting.PutUp, sitting.Picture, sitting.Shelf, sitting.Handouts);

    internal Sitting In(Sitting sitting) => sitting with
    {
        Turn = Turn,
        PutUp = PutUp,
        Picture = Picture,
        Shelf = Shelf,
        Handouts = Handouts
    };

    /// <summary>Its parts are the very same.</summary>
    internal bool IsSame(Scenery other) => Turn == other.Turn && PutUp == other.PutUp && ReferenceEquals(Picture, other.Picture)
        && ReferenceEquals(Shelf, other.Shelf) && ReferenceEquals(Handouts, other.Handouts);
}

/// <summary>What of the hall is put aside while a sitting is looked at from a room. It belongs to no state.</summary>
public sealed record HallAside(Scenery Scenery, StandingOrders Orders);

/// <summary>
/// A sitting is looked at from a place. From there, the floor, the picture, the shelf, the files that are handed out, the message that is
/// put up and the orders are those of that place, so that every rule that asks for them asks for its own room, and cannot ask through a
/// wall. Everything else is the same in all places.
/// </summary>
public static class RoomPlaces
{
    /// <summary>The same sitting, looked at from a room, or from the hall.</summary>
    public static Sitting At(this Sitting sitting, int? room)
    {
        if (sitting.Here == room) return sitting;
        var hall = sitting.Aside is { } aside ? Back(sitting, aside) : sitting;
        if (room is not { } number) return hall;
        var scenery = hall.Rooms.Find(number)?.Scenery ?? Scenery.Empty;
        return scenery.In(hall) with
        {
            Here = number,
            Aside = new HallAside(Scenery.Of(hall), hall.Orders),
            Orders = hall.Rooms.Orders
        };
    }

    private static Sitting Back(Sitting sitting, HallAside aside)
    {
        var rooms = sitting.Rooms.With(sitting.Here!.Value, room =>
            Scenery.Of(sitting) is var now && room.Scenery.IsSame(now) ? room : room with { Scenery = now });
        return aside.Scenery.In(sitting) with
        {
            Here = null,
            Aside = null,
            Orders = aside.Orders,
            Rooms = sitting.Orders == rooms.Orders ? rooms : rooms with { Orders = sitting.Orders }
        };
    }

    /// <summary>The hall, and the rooms that are open.</summary>
    public static IEnumerable<int?> All(Sitting sitting) => sitting.Rooms.Open.Select(room => (int?)room.Number).Prepend(null);

    /// <summary>Somebody is inside, and in the place from which the sitting is looked at.</summary>
    public static bool IsHere(this Sitting sitting, Seat seat) => seat.IsSeated && seat.Room == sitting.Here;

    public static bool IsHere(this Sitting sitting, SeatId id) => sitting.Seats.TryGet(id, out var seat) && sitting.IsHere(seat);

    /// <summary>The sitting as somebody in it looks at it.</summary>
    public static Sitting AtPlaceOf(this Sitting sitting, Seat seat) => sitting.At(seat.Room);

    /// <summary>Looked at from where an exhibit stands; from the hall when it stands nowhere.</summary>
    public static Sitting AtExhibit(this Sitting sitting, int number) => sitting.Rooms.Open is [] ? sitting
        : All(sitting).Select(sitting.At).FirstOrDefault(place => place.Shelf.Find(number) is not null) ?? sitting.At(null);

    public static Exhibit? FindExhibit(this Sitting sitting, int number) => sitting.AtExhibit(number).Shelf.Find(number);

    /// <summary>All that stands on a shelf anywhere.</summary>
    public static IEnumerable<Exhibit> AllExhibits(this Sitting sitting) => sitting.Here is not null
        ? sitting.At(null).AllExhibits()
        : sitting.Rooms.Open.SelectMany(room => room.Scenery.Shelf.Open).Prepend(sitting.Shelf.Open);

    private static IEnumerable<Exhibit> Prepend(this IEnumerable<Exhibit> others, ImmutableArray<Exhibit> first) => first.Concat(others);

    /// <summary>A number that no exhibit had before, in whatever place.</summary>
    internal static int NextExhibit(this Sitting sitting) =>
        1 + Sceneries(sitting).Max(scenery => scenery.Shelf.Last);

    /// <summary>A number that no file had before that was handed out, in whatever place.</summary>
    internal static int NextHandout(this Sitting sitting) => 1 + Sceneries(sitting).Max(scenery => scenery.Handouts.Last);

    private static IEnumerable<Scenery> Sceneries(Sitting sitting) => sitting.Rooms.Open.Select(room => room.Scenery)
        .Append(Scenery.Of(sitting)).Concat(sitting.Aside is { } aside ? [aside.Scenery] : []);

    /// <summary>After any fact: what holds of each place is asked of each.</summary>
    internal static Sitting Follow(Sitting sitting, Func<Sitting, Sitting> follow) => sitting.Rooms.Open is []
        ? follow(sitting)
        : All(sitting).Aggregate(sitting, (state, place) => follow(state.At(place)).At(null));

    /// <summary>Topics whose commands are about the whole sitting, wherever whoever wishes it is.</summary>
    private static readonly ImmutableHashSet<string> _ofTheWhole =
        [.. new[] { "RunSheets", "Timing", "Polls", "Recording", "Docket", "Admission", "Rooms", "Ledger" }.Select(Named)];

    /// <summary>Topics whose facts are of a place.</summary>
    private static readonly ImmutableHashSet<string> _ofPlaces =
        [.. new[] { "Floor", "Chat", "Picture", "Exhibits", "Handouts", "Lending", "Captions", "Orders" }.Select(Named)];

    private static string Named(string topic) => $"HoldCourt.Core.{topic}";

    /// <summary>Decides a wish in the place of whoever has it; what follows from it for the place alone says so.</summary>
    internal static Decision Decide(Sitting sitting, Command command, Actor by, Instant now)
    {
        if (sitting.Rooms.Open is [] || _ofTheWhole.Contains(command.GetType().Namespace!)) return command.Decide(sitting, by, now);
        if ((by.Seat ?? command.Where) is { } id && sitting.Seats.TryGet(id, out var seat))
            return In(seat.Room, command.Decide(sitting.AtPlaceOf(seat), by, now));
        // What the house does to something that stands in a room is found where that stands.
        var decision = command.Decide(sitting, by, now);
        foreach (var room in sitting.Rooms.Open)
        {
            if (decision.Facts is not [] || !_ofPlaces.Contains(command.GetType().Namespace!)) break;
            decision = In(room.Number, command.Decide(sitting.At(room.Number), by, now));
        }
        return decision;
    }

    private static Decision In(int? room, Decision decision) => room is { } number && decision.Facts is not []
        ? Decision.Of([.. decision.Facts.Select(fact =>
            _ofPlaces.Contains(fact.GetType().Namespace!) ? new InRoom(number, fact) : fact)])
        : decision;
}

/// <summary>Something happened in a room, and is of that room alone.</summary>
public sealed record InRoom(int Room, Fact Fact) : Fact
{
    public override Fact Bare() => Fact;

    internal override Sitting Apply(Sitting sitting, Instant at) => Fact.Apply(sitting.At(Room), at).At(null);
    internal override ImmutableArray<SeatId> About => Fact.About;
    internal override Topic Topic => Fact.Topic;
    internal override string NameFor(Actor by) => Fact.NameFor(by);
    /// <summary>What people show and hand out in a room is told to nobody outside, the bench neither.</summary>
    internal override string? Detail =>
        Fact is { Topic: Topic.Exhibits or Topic.Files or Topic.Chat, Detail: not null } ? "…" : Fact.Detail;
    internal override bool StandsInLedger => Fact.StandsInLedger;
    internal override bool IsTakeable(SeatId by) => Fact.IsTakeable(by);
    internal override Capability? ToTakeBack => Fact.ToTakeBack;
    internal override int? ChangedMessage => Fact.ChangedMessage;
    internal override ChatMessage Changed(ChatMessage message) => Fact.Changed(message);

    /// <summary>Nothing is left of it once the room is closed.</summary>
    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Rooms.Find(Room) is not null && Fact.OppositeIn(sitting.At(Room)) is { } opposite ? new InRoom(Room, opposite) : null;
}
