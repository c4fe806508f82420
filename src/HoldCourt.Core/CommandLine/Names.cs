using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using HoldCourt.Core.Docket;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Core.CommandLine;

/// <summary>The people of a sitting by the words of their names, folded as the docket's matcher folds them.</summary>
internal sealed class Names
{
    private static readonly ConditionalWeakTable<Roll, Names> _known = [];
    private readonly ImmutableArray<(Seat Seat, ImmutableArray<string> Words)> _people;

    private Names(Roll roll) => _people = [.. roll.Select(seat => (seat, NameWords.Split(seat.Name)))];

    /// <summary>Made once for each version of the roll.</summary>
    public static Names Of(Roll roll) => _known.GetValue(roll, roll => new Names(roll));

    /// <summary>
    /// Those whose names begin with these words, in any order. A name that is exactly these words stands alone; people
    /// who are gone count only when nobody else is meant.
    /// </summary>
    public ImmutableArray<Seat> Find(string typed)
    {
        var words = NameWords.Split(typed);
        if (words is []) return [];
        var found = _people.Where(person => Fits(words, person.Words)).ToList();
        if (found.Exists(person => person.Seat.Place != Place.Gone)) found.RemoveAll(person => person.Seat.Place == Place.Gone);
        var exact = found.Where(person => person.Words.Order().SequenceEqual(words.Order())).ToList();
        return [.. (exact is [] ? found : exact).Select(person => person.Seat)];
    }

    private static bool Fits(ImmutableArray<string> typed, ImmutableArray<string> words)
    {
        if (typed.Length > words.Length) return false;
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
