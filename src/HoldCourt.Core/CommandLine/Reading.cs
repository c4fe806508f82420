using System.Collections.Immutable;

namespace HoldCourt.Core.CommandLine;

/// <summary>What keeps a line from being done.</summary>
public enum Misreading
{
    /// <summary>The line is empty.</summary>
    Empty,

    /// <summary>It begins like a sentence, and something is missing.</summary>
    Unfinished,

    /// <summary>No sentence begins like this.</summary>
    NotUnderstood,

    /// <summary>Nobody here has such a name.</summary>
    UnknownName,

    /// <summary>Several people are meant by it.</summary>
    DoubtfulName,

    /// <summary>The words stand for a group that nobody belongs to now.</summary>
    NobodyThere
}

/// <summary>A line as it was understood.</summary>
/// <param name="Command">What Enter does; null while there is misreading.</param>
/// <param name="Misreading">Null when the line can be done.</param>
/// <param name="About">The words that are unknown or doubtful.</param>
/// <param name="Completions">Whole lines that the line may become, most fitting first.</param>
public sealed record Reading(SeatCommand? Command, Misreading? Misreading, string? About, ImmutableArray<string> Completions);

/// <summary>What a line is read against.</summary>
/// <param name="By">Whose line it is.</param>
/// <param name="Language">The language of the line, as a subtag of BCP 47; English where there are no sentences in it.</param>
/// <param name="Presets">The names under which this person keeps orders.</param>
public sealed record Scope(Sitting Sitting, SeatId By, Instant Now, ImmutableArray<NamedPreset> Presets, string Language = "en")
{
    private readonly Seat? _self = Sitting.Seats.TryGet(By, out var seat) ? seat : null;

    /// <summary>Whether whoever types may know of somebody.</summary>
    internal bool Knows(Seat seat) => Knows(new Matter.Person(seat));

    internal bool Knows(Matter matter) => _self is not null && Sitting.MayKnow(_self, matter);

    /// <summary>Somebody is inside, and in the same place as whoever types.</summary>
    internal bool IsHere(Seat seat) => seat.IsSeated && seat.Room == _self?.Room;

    /// <summary>Those of whom whoever types may know.</summary>
    internal IEnumerable<Seat> People => Sitting.Seats.Where(Knows);
}

public sealed record NamedPreset(string Name, DoorMode Door, StandingOrders Orders)
{
    /// <summary>Longest name, in UTF-16 units.</summary>
    public const int LongestName = 80;
}
