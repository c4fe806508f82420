namespace HoldCourt.Core.Rooms;

/// <summary>
/// Numbers that look drawn by lot and follow from a seed alone, on every machine and for ever (SplitMix64: Steele, Lea and Flood, 2014).
/// </summary>
internal sealed class Dice(int seed)
{
    private ulong _state = (ulong)seed;

    private ulong Next()
    {
        var mixed = _state += 0x9E3779B97F4A7C15;
        mixed = (mixed ^ (mixed >> 30)) * 0xBF58476D1CE4E5B9;
        mixed = (mixed ^ (mixed >> 27)) * 0x94D049BB133111EB;
        return mixed ^ (mixed >> 31);
    }

    /// <summary>From 0 to below <paramref name="end"/>, which is at least 1.</summary>
    public int Below(int end) => (int)(Next() % (ulong)end);

    /// <summary>From 0 to below 1.</summary>
    public double Share() => (Next() >> 11) * (1.0 / (1UL << 53));

    public void Shuffle(int[] list)
    {
        for (var left = list.Length; left > 1; left--)
        {
            var drawn = Below(left);
            (list[left - 1], list[drawn]) = (list[drawn], list[left - 1]);
        }
    }
}
