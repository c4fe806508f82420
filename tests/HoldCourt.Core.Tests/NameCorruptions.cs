using System.Globalization;
using System.Text;

namespace HoldCourt.Core.Tests;

/// <summary>Makes dockets of made-up names, and what their owners type at the door. The same seed makes the same.</summary>
internal sealed class NameCorruptions(int seed)
{
    private static readonly string[] _given =
    [
        "Alexander", "Aleksandra", "Amara", "Andreas", "Anneliese", "Anthony", "Bartosz", "Beatrice", "Benjamin", "Catherine", "Charlotte",
        "Chidi", "Christopher", "Daniela", "Dmitri",
        "Edward", "Eleanor", "Elisabeth", "Elizabeth", "Emmanuel", "Esther", "Ewa", "Fatima", "Francisco", "Franziska", "Gabriele",
        "Geoffrey", "Giuseppe", "Gwen", "Hannah", "Heinrich",
        "Ignacio", "Ilse", "Ines", "Isabella", "Jamal", "Jennifer", "Johannes", "Jonathan", "José", "Joseph", "Jun", "Katharina",
        "Krzysztof", "Kwabena", "Leila", "Leonard", "Lieselotte",
        "Magdalena", "Małgorzata", "Margaret", "Mary Ann", "Matthew", "Maximilian", "Michael", "Mirembe", "Natalia", "Nia", "Ngozi",
        "Oluwaseun", "Oyelaran", "Patricia", "Pilar", "Rafael",
        "Rebecca", "Robert", "Runa", "Samuel", "Sebastian", "Siobhán", "Soraya", "Stephanie", "Svetlana", "Tamsin", "Teodor", "Thomas",
        "Ursula", "Victoria", "William", "Yusuf", "Zoë", "Zofia"
    ];

    private static readonly string[] _family =
    [
        "Abara", "Achan", "Adewale", "Ågren", "Ångström", "Ashdown", "Bækgaard", "Bergström", "Brandão", "Brzezińska", "Castellano",
        "Chukwu", "Cruz", "Dąbrowski", "Delacroix", "Demirel",
        "Eskola", "Fernández", "Fitzgerald", "García", "Gruber", "Grzelak", "Gürses", "Halvari", "Hamm", "Hernández", "Hoffmann", "Ibrahim",
        "Iwu", "Jørgensen", "Kazemi", "Kowalczyk",
        "Köhler", "Kuznetsov", "Larsson", "Lindqvist", "MacAllister", "Mestre", "Moreau", "Müller", "Nakamura", "Nkemelu", "Novák",
        "O'Brien", "O'Sullivan", "Okafor", "Okonjo", "Osei",
        "Papadopoulos", "Pettersson", "Quill", "Roope", "Rossi", "Sánchez", "Schäfer", "Schröder", "Schulz", "Silva", "Sørensen",
        "Svensson", "Szymański", "Takeda", "Thorvaldsen", "Trần",
        "Vantorre", "Van der Meer", "Villanueva", "Wagner", "Wilk", "Wiśniewska", "Yamamoto", "Yılmaz", "Zhang", "Zielińska", "Zimmermann"
    ];

    private static readonly string[][] _shortForms =
    [
        ["Alexander", "Alex", "Sascha"], ["Aleksandra", "Ola"], ["Andreas", "Andi"], ["Anthony", "Tony"], ["Bartosz", "Bartek"],
        ["Benjamin", "Ben"], ["Catherine", "Cathy", "Kate"],
        ["Charlotte", "Lotte"], ["Christopher", "Chris"], ["Daniela", "Dani"], ["Dmitri", "Dima"], ["Edward", "Ted", "Ed"],
        ["Eleanor", "Ellie"], ["Elizabeth", "Liz", "Beth"],
        ["Francisco", "Paco"], ["Franziska", "Franzi"], ["Geoffrey", "Geoff"], ["Giuseppe", "Beppe"], ["Ignacio", "Nacho"],
        ["Isabella", "Bella"], ["Jennifer", "Jenny"], ["Johannes", "Hannes"],
        ["Jonathan", "Jon"], ["José", "Pepe"], ["Joseph", "Joe"], ["Katharina", "Kathi"], ["Krzysztof", "Krzysiek"], ["Leonard", "Len"],
        ["Lieselotte", "Lilo"], ["Magdalena", "Lena"],
        ["Małgorzata", "Gosia"], ["Margaret", "Meg"], ["Matthew", "Matt"], ["Maximilian", "Max"], ["Michael", "Mike"],
        ["Natalia", "Natasha"], ["Oluwaseun", "Seun"], ["Patricia", "Pat"],
        ["Rafael", "Rafa"], ["Rebecca", "Becky"], ["Robert", "Bob", "Rob"], ["Samuel", "Sam"], ["Sebastian", "Seb"], ["Stephanie", "Steph"],
        ["Svetlana", "Sveta"], ["Teodor", "Teo"],
        ["Thomas", "Tom"], ["Ursula", "Uschi"], ["Victoria", "Vicky"], ["William", "Will", "Bill"], ["Zofia", "Zosia"]
    ];

    /// <summary>What people are called every day; some of it stands in no table.</summary>
    private static readonly string[][] _everyday =
    [
        ["Amara", "Ama"], ["Anneliese", "Annelie"], ["Beatrice", "Bea", "Trixie"], ["Chidi", "Chi"], ["Elisabeth", "Elli", "Lisbeth"],
        ["Emmanuel", "Manny", "Emma"], ["Esther", "Essie"],
        ["Fatima", "Fati"], ["Gabriele", "Gabi"], ["Hannah", "Hanni"], ["Heinrich", "Heini"], ["Isabella", "Izzy", "Isa"], ["Jamal", "Jam"],
        ["Jonathan", "Jonny", "Nathan"], ["Joseph", "Joey"],
        ["Kwabena", "Kwab"], ["Leonard", "Leo"], ["Margaret", "Maggie", "Marge"], ["Matthew", "Matty"], ["Maximilian", "Maxi"],
        ["Mirembe", "Miri"], ["Natalia", "Nat", "Talia"], ["Oluwaseun", "Olu"],
        ["Oyelaran", "Oye"], ["Patricia", "Trish", "Patty"], ["Rafael", "Raf"], ["Rebecca", "Becca"], ["Samuel", "Sammy"],
        ["Sebastian", "Basti"], ["Siobhán", "Shiv"], ["Stephanie", "Steffi"],
        ["Svetlana", "Lana", "Svet"], ["Tamsin", "Tam"], ["Thomas", "Tommy"], ["Victoria", "Vic", "Tori"], ["William", "Billy", "Liam"],
        ["Yusuf", "Yus"]
    ];

    /// <summary>Names of different people that are near each other.</summary>
    private static readonly string[][] _near =
    [
        ["Alexander", "Alexandra"], ["Andreas", "Andrea"], ["Bartosz", "Bartek"], ["Daniela", "Daniel"], ["Dmitri", "Dimitra"],
        ["Eleanor", "Eleonora"], ["Elisabeth", "Elizabeth"], ["Esther", "Ester"],
        ["Ewa", "Eva", "Ewan"], ["Francisco", "Francisca"], ["Gabriele", "Gabriela", "Gabriel"], ["Gwen", "Gwyn"], ["Ilse", "Elsa", "Ilsa"],
        ["Ines", "Inez", "Inge"], ["Joseph", "Josepha"],
        ["Jun", "Jan", "June"], ["Leila", "Leyla", "Lena"], ["Leonard", "Leonarda", "Leonhard"], ["Magdalena", "Magda Lena"],
        ["Michael", "Michaela", "Mikael"], ["Natalia", "Natalie", "Nathalia"],
        ["Nia", "Mia", "Nina"], ["Pilar", "Pila"], ["Rafael", "Raphaela"], ["Robert", "Roberta", "Rupert"], ["Runa", "Luna", "Rona"],
        ["Samuel", "Samuela"], ["Soraya", "Soraia"],
        ["Stephanie", "Stephan"], ["Teodor", "Teodora"], ["Victoria", "Victor"], ["Zofia", "Sofia"]
    ];

    private readonly Random _random = new(seed);

    public List<DocketLine> Docket(int count)
    {
        var names = new HashSet<string>();
        while (names.Count < count)
            names.Add(_random.Next(8) == 0 ? $"{Any(_given)} {Any(_family)}-{Any(_family)}" : _random.Next(9) == 0
                ? $"{Any(_given)} {Any(_given)} {Any(_family)}"
                : $"{Any(_given)} {Any(_family)}");
        return [.. names.Select(name => new DocketLine(name))];
    }

    /// <summary>Somebody who is on no docket, often with a name near one that is.</summary>
    public string Stranger(IReadOnlyList<DocketLine> docket)
    {
        for (; ; )
        {
            var words = docket[_random.Next(docket.Count)].Name.Split(' ');
            var name = _random.Next(8) switch
            {
                6 => Neighbour(words[0]) is { } near ? $"{near} {words[^1]}" : $"{Any(_given)} {Any(_family)}",
                7 => $"{Any(_given)} {words[^1]}",
                0 => Any(["iPad", "Galaxy S22", "Tablet 7", "Guest", "iPhone (2)"]),
                1 or 2 => $"{Any(_given)} {words[^1]}",
                3 => $"{words[0]} {Any(_family)}",
                _ => $"{Any(_given)} {Any(_family)}"
            };
            if (!docket.Any(line => Plain(line.Name) == Plain(name))) return _random.Next(12) == 0 ? Slip(name) : name;
        }
    }

    /// <summary>As people really type their names: mostly right, sometimes short, turned about, without marks, or with a slip.</summary>
    public string Typed(string name)
    {
        if (_random.Next(100) < 30) return name;
        var typed = name;
        for (var changes = _random.Next(100) < 75 ? 1 : 2; changes > 0; changes--)
            typed = _random.Next(14) switch
            {
                10 => Beside(typed),
                11 => Slip(Slip(typed)),
                12 => Everyday(typed),
                13 => Beside(Short(typed)),
                0 => typed.ToUpper(CultureInfo.InvariantCulture),
                1 => typed.ToLower(CultureInfo.InvariantCulture),
                2 => Plain(typed),
                3 => SpelledOut(typed),
                4 => LastFirst(typed),
                5 => Short(typed),
                6 => Initial(typed),
                7 => typed.Contains(' ', StringComparison.Ordinal) && typed.Split(' ').Length > 2
                    ? JoinFirst(typed)
                    : typed.Replace('-', ' ').Replace("'", "", StringComparison.Ordinal),
                8 => Slip(typed),
                _ => typed + Any([" (she/her)", " (phone)", "  ", " [mobile]", "."])
            };
        return typed;
    }

    /// <summary>The first name of a device: a hint at somebody, and never proof.</summary>
    public string Device(string name)
    {
        var first = name.Split(' ')[0];
        return _random.Next(5) switch
        {
            0 => $"{first}'s iPad",
            1 => $"{first}’s iPhone (2)",
            2 => $"{first}s Galaxy S22",
            3 => $"iPad von {first}",
            _ => $"iPhone de {first}"
        };
    }

    private string? Neighbour(string given) =>
        _near.FirstOrDefault(names => names[0] == given) is { } names ? names[1 + _random.Next(names.Length - 1)] : null;

    /// <summary>Words put beside the name.</summary>
    private string Beside(string name) => _random.Next(8) switch
    {
        0 => $"{name} – {Any(["Upper Reach", "Mill Ford", "treasurer", "Larkmoor Rivers Trust"])}",
        1 => $"{name} | {Any(["LRT", "Lower Weir", "chair of the wardens"])}",
        2 => $"{name}, {Any(["Upper Reach", "LRT", "warden"])}",
        3 => $"{name} {Any(["she/her", "he/him", "they/them", "ona/jej"])}",
        4 => $"{name} ({Any(["they/them", "Lower Weir", "treasurer", "LRT"])})",
        5 => $"{Any(["LRT", "Mill Ford"])} - {name}",
        6 => $"{name} @ {Any(["Larkmoor", "the weir"])}",
        _ => $"{name} / {Any(["Upper Reach", "LRT"])}"
    };

    private string Everyday(string name)
    {
        foreach (var forms in _everyday)
            if (name.StartsWith(forms[0] + " ", StringComparison.Ordinal))
                return forms[1 + _random.Next(forms.Length - 1)] + name[forms[0].Length..];
        return Short(name);
    }

    private string Any(string[] from) => from[_random.Next(from.Length)];

    private static string Plain(string text) =>
        new(text.Replace("ł", "l", StringComparison.Ordinal).Replace("ø", "o", StringComparison.Ordinal)
            .Replace("æ", "ae", StringComparison.Ordinal).Replace("ı", "i", StringComparison.Ordinal)
            .Normalize(NormalizationForm.FormD)
                .Where(letter => CharUnicodeInfo.GetUnicodeCategory(letter) != UnicodeCategory.NonSpacingMark).ToArray());

    private static string SpelledOut(string text) =>
        Plain(text.Replace("ö", "oe", StringComparison.Ordinal).Replace("ü", "ue", StringComparison.Ordinal)
            .Replace("ä", "ae", StringComparison.Ordinal).Replace("ø", "oe", StringComparison.Ordinal)
            .Replace("å", "aa", StringComparison.Ordinal).Replace("Å", "Aa", StringComparison.Ordinal));

    private static string LastFirst(string name) => name.LastIndexOf(' ') is > 0 and var at ? $"{name[(at + 1)..]}, {name[..at]}" : name;

    private string Short(string name)
    {
        foreach (var forms in _shortForms)
            if (name.StartsWith(forms[0] + " ", StringComparison.Ordinal))
                return forms[1 + _random.Next(forms.Length - 1)] + name[forms[0].Length..];
        return name;
    }

    private static string Initial(string name) => name.IndexOf(' ', StringComparison.Ordinal) is > 0 and var at
        && !name.Contains(',', StringComparison.Ordinal) ? $"{name[0]}.{name[at..]}" : name;

    private static string JoinFirst(string name) =>
        name.IndexOf(' ', StringComparison.Ordinal) is > 0 and var at ? name.Remove(at, 1) : name;

    private string Slip(string name)
    {
        if (name.Length < 3) return name;
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
