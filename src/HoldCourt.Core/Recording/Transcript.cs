using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <summary>A line of a transcript, in the time of a film.</summary>
/// <param name="Line">Number of the caption.</param>
/// <param name="To">Later than <paramref name="From"/>, and not after the next one begins.</param>
/// <param name="Speaker">Null where that was not noted.</param>
public sealed record Cue(int Line, TimeSpan From, TimeSpan To, SeatId? Speaker, string Name, string Text, bool Draft);

/// <summary>What is said in a film.</summary>
public static class Transcript
{
    /// <summary>A line stands so long, unless the next one comes earlier.</summary>
    public static readonly TimeSpan Shortest = TimeSpan.FromSeconds(1.2), Longest = TimeSpan.FromSeconds(7);

    /// <summary>Of a second one reads so many letters, which is what subtitles are commonly made for.</summary>
    private const double LettersASecond = 15;

    /// <summary>Two that began in the same moment come so long one after the other.</summary>
    private static readonly TimeSpan _between = TimeSpan.FromSeconds(0.2);

    /// <param name="timeline">Of the film: what it leaves out is in no cue.</param>
    /// <param name="corrections">What lines say in place of their own words, by their numbers; empty words take a line out.</param>
    /// <returns>In order; none overlaps another, and none reaches beyond the film.</returns>
    public static ImmutableArray<Cue> Of(Score score, Timeline timeline, IReadOnlyDictionary<int, string> corrections)
    {
        // Whoever was erased from the entries stays so, whatever a correction says.
        var lines = score.Lines.Where(line => line.Text != Erasure.Gone)
            .Select(line => corrections.TryGetValue(line.Number, out var text) ? line with { Text = text, Draft = false } : line)
            .Where(line => line.Text.Length > 0)
            .Select(line => (Line: line, At: timeline.At(line.Heard))).Where(pair => pair.At is not null).ToList();
        var begins = new List<TimeSpan>(lines.Count);
        foreach (var (_, at) in lines)
            begins.Add(begins is [.., var before] && at!.Value < before + _between ? before + _between : at!.Value);
        var cues = ImmutableArray.CreateBuilder<Cue>(lines.Count);
        for (var at = 0; at < lines.Count; at++)
        {
            var line = lines[at].Line;
            if (begins[at] >= timeline.Length && cues.Count > 0)
            {
                // Several in the film's last moment: they are read together.
                cues[^1] = cues[^1] with { Text = $"{cues[^1].Text} {line.Text}" };
                continue;
            }
            var reading = TimeSpan.FromSeconds(line.Text.Length / LettersASecond);
            var to = begins[at] + (reading < Shortest ? Shortest : reading > Longest ? Longest : reading);
            if (at + 1 < begins.Count && begins[at + 1] < to) to = begins[at + 1];
            if (timeline.Length < to) to = timeline.Length;
            if (to > begins[at]) cues.Add(new Cue(line.Number, begins[at], to, line.Speaker, line.Name, line.Text, line.Draft));
        }
        return cues.ToImmutable();
    }
}
