using System.Globalization;
using System.Text;

namespace HoldCourt.Core.Tests;

/// <summary>Makes dockets of made-up names, and what their owners type at the door. The same seed makes the same.</summary>
internal sealed class NameCorruptions(int seed)
{
    private static readonly string[] _given =
    [
        "Alexander", "Aleksandra", "Amara", "Andreas", "Anneliese", "Anthony", "Bartosz", "Beatrice", "Benjamin", "Catherine", "Charlotte", "Chidi", "Christopher", "Daniela", "Dmitri",
        "Edward", "Eleanor", "Elisabeth", "Elizabeth", "Emmanuel", "Esther", "Ewa", "Fatima", "Francisco", "Franziska", "Gabriele", "Geoffrey", "Giuseppe", "Gwen", "Hannah", "Heinrich",
        "Ignacio", "Ilse", "Ines", "Isabella", "Jamal", "Jennifer", "Johannes", "Jonathan", "José", "Joseph", "Jun", "Katharina", "Krzysztof", "Kwabena", "Leila", "Leonard", "Lieselotte",
        "Magdalena", "Małgorzata", "Margaret", "Mary Ann", "Matthew", "Maximilian", "Michael", "Mirembe", "Natalia", "Nia", "Ngozi", "Oluwaseun", "Oyelaran", "Patricia", "Pilar", "Rafael",
        "Rebecca", "Robert", "Runa", "Samuel", "Sebastian", "Siobhán", "Soraya", "Stephanie", "Svetlana", "Tamsin", "Teodor", "Thomas", "Ursula", "Victoria", "William", "Yusuf", "Zoë", "Zofia"
    ];

    private static readonly string[] _family =
    [
        "Abara", "Achan", "Adewale", "Ågren", "Ångström", "Ashdown", "Bækgaard", "Bergström", "Brandão", "Brzezińska", "Castellano", "Chukwu", "Cruz", "Dąbrowski", "Delacroix", "Demirel",
        "Eskola", "Fernández", "Fitzgerald", "García", "Gruber", "Grzelak", "Gürses", "Halvari", "Hamm", "Hernández", "Hoffmann", "Ibrahim", "Iwu", "Jørgensen", "Kazemi", "Kowalczyk",
        "Köhler", "Kuznetsov", "Larsson", "Lindqvist", "MacAllister", "Mestre", "Moreau", "Müller", "Nakamura", "Nkemelu", "Novák", "O'Brien", "O'Sullivan", "Okafor", "Okonjo", "Osei",
        "Papadopoulos", "Pettersson", "Quill", "Roope", "Rossi", "Sánchez", "Schäfer", "Schröder", "Schulz", "Silva", "Sørensen", "Svensson", "Szymański", "Takeda", "Thorvaldsen", "Trần",
        "Vantorre", "Van der Meer", "Villanueva", "Wagner", "Wilk", "Wiśniewska", "Yamamoto", "Yılmaz", "Zhang", "Zielińska", "Zimmermann"
    ];

    private static readonly string[][] _shortForms =
    [
        ["Alexander", "Alex", "Sascha"], ["Aleksandra", "Ola"], ["Andreas", "Andi"], ["Anthony", "Tony"], ["Bartosz", "Bartek"], ["Benjamin", "Ben"], ["Catherine", "Cathy", "Kate"],
        ["Charlotte", "Lotte"], ["Christopher", "Chris"], ["Daniela", "Dani"], ["Dmitri", "Dima"], ["Edward", "Ted", "Ed"], ["Eleanor", "Ellie"], ["Elizabeth", "Liz", "Beth"],
        ["Francisco", "Paco"], ["Franziska", "Franzi"], ["Geoffrey", "Geoff"], ["Giuseppe", "Beppe"], ["Ignacio", "Nacho"], ["Isabella", "Bella"], ["Jennifer", "Jenny"], ["Johannes", "Hannes"],
        ["Jonathan", "Jon"], ["José", "Pepe"], ["Joseph", "Joe"], ["Katharina", "Kathi"], ["Krzysztof", "Krzysiek"], ["Leonard", "Len"], ["Lieselotte", "Lilo"], ["Magdalena", "Lena"],
        ["Małgorzata", "Gosia"], ["Margaret", "Meg"], ["Matthew", "Matt"], ["Maximilian", "Max"], ["Michael", "Mike"], ["Natalia", "Natasha"], ["Oluwaseun", "Seun"], ["Patricia", "Pat"],
        ["Rafael", "Rafa"], ["Rebecca", "Becky"], ["Robert", "Bob", "Rob"], ["Samuel", "Sam"], ["Sebastian", "Seb"], ["Stephanie", "Steph"], ["Svetlana", "Sveta"], ["Teodor", "Teo"],
        ["Thomas", "Tom"], ["Ursula", "Uschi"], ["Victoria", "Vicky"], ["William", "Will", "Bill"], ["Zofia", "Zosia"]
    ];

    private readonly Random _random = new(seed);

    public List<DocketLine> Docket(int count)
    {
        var names = new HashSet<string>();
        while (names.Count < count)
            names.Add(_random.Next(8) == 0 ? $"{Any(_given)} {Any(_family)}-{Any(_family)}" : _random.Next(9) == 0 ? $"{Any(_given)} {Any(_given)} {Any(_family)}" : $"{Any(_given)} {Any(_family)}");
        return [.. names.Select(name => new DocketLine(name))];
    }

    /// <summary>Somebody who is on no docket, often with a name near one that is.</summary>
    public string Stranger(IReadOnlyList<DocketLine> docket)
    {
        for (; ; )
        {
            var words = docket[_random.Next(docket.Count)].Name.Split(' ');
            var name = _random.Next(6) switch
            {
                0 => Any(["iPad", "Galaxy S22", "Tablet 7", "Guest", "iPhone (2)"]),
                1 or 2 => $"{Any(_given)} {words[^1]}",
                3 => $"{words[0]} {Any(_family)}",
                _ => $"{Any(_given)} {Any(_family)}"
            };
            if (!docket.Any(line => Plain(line.Name) == Plain(name))) return name;
        }
    }

    /// <summary>As people really type their names: mostly right, sometimes short, turned about, without marks, or with a slip.</summary>
    public string Typed(string name)
    {
        if (_random.Next(100) < 30) return name;
        var typed = name;
        for (var changes = _random.Next(100) < 75 ? 1 : 2; changes > 0; changes--)
            typed = _random.Next(10) switch
            {
                0 => typed.ToUpper(CultureInfo.InvariantCulture),
                1 => typed.ToLower(CultureInfo.InvariantCulture),
                2 => Plain(typed),
                3 => SpelledOut(typed),
                4 => LastFirst(typed),
                5 => Short(typed),
                6 => Initial(typed),
                7 => typed.Contains(' ', StringComparison.Ordinal) && typed.Split(' ').Length > 2 ? JoinFirst(typed) : typed.Replace('-', ' ').Replace("'", "", StringComparison.Ordinal),
                8 => Slip(typed),
                _ => typed + Any([" (she/her)", " (phone)", "  ", " [mobile]", "."])
            };
        return typed;
    }

    private string Any(string[] from) => from[_random.Next(from.Length)];

    private static string Plain(string text) =>
        new(text.Replace("ł", "l", StringComparison.Ordinal).Replace("ø", "o", StringComparison.Ordinal).Replace("æ", "ae", StringComparison.Ordinal).Replace("ı", "i", StringComparison.Ordinal)
            .Normalize(NormalizationForm.FormD).Where(letter => CharUnicodeInfo.GetUnicodeCategory(letter) != UnicodeCategory.NonSpacingMark).ToArray());

    private static string SpelledOut(string text) =>
        Plain(text.Replace("ö", "oe", StringComparison.Ordinal).Replace("ü", "ue", StringComparison.Ordinal).Replace("ä", "ae", StringComparison.Ordinal).Replace("ø", "oe", StringComparison.Ordinal)
            .Replace("å", "aa", StringComparison.Ordinal).Replace("Å", "Aa", StringComparison.Ordinal));

    private static string LastFirst(string name) => name.LastIndexOf(' ') is > 0 and var at ? $"{name[(at + 1)..]}, {name[..at]}" : name;

    private string Short(string name)
    {
        foreach (var forms in _shortForms)
            if (name.StartsWith(forms[0] + " ", StringComparison.Ordinal)) return forms[1 + _random.Next(forms.Length - 1)] + name[forms[0].Length..];
        return name;
    }

    private static string Initial(string name) => name.IndexOf(' ', StringComparison.Ordinal) is > 0 and var at && !name.Contains(',', StringComparison.Ordinal) ? $"{name[0]}.{name[at..]}" : name;

    private static string JoinFirst(string name) => name.IndexOf(' ', StringComparison.Ordinal) is > 0 and var at ? name.Remove(at, 1) : name;

    private string Slip(string name)
    {
        var at = 1 + _random.Next(name.Length - 2);
        if (name[at] == ' ' || name[at - 1] == ' ' || name[at + 1] == ' ') return name;
        return _random.Next(4) switch
        {
            0 => name.Remove(at, 1),
            1 => name.Insert(at, ((char)('a' + _random.Next(26))).ToString()),
            2 => name[..at] + (char)('a' + _random.Next(26)) + name[(at + 1)..],
            _ => name[..at] + name[at + 1] + name[at] + name[(at + 2)..]
        };
    }
}
