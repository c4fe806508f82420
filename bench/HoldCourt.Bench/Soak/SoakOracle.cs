using System.Collections.Concurrent;

namespace HoldCourt.Bench.Soak;

/// <summary>A voice that came where it might have no business.</summary>
/// <param name="From">The place of whoever spoke, when it was said.</param>
/// <param name="Silent">The bench had it silent for a second, acknowledged.</param>
/// <param name="Said">In ms since 1970, as all times here.</param>
internal sealed record OddVoice(int Sitting, int Speaker, int From, bool Silent, long Said, SoakPerson Hearer, int At, long Heard);

/// <summary>Something written that carries a mark nobody else writes.</summary>
internal sealed record Act(int Sitting, string Mark, Outcome Outcome);

/// <summary>
/// What must never happen, judged by what those who took part did and were told, and not by the rules. Who is being moved hears
/// the one place or the other until they are told: voices within <see cref="Slack"/> of a move are not judged.
/// </summary>
internal sealed class SoakOracle
{
    /// <summary>In ms: longer than the server is ever stopped for.</summary>
    public const long Slack = 9_000;

    private readonly ConcurrentQueue<OddVoice> _odd = new();
    private readonly ConcurrentDictionary<string, int> _notes = new();

    public ConcurrentQueue<Act> Messages { get; } = new();
    public ConcurrentDictionary<(int Sitting, int Poll), ConcurrentQueue<Outcome>> Votes { get; } = new();
    public IReadOnlyDictionary<string, int> Notes => _notes;
    public int Unjudged { get; private set; }

    public void Suspect(OddVoice voice) => _odd.Enqueue(voice);

    public void Refused(Refusal refusal) => Note($"refused: {refusal.Reason}");

    public void Note(string what) => _notes.AddOrUpdate(what, 1, (_, count) => count + 1);

    /// <summary>What a failure is called, without the names of the things it was about.</summary>
    public static string Gist(Exception e) => e.Message.Split("\"title\":\"") is [_, var title, ..] ? title.Split('"')[0] : e.Message;

    public List<string> Voices(IReadOnlyList<SoakSitting> sittings)
    {
        var wrong = new List<string>();
        foreach (var odd in _odd)
        {
            var speaker = sittings[odd.Sitting].People[odd.Speaker];
            bool Moved(SoakPerson who) => who.Moves.Any(at => at > odd.Said - Slack && at < odd.Heard + Slack);
            if (odd.Sitting != odd.Hearer.Sitting.Number) wrong.Add($"heard in another sitting: {odd}");
            else if (Moved(speaker) || Moved(odd.Hearer)) Unjudged++;
            else if (odd.Silent && odd.Heard - odd.Said < Slack) wrong.Add($"heard while silenced: {odd}");
            else if (odd.From != odd.At) wrong.Add($"heard in another place: {odd}");
        }
        return wrong;
    }

    /// <summary>Acknowledged and not there, there twice, or refused and there all the same.</summary>
    public List<string> Written(int sitting, IReadOnlyList<string> read)
    {
        var count = read.CountBy(text => text).ToDictionary();
        var wrong = new List<string>();
        foreach (var act in Messages.Where(act => act.Sitting == sitting))
        {
            var times = count.GetValueOrDefault(act.Mark);
            if (act.Outcome == Outcome.Done && times != 1) wrong.Add($"acknowledged, {times} times there: {act.Mark}");
            if (act.Outcome == Outcome.Refused && times > 0) wrong.Add($"refused, and there: {act.Mark}");
            if (times > 1) wrong.Add($"{times} times there: {act.Mark}");
        }
        return wrong;
    }
}
