using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Found = System.Text.RegularExpressions.Match;

namespace HoldCourt.Core.Docket;

/// <summary>A line of pasted text as it was understood.</summary>
/// <param name="Number">Of the line in the text, from 1.</param>
/// <param name="At">The slot as minutes after midnight of the session's day; null when none is named.</param>
/// <param name="Flaw">Why the line cannot be used; null when it can.</param>
public sealed record TextLine(int Number, string Text, string Name, string? Email, string? Group, int? At, int? Minutes, Role Role,
    Reason? Flaw);

/// <summary>
/// Reads free text as a docket: one person a line, with a time, a length, an e-mail address, a role and a group where
/// they stand, in any order: "14:15 Nia Okafor", "Nia Okafor &lt;nia@example.org&gt; 2.30 pm, 20 min (upper reach)".
/// </summary>
public static partial class DocketText
{
    /// <summary>Longest text read at once, in UTF-16 units.</summary>
    public const int Longest = 1_000_000;

    /// <summary>Longest line that is looked at, in UTF-16 units.</summary>
    public const int LongestLine = 1_000;

    public static ImmutableArray<TextLine> Read(string text) =>
        [.. text[..Math.Min(text.Length, Longest)].Split('\n').Select((line, index) => (line: line.Trim(), number: index + 1))
            .Where(pair => pair.line.Length > 0).Select(pair => Read(pair.line, pair.number))];

    private static TextLine Read(string line, int number)
    {
        if (line.Length > LongestLine)
            return new TextLine(number, line[..LongestLine], line[..PersonName.Longest], null, null, null, null, Role.Attendee,
            Reason.NameTooLong);
        var rest = line;
        var email = Take(ref rest, _email)?.Groups["mail"].Value;
        var group = Take(ref rest, _brackets)?.Groups["in"].Value.Trim();
        var minutes = Take(ref rest, Length()) is { } length
            ? int.Parse(length.Groups["n"].Value, CultureInfo.InvariantCulture)
            : (int?)null;
        var first = Take(ref rest, Clock()) is { } clock ? TimeOf(clock) : null;
        if (first is { } from && Take(ref rest, Until()) is { } until && TimeOf(until) is { } to && to > from) minutes ??= to - from;
        var role = Take(ref rest, RoleWord()) is { } word ? Enum.Parse<Role>(word.Groups["role"].Value, ignoreCase: true) : Role.Attendee;
        var name = PersonName.Tidy(rest.Trim(' ', '\t', ',', ';', '|', '-', '–', '—', '*', '•', '.', ':').Trim('"'));
        if (NameFirst().Match(name) is { Success: true } numbered) name = numbered.Groups["rest"].Value;
        var trouble = PersonName.Refuses(name)?.Reason ?? (name.Any(char.IsLetter) ? null : Reason.NameEmpty);
        return new TextLine(number, line, name, email, string.IsNullOrEmpty(group) ? null : group, first, minutes, role, trouble);
    }

    private static Found? Take(ref string rest, Regex pattern)
    {
        var match = pattern.Match(rest);
        if (!match.Success) return null;
        rest = rest[..match.Index] + " " + rest[(match.Index + match.Length)..];
        return match;
    }

    private static int? TimeOf(Found match)
    {
        var hour = int.Parse(match.Groups["h"].Value, CultureInfo.InvariantCulture);
        var minute = match.Groups["m"].Success ? int.Parse(match.Groups["m"].Value, CultureInfo.InvariantCulture) : 0;
        var half = match.Groups["half"].Value.Replace(".", "", StringComparison.Ordinal).ToUpperInvariant();
        if (half.Length > 0)
        {
            if (hour is < 1 or > 12) return null;
            hour = (hour % 12) + (half == "PM" ? 12 : 0);
        }
        return hour > 23 || minute > 59 ? null : (hour * 60) + minute;
    }

    // These two take time by the length of the line alone, however it is written.
    private static readonly Regex _email = new(@"<?(?<mail>[^\s<>,;""()]+@[^\s<>,;""()]+\.[^\s<>,;""()]+)>?", RegexOptions.NonBacktracking);
    private static readonly Regex _brackets = new(@"\((?<in>[^)]*)\)", RegexOptions.NonBacktracking);

    [GeneratedRegex(@"\b(?<n>\d{1,4})\s*(?:min|mins|minutes|minute)\b\.?", RegexOptions.IgnoreCase)]
    private static partial Regex Length();

    [GeneratedRegex(@"(?<![\d.:])(?:(?<h>\d{1,2})[:.h](?<m>\d{2})\s*(?<half>[ap]\.?m\.?)?|(?<h>\d{1,2})\s*(?<half>[ap]\.?m\.?))(?![\d])",
        RegexOptions.IgnoreCase)]
    private static partial Regex Clock();

    [GeneratedRegex(@"(?:-|–|—|to|until)\s*(?<h>\d{1,2})[:.h](?<m>\d{2})\s*(?<half>[ap]\.?m\.?)?(?![\d])", RegexOptions.IgnoreCase)]
    private static partial Regex Until();

    [GeneratedRegex(@"[,;|]\s*(?<role>deputy|presenter|attendee)\b", RegexOptions.IgnoreCase)]
    private static partial Regex RoleWord();

    [GeneratedRegex(@"^\d+[.)]\s+(?<rest>\D.*)$")]
    private static partial Regex NameFirst();
}
