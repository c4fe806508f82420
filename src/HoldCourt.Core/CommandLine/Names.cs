using System.Collections.Immutable;
using System.Runtime.CompilerServices;

namespace HoldCourt.Core.CommandLine;

/// <summary>The people of a sitting by the words of their names, folded as the docket's matcher folds them.</summary>
internal sealed class Names
{
    private static readonly ConditionalWeakTable<Roll, Names> _known = [];
    private static readonly ConditionalWeakTable<string, string[]> _split = [];
    private readonly List<(Seat Seat, string[] Words)> _people;

    // A change leaves most names the very strings they were.
    private Names(Roll roll) => _people = [.. roll.Select(seat => (seat, _split.GetValue(seat.Name, name => [.. NameWords.Split(name)])))];

    /// <summary>Made once for each version of the roll.</summary>
    public static Names Of(Roll roll) => _known.GetValue(roll, roll => new Names(roll));

    /// <summary>
    /// Those whose names begin with these words, in any order. A name that is exactly these words stands alone; people
    /// who are gone count only when nobody else is meant.
    /// </summary>
    public ImmutableArray<Seat> Find(string typed, Func<Seat, bool> isKnown)
    {
        var words = NameWords.Split(typed);
        if (words is []) return [];
        var found = _people.Where(person => Fits(words, person.Words) && isKnown(person.Seat)).ToList();
        if (found.Exists(person => person.Seat.Place != Place.Gone)) found.RemoveAll(person => person.Seat.Place == Place.Gone);
        var exact = found.Where(person => person.Words.Length == words.Length
            && person.Words.Order(StringComparer.Ordinal).SequenceEqual(words.Order(StringComparer.Ordinal))).ToList();
        return [.. (exact is [] ? found : exact).Select(person => person.Seat)];
    }

    private static bool Fits(ImmutableArray<string> typed, string[] words)
    {
        if (typed.Length > words.Length) return false;
        if (typed is [var only]) return Array.Exists(words, name => name.StartsWith(only, StringComparison.Ordinal));
        var left = words.ToList();
        foreach (var word in typed)
        {
            var at = left.FindIndex(name => name.StartsWith(word, StringComparison.Ordinal));
            if (at < 0) return false;
            left.RemoveAt(at);
        }
        return true;
    }
}
