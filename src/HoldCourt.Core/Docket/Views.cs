using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>A visit that is on.</summary>
/// <param name="Minutes">Its planned length.</param>
public sealed record VisitRow(SeatId Seat, Instant Since, int Minutes);

/// <summary>How the visits go; for the bench alone.</summary>
/// <param name="HasSlots">People come for visits one at a time.</param>
/// <param name="Next">Whom "Next" would call.</param>
/// <param name="NextSlot">When the next visit that has not begun was promised, whether the person is here or not.</param>
public sealed record VisitsFacet(bool HasSlots, SeatId? Next, Instant? NextSlot, ImmutableArray<VisitRow> On)
    : IFacet<VisitsFacet>
{
    public static VisitsFacet Of(Sitting sitting, Viewpoint from)
    {
        if (!sitting.Docket.HasSlots || !sitting.MayKnow(from, Matter.Books)) return new VisitsFacet(false, null, null, []);
        var begun = sitting.Visits.Select(visit => visit.Line).ToHashSet();
        return new VisitsFacet(
            true, Visits.NextOf(sitting)?.Id,
            sitting.Docket.Lines.Where((line, at) => line.Slot is not null && !begun.Contains(at)).Min(line => line.Slot),
            [.. sitting.Visits.Where(visit => visit.To is null)
                .Select(visit => new VisitRow(visit.Seat, visit.From, sitting.Docket.MinutesOf(visit.Line)))]);
    }

    public static bool IsSame(Step step) => !step.Moved && ReferenceEquals(step.Before.Docket, step.After.Docket)
        && ReferenceEquals(step.Before.Visits, step.After.Visits);

    public static bool AltersRows(Step step) => !ReferenceEquals(step.Before.Docket, step.After.Docket);

    public bool Equals(VisitsFacet? other) =>
        other is not null && HasSlots == other.HasSlots && Next == other.Next && NextSlot == other.NextSlot && On.SequenceEqual(other.On);

    public override int GetHashCode() => HashCode.Combine(HasSlots, Next, NextSlot, On.Length);
}
