using System.Collections.Immutable;

namespace HoldCourt.Core.CommandLine;

/// <summary>
/// Reads what the host types. A sentence is words and slots; a slot takes all words up to the next word of its
/// sentence, and every place where that word stands is tried. The first sentence that fits wins.
/// </summary>
public static class Reader
{
    /// <summary>Longest line read, in UTF-16 units.</summary>
    public const int Longest = 5_000;

    private const int MostCompletions = 8;

    /// <summary>How often the words of one line are tried as something; a line that needs more is no sentence.</summary>
    private const int MostTries = 1_000;

    public static Reading Read(Scope scope, string line)
    {
        var pass = new Pass(scope, line[..Math.Min(line.Length, Longest)]);
        foreach (var phrase in Phrases.In(scope.Language))
        {
            if (pass.Command is not null && pass.Completions.Count >= MostCompletions) break;
            pass.Walk(phrase, 0, 0, []);
        }
        return new Reading(pass.Command, pass.Command is null
            ? pass.Misreading
            : null, pass.Command is null ? pass.About : null, [.. pass.Completions.Take(MostCompletions)]);
    }

    private sealed class Pass
    {
        private readonly Scope _scope;
        private readonly string _line;
        private readonly List<(int From, int To, string Word)> _words = [];
        private readonly bool _wordIsDone;
        private int _depth = -1, _tries;

        public Pass(Scope scope, string line)
        {
            (_scope, _line) = (scope, line);
            for (var at = 0; at < line.Length;)
            {
                if (char.IsWhiteSpace(line[at])) { at++; continue; }
                var end = at;
                while (end < line.Length && !char.IsWhiteSpace(line[end])) end++;
                // A colon at a word's end divides, as a comma does before a further wish; within a list commas stay with their words.
                var colon = line[end - 1] == ':' && end - 1 > at;
                var to = colon ? end - 1 : end;
                _words.Add((at, to, line[at..to].TrimEnd(',').ToLowerInvariant()));
                if (colon) _words.Add((end - 1, end, ":"));
                at = end;
            }
            _wordIsDone = line.Length == 0 || char.IsWhiteSpace(line[^1]) || line[^1] == ':';
            Misreading = _words is [] ? CommandLine.Misreading.Empty : CommandLine.Misreading.NotUnderstood;
        }

        public SeatCommand? Command { get; private set; }
        public Misreading? Misreading { get; private set; }
        public string? About { get; private set; }
        public List<string> Completions { get; } = [];

        public void Walk(Phrase phrase, int part, int at, ImmutableArray<object> values)
        {
            if (part == phrase.Elements.Length)
            {
                if (at == _words.Count) Command ??= phrase.Make(_scope, values);
                return;
            }
            if (phrase.Elements[part] is { Word: { } word }) WalkWord(phrase, part, at, values, word);
            else WalkSlot(phrase, part, at, values, phrase.Elements[part].Slot!);
        }

        private void WalkWord(Phrase phrase, int part, int at, ImmutableArray<object> values, string word)
        {
            if (at < _words.Count && _words[at].Word == word)
            {
                Walk(phrase, part + 1, at + 1, values);
                return;
            }
            var isAhead = at == _words.Count && (_wordIsDone || (word == ":" && at > 0));
            var isBegun = at == _words.Count - 1 && !_wordIsDone && word.StartsWith(_words[at].Word, StringComparison.Ordinal);
            if (!isAhead && !isBegun) return;
            Fail(at, CommandLine.Misreading.Unfinished, null);
            var next = string.Join(' ', phrase.Elements.Skip(part).TakeWhile(one => one.Word is not null).Select(one => one.Word))
                .Replace(" :", ":", StringComparison.Ordinal);
            var more = part + 1 < phrase.Elements.Length && phrase.Elements.Skip(part).Any(one => one.Slot is not null);
            Propose(at, next + (more ? " " : ""));
        }

        private void WalkSlot(Phrase phrase, int part, int at, ImmutableArray<object> values, Slot slot)
        {
            var stop = part + 1 < phrase.Elements.Length ? phrase.Elements[part + 1].Word : null;
            for (var end = Math.Min(at + 1, _words.Count); end <= _words.Count; end++)
            {
                if (end < _words.Count && stop is not null && _words[end].Word != stop) continue;
                if (end < _words.Count && stop is null && (part + 1 == phrase.Elements.Length || slot is FreeText)) continue;
                if (++_tries > MostTries) return;
                var words = end > at ? _line[_words[at].From.._words[end - 1].To].TrimEnd(',') : "";
                var misreading = CommandLine.Misreading.Unfinished;
                var value = words.Length == 0 ? null : slot.Read(_scope, words, out misreading);
                if (value is not null) Walk(phrase, part + 1, end, values.Add(value));
                if (value is null && at < _words.Count) Fail(at, words.Length == 0 ? CommandLine.Misreading.Unfinished : misreading, words);
                else if (value is null) Fail(at, CommandLine.Misreading.Unfinished, null);
                if (end < _words.Count || (words.Length == 0 && !_wordIsDone)) continue;
                if (value is not null && _wordIsDone) continue;
                foreach (var proposal in slot.Complete(_scope, words).Take(MostCompletions))
                    if (!proposal.Equals(words, StringComparison.Ordinal)) Propose(at, proposal);
            }
        }

        /// <summary>The sentence that came furthest says what is wrong; of several, the one that blames the fewest words.</summary>
        private void Fail(int at, Misreading misreading, string? about)
        {
            if (_words.Count == 0 || (at == 0 && about is not null)) return;
            about = misreading is CommandLine.Misreading.Unfinished ? null : about;
            var isCloser = at == _depth && about?.Length < About?.Length;
            if (at <= _depth && !isCloser) return;
            (_depth, Misreading, About) = (at, misreading, about);
        }

        private void Propose(int at, string words)
        {
            var kept = at == 0 ? "" : _line[.._words[at - 1].To] + (words[0] == ':' ? "" : " ");
            var whole = (kept + words).TrimStart();
            if (!Completions.Contains(whole) && !whole.Equals(_line, StringComparison.Ordinal)) Completions.Add(whole);
        }
    }
}
