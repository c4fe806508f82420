using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>
/// Finds the lines of a docket that a typed name may mean. Words are compared free of order; each pair of words agrees
/// fully, by another spelling, a short form, an initial, a joined word or one slip of the keys; rare words weigh more
/// than common ones, after Sparck Jones, "A statistical interpretation of term specificity" (1972), with the docket
/// itself as the collection.
/// </summary>
public sealed class Matcher
{
    /// <summary>Below this a line does not come into question at all.</summary>
    private const double Least = 0.35;

    private const int MostCandidates = 8;
    private const double Spelling = 0.94, Short = 0.93, Joined = 0.97, Slip = 0.9, OneLetter = 0.86;

    private readonly ImmutableArray<NameWords> _lines;
    private readonly Dictionary<string, double> _weights = [];
    private readonly Dictionary<string, List<int>> _byKey = [];
    private readonly Dictionary<string, List<int>> _byProof = new(StringComparer.OrdinalIgnoreCase);
    private readonly double _rarest;

    public Matcher(ImmutableArray<DocketLine> lines)
    {
        _lines = [.. lines.Select(line => NameWords.Of(line.Name))];
        for (var line = 0; line < _lines.Length; line++)
        {
            foreach (var key in KeysOf(_lines[line].Words).Distinct()) Add(_byKey, key, line);
            foreach (var word in _lines[line].Words.Distinct()) _weights[word] = _weights.GetValueOrDefault(word) + 1;
            if (lines[line].Email is { Length: > 0 } email) Add(_byProof, email.Trim(), line);
            if (lines[line].Key is { Length: > 0 } own) Add(_byProof, own, line);
        }
        foreach (var (word, lineCount) in _weights.ToList()) _weights[word] = Math.Log(2 + (_lines.Length / lineCount));
        _rarest = Math.Log(2 + Math.Max(1, _lines.Length));

        static void Add(Dictionary<string, List<int>> index, string key, int line)
        {
            if (!index.TryGetValue(key, out var found)) index[key] = found = [];
            found.Add(line);
        }
    }

    /// <summary>Lines that this person may be, best first, at most eight.</summary>
    /// <param name="proof">A line's key from a personal link, or an e-mail address known for certain; null otherwise.</param>
    public ImmutableArray<Candidate> CandidatesFor(string name, string? proof)
    {
        if (proof is not null && _byProof.TryGetValue(proof.Trim(), out var proven))
            return [.. proven.Select(line => new Candidate(line, 1, [MatchReason.PersonalLink])).OrderByDescending(candidate => Compare(NameWords.Of(name), _lines[candidate.Line]).Score)];
        var typed = NameWords.Of(name);
        if (typed.IsDevice) return [];
        var found = new HashSet<int>();
        foreach (var key in KeysOf(typed.Words).Distinct())
            if (_byKey.TryGetValue(key, out var lines)) found.UnionWith(lines);
        return [.. found.Select(line => Compare(typed, _lines[line]) is var (score, reasons) ? new Candidate(line, score, reasons) : default)
            .Where(candidate => candidate.Score >= Least)
            .OrderByDescending(candidate => candidate.Score).ThenBy(candidate => candidate.Line)
            .Take(MostCandidates)];
    }

    /// <summary>Under which keys a name is found: words, sounds, full names of short forms, words with a letter left out, joined neighbours.</summary>
    private static IEnumerable<string> KeysOf(ImmutableArray<string> words)
    {
        for (var i = 0; i < words.Length; i++)
        {
            foreach (var key in KeysOf(words[i])) yield return key;
            if (i + 1 < words.Length) yield return words[i] + words[i + 1];
        }
    }

    private static IEnumerable<string> KeysOf(string word)
    {
        yield return word;
        if (word.Length == 1) yield break;
        yield return "~" + NameWords.SoundOf(word);
        foreach (var full in ShortForms.FullNamesOf(word)) yield return "^" + full;
        if (word.Length >= 4)
            for (var i = 0; i < word.Length; i++) yield return "-" + word.Remove(i, 1);
        if (word.Length >= 3) yield return "-" + word;
    }

    private (double Score, ImmutableArray<MatchReason> Reasons) Compare(NameWords typed, NameWords line)
    {
        var (a, b) = (typed.Words, line.Words);
        if (a.AsSpan().SequenceEqual(b.AsSpan())) return (1, [MatchReason.SameName]);
        var (takenA, takenB) = (new bool[a.Length], new bool[b.Length]);
        var (agreed, reasons) = (0.0, new SortedSet<MatchReason>());
        var order = -1;
        var inOrder = true;
        // The strongest pairs first: names have few words, so taking them one by one finds the best pairing in practice.
        var pairs = (from i in Enumerable.Range(0, a.Length)
                     from j in Enumerable.Range(0, b.Length)
                     let pair = Alike(a[i], b[j])
                     where pair.Score > 0
                     orderby pair.Score descending, Math.Abs(i - j)
                     select (i, j, pair)).ToList();
        foreach (var (i, j, pair) in pairs)
        {
            if (takenA[i] || takenB[j]) continue;
            (takenA[i], takenB[j]) = (true, true);
            agreed += pair.Score * WeightOf(b[j]) * (pair.Reason == MatchReason.Initial ? 0.9 : 1);
            if (pair.Reason is { } reason) reasons.Add(reason);
        }
        agreed += Join(a, takenA, b, takenB, reasons) + Join(b, takenB, a, takenA, reasons);
        foreach (var (i, j, _) in pairs.Where(pair => takenA[pair.i] && takenB[pair.j] && Alike(a[pair.i], b[pair.j]).Score > 0.8).OrderBy(pair => pair.i))
        {
            inOrder &= j >= order;
            order = j;
        }
        if (!inOrder) reasons.Add(MatchReason.WordsInOtherOrder);
        var (all, missingB, missingA) = (b.Sum(WeightOf), 0.0, 0.0);
        for (var j = 0; j < b.Length; j++) if (!takenB[j]) missingB += WeightOf(b[j]);
        for (var i = 0; i < a.Length; i++) if (!takenA[i]) missingA += WeightOf(a[i]);
        if (missingB > 0) reasons.Add(MatchReason.PartOfName);
        if (missingA > 0) reasons.Add(MatchReason.MoreWords);
        if (reasons.Count == 0) reasons.Add(MatchReason.SameName);
        // A surplus word of the typed name counts against it, less than a missing one when the line is whole.
        var score = agreed / (all + (missingA * (missingB > 0 ? 1 : 0.35)));
        // One word alone, or initials alone, is never a whole name.
        if (!takenB.Where((taken, j) => taken && b[j].Length > 1).Skip(1).Any() && b.Length > 1 && missingB > 0) score = Math.Min(score, 0.75);
        return (Math.Min(score, 1), [.. reasons]);
    }

    /// <summary>A word left over on one side that is two neighbours of the other written as one.</summary>
    private double Join(ImmutableArray<string> ones, bool[] takenOnes, ImmutableArray<string> twos, bool[] takenTwos, SortedSet<MatchReason> reasons)
    {
        var agreed = 0.0;
        for (var i = 0; i < ones.Length; i++)
            for (var j = 0; j + 1 < twos.Length; j++)
            {
                if (takenOnes[i] || takenTwos[j] || takenTwos[j + 1]) continue;
                var joined = twos[j] + twos[j + 1];
                if (joined != ones[i] && NameWords.SoundOf(joined) != NameWords.SoundOf(ones[i])) continue;
                takenOnes[i] = takenTwos[j] = takenTwos[j + 1] = true;
                reasons.Add(MatchReason.JoinedWords);
                agreed += Joined * (_weights.ContainsKey(ones[i]) ? WeightOf(ones[i]) : WeightOf(twos[j]) + WeightOf(twos[j + 1]));
            }
        return agreed;
    }

    private double WeightOf(string word) => word.Length == 1 ? _rarest * 0.3 : _weights.GetValueOrDefault(word, _rarest);

    private static (double Score, MatchReason? Reason) Alike(string a, string b)
    {
        if (a == b) return (1, null);
        if (a.Length == 1 || b.Length == 1) return a[0] == b[0] ? (OneLetter, MatchReason.Initial) : (0, null);
        if (NameWords.SoundOf(a) == NameWords.SoundOf(b)) return (Spelling, MatchReason.OtherSpelling);
        if (ShortForms.MayBeSame(a, b)) return (Short, MatchReason.ShortForm);
        return Math.Min(a.Length, b.Length) >= 4 && IsOneSlip(a, b) ? (Slip, MatchReason.OneSlip) : (0, null);
    }

    /// <summary>One letter more, less or other, or two neighbours changed about (Damerau, 1964). The first letter is seldom mistaken.</summary>
    internal static bool IsOneSlip(string a, string b)
    {
        if (Math.Abs(a.Length - b.Length) > 1) return false;
        var start = 0;
        while (start < Math.Min(a.Length, b.Length) && a[start] == b[start]) start++;
        if (start == 0 && a.Length == b.Length && !(a.Length > 1 && a[0] == b[1] && a[1] == b[0])) return false;
        var restA = a.AsSpan(start);
        var restB = b.AsSpan(start);
        if (restA.Length == restB.Length)
            return restA[1..].SequenceEqual(restB[1..]) || (restA.Length >= 2 && restA[0] == restB[1] && restA[1] == restB[0] && restA[2..].SequenceEqual(restB[2..]));
        return restA.Length > restB.Length ? restA[1..].SequenceEqual(restB) : restB[1..].SequenceEqual(restA);
    }
}
