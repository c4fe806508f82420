using System.Collections.Immutable;

namespace HoldCourt.Core.RunSheets;

/// <summary>What all inside may know of the item that is on.</summary>
/// <param name="Number">From 1.</param>
public sealed record ItemRow(string Title, int Number, int Of, int? Minutes, Instant Since);

/// <summary>How far the order of business is.</summary>
/// <param name="Item">The item that is on; null for those outside.</param>
/// <param name="At">Its number of its own; for the bench alone.</param>
/// <param name="Following">That of the item which "next item" would begin; for the bench alone.</param>
/// <param name="Spent">Milliseconds spent on each item, the present turn of the one that is on left out; for the bench alone.</param>
public sealed record BusinessFacet(ItemRow? Item, int? At, int? Following, Instant? Since, ImmutableSortedDictionary<int, long>? Spent)
    : IFacet<BusinessFacet>
{
    public static BusinessFacet Of(Sitting sitting, Viewpoint from)
    {
        var sheet = sitting.RunSheet;
        var item = sitting.MayKnow(from, Matter.Inside) && sheet is { Now: { } now, Since: { } since }
            ? new ItemRow(now.Title, sheet.IndexOf(now.Id) + 1, sheet.Items.Length, now.Minutes, since)
            : null;
        return sitting.MayKnow(from, Matter.Books)
            ? new BusinessFacet(item, sheet.At, sheet.Following?.Id, sheet.Since, sheet.Spent)
            : new BusinessFacet(item, null, null, null, null);
    }

    public static bool IsSame(Step step) => ReferenceEquals(step.Before.RunSheet, step.After.RunSheet);
}

/// <param name="Items">The order of business; for the bench alone.</param>
public sealed record ItemsFacet(ImmutableArray<Item>? Items) : IFacet<ItemsFacet>
{
    public static ItemsFacet Of(Sitting sitting, Viewpoint from) =>
        new(sitting.MayKnow(from, Matter.Books) ? sitting.RunSheet.Items : null);

    public static bool IsSame(Step step) => ReferenceEquals(step.Before.RunSheet, step.After.RunSheet);
}
