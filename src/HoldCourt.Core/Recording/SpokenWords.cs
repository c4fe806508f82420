using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <summary>
/// Gathers the captions of a sitting, and says which of them belong to a recording: those of people who are in it when they speak. Where
/// nobody is noted as the speaker, only what was said while no microphone was open of anybody who is not in it.
/// </summary>
internal sealed class SpokenWords
{
    private readonly List<SpokenLine> _lines = [];
    private readonly Dictionary<int, int> _places = [];

    /// <summary>Up to when somebody could be heard who is not recorded.</summary>
    private Instant? _unrecordedUntil;

    public void Follow(Sitting before, Sitting after, Entry entry)
    {
        if (HasUnrecordedVoice(before)) _unrecordedUntil = entry.At;
        foreach (var fact in new[] { entry.Fact }.Concat(entry.Fact.Within))
            switch (fact)
            {
                case Captioned captioned:
                    var line = captioned.ToLine(after.Captions.Count, entry.At);
                    var apart = line.Speaker is null && (HasUnrecordedVoice(after) || _unrecordedUntil >= line.Heard);
                    if (!apart) Add(after, line);
                    break;
                case CaptionCorrected corrected when _places.TryGetValue(corrected.Line, out var at):
                    _lines[at] = _lines[at] with { Text = corrected.To, Draft = false };
                    break;
            }
    }

    private void Add(Sitting sitting, CaptionLine line)
    {
        _places[line.Number] = _lines.Count;
        var name = line.Speaker is { } speaker ? sitting.Seats[speaker].Name : "";
        _lines.Add(new SpokenLine(line.Number, line.Heard, line.Speaker, name, line.Text, line.IsDraft));
    }

    public ImmutableArray<SpokenLine> In(ImmutableArray<Stretch> stretches, IReadOnlyList<Scene> scenes) =>
        [.. _lines.Where(line => line.Text.Length > 0 && stretches.Any(stretch => stretch.Contains(line.Heard)) && IsIn(line, scenes))
            .OrderBy(line => line.Heard.Milliseconds).ThenBy(line => line.Number)];

    private static bool IsIn(SpokenLine line, IReadOnlyList<Scene> scenes) => line.Speaker is not { } speaker
        || (scenes.LastOrDefault(scene => scene.At <= line.Heard)?.People.Any(person => person.Seat == speaker) ?? false);

    private static bool HasUnrecordedVoice(Sitting sitting) =>
        sitting.Seats.Any(seat => seat is { IsSeated: true, Room: null, MicrophoneOpen: true } && !sitting.Agrees(seat));
}
