using System.Globalization;
using System.Text;

namespace HoldCourt.Core.People;

/// <summary>What may stand as a person's name on everybody's screen.</summary>
public static class PersonName
{
    /// <summary>Longest name, in UTF-16 units after tidying.</summary>
    public const int Longest = 80;

    /// <summary>Why the text cannot be a name, or null.</summary>
    public static Refusal? Refuses(string? text)
    {
        if (string.IsNullOrWhiteSpace(text)) return new Refusal(Reason.NameEmpty);
        if (text.Length > 10 * Longest) return new Refusal(Reason.NameTooLong, Remedy.Shorten);
        if (text.EnumerateRunes().Any(IsTrick)) return new Refusal(Reason.NameHidden);
        var tidy = Tidy(text);
        if (tidy.Length > Longest) return new Refusal(Reason.NameTooLong, Remedy.Shorten);
        return tidy.EnumerateRunes().Any(Rune.IsLetterOrDigit) ? null : new Refusal(Reason.NameEmpty);
    }

    /// <summary>White space at the ends taken off, runs of it made one space.</summary>
    public static string Tidy(string text) =>
        string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>
    /// Control characters, and marks that turn the direction of the text around them or are not seen at all
    /// (Unicode TR 9, TR 36). The joiners U+200C and U+200D belong to the spelling of several languages and may stay.
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
}
