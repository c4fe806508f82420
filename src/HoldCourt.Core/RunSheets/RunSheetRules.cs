using System.Collections.Immutable;

namespace HoldCourt.Core.RunSheets;

public static class RunSheetRules
{
    public const int MostItems = 200, LongestTitle = 120, LongestNote = 2_000, LongestMinutes = 1_440;

    /// <summary>Why these items cannot be an order of business, or null.</summary>
    public static Refusal? Refuses(ImmutableArray<Item> items)
    {
        if (items.IsDefault || items.Length > MostItems) return new Refusal(Reason.TooMany);
        if (items.DistinctBy(item => item.Id).Count() != items.Length) return new Refusal(Reason.NotUnderstood);
        foreach (var item in items)
        {
            if (Bounds.Clean(item.Title, lines: false).Length == 0) return new Refusal(Reason.ItemWithoutTitle);
            if (item.Title.Length > LongestTitle || item.Note?.Length > LongestNote || item.Lead?.Length > PersonName.Longest) return new Refusal(Reason.WordsTooLong, Remedy.Shorten);
            if (item.Minutes is < 1 or > LongestMinutes) return new Refusal(Reason.MinutesOutOfRange);
            if (item.Orders is { IsMeaningful: false } || (item.Picture is { } picture && !Enum.IsDefined(picture))) return new Refusal(Reason.NotUnderstood);
        }
        return null;
    }

    internal static Decision Decide(Sitting sitting, SetRunSheet set, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        if (Refuses(set.Items) is { } bad) return bad;
        var items = Clean(set.Items);
        return items.SequenceEqual(sitting.RunSheet.Items) ? Decision.Refused(Reason.NoChange) : new RunSheetSet(sitting.RunSheet.Items, items);
    }

    /// <summary>The items as they may be kept.</summary>
    public static ImmutableArray<Item> Clean(ImmutableArray<Item> items) => [.. items.Select(item => item with
    {
        Title = Bounds.Clean(item.Title, lines: false),
        Lead = item.Lead is null ? null : Bounds.Clean(item.Lead, lines: false),
        Note = item.Note is null ? null : Bounds.Clean(item.Note)
    })];

    internal static Decision DecideNext(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        return sitting.RunSheet.Following is { } next ? Turned(sitting, next, by, now) : Decision.Refused(sitting.RunSheet.Items is [] ? Reason.NoRunSheet : Reason.NoItemLeft);
    }

    internal static Decision Decide(Sitting sitting, TurnToItem turn, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        if (sitting.RunSheet.At == turn.Item) return Decision.Refused(Reason.NoChange);
        return sitting.RunSheet.Items.FirstOrDefault(item => item.Id == turn.Item) is { } item ? Turned(sitting, item, by, now) : Decision.Refused(Reason.NoSuchItem);
    }

    internal static Decision DecideEnd(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        return sitting.RunSheet.Now is { } item ? new ItemTurned(item.Id, sitting.RunSheet.Since, SpentNow(sitting, now), null, item.Title, []) : Decision.Refused(Reason.NoChange);
    }

    private static ItemTurned Turned(Sitting sitting, Item item, Actor by, Instant now)
    {
        var parts = ImmutableArray.CreateBuilder<Fact>();
        var state = sitting;
        Add(item.Orders is { } orders ? OrderRules.ToSheet(state, orders) : null);
        Add(item.Picture is { } picture ? PictureRules.To(state, state.Picture with { Arrangement = picture }) : null);
        Add(LeadOf(state, item) is { } lead && state.Turn?.Seat != lead ? FloorRules.Decide(state, new GiveFloor(lead), by, now) is { Facts: [var given] } ? given : null : null);
        return new ItemTurned(sitting.RunSheet.Now?.Id, sitting.RunSheet.Since, SpentNow(sitting, now), item.Id, item.Title, parts.ToImmutable());

        void Add(Fact? part)
        {
            if (part is null) return;
            parts.Add(part);
            state = SittingRules.Apply(state, part, now);
        }
    }

    /// <summary>The one seated person whose name is the lead's, case and diacritics aside.</summary>
    private static SeatId? LeadOf(Sitting sitting, Item item)
    {
        if (string.IsNullOrWhiteSpace(item.Lead)) return null;
        var wanted = NameWords.Split(item.Lead);
        var named = sitting.Seats.Where(seat => seat.IsSeated && NameWords.Split(seat.Name).SequenceEqual(wanted)).Take(2).ToList();
        return named is [var only] ? only.Id : null;
    }

    private static long SpentNow(Sitting sitting, Instant now) =>
        sitting.RunSheet is { Now: not null, Since: { } since } ? (long)(now - since).TotalMilliseconds : 0;

    internal static Fact? Opposite(Sitting sitting, RunSheetSet set) =>
        sitting.RunSheet.Items.SequenceEqual(set.To) ? new RunSheetSet(set.To, set.From) : null;

    internal static Fact? Opposite(Sitting sitting, ItemTurned turned) =>
        sitting.RunSheet.Now?.Id == turned.To ? new ItemReturned(turned.To, turned.From, turned.Since, turned.Spent, turned.Title, LedgerRules.OppositesOf(sitting, turned.Parts)) : null;

    internal static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        RunSheetSet set => sitting with { RunSheet = Kept(sitting.RunSheet with { Items = set.To }) },
        ItemTurned turned => SittingRules.ApplyAll(sitting, turned.Parts, at) with
        {
            RunSheet = sitting.RunSheet with { At = turned.To, Since = turned.To is null ? null : at, Spent = Added(sitting.RunSheet.Spent, turned.From, turned.Spent) }
        },
        ItemReturned returned => SittingRules.ApplyAll(sitting, returned.Parts, at) with
        {
            RunSheet = sitting.RunSheet with { At = returned.To, Since = returned.Since, Spent = Added(sitting.RunSheet.Spent, returned.To, -returned.Spent) }
        },
        _ => sitting
    };

    /// <summary>What is no longer on the sheet cannot be on.</summary>
    private static RunSheet Kept(RunSheet sheet) => sheet.At is { } at && sheet.IndexOf(at) < 0 ? sheet with { At = null, Since = null } : sheet;

    private static ImmutableSortedDictionary<int, long> Added(ImmutableSortedDictionary<int, long> spent, int? item, long milliseconds)
    {
        if (item is not { } id) return spent;
        var sum = spent.GetValueOrDefault(id) + milliseconds;
        return sum > 0 ? spent.SetItem(id, sum) : spent.Remove(id);
    }
}
