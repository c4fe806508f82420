using System.Collections.Immutable;

namespace HoldCourt.Core.Handouts;

public enum HandoutState
{
    /// <summary>One gave it.</summary>
    Own,
    Offered,
    Taken,
    Refused
}

/// <summary>A file that one gave, or that is for oneself.</summary>
/// <param name="ByName">Empty when it may not be known who gave it.</param>
/// <param name="ToName">To whom one gave it; null where it is for everyone, or not one's own.</param>
/// <param name="Room">The closed room in which it was handed out, by its name or place; null when it is handed out here.</param>
/// <param name="Count">How many have taken it, for whoever gave it; otherwise 0.</param>
public sealed record HandoutRow(
    int Number, string Name, long Size, FileSort Sort, SeatId By, string ByName, bool ToAll, string? ToName, bool Prints, Instant Since,
    HandoutState State, int Count, bool Kept, string? Room)
{
    internal static ImmutableArray<HandoutRow> AllOf(Sitting sitting, Seat seat) => sitting.Handouts.Out is [] || !seat.IsSeated
        ? []
        : [.. sitting.Handouts.Out.Where(handout => sitting.MayKnow(seat, new Matter.OfHandout(handout)))
            .Select(handout => Of(sitting, handout, seat))];

    private static HandoutRow Of(Sitting sitting, Handout handout, Seat seat) => new(
        Number: handout.Number,
        Name: handout.Name,
        Size: handout.Size,
        Sort: handout.Sort,
        By: handout.By,
        ByName: handout.By == seat.Id || sitting.MayKnow(seat, new Matter.Person(sitting.Seats[handout.By]))
            ? sitting.Seats[handout.By].Name
            : "",
        ToAll: handout.To is null,
        ToName: handout.By == seat.Id && handout.To is { } to ? sitting.Seats[to].Name : null,
        Prints: handout.Prints,
        Since: handout.Since,
        State: handout.By == seat.Id ? HandoutState.Own
            : handout.Taken.Contains(seat.Id) ? HandoutState.Taken
            : handout.Refused.Contains(seat.Id) ? HandoutState.Refused
            : HandoutState.Offered,
        Count: handout.By == seat.Id ? handout.Taken.Count : 0,
        Kept: handout.Kept,
        Room: handout is { IsOfRoom: true, Room: { } room } ? RoomNames.Of(sitting, room) : null);

    /// <summary>Whose own rows are different now.</summary>
    /// <param name="everybody">Those of whom it may be asked.</param>
    internal static IEnumerable<SeatId> Touched(Sitting before, Sitting after, IEnumerable<SeatId> everybody) =>
        RoomPlaces.All(after).SelectMany(place => TouchedHere(
            before.At(place), after.At(place), everybody.Where(id => after.Seats[id].Room == place)));

    private static HashSet<SeatId> TouchedHere(Sitting before, Sitting after, IEnumerable<SeatId> everybody)
    {
        if (ReferenceEquals(before.Handouts, after.Handouts)) return [];
        var was = before.Handouts.Out.ToDictionary(handout => handout.Number);
        var touched = new HashSet<SeatId>();
        foreach (var now in after.Handouts.Out)
        {
            if (!was.Remove(now.Number, out var then)) Add(now);
            else if (then.Kept != now.Kept || then.IsOfRoom != now.IsOfRoom) Add(now);
            else if (!ReferenceEquals(then, now))
                touched.UnionWith([now.By,
                    .. Changed(then.Taken, now.Taken), .. Changed(then.Refused, now.Refused)]);
        }
        foreach (var ended in was.Values) Add(ended);
        return touched;

        void Add(Handout handout) => touched.UnionWith(handout.To is { } to ? [handout.By, to] : everybody);
    }

    /// <summary>Grown at the end, or one of them gone.</summary>
    private static IEnumerable<SeatId> Changed(ImmutableList<SeatId> then, ImmutableList<SeatId> now) =>
        now.Count >= then.Count ? now.GetRange(then.Count, now.Count - then.Count) : then.Except(now);
}
