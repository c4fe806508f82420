using System.Globalization;
using System.Text;

namespace HoldCourt.Core.People;

/// <summary>What may stand as a person's name on everybody's screen.</summary>
public static class PersonName
{
    /// <summary>Longest name, in UTF-16 units after tidying.</summary>
    public const int Longest = 80;

    /// <summary>Most marks over or under one letter (Unicode UTS 39, section 5.4).</summary>
    private const int MostMarks = 4;

    /// <summary>Why the text cannot be a name, or null.</summary>
    public static Refusal? Refuses(string? text)
    {
        if (string.IsNullOrWhiteSpace(text)) return new Refusal(Reason.NameEmpty);
        if (text.Length > 10 * Longest) return new Refusal(Reason.NameTooLong, Remedy.Shorten);
        if (text.EnumerateRunes().Any(IsTrick)) return new Refusal(Reason.NameHidden);
        var tidy = Tidy(text);
        if (tidy.Length > Longest) return new Refusal(Reason.NameTooLong, Remedy.Shorten);
        if (!tidy.EnumerateRunes().Any(Rune.IsLetterOrDigit)) return new Refusal(Reason.NameEmpty);
        return HasHeapsOfMarks(tidy) ? new Refusal(Reason.NameMarks) : null;
    }

    /// <summary>
    /// Composed (Unicode TR 15, NFC), what shows nothing taken out, white space at the ends taken off and runs of it made
    /// one space. Joiners stay where they belong to the spelling.
    /// </summary>
    public static string Tidy(string text)
    {
        var runes = WellFormed(text).Normalize(NormalizationForm.FormC).EnumerateRunes().ToArray();
        var kept = new StringBuilder(text.Length);
        for (var at = 0; at < runes.Length; at++)
        {
            if (!Characters.ShowsNothing(runes[at]) || (at > 0 && at + 1 < runes.Length && Joins(runes[at - 1], runes[at], runes[at + 1])))
                kept.Append(runes[at]);
            // A blank of its own kind, such as the Braille one, is a blank.
            if (runes[at].Value == 0x2800) kept[^1] = ' ';
        }
        return string.Join(' ', kept.ToString().Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
    }

    /// <summary>
    /// Control characters, and marks that turn the direction of the text around them or are not seen at all
    /// (Unicode TR 9, TR 36). The joiners U+200C and U+200D belong to the spelling of several languages and may be typed.
    /// </summary>
    private static bool IsTrick(Rune rune) =>
        Rune.GetUnicodeCategory(rune) switch
        {
            UnicodeCategory.Control => !Rune.IsWhiteSpace(rune),
            UnicodeCategory.Format => rune.Value is not (0x200C or 0x200D),
            UnicodeCategory.PrivateUse or UnicodeCategory.OtherNotAssigned or UnicodeCategory.LineSeparator
                or UnicodeCategory.ParagraphSeparator => true,
            _ => rune.Value == 0xFFFD
        };

    /// <summary>
    /// A joiner between two letters of a script in which it changes what is seen (Unicode UAX 31, section 2.3, the blocks
    /// from Arabic to Khmer and Mongolian), or what makes one sign of two emoji.
    /// </summary>
    private static bool Joins(Rune before, Rune joiner, Rune after) => joiner.Value switch
    {
        0x200C or 0x200D => (IsJoining(before) && IsJoining(after)) || (joiner.Value == 0x200D && IsSign(after)),
        0xFE0F => IsSign(before),
        _ => false
    };

    private static bool IsJoining(Rune rune) =>
        rune.Value is (>= 0x0600 and <= 0x109F) or (>= 0x1780 and <= 0x18AF) or (>= 0xA800 and <= 0xABFF) or (>= 0x10A00 and <= 0x11FFF);

    private static bool IsSign(Rune rune) => Rune.GetUnicodeCategory(rune) is UnicodeCategory.OtherSymbol;

    private static bool HasHeapsOfMarks(string text)
    {
        var (marks, last) = (0, 0);
        foreach (var rune in text.Normalize(NormalizationForm.FormD).EnumerateRunes())
        {
            if (Rune.GetUnicodeCategory(rune) is not (UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark))
                (marks, last) = (0, 0);
            else if (++marks > MostMarks || rune.Value == last) return true;
            else last = rune.Value;
        }
        return false;
    }

    /// <summary>Half a surrogate pair, which no normalization takes, becomes U+FFFD and is refused as such.</summary>
    private static string WellFormed(string text) => string.Concat(text.EnumerateRunes());
}
