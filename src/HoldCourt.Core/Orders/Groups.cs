using System.Collections.Immutable;

namespace HoldCourt.Core.Orders;

/// <summary>A group of the docket is excepted from an order.</summary>
/// <param name="Group">As the docket writes it.</param>
/// <param name="May">True gives, false takes.</param>
public sealed record GroupRule(string Group, Order Order, bool May);

/// <summary>What a group's people may whatever the orders say. What a single person was given or refused goes before it.</summary>
internal static class Groups
{
    /// <summary>
    /// The group of somebody who surely is a line of the docket: a personal link or an account proves it, or the bench chose them, and
    /// let them in as that line. A name that somebody typed makes nobody one of a group, not even when the bench admits all who are sure.
    /// </summary>
    public static string? GroupOf(this Sitting sitting, Seat seat) =>
        seat.Recognition is { Match: Match.Sure, Line: { } at } && sitting.Docket[at] is { } line
            && (seat.VouchedFor == at || (line.Key is not null && seat.Proof == line.Key))
            ? line.Group?.Trim()
            : null;

    public static bool? RuleOfGroup(this Sitting sitting, Seat seat, Order order) =>
        sitting.GroupRules is [] || sitting.GroupOf(seat) is not { } group ? null : sitting.RuleOfGroup(group, order);

    public static bool? RuleOfGroup(this Sitting sitting, string group, Order order) =>
        sitting.GroupRules.FirstOrDefault(one => one.Order == order && IsSame(one.Group, group))?.May;

    public static Sitting WithRuleOfGroup(this Sitting sitting, string group, Order order, bool? may) => sitting with
    {
        GroupRules =
        [
            .. sitting.GroupRules.Where(one => one.Order != order || !IsSame(one.Group, group)),
            .. may is { } holds ? [new GroupRule(group, order, holds)] : (IEnumerable<GroupRule>)[]
        ]
    };

    /// <summary>As the docket writes it; null when it has no such group.</summary>
    public static string? Find(this DocketList docket, string group) => docket.Groups.FirstOrDefault(one => IsSame(one, group.Trim()));

    private static bool IsSame(string one, string other) => one.Equals(other, StringComparison.OrdinalIgnoreCase);
}

/// <summary>The groups of the docket and what they are excepted from; for the bench alone.</summary>
public sealed record GroupsFacet(ImmutableArray<string> Names, ImmutableArray<GroupRule> Rules) : IFacet<GroupsFacet>
{
    public static GroupsFacet Of(Sitting sitting, Viewpoint from) => sitting.MayKnow(from, Matter.Books)
        ? new GroupsFacet(sitting.Docket.Groups, sitting.GroupRules)
        : _none;

    public static bool IsSame(Step step) => ReferenceEquals(step.Before.Docket, step.After.Docket)
        && step.Before.GroupRules == step.After.GroupRules;

    public static bool AltersRows(Step step) => step.Before.GroupRules != step.After.GroupRules;

    public static IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        before.GroupRules != after.GroupRules ? all : [];

    private static readonly GroupsFacet _none = new([], []);

    public bool Equals(GroupsFacet? other) =>
        other is not null && Names.SequenceEqual(other.Names) && Rules.SequenceEqual(other.Rules);

    public override int GetHashCode() => HashCode.Combine(Names.Length, Rules.Length);
}
