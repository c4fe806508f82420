using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.CommandLine;

/// <summary>A part of a sentence that stands for something: a person, a length of time, words.</summary>
internal abstract record Slot
{
    /// <summary>What the words mean; null with the misreading when they mean nothing.</summary>
    public abstract object? Read(Scope scope, string words, out Misreading misreading);

    /// <summary>What the words may become.</summary>
    public virtual IEnumerable<string> Complete(Scope scope, string words) => [];
}

/// <summary>One of a few fixed words.</summary>
internal sealed record OneOf(ImmutableArray<(string Words, object Value)> Choices) : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        return Choices.FirstOrDefault(choice => choice.Words.Equals(words, StringComparison.OrdinalIgnoreCase)).Value;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        Choices.Where(choice => choice.Words.StartsWith(words, StringComparison.OrdinalIgnoreCase)).DistinctBy(choice => choice.Value)
            .Select(choice => choice.Words);
}

/// <summary>Anything at all, but something.</summary>
internal sealed record FreeText : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        return words.Length > 0 ? words : null;
    }
}

internal sealed record WholeNumber : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        return int.TryParse(words, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
    }
}

/// <summary>A length of time: "3 min", "90 s", "1 h", "2.5 minutes"; a bare number counts minutes.</summary>
internal sealed record Length : Slot
{
    private static readonly Dictionary<string, double> _seconds = new(StringComparer.OrdinalIgnoreCase)
    {
        [""] = 60,
        ["s"] = 1,
        ["sec"] = 1,
        ["second"] = 1,
        ["seconds"] = 1,
        ["min"] = 60,
        ["minute"] = 60,
        ["minutes"] = 60,
        ["h"] = 3_600,
        ["hour"] = 3_600,
        ["hours"] = 3_600,
        ["sekund"] = 1,
        ["sekundy"] = 1,
        ["minut"] = 60,
        ["minuty"] = 60,
        ["godz"] = 3_600,
        ["godzina"] = 3_600,
        ["godziny"] = 3_600
    };

    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        var digits = words.TakeWhile(letter => char.IsAsciiDigit(letter) || letter is '.' or ',').Count();
        return double.TryParse(words[..digits].Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture,
            out var amount)
            && _seconds.TryGetValue(words[digits..].Trim(), out var unit) && amount * unit is >= 1 and <= 86_400
            ? TimeSpan.FromSeconds(Math.Round(amount * unit))
            : null;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        words.Length > 0 && words.All(char.IsAsciiDigit) ? [words + " min", words + " s"] : words.Length == 0
        ? ["3 min", "5 min", "10 min"]
        : [];
}

/// <summary>One person, by a name or the beginnings of its words.</summary>
/// <param name="OfThoseWhoWait">Of several whom a name fits, those in the lobby are meant.</param>
internal sealed record OnePerson(bool OfThoseWhoWait = false) : Slot
{
    private static readonly Said _me = new("me", "ja");

    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.UnknownName;
        if (words.Equals(_me.In(scope.Language), StringComparison.OrdinalIgnoreCase)) return scope.By;
        var found = Find(scope, words);
        if (found.Length > 1) misreading = Misreading.DoubtfulName;
        else if (words.Length == 0) misreading = Misreading.Unfinished;
        return found is [var only] ? only.Id : null;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        (words.Length > 0 ? Find(scope, words) : Meant([.. scope.People.Where(seat => seat.Place != Place.Gone && seat.Id != scope.By)]))
        .Select(seat => seat.Name).Order(StringComparer.OrdinalIgnoreCase);

    private ImmutableArray<Seat> Find(Scope scope, string words) => Meant(Names.Of(scope.Sitting.Seats).Find(words, scope.Knows));

    private ImmutableArray<Seat> Meant(ImmutableArray<Seat> found) =>
        OfThoseWhoWait && found.Any(seat => seat.Place == Place.Lobby) ? [.. found.Where(seat => seat.Place == Place.Lobby)] : found;
}

/// <summary>Several people: a group that is named by a word, or names with commas or "and" between them.</summary>
/// <param name="OfThoseWhoWait">"Everyone" means everyone in the lobby, and so does a name that fits several.</param>
internal sealed record People(bool OfThoseWhoWait = false) : Slot
{
    private readonly OnePerson _person = new(OfThoseWhoWait);

    private static readonly Said _and = new("and", "i"), _all = new("all", "wszystkich"), _everyone = new("everyone", "każdego");

    private static readonly ImmutableArray<(Said Words, Func<Scope, Seat, bool> Holds)> _groups =
    [
        (_all, (scope, seat) => scope.IsHere(seat) && seat.Id != scope.By),
        (_everyone, (scope, seat) => scope.IsHere(seat) && seat.Id != scope.By),
        (new("all but presenters", "wszystkich oprócz prezenterów"), (scope, seat) => scope.IsHere(seat) && !Powers.PresentsOrLeads(seat)),
        (new("attendees", "uczestników"), (scope, seat) => scope.IsHere(seat) && seat is { Role: Role.Attendee }),
        (new("presenters", "prezenterów"), (scope, seat) => scope.IsHere(seat) && seat is { Role: Role.Presenter }),
        (new("deputies", "zastępców"), (scope, seat) => scope.IsHere(seat) && seat is { Role: Role.Deputy } && seat.Id != scope.By),
        (new("hands", "ręce"), (scope, seat) => scope.IsHere(seat) && seat.HandSince is not null),
        (new("waiting", "czekających"), (scope, seat) => seat.Place == Place.Lobby)
    ];

    /// <summary>What a group is called where only those who wait can be meant.</summary>
    private static readonly ImmutableArray<(Said Words, Func<Scope, Seat, bool> Holds)> _comers =
        [.. new[] { _groups[^1].Words, _all, _everyone }.Select(words => (words, _groups[^1].Holds))];

    private ImmutableArray<(Said Words, Func<Scope, Seat, bool> Holds)> Groups => OfThoseWhoWait ? _comers : _groups;

    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.NobodyThere;
        if (Groups.FirstOrDefault(one => one.Words.In(scope.Language).Equals(words, StringComparison.OrdinalIgnoreCase)).Holds is { } holds)
            return scope.People.Where(seat => holds(scope, seat)).Select(seat => seat.Id).ToImmutableArray() is { Length: > 0 } group
                ? group
                : null;
        var seats = ImmutableArray.CreateBuilder<SeatId>();
        foreach (var name in Names(scope, words))
        {
            if (_person.Read(scope, name, out misreading) is not SeatId seat) return null;
            if (!seats.Contains(seat)) seats.Add(seat);
        }
        misreading = Misreading.Unfinished;
        return seats.Count > 0 ? seats.ToImmutable() : null;
    }

    public override IEnumerable<string> Complete(Scope scope, string words)
    {
        var last = Names(scope, words).LastOrDefault() ?? "";
        var before = words[..(words.Length - last.Length)];
        var groups = before.Length > 0
            ? []
            : Groups.Select(group => group.Words.In(scope.Language))
                .Where(group => group.StartsWith(words, StringComparison.OrdinalIgnoreCase));
        return groups.Concat(_person.Complete(scope, last).Select(name => before + name));
    }

    private static IEnumerable<string> Names(Scope scope, string words) =>
        words.Split(',').SelectMany(part => part.Split($" {_and.In(scope.Language)} ", StringSplitOptions.None))
            .Select(part => part.Trim());
}

/// <summary>An item of the run sheet, by its number or the beginning of its title.</summary>
internal sealed record AnItem : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        var items = ItemsFor(scope);
        if (int.TryParse(words, NumberStyles.None, CultureInfo.InvariantCulture, out var number))
            return number >= 1 && number <= items.Length ? items[number - 1].Id : null;
        return words.Length > 0 ? items.FirstOrDefault(item => item.Title.StartsWith(words, StringComparison.OrdinalIgnoreCase))?.Id : null;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        ItemsFor(scope).Select(item => item.Title).Where(title => title.StartsWith(words, StringComparison.OrdinalIgnoreCase));

    private static ImmutableArray<Item> ItemsFor(Scope scope) => scope.Knows(Matter.Books) ? scope.Sitting.RunSheet.Items : [];
}

/// <summary>An exhibit that stands on the shelf, by its letter or the beginning of its title.</summary>
internal sealed record AnExhibit : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        if (words.Length == 0) return null;
        var exhibits = ExhibitsFor(scope).ToList();
        return (exhibits.Find(one => one.Letter.Equals(words, StringComparison.OrdinalIgnoreCase))
            ?? exhibits.Find(one => one.Title.StartsWith(words, StringComparison.OrdinalIgnoreCase)))?.Number;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        ExhibitsFor(scope).SelectMany(one => one.Title.Length > 0 ? [one.Letter, one.Title] : new[] { one.Letter })
            .Where(name => name.StartsWith(words, StringComparison.OrdinalIgnoreCase));

    private static IEnumerable<Exhibit> ExhibitsFor(Scope scope) =>
        scope.Sitting.Shelf.Open.Where(exhibit => scope.Knows(new Matter.OfExhibit(exhibit)));
}

/// <summary>A file that is handed out, by the beginning of its name.</summary>
internal sealed record AHandout : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        return words.Length == 0
            ? null
            : Known(scope).LastOrDefault(one => one.Name.StartsWith(words, StringComparison.OrdinalIgnoreCase))?.Number;
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        Known(scope).Select(one => one.Name).Where(name => name.StartsWith(words, StringComparison.OrdinalIgnoreCase));

    private static IEnumerable<Handout> Known(Scope scope) =>
        scope.Sitting.Handouts.Out.Where(handout => scope.Knows(new Matter.OfHandout(handout)));
}

/// <summary>Orders that are kept under a name.</summary>
internal sealed record APreset : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        return scope.Presets.FirstOrDefault(preset => preset.Name.Equals(words, StringComparison.OrdinalIgnoreCase));
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        scope.Presets.Select(preset => preset.Name).Where(name => name.StartsWith(words, StringComparison.OrdinalIgnoreCase));
}

/// <summary>A group of the docket, by the beginning of its name.</summary>
internal sealed record AGroup : Slot
{
    public override object? Read(Scope scope, string words, out Misreading misreading)
    {
        misreading = Misreading.Unfinished;
        return words.Length == 0
            ? null
            : Known(scope).FirstOrDefault(one => one.Equals(words, StringComparison.OrdinalIgnoreCase))
                ?? Known(scope).FirstOrDefault(one => one.StartsWith(words, StringComparison.OrdinalIgnoreCase));
    }

    public override IEnumerable<string> Complete(Scope scope, string words) =>
        Known(scope).Where(name => name.StartsWith(words, StringComparison.OrdinalIgnoreCase));

    private static ImmutableArray<string> Known(Scope scope) => scope.Knows(Matter.Books) ? scope.Sitting.Docket.Groups : [];
}
