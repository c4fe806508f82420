using System.Collections.Immutable;

namespace HoldCourt.Core.RunSheets;

/// <summary>A part of the order of business, with what goes with it.</summary>
/// <param name="Id">Chosen by whoever wrote the sheet; each stands once.</param>
/// <param name="Minutes">1 to 1,440; null when it has no planned length.</param>
/// <param name="Lead">Name of who leads it; gets the floor when somebody of that name is seated.</param>
/// <param name="Orders">Null leaves the orders as they are.</param>
/// <param name="Picture">Null leaves the picture as it is.</param>
/// <param name="Note">For the bench alone.</param>
/// <param name="Records">Whether it is recorded; null goes on with that as it is.</param>
/// <param name="Asks">Words of the prepared poll that opens with it; null for none.</param>
/// <param name="OpensRooms">The rooms that are planned open with it; without a plan, those that were wished.</param>
/// <param name="Shows">Title of the exhibit, or name of the paper, that all see from its beginning on; null leaves that as it is.</param>
public sealed record Item(
    int Id, string Title, int? Minutes = null, string? Lead = null, StandingOrders? Orders = null, Arrangement? Picture = null,
    string? Note = null, string? Shows = null, bool? Records = null, string? Asks = null,
    bool OpensRooms = false)
{
    /// <summary>In UTF-16 units.</summary>
    public const int LongestTitle = 120, LongestNote = 2_000;

    public const int LongestMinutes = 1_440;

    internal Refusal? Refuses()
    {
        if (Bounds.Clean(Title, lines: false).Length == 0) return new Refusal(Reason.ItemWithoutTitle);
        if (Title.Length > LongestTitle || Note?.Length > LongestNote || Lead?.Length > PersonName.Longest
            || Shows?.Length > LongestTitle || Asks?.Length > PollForm.LongestText)
            return new Refusal(Reason.WordsTooLong, Remedy.Shorten);
        if (Minutes is < 1 or > LongestMinutes) return new Refusal(Reason.MinutesOutOfRange);
        return Orders is { IsMeaningful: false } || (Picture is { } picture && !Enum.IsDefined(picture))
            ? new Refusal(Reason.NotUnderstood)
            : null;
    }

    /// <summary>The one seated person whose name is the lead's, case and diacritics aside.</summary>
    internal SeatId? LeadIn(Sitting sitting)
    {
        if (string.IsNullOrWhiteSpace(Lead)) return null;
        var wanted = NameWords.Split(Lead);
        var named = sitting.Seats.Where(seat => seat.IsSeated && NameWords.Split(seat.Name).SequenceEqual(wanted)).Take(2).ToList();
        return named is [var only] ? only.Id : null;
    }
}

/// <param name="At">The item that is on; null before the first and after the last.</param>
/// <param name="Since">Since when it is on.</param>
/// <param name="Spent">Milliseconds spent on each item, the present turn of the one that is on left out.</param>
public sealed record RunSheet(ImmutableArray<Item> Items, int? At, Instant? Since, ImmutableSortedDictionary<int, long> Spent)
{
    public const int MostItems = 200;

    public static RunSheet None { get; } = new([], null, null, ImmutableSortedDictionary<int, long>.Empty);

    public Item? Now => At is { } id ? Items.FirstOrDefault(item => item.Id == id) : null;

    /// <summary>What "next item" would begin; null when none is left.</summary>
    public Item? Following => At is { } id && IndexOf(id) is >= 0 and var index
        ? Items.ElementAtOrDefault(index + 1)
        : Items.FirstOrDefault(item => !Spent.ContainsKey(item.Id));

    public int IndexOf(int id)
    {
        for (var at = 0; at < Items.Length; at++)
            if (Items[at].Id == id) return at;
        return -1;
    }

    /// <summary>Why these items cannot be an order of business, or null.</summary>
    public static Refusal? Refuses(ImmutableArray<Item> items)
    {
        if (items.IsDefault || items.Length > MostItems) return new Refusal(Reason.TooMany);
        if (items.DistinctBy(item => item.Id).Count() != items.Length) return new Refusal(Reason.NotUnderstood);
        return items.Select(item => item.Refuses()).FirstOrDefault(refusal => refusal is not null);
    }

    /// <summary>The items as they may be kept.</summary>
    public static ImmutableArray<Item> Clean(ImmutableArray<Item> items) => [.. items.Select(item => item with
    {
        Title = Bounds.Clean(item.Title, lines: false),
        Lead = item.Lead is null ? null : Bounds.Clean(item.Lead, lines: false),
        Note = item.Note is null ? null : Bounds.Clean(item.Note),
        Shows = item.Shows is null ? null : Bounds.Clean(item.Shows, lines: false),
        Asks = Bounds.Meaningful(item.Asks)
    })];

    internal long SpentUntil(Instant now) => Now is not null && Since is { } since ? (long)(now - since).TotalMilliseconds : 0;

    /// <summary>What is no longer on the sheet cannot be on.</summary>
    internal RunSheet With(ImmutableArray<Item> items) => this with { Items = items } is var sheet && At is { } at && sheet.IndexOf(at) < 0
        ? sheet with { At = null, Since = null }
        : sheet;

    internal ImmutableSortedDictionary<int, long> SpentMore(int? item, long milliseconds)
    {
        if (item is not { } id) return Spent;
        var sum = Spent.GetValueOrDefault(id) + milliseconds;
        return sum > 0 ? Spent.SetItem(id, sum) : Spent.Remove(id);
    }
}
