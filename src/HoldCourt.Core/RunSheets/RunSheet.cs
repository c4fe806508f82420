using System.Collections.Immutable;

namespace HoldCourt.Core.RunSheets;

/// <summary>A part of the order of business, with what goes with it.</summary>
/// <param name="Id">Chosen by whoever wrote the sheet; each stands once.</param>
/// <param name="Minutes">1 to 1,440; null when it has no planned length.</param>
/// <param name="Lead">Name of who leads it; gets the floor when somebody of that name is seated.</param>
/// <param name="Orders">Null leaves the orders as they are.</param>
/// <param name="Picture">Null leaves the picture as it is.</param>
/// <param name="Note">For the bench alone.</param>
public sealed record Item(int Id, string Title, int? Minutes = null, string? Lead = null, OrderSheet? Orders = null, Arrangement? Picture = null, string? Note = null);

/// <param name="At">The item that is on; null before the first and after the last.</param>
/// <param name="Since">Since when it is on.</param>
/// <param name="Spent">Milliseconds spent on each item, the present turn of the one that is on left out.</param>
public sealed record RunSheet(ImmutableArray<Item> Items, int? At, Instant? Since, ImmutableSortedDictionary<int, long> Spent)
{
    public static RunSheet None { get; } = new([], null, null, ImmutableSortedDictionary<int, long>.Empty);

    public Item? Now => At is { } id ? Items.FirstOrDefault(item => item.Id == id) : null;

    /// <summary>What "next item" would begin; null when none is left.</summary>
    public Item? Following => At is { } id && IndexOf(id) is >= 0 and var index ? Items.ElementAtOrDefault(index + 1) : Items.FirstOrDefault(item => !Spent.ContainsKey(item.Id));

    public int IndexOf(int id)
    {
        for (var at = 0; at < Items.Length; at++)
            if (Items[at].Id == id) return at;
        return -1;
    }
}

/// <summary>Replaces the order of business; the item that is on goes on when it is still there.</summary>
public sealed record SetRunSheet(ImmutableArray<Item> Items) : SeatCommand;

/// <summary>Begins the next item, and brings its orders, picture and lead with it.</summary>
public sealed record NextItem : SeatCommand;

/// <summary>Begins an item out of its order.</summary>
public sealed record TurnToItem(int Item) : SeatCommand;

/// <summary>Ends the item that is on, and begins none.</summary>
public sealed record EndItem : SeatCommand;

public sealed record RunSheetSet(ImmutableArray<Item> From, ImmutableArray<Item> To) : Fact;

/// <param name="Spent">Milliseconds of this turn of the item that ended.</param>
/// <param name="Title">Of the item that begins, or else of the one that ends.</param>
/// <param name="Parts">What changed with it, in order.</param>
public sealed record ItemTurned(int? From, Instant? Since, long Spent, int? To, string Title, ImmutableArray<Fact> Parts) : Fact;

/// <summary>On the way back: the item before is on again, since when it was.</summary>
public sealed record ItemReturned(int? From, int? To, Instant? Since, long Spent, string Title, ImmutableArray<Fact> Parts) : Fact;
