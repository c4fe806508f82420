using System.Collections.Concurrent;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Captions;

/// <summary>Where the words of captions by machine come from.</summary>
internal sealed class SpeechToText(
    IRecogniser recogniser, Lazy<IGrainFactory> grains, Supervisor supervisor, TimeProvider time, ILogger<SpeechToText> log)
{
    private readonly ConcurrentDictionary<Guid, bool> _scripted = new();

    /// <summary>Each takes up to a core, and the relay needs some.</summary>
    private readonly Places _atOnce = new(Math.Max(1, Environment.ProcessorCount / 2));

    /// <summary>Somebody there says what stands in a script.</summary>
    public void HasScript(Guid sitting) => _scripted[sitting] = true;

    /// <summary>It is over.</summary>
    public void Forget(Guid sitting) => _scripted.TryRemove(sitting, out _);

    /// <summary>There is something in this house that can write captions for this sitting.</summary>
    public bool IsThere(Guid sitting) => recogniser.IsThere || _scripted.ContainsKey(sitting);

    /// <summary>Null where nothing can turn speech into words.</summary>
    public IEar? EarOf(Guid sitting) => recogniser.IsThere
        ? new Ear(recogniser, _atOnce, (seat, words, ago) => supervisor.Begin("captions", () => Tell(sitting, seat, words, ago)),
            time, log)
        : null;

    public async Task Tell(Guid sitting, SeatId seat, string words, int ago)
    {
        // A long utterance becomes lines.
        foreach (var line in Lines(words))
            await grains.Value.GetGrain<ISittingGrain>(sitting).DoAsHouse(new HearCaption(seat, line, ago));
    }

    private static IEnumerable<string> Lines(string words)
    {
        while (words.Length > CaptionLine.LongestText)
        {
            var gap = words.LastIndexOf(' ', CaptionLine.LongestText - 1);
            if (gap <= 0) gap = CaptionLine.LongestText;
            yield return words[..gap];
            words = words[gap..].TrimStart();
        }
        if (words.Length > 0) yield return words;
    }
}
