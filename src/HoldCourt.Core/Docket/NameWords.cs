using System.Collections.Immutable;
using System.Globalization;
using System.Text;

namespace HoldCourt.Core.Docket;

/// <summary>A name as words that can be compared.</summary>
/// <param name="Words">Folded, in the order they were written.</param>
internal sealed record NameWords(ImmutableArray<string> Words)
{
    /// <summary>For each word the key that its spellings share.</summary>
    public ImmutableArray<string> Sounds { get; } = [.. Words.Select(SoundOf)];

    /// <summary>For each word the full names that it may stand for.</summary>
    public ImmutableArray<IReadOnlySet<string>> FullNames { get; } = [.. Words.Select(ShortForms.FullNamesOf)];

    private static readonly HashSet<string> _titles = ["mr", "mrs", "ms", "miss", "dr", "prof", "sir", "herr", "frau", "sr", "sra", "mme", "mlle", "phd"];

    private static readonly HashSet<string> _devices =
    [
        "ipad", "iphone", "galaxy", "tablet", "phone", "laptop", "desktop", "android", "pixel", "guest", "user", "pc", "macbook", "mac", "computer",
        "handy", "telefon", "mobile", "device", "admin", "owner", "web", "windows", "samsung", "huawei", "xiaomi", "redmi", "oneplus", "nokia", "surface"
    ];

    /// <summary>Letters that compatibility decomposition leaves whole, as they are written without them.</summary>
    private static readonly Dictionary<char, string> _spelledOut = new()
    {
        ['ß'] = "ss",
        ['æ'] = "ae",
        ['œ'] = "oe",
        ['ø'] = "o",
        ['đ'] = "d",
        ['ð'] = "d",
        ['þ'] = "th",
        ['ł'] = "l",
        ['ı'] = "i",
        ['ħ'] = "h"
    };

    /// <summary>Nothing but what a device calls itself, such as "iPad (2)" or "Galaxy S22".</summary>
    public bool IsDevice => Words is not [] && Words.Any(_devices.Contains) && Words.All(word => _devices.Contains(word) || word.Any(char.IsDigit) || word.Length <= 2);

    public static NameWords Of(string name) => new(Split(name));

    /// <summary>
    /// Case, diacritics, width and punctuation taken out (Unicode TR 15, NFKD, marks dropped); titles and what stands in
    /// brackets left out. An apostrophe joins, any other sign divides.
    /// </summary>
    public static ImmutableArray<string> Split(string name)
    {
        var letters = new StringBuilder(name.Length);
        var depth = 0;
        foreach (var rune in name.Normalize(NormalizationForm.FormKD).EnumerateRunes())
        {
            if (rune.Value is '(' or '[') depth++;
            else if (rune.Value is ')' or ']') depth = Math.Max(0, depth - 1);
            if (depth > 0) { letters.Append(' '); continue; }
            if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark or UnicodeCategory.Format) continue;
            if (rune.Value is '\'' or 0x2019 or 0x02BC) continue;
            if (!Rune.IsLetterOrDigit(rune)) letters.Append(' ');
            else if (rune.IsBmp && _spelledOut.TryGetValue(char.ToLowerInvariant((char)rune.Value), out var spelled)) letters.Append(spelled);
            else letters.Append(Rune.ToLowerInvariant(rune));
        }
        var words = letters.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var named = words.Where(word => !_titles.Contains(word)).ToImmutableArray();
        return named is [] ? [.. words] : named;
    }

    /// <summary>
    /// A key that spellings of the same name in different alphabets or languages share: digraphs for umlauts and sounds
    /// made one letter, doubled letters made single.
    /// </summary>
    public static string SoundOf(string word)
    {
        var sound = new StringBuilder(word);
        foreach (var (from, to) in _sounds) sound.Replace(from, to);
        var once = new StringBuilder(sound.Length);
        foreach (var letter in sound.ToString())
            if (once.Length == 0 || once[^1] != letter) once.Append(letter);
        return once.ToString();
    }

    private static readonly (string, string)[] _sounds =
    [
        ("shch", "s"), ("sch", "s"), ("tsch", "s"), ("tch", "s"), ("ch", "s"), ("sh", "s"), ("sz", "s"), ("cz", "s"), ("zh", "s"), ("rz", "s"),
        ("oe", "o"), ("ue", "u"), ("ae", "a"), ("aa", "a"), ("ee", "i"), ("oo", "u"), ("ou", "u"), ("ph", "f"), ("kh", "h"), ("gh", "g"), ("th", "t"),
        ("ck", "k"), ("qu", "k"), ("x", "ks"), ("c", "k"), ("q", "k"), ("tz", "z"), ("ts", "z"), ("y", "i"), ("j", "i"), ("w", "v"), ("ij", "i")
    ];
}
