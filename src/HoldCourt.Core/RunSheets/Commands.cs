using System.Collections.Immutable;

namespace HoldCourt.Core.RunSheets;

/// <summary>Replaces the order of business; the item that is on goes on when it is still there.</summary>
public sealed record SetRunSheet(ImmutableArray<Item> Items) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        if (RunSheet.Refuses(Items) is { } bad) return bad;
        var items = RunSheet.Clean(Items);
        return items.SequenceEqual(sitting.RunSheet.Items)
            ? Decision.Refused(Reason.NoChange)
            : new RunSheetSet(sitting.RunSheet.Items, items);
    }
}

/// <summary>Begins the next item, and brings its orders, picture and lead with it.</summary>
public sealed record NextItem : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        return sitting.RunSheet.Following is { } next
            ? ItemTurned.Towards(sitting, next, by, now)
            : Decision.Refused(sitting.RunSheet.Items is [] ? Reason.NoRunSheet : Reason.NoItemLeft);
    }
}

/// <summary>Begins an item out of its order.</summary>
public sealed record TurnToItem(int Item) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        if (sitting.RunSheet.At == Item) return Decision.Refused(Reason.NoChange);
        return sitting.RunSheet.Items.FirstOrDefault(item => item.Id == Item) is { } wanted
            ? ItemTurned.Towards(sitting, wanted, by, now)
            : Decision.Refused(Reason.NoSuchItem);
    }
}

/// <summary>Ends the item that is on, and begins none.</summary>
public sealed record EndItem : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepRunSheet) is { } refusal) return refusal;
        var sheet = sitting.RunSheet;
        return sheet.Now is { } item
            ? new ItemTurned(item.Id, sheet.Since, sheet.SpentUntil(now), null, item.Title, [])
            : Decision.Refused(Reason.NoChange);
    }
}
