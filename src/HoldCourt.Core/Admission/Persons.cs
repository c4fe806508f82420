using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

/// <summary>
/// One person may hold several seats, each in a browser of its own, and show several keys. Seats that have a key in common are one
/// person's, also over a third that has a key of each: what the bench did to one of them holds for all.
/// </summary>
public static class Persons
{
    /// <summary>Keys are told apart as the docket tells them apart.</summary>
    public static StringComparer KeyComparer => StringComparer.OrdinalIgnoreCase;

    /// <summary>All keys that this seat has ever shown.</summary>
    public static IEnumerable<string> KeysOf(Seat seat) => seat.Proof is { } proof ? seat.EarlierProofs.Append(proof) : seat.EarlierProofs;

    /// <summary>The other seats of the person who holds this one, or who shows this key.</summary>
    /// <param name="seat">Null for a newcomer.</param>
    /// <param name="proof">What is shown now; null for nothing new.</param>
    internal static ImmutableArray<Seat> OthersOf(Sitting sitting, Seat? seat, string? proof)
    {
        var keys = new HashSet<string>(seat is null ? [] : KeysOf(seat), KeyComparer);
        if (proof is not null) keys.Add(proof);
        if (keys.Count == 0) return [];
        var strangers = sitting.Seats.Where(other => other.Id != seat?.Id && (other.Proof is not null || other.EarlierProofs is not []))
            .ToList();
        var found = ImmutableArray.CreateBuilder<Seat>();
        // Each that is found may bring another key, by which more are found.
        for (var grew = true; grew;)
        {
            grew = false;
            strangers.RemoveAll(other =>
            {
                if (!KeysOf(other).Any(keys.Contains)) return false;
                found.Add(other);
                foreach (var key in KeysOf(other)) grew |= keys.Add(key);
                return true;
            });
        }
        return found.DrainToImmutable();
    }

    /// <summary>All seats of the person who holds this one, or who showed this key.</summary>
    public static ImmutableArray<Seat> SeatsOf(Sitting sitting, Seat? seat, string? proof)
    {
        var others = OthersOf(sitting, seat, proof);
        return seat is null ? others : others.Add(seat);
    }

    /// <summary>The bench put this person out by another seat, and has not let this one in since.</summary>
    internal static bool WasPutOutBy(Seat other, Seat? self) =>
        other.Admittance == Admittance.Withdrawn && !IsSince(self?.LetInAt, other.PutOutAt);

    internal static bool IsSince(Instant? one, Instant? other) => one is { } at && (other is not { } then || at > then);
}
