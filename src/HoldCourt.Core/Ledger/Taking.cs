using System.Collections.Immutable;

namespace HoldCourt.Core.Ledger;

/// <summary>What can be taken back, and how.</summary>
public static class Taking
{
    /// <summary>How many entries back the bench can go.</summary>
    public const int Depth = 50;

    /// <summary>The newest entry of which something is left to take back; null when there is none.</summary>
    public static Entry? Newest(Sitting sitting) =>
        sitting.IsRunning ? sitting.Takeable.Find(entry => entry.Fact.OppositeIn(sitting) is not null) : null;

    /// <summary>What would undo the parts of a fact, the last first; what is changed since is left as it is.</summary>
    internal static ImmutableArray<Fact> OppositesIn(this ImmutableArray<Fact> parts, Sitting sitting)
    {
        var back = ImmutableArray.CreateBuilder<Fact>();
        foreach (var part in parts.Reverse())
        {
            if (part.OppositeIn(sitting) is not { } opposite) continue;
            back.Add(opposite);
            sitting = opposite.Apply(sitting, sitting.OpenedAt);
        }
        return back.ToImmutable();
    }

    /// <summary>Keeps the list of what can be taken back: acts of the bench on others or on the session, not on oneself.</summary>
    internal static Sitting Remember(Sitting after, Sitting before, Entry entry)
    {
        if (entry.Fact is TakenBack back) return after with { Takeable = after.Takeable.RemoveAll(taken => taken.Sequence == back.Of) };
        if (entry.By.Seat is not { } by || !before.Seats.TryGet(by, out var seat) || !Powers.ActsAreTakenBack(seat)
            || !entry.Fact.IsTakeable(by)) return after;
        var takeable = after.Takeable.Insert(0, entry);
        return after with { Takeable = takeable.Count > Depth ? takeable.RemoveAt(Depth) : takeable };
    }
}
