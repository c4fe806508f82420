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

    /// <summary>A short form that stands in no table, and a slip that may as well be another name.</summary>
    private const double Cut = 0.9, Doubtful = 0.7;

    /// <summary>What is not the whole name, each for itself below what is sure.</summary>
    private const double MostOfPiece = 0.75, MostOfSeveralSlips = 0.86, MostOfDevice = 0.7, HintOfDevice = 0.6;

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
            foreach (var key in KeysOf(_lines[line])) Add(_byKey, key, line);
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

    /// <summary>The lines of which this is the key, or the address.</summary>
    internal IReadOnlyList<int> ProvedBy(string proof) => _byProof.GetValueOrDefault(proof.Trim()) ?? (IReadOnlyList<int>)[];

    /// <summary>Lines that this person may be, best first, at most eight.</summary>
    /// <param name="proof">A line's key from a personal link, or an e-mail address known for certain; null otherwise.</param>
    internal ImmutableArray<Candidate> CandidatesFor(NameWords typed, string? proof)
    {
        if (proof is not null && _byProof.TryGetValue(proof.Trim(), out var proven))
            return [.. proven.Select(line => new Candidate(line, 1, [MatchReason.PersonalLink]))
                .OrderByDescending(candidate => Compare(typed, _lines[candidate.Line]).Score)];
        if (typed.IsDevice) return [];
        var found = new HashSet<int>();
        foreach (var key in KeysOf(typed))
            if (_byKey.TryGetValue(key, out var lines)) found.UnionWith(lines);
        return [.. found.Select(line => (line, likeness: Compare(typed, _lines[line])))
            .Where(pair => pair.likeness.Score >= Least)
            .OrderByDescending(pair => pair.likeness.Score).ThenBy(pair => pair.line)
            .Take(MostCandidates).Select(pair => new Candidate(pair.line, pair.likeness.Score, pair.likeness.Reasons.ToArray()))];
    }

    /// <summary>Under which keys a name is found: words, sounds, full names of
    /// short forms, words with a letter left out, joined neighbours.</summary>
    private static HashSet<string> KeysOf(NameWords name)
    {
        var keys = new HashSet<string>();
        for (var i = 0; i < name.Words.Length; i++)
        {
            var word = name.Words[i];
            keys.Add(word);
            if (i + 1 < name.Words.Length) keys.Add(word + name.Words[i + 1]);
            if (word.Length == 1) continue;
            keys.Add("~" + name.Sounds[i]);
            foreach (var full in name.FullNames[i]) keys.Add("^" + full);
            if (word.Length >= 4)
                for (var at = 0; at < word.Length; at++) keys.Add(string.Concat("-", word.AsSpan(0, at), word.AsSpan(at + 1)));
            if (word.Length >= 3) keys.Add("-" + word);
        }
        return keys;
    }

    private (double Score, ReasonSet Reasons) Compare(NameWords typed, NameWords line)
    {
        var (a, b) = (typed.Words, line.Words);
        var reasons = new ReasonSet();
        if (a.AsSpan().SequenceEqual(b.AsSpan())) return (1, reasons.And(MatchReason.SameName));
        // For each typed word, the word of the line that it was taken for.
        Span<int> meant = stackalloc int[a.Length];
        meant.Fill(-1);
        Span<bool> takenA = stackalloc bool[a.Length], takenB = stackalloc bool[b.Length];
        var (agreed, slips) = (0.0, 0);
        var room = a.Length * b.Length;
        foreach (var (i, j, score, reason) in Pairs(typed, line, room <= 64 ? stackalloc Pair[room] : new Pair[room]))
        {
            if (takenA[i] || takenB[j]) continue;
            (takenA[i], takenB[j], meant[i]) = (true, true, j);
            agreed += score * WeightOf(b[j]) * (reason == MatchReason.Initial ? 0.9 : 1);
            if (reason is { } why) reasons = reasons.And(why);
            if (reason is MatchReason.OneSlip) slips++;
        }
        agreed += Join(typed, takenA, line, takenB, ref reasons) + Join(line, takenB, typed, takenA, ref reasons);
        var order = -1;
        foreach (var j in meant)
        {
            if (j < 0) continue;
            if (j < order) reasons = reasons.And(MatchReason.WordsInOtherOrder);
            order = j;
        }
        var (all, missingB, missingA, whole) = (0.0, 0.0, 0.0, 0);
        for (var j = 0; j < b.Length; j++)
        {
            all += WeightOf(b[j]);
            if (!takenB[j]) missingB += WeightOf(b[j]);
            else if (b[j].Length > 1) whole++;
        }
        // What stands beside the name is not part of it: a part of the text in which no word is of the line.
        for (var i = 0; i < a.Length; i++) if (!takenA[i] && !IsBeside(typed, takenA, i)) missingA += WeightOf(a[i]);
        if (missingB > 0) reasons = reasons.And(MatchReason.PartOfName);
        if (missingA > 0) reasons = reasons.And(MatchReason.MoreWords);
        if (reasons.IsEmpty) reasons = reasons.And(MatchReason.SameName);
        // A surplus word of the typed name counts against it, less than a missing one when the line is whole.
        var likeness = agreed / (all + (missingA * (missingB > 0 ? 1 : 0.35)));
        // One word alone, or initials alone, is never a whole name.
        if (whole < 2 && b.Length > 1 && missingB > 0) likeness = Math.Min(likeness, MostOfPiece);
        if (slips > 1) likeness = Math.Min(likeness, MostOfSeveralSlips);
        if (typed.IsOfDevice)
        {
            reasons = reasons.And(MatchReason.DeviceName);
            likeness = takenB[0] && b[0].Length > 1 ? Math.Clamp(agreed / all, HintOfDevice, MostOfDevice) : 0;
        }
        return (Math.Min(likeness, 1), reasons);
    }

    private static bool IsBeside(NameWords typed, Span<bool> taken, int word)
    {
        for (var i = 0; i < taken.Length; i++)
            if (taken[i] && typed.Pieces[i] == typed.Pieces[word]) return false;
        return true;
    }

    /// <summary>The strongest pairs of words first: names have few words, so
    /// taking them one by one finds the best pairing in practice.</summary>
    /// <param name="into">Room for each word of one name with each of the other.</param>
    private Span<Pair> Pairs(NameWords a, NameWords b, Span<Pair> into)
    {
        var count = 0;
        for (var i = 0; i < a.Words.Length; i++)
            for (var j = 0; j < b.Words.Length; j++)
                if (Alike(a, i, b, j) is { Score: > 0 } like) into[count++] = new Pair(i, j, like.Score, like.Reason);
        var pairs = into[..count];
        if (count > 1)
            pairs.Sort(static (one, other) => other.Score.CompareTo(one.Score) is not 0 and var better ? better
                : (Math.Abs(one.I - one.J), one.I, one.J).CompareTo((Math.Abs(other.I - other.J), other.I, other.J)));
        return pairs;
    }

    private readonly record struct Pair(int I, int J, double Score, MatchReason? Reason);

    /// <summary>A word left over on one side that is two neighbours of the other written as one.</summary>
    private double Join(NameWords one, Span<bool> takenOnes, NameWords two, Span<bool> takenTwos, ref ReasonSet reasons)
    {
        var agreed = 0.0;
        var (ones, twos) = (one.Words, two.Words);
        for (var i = 0; i < ones.Length; i++)
            for (var j = 0; j + 1 < twos.Length; j++)
            {
                if (takenOnes[i] || takenTwos[j] || takenTwos[j + 1]) continue;
                var joined = twos[j] + twos[j + 1];
                if (joined != ones[i] && NameWords.SoundOf(joined) != one.Sounds[i]) continue;
                takenOnes[i] = takenTwos[j] = takenTwos[j + 1] = true;
                reasons = reasons.And(MatchReason.JoinedWords);
                agreed += Joined * (_weights.ContainsKey(ones[i]) ? WeightOf(ones[i]) : WeightOf(twos[j]) + WeightOf(twos[j + 1]));
            }
        return agreed;
    }

    private double WeightOf(string word) => word.Length == 1 ? _rarest * 0.3 : _weights.GetValueOrDefault(word, _rarest);

    private (double Score, MatchReason? Reason) Alike(NameWords one, int i, NameWords other, int j)
    {
        var (a, b) = (one.Words[i], other.Words[j]);
        if (a == b) return (1, null);
        if (a.Length == 1 || b.Length == 1) return a[0] == b[0] ? (OneLetter, MatchReason.Initial) : (0, null);
        if (one.Sounds[i] == other.Sounds[j]) return (Spelling, MatchReason.OtherSpelling);
        if (one.FullNames[i].Count > 0 && one.FullNames[i].Overlaps(other.FullNames[j])) return (Short, MatchReason.ShortForm);
        if (IsCut(a, b)) return (Cut, MatchReason.ShortForm);
        if (one.IsOfDevice && a.Length == b.Length + 1 && a[^1] == 's' && a.StartsWith(b, StringComparison.Ordinal))
            return (Spelling, MatchReason.OtherSpelling);
        if (Math.Min(a.Length, b.Length) < 4 || !IsOneSlip(a, b)) return (0, null);
        return (IsAnotherName(a, b) ? Doubtful : Slip, MatchReason.OneSlip);
    }

    /// <summary>
    /// The beginning of a name, alone or with the ending of a pet name: three to five letters, two fewer than the name, and
    /// no name of its own, as people are called whatever the language.
    /// </summary>
    private static bool IsCut(string a, string b)
    {
        var same = 0;
        while (same < Math.Min(a.Length, b.Length) && a[same] == b[same]) same++;
        return same >= 3 && a.Length <= Math.Min(5, b.Length - 2) && !ShortForms.IsName(a) && a.Length - same <= 2
            && (a.Length == same || a[^1] is 'i' or 'y' or 'e');
    }

    /// <summary>
    /// One letter apart, and still a name of its own: somebody here is called so, or people are; it ends otherwise, as the
    /// names of women and men do; or another vowel stands in it.
    /// </summary>
    private bool IsAnotherName(string typed, string line)
    {
        if (_weights.ContainsKey(typed) || ShortForms.IsName(typed)) return true;
        // Two neighbours changed about.
        if (typed.Length == line.Length && typed.Order().SequenceEqual(line.Order())) return false;
        if (typed[^1] != line[^1] || typed[^2] != line[^2]) return true;
        if (typed.Length != line.Length) return false;
        for (var at = 0; at < typed.Length; at++)
            if (typed[at] != line[at]) return IsVowel(typed[at]) && IsVowel(line[at]);
        return false;
    }

    private static bool IsVowel(char letter) => letter is 'a' or 'e' or 'i' or 'o' or 'u' or 'y';

    /// <summary>One letter more, less or other, or two neighbours changed
    /// about (Damerau, 1964). The first letter is seldom mistaken.</summary>
    internal static bool IsOneSlip(string a, string b)
    {
        if (Math.Abs(a.Length - b.Length) > 1) return false;
        var start = 0;
        while (start < Math.Min(a.Length, b.Length) && a[start] == b[start]) start++;
        if (start == 0 && a.Length == b.Length && !(a.Length > 1 && a[0] == b[1] && a[1] == b[0])) return false;
        var restA = a.AsSpan(start);
        var restB = b.AsSpan(start);
        if (restA.Length == restB.Length)
            return restA[1..].SequenceEqual(restB[1..])
                || (restA.Length >= 2 && restA[0] == restB[1] && restA[1] == restB[0] && restA[2..].SequenceEqual(restB[2..]));
        return restA.Length > restB.Length ? restA[1..].SequenceEqual(restB) : restB[1..].SequenceEqual(restA);
    }

    /// <summary>Reasons without doubles, as bits; written out only for the few lines that are offered.</summary>
    private readonly record struct ReasonSet(uint Bits)
    {
        public bool IsEmpty => Bits == 0;

        public ReasonSet And(MatchReason reason) => new(Bits | (1u << (int)reason));

        public ImmutableArray<MatchReason> ToArray()
        {
            var bits = Bits;
            return [.. Enum.GetValues<MatchReason>().Where(reason => (bits & (1u << (int)reason)) != 0)];
        }
    }
}
