using System.Collections.Immutable;
using HoldCourt.Server.Api;

namespace HoldCourt.Server.Recording.Films;

/// <summary>Who spoke when, in the time of a film.</summary>
internal static class SpokenIn
{
    /// <summary>A speaker stays it for so long at most after the last word was noted, in milliseconds.</summary>
    private const long Longest = 10 * 60_000;

    public static ImmutableArray<SpokenRow> Of(Score score, Timeline timeline, IReadOnlyList<Spoken> spoken)
    {
        var names = new Dictionary<int, string>();
        foreach (var person in score.Scenes.SelectMany(scene => scene.People)) names[person.Seat.Number] = person.Name;
        var rows = ImmutableArray.CreateBuilder<SpokenRow>();
        for (var at = 0; at < spoken.Count; at++)
        {
            if (!names.TryGetValue(spoken[at].Seat, out var name)) continue;
            var end = at + 1 < spoken.Count ? spoken[at + 1].At : spoken[at].At + TimeSpan.FromMilliseconds(Longest);
            foreach (var passage in timeline.During(new Stretch(spoken[at].At, end)))
                rows.Add(new SpokenRow((long)passage.From.TotalMilliseconds, (long)passage.To.TotalMilliseconds, name));
        }
        return rows.ToImmutable();
    }
}
