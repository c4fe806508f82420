using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>What a command would do, told before it is done.</summary>
/// <param name="Refusal">Why it would be refused; then the rest is empty.</param>
/// <param name="Does">The entries it would leave, the parts of an item or a preset after it.</param>
/// <param name="Touches">How many people it would change something for.</param>
/// <param name="Shifts">Who would gain and who would lose what.</param>
/// <param name="Brings">Name of a paper that would be put on the shelf and shown, when the session has it; null for none.</param>
public sealed record ForesightRow(
    Refusal? Refusal, ImmutableArray<LedgerRow> Does, int Touches, ImmutableArray<ShiftRow> Shifts, string? Brings = null);

/// <param name="Names">The first of them.</param>
public sealed record ShiftRow(Capability Capability, bool Gains, int Count, ImmutableArray<string> Names);

public static class Foresight
{
    private const int MostNames = 3;

    private static readonly ImmutableArray<(Capability Capability, Order Order)> _byOrder =
        [.. Named.All<Capability>().Where(capability => capability.ByOrder is not null)
            .Select(capability => (capability, capability.ByOrder!.Value)).OrderBy(pair => pair.Value)];

    /// <summary>Asks the rules, and lets nothing happen. Who else would be touched is for the bench to know.</summary>
    public static ForesightRow Of(Sitting sitting, Command command, Actor by, Instant now)
    {
        var decision = SittingRules.Decide(sitting, command, by, now);
        if (decision.Refusal is { } refusal) return new ForesightRow(refusal, [], 0, []);
        if (by.Seat is { } id && !sitting.MayKnow(sitting.Seats[id], Matter.Books)) return new ForesightRow(null, [], 0, []);
        var (entries, after) = SittingRules.Record(sitting, decision.Facts, by, now);
        return new ForesightRow(
            null, Sentences.Of(after, entries.SelectMany(WithParts)),
            after.Seats.ChangedSince(sitting.Seats).Count(), Shifts(sitting, after), Brought(sitting, after));
    }

    /// <summary>What the item that would begin shows and the shelf does not hold: the server looks for it among the papers.</summary>
    private static string? Brought(Sitting before, Sitting after) =>
        after.RunSheet.At != before.RunSheet.At && after.RunSheet.Now is { Shows: { Length: > 0 } name } && after.Named(name) is null
            ? name
            : null;

    private static IEnumerable<Entry> WithParts(Entry entry) => entry.Fact.Within.Select(part => entry with { Fact = part }).Prepend(entry);

    private static ImmutableArray<ShiftRow> Shifts(Sitting before, Sitting after)
    {
        var seats = before.Orders == after.Orders && before.GroupRules == after.GroupRules
            ? after.Seats.ChangedSince(before.Seats).Select(pair => pair.After) : after.Seats;
        var turned = Enum.GetValues<Order>()
            .Where(order => before.Orders[order] != after.Orders[order] || before.GroupRules != after.GroupRules).ToHashSet();
        var shifts = new SortedDictionary<(Order, bool), (Capability Capability, List<string> Names)>();
        foreach (var seat in seats)
        {
            if (!before.Seats.TryGet(seat.Id, out var was) || !was.IsSeated || !seat.IsSeated
                || !(Powers.TakesExceptions(was) || Powers.TakesExceptions(seat))) continue;
            foreach (var (capability, order) in _byOrder)
            {
                if (!turned.Contains(order) && IsSame(was, seat, order)) continue;
                var (had, has) = (before.Forbids(Actor.Of(seat.Id), capability) is null,
                    after.Forbids(Actor.Of(seat.Id), capability) is null);
                if (had == has) continue;
                if (!shifts.TryGetValue((order, has), out var shift)) shifts[(order, has)] = shift = (capability, []);
                shift.Names.Add(seat.Name);
            }
        }
        return [.. shifts.Select(pair => (Gains: pair.Key.Item2, pair.Value.Capability, pair.Value.Names))
            .Select(shift => new ShiftRow(shift.Capability, shift.Gains, shift.Names.Count, [.. shift.Names.Take(MostNames)]))];
    }

    /// <summary>Spares asking the powers twice for each of a thousand people about what nobody touched.</summary>
    private static bool IsSame(Seat was, Seat seat, Order order) =>
        was.Role == seat.Role && was.HasLeave == seat.HasLeave && was.ExceptionFrom(order) == seat.ExceptionFrom(order);
}
