namespace HoldCourt.Bench.Soak;

/// <summary>How much of the first voice of a sitting those hear who are in its place: all of it, while nothing is wrong.</summary>
/// <param name="Said">By the first voice, until then.</param>
/// <param name="Heard">Of it, by the number of whoever hears it.</param>
internal sealed record SoakListening(long Said, IReadOnlyDictionary<int, long> Heard)
{
    /// <summary>Of each sitting, by its number.</summary>
    public static List<SoakListening> Of(IReadOnlyList<SoakSitting> sittings) => [.. sittings.Select(Of)];

    /// <param name="since">When <paramref name="before"/> was taken, in ms since 1970; whoever moved about then is left out.</param>
    public static IEnumerable<double> Shares(IReadOnlyList<SoakSitting> sittings, IReadOnlyList<SoakListening> before, long since)
    {
        foreach (var (sitting, was) in sittings.Zip(before))
        {
            var (speaker, now) = (sitting.People[1], Of(sitting));
            foreach (var (number, heard) in now.Heard)
                if (was.Heard.TryGetValue(number, out var then) && now.Said - was.Said > 200
                    && new[] { speaker, sitting.People[number] }.All(one => one.Moves.All(at => at < since - 3_000)))
                    yield return (heard - then) / (double)(now.Said - was.Said);
        }
    }

    private static SoakListening Of(SoakSitting sitting)
    {
        var speaker = sitting.People[1];
        return new SoakListening(speaker.Said, speaker is not { IsIn: true, HasMicrophone: true, SilentSince: null }
            ? new Dictionary<int, long>()
            : sitting.People.Where(one => one != speaker && one is { IsIn: true, Dawdles: false } && one.Place == speaker.Place)
                .ToDictionary(one => one.Number, one => one.HeardOf(1)));
    }
}
