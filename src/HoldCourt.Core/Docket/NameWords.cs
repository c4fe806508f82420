using System.Collections.Immutable;
using System.Globalization;
using System.Text;

namespace HoldCourt.Core.Docket;

/// <summary>A name as words that can be compared.</summary>
/// <param name="Words">Folded, in the order they were written.</param>
/// <param name="Pieces">
/// For each word the part of the text in which it stands: what is set off by brackets, a bar, a dash or a comma, and
/// words with a stroke between them, such as pronouns, are parts of their own.
/// </param>
internal sealed record NameWords(ImmutableArray<string> Words, ImmutableArray<int> Pieces)
{
    /// <summary>For each word the key that its spellings share.</summary>
    public ImmutableArray<string> Sounds { get; } = [.. Words.Select(SoundOf)];

    /// <summary>For each word the full names that it may stand for.</summary>
    public ImmutableArray<IReadOnlySet<string>> FullNames { get; } = [.. Words.Select(ShortForms.FullNamesOf)];

    /// <summary>Somebody's device, such as "Nia's iPad": the name in it is a hint, and not what its owner typed.</summary>
    public bool IsOfDevice { get; } = OfDevice(Words, Pieces);

    private static bool OfDevice(ImmutableArray<string> words, ImmutableArray<int> parts)
    {
        if (!words.Any(_devices.Contains) || words.All(IsOfADevice)) return false;
        var named = words.Zip(parts).Where(pair => !IsOfADevice(pair.First)).ToList();
        // A device beside a whole name, as in "Nia Okafor (phone)", says nothing against the name.
        return named.Count < 2 || words.Zip(parts)
            .Any(pair => _devices.Contains(pair.First) && named.Exists(other => other.Second == pair.Second));
    }

    private static bool IsOfADevice(string word) => _devices.Contains(word) || word.Any(char.IsDigit) || word.Length <= 2;

    private static readonly HashSet<string> _titles =
        ["mr", "mrs", "ms", "miss", "dr", "prof", "sir", "herr", "frau", "sr", "sra", "mme", "mlle", "phd"];

    private static readonly HashSet<string> _devices =
    [
        "ipad", "iphone", "galaxy", "tablet", "phone", "laptop", "desktop", "android", "pixel", "guest", "user", "pc", "macbook",
        "mac", "computer",
        "handy", "telefon", "mobile", "device", "admin", "owner", "web", "windows", "samsung", "huawei", "xiaomi", "redmi", "oneplus",
        "nokia", "surface"
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
    public bool IsDevice => Words is not [] && Words.Any(_devices.Contains) && Words.All(IsOfADevice);

    public static NameWords Of(string name)
    {
        var named = Named(name);
        return new NameWords([.. named.Select(pair => pair.Word)], [.. named.Select(pair => pair.Piece)]);
    }

    /// <summary>
    /// Case, diacritics, width and punctuation taken out (Unicode TR 15, NFKD, marks dropped); titles left out, and what
    /// stands in brackets, unless there is nothing else. An apostrophe joins, any other sign divides.
    /// </summary>
    public static ImmutableArray<string> Split(string name) => [.. Named(BesideBrackets(name)).Select(pair => pair.Word)];

    private static List<(string Word, int Piece)> Named(string name)
    {
        var divided = Divide(name);
        var named = divided.Where(pair => !_titles.Contains(pair.Word)).ToList();
        return named.Count == 0 ? divided : named;
    }

    private static string BesideBrackets(string name)
    {
        var (kept, depth) = (new StringBuilder(name.Length), 0);
        foreach (var letter in name)
        {
            if (letter is '(' or '[') depth++;
            if (depth == 0) kept.Append(letter);
            if (letter is ')' or ']') depth = Math.Max(0, depth - 1);
        }
        return kept.ToString();
    }

    private static List<(string Word, int Piece)> Divide(string name)
    {
        var words = new List<(string, int)>();
        var (word, part) = (new StringBuilder(), 0);
        var runes = name.Normalize(NormalizationForm.FormKD).EnumerateRunes().ToArray();
        for (var at = 0; at < runes.Length; at++)
        {
            var rune = runes[at];
            if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark or UnicodeCategory.Format)
                continue;
            if (IsApostrophe(rune))
            {
                // "Nia's": what is owned by somebody is told by the letter after it.
                if (word.Length > 0 && at + 1 < runes.Length && runes[at + 1].Value is 's' or 'S'
                    && (at + 2 >= runes.Length || !Rune.IsLetterOrDigit(runes[at + 2]))) at++;
                continue;
            }
            if (!Rune.IsLetterOrDigit(rune))
            {
                End();
                if (Divides(runes, at) || (Rune.IsWhiteSpace(rune) && HasStroke(runes, at + 1))) part++;
            }
            else if (rune.IsBmp && _spelledOut.TryGetValue(char.ToLowerInvariant((char)rune.Value), out var spelled)) word.Append(spelled);
            else word.Append(Rune.ToLowerInvariant(rune));
        }
        End();
        return words;

        void End()
        {
            if (word.Length > 0) words.Add((word.ToString(), part));
            word.Clear();
        }
    }

    /// <summary>Whether the word that begins here has a stroke in it: "she/her".</summary>
    private static bool HasStroke(Rune[] runes, int from)
    {
        for (var at = from; at < runes.Length && !Rune.IsWhiteSpace(runes[at]); at++)
            if (runes[at].Value == '/' && at > from) return true;
        return false;
    }

    private static bool IsApostrophe(Rune rune) => rune.Value is '\'' or 0x2019 or 0x02BC;

    private static bool Divides(Rune[] runes, int at) => runes[at].Value switch
    {
        '(' or ')' or '[' or ']' or '{' or '}' or '|' or '/' or ',' or ';' or '@' or 0x00B7 or 0x2022 => true,
        // A dash within a name stands between two letters.
        '-' or 0x2010 or 0x2011 or 0x2012 or 0x2013 or 0x2014 =>
            at == 0 || Rune.IsWhiteSpace(runes[at - 1]) || at + 1 == runes.Length || Rune.IsWhiteSpace(runes[at + 1]),
        _ => false
    };

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
        ("shch", "s"), ("sch", "s"), ("tsch", "s"), ("tch", "s"), ("ch", "s"), ("sh", "s"), ("sz", "s"), ("cz", "s"), ("zh", "s"),
        ("rz", "s"),
        ("oe", "o"), ("ue", "u"), ("ae", "a"), ("aa", "a"), ("ee", "i"), ("oo", "u"), ("ou", "u"), ("ph", "f"), ("kh", "h"), ("gh", "g"),
        ("th", "t"),
        ("ck", "k"), ("qu", "k"), ("x", "ks"), ("c", "k"), ("q", "k"), ("tz", "z"), ("ts", "z"), ("y", "i"), ("j", "i"),
        ("w", "v"), ("ij", "i")
    ];
}
