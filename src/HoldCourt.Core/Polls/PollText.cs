using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;

namespace HoldCourt.Core.Polls;

/// <summary>
/// A question in a line: its words up to the last question mark or colon, then how it is answered, with commas between.
/// <c>Shall we mend the weir? yes or no, 2 min, secret</c>. Options stand with strokes between them.
/// </summary>
internal sealed partial record PollText : Slot
{
    private sealed record Tail(string YesOrNo, string TrueOrFalse, string One, string Several, string Preference, string Most, string Scale,
        string To, string Number, string Words, string Secret, string Named, string Late);

    private static readonly Tail _english = new(
        YesOrNo: "yes or no", TrueOrFalse: "true or false", One: "one of", Several: "several of", Preference: "order of", Most: "at most",
        Scale: "scale", To: "to", Number: "a number", Words: "words", Secret: "secret", Named: "named", Late: "late too");

    private static readonly Tail _polish = new(
        YesOrNo: "tak czy nie", TrueOrFalse: "prawda czy fałsz", One: "jedno z", Several: "kilka z", Preference: "kolejność",
        Most: "najwyżej", Scale: "skala", To: "do", Number: "liczba", Words: "słowa", Secret: "tajne", Named: "imienne",
        Late: "spóźnieni też");

    private static Tail In(string language) => language == "pl" ? _polish : _english;

    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        var tail = In(scope.Language);
        var end = words.LastIndexOfAny(['?', ':']);
        var text = (end < 0 ? "" : words[..(words[end] == '?' ? end + 1 : end)]).Trim();
        var form = PollForm.Of(PollKind.YesOrNo, text);
        foreach (var piece in words[(end + 1)..].Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (Understood(form, piece, tail, scope) is not { } more) return null;
            form = more;
        }
        return form.Clean() is var clean && clean.Refuses() is null && (text.Length > 0 || words.Length > 0) ? clean : null;
    }

    public override IEnumerable<string> Complete(Scope scope, string words)
    {
        var tail = In(scope.Language);
        var (end, comma) = (words.LastIndexOfAny(['?', ':']), words.LastIndexOf(','));
        if (end < 0) return words.Length == 0 ? [tail.YesOrNo, tail.TrueOrFalse, $"A {tail.To} D"] : [];
        var from = Math.Max(end, comma) + 1;
        var piece = words[from..].TrimStart();
        return new[]
            {
                tail.YesOrNo, tail.TrueOrFalse, $"{tail.One} A / B", $"{tail.Several} A / B / C", $"{tail.Preference} A / B / C",
                $"{tail.Scale} 1 {tail.To} 5", tail.Number, tail.Words, tail.Secret, tail.Late, "2 min"
            }
            .Where(one => one.StartsWith(piece, StringComparison.OrdinalIgnoreCase) && one.Length > piece.Length)
            .Select(one => words[..from] + " " + one);
    }

    private static PollForm? Understood(PollForm form, string piece, Tail tail, Scope scope)
    {
        bool Is(string words) => piece.Equals(words, StringComparison.OrdinalIgnoreCase);
        string? After(string words) =>
            piece.StartsWith(words + " ", StringComparison.OrdinalIgnoreCase) ? piece[(words.Length + 1)..] : null;
        ImmutableArray<string> Options(string list) => [.. list.Split('/', StringSplitOptions.TrimEntries)];
        PollForm Among(PollKind kind, string list) => form with { Kind = kind, Options = Options(list) };
        if (Is(tail.YesOrNo)) return form with { Kind = PollKind.YesOrNo };
        if (Is(tail.TrueOrFalse)) return form with { Kind = PollKind.TrueOrFalse };
        if (After(tail.One) is { } one) return Among(PollKind.One, one);
        if (After(tail.Several) is { } several) return Among(PollKind.Several, several);
        if (After(tail.Preference) is { } order) return Among(PollKind.Preference, order);
        if (Lettered(piece, tail.To) is { } letters) return form with { Kind = PollKind.One, Options = letters };
        if (After(tail.Most) is { } most && int.TryParse(most, NumberStyles.None, CultureInfo.InvariantCulture, out var number))
            return form with { Most = number };
        if (After(tail.Scale) is { } range && Range(range, tail.To) is { } ends)
            return form with { Kind = PollKind.Scale, Low = ends.Low, High = ends.High };
        if (Is(tail.Number)) return form with { Kind = PollKind.Number, Low = null, High = null };
        if (Is(tail.Words)) return form with { Kind = PollKind.Words };
        if (Is(tail.Secret)) return form with { Secret = true };
        if (Is(tail.Named)) return form with { Secret = false };
        if (Is(tail.Late)) return form with { Late = true };
        return new Length().Read(scope, piece, out _) is TimeSpan length ? form with { Seconds = (int)length.TotalSeconds } : null;
    }

    /// <summary>"A to E": five letters that the question names aloud.</summary>
    private static ImmutableArray<string>? Lettered(string piece, string to)
    {
        var found = Letters().Match(piece);
        return found.Success && found.Groups["to"].Value.Equals(to, StringComparison.OrdinalIgnoreCase)
            ? [.. Enumerable.Range('A', char.ToUpperInvariant(found.Groups["last"].Value[0]) - 'A' + 1).Select(letter => $"{(char)letter}")]
            : null;
    }

    private static (int Low, int High)? Range(string range, string to)
    {
        var ends = range.Split($" {to} ", StringSplitOptions.TrimEntries);
        return ends.Length == 2 && int.TryParse(ends[0], NumberStyles.None, CultureInfo.InvariantCulture, out var low)
            && int.TryParse(ends[1], NumberStyles.None, CultureInfo.InvariantCulture, out var high)
            ? (low, high)
            : null;
    }

    [GeneratedRegex("^[Aa] (?<to>[A-Za-z]+) (?<last>[B-Lb-l])$", RegexOptions.ExplicitCapture)]
    private static partial Regex Letters();
}
