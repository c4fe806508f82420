using System.Collections.Immutable;
using System.Globalization;
using System.Text;

namespace HoldCourt.Core.Polls;

/// <summary>A line of a result.</summary>
/// <param name="Option">Number from 0; null where there is none to choose among.</param>
/// <param name="Number">Of a scale, or a number that was answered.</param>
/// <param name="Words">As most have written them.</param>
public sealed record BarRow(int? Option, double? Number, string? Words, int Count);

/// <param name="Median">The middle one, or the mean of the middle two.</param>
public sealed record SpreadRow(double Mean, double Median, double Least, double Most);

/// <summary>A round of an instant runoff.</summary>
/// <param name="Counts">For each option; null once it is out.</param>
/// <param name="Exhausted">Ballots that name none of those who are left.</param>
/// <param name="Out">The option that leaves after it; null after the last round.</param>
/// <param name="Level">Those that were last together, when several were.</param>
public sealed record RoundRow(ImmutableArray<int?> Counts, int Exhausted, int? Out, ImmutableArray<int> Level);

/// <summary>What came of a poll.</summary>
/// <param name="Voters">Who could vote.</param>
/// <param name="Turnout">Who did, abstentions counted in.</param>
/// <param name="Bars">In the order of the options or numbers; words by how many wrote them.</param>
/// <param name="First">The options that are ahead; several are a tie, none says that nobody chose.</param>
/// <param name="Quorate">Enough took part; null when none had to.</param>
public sealed record PollResult(
    int Voters, int Turnout, int Abstained, bool? Quorate, ImmutableArray<BarRow> Bars, SpreadRow? Spread, ImmutableArray<RoundRow> Rounds,
    ImmutableArray<int> First);

/// <summary>Counts ballots. Depends on nothing but them.</summary>
public static class PollCount
{
    /// <summary>Most lines of answers in words, or of numbers.</summary>
    public const int MostBars = 100;

    public static PollResult Of(PollForm form, ImmutableArray<Choice> ballots, int voters)
    {
        var given = ballots.Where(ballot => !ballot.Abstains).ToList();
        var rounds = form.Kind == PollKind.Preference
            ? InstantRunoff.Of(form.Count, [.. given.Select(ballot => ballot.Options)])
            : InstantRunoff.None;
        var bars = BarsOf(form, given);
        return new PollResult(
            voters, ballots.Length, ballots.Length - given.Count, form.Quorum is { } quorum ? ballots.Length >= quorum : null,
            bars, SpreadOf(given), rounds.Rounds, form.Kind == PollKind.Preference ? rounds.Winners : Ahead(bars));
    }

    private static ImmutableArray<int> Ahead(ImmutableArray<BarRow> bars)
    {
        var most = bars.Length == 0 ? 0 : bars.Max(bar => bar.Count);
        return most == 0 ? [] : [.. bars.Where(bar => bar.Count == most && bar.Option is not null).Select(bar => bar.Option!.Value)];
    }

    private static ImmutableArray<BarRow> BarsOf(PollForm form, List<Choice> given) => form.Kind switch
    {
        PollKind.Words => InWords(given),
        PollKind.Number => [.. given.GroupBy(ballot => ballot.Number).OrderBy(group => group.Key).Take(MostBars)
            .Select(group => new BarRow(null, group.Key, null, group.Count()))],
        PollKind.Scale => [.. Enumerable.Range((int)form.Low!.Value, (int)(form.High!.Value - form.Low.Value) + 1)
            .Select(step => new BarRow(null, step, null, given.Count(ballot => ballot.Number == step)))],
        PollKind.Preference => Chosen(form, given, ballot => ballot.Options[0]),
        PollKind.Several => [.. Enumerable.Range(0, form.Count)
            .Select(option => new BarRow(option, null, null, given.Count(ballot => ballot.Options.Contains(option))))],
        _ => Chosen(form, given, ballot => ballot.Options[0])
    };

    private static ImmutableArray<BarRow> Chosen(PollForm form, List<Choice> given, Func<Choice, int> chosen) =>
        [.. Enumerable.Range(0, form.Count)
            .Select(option => new BarRow(option, null, null, given.Count(ballot => chosen(ballot) == option)))];

    private static ImmutableArray<BarRow> InWords(List<Choice> given) =>
        [.. given.GroupBy(ballot => Folded(ballot.Text!)).Select(alike => new BarRow(null, null, Commonest(alike), alike.Count()))
            .OrderByDescending(bar => bar.Count).ThenBy(bar => bar.Words, StringComparer.Ordinal).Take(MostBars)];

    private static string Commonest(IEnumerable<Choice> alike) => alike.GroupBy(ballot => ballot.Text!)
        .OrderByDescending(group => group.Count()).ThenBy(group => group.Key, StringComparer.Ordinal).First().Key;

    /// <summary>What remains of an answer without case, accents, blanks and signs; the answer itself where nothing does.</summary>
    public static string Folded(string answer)
    {
        var folded = new StringBuilder(answer.Length);
        foreach (var letter in answer.Normalize(NormalizationForm.FormKD))
            if (char.GetUnicodeCategory(letter) != UnicodeCategory.NonSpacingMark && char.IsLetterOrDigit(letter))
                folded.Append(char.ToLowerInvariant(letter == 'ł' || letter == 'Ł' ? 'l' : letter));
        return folded.Length == 0 ? answer : folded.ToString();
    }

    private static SpreadRow? SpreadOf(List<Choice> given)
    {
        var numbers = given.Select(ballot => ballot.Number).OfType<double>().Order().ToList();
        if (numbers.Count == 0) return null;
        var median = (numbers[(numbers.Count - 1) / 2] + numbers[numbers.Count / 2]) / 2;
        return new SpreadRow(numbers.Average(), median, numbers[0], numbers[^1]);
    }
}

/// <summary>
/// Instant runoff (the alternative vote): each ballot counts for the first of its options that is left; while none has more than half
/// of the ballots that count, the last one leaves. Where several are last together it is looked at what comes of each: when it is
/// the same whichever leaves, it is so; otherwise all that can win are named, as a tie, and nothing is left to chance.
/// </summary>
public static class InstantRunoff
{
    internal static (ImmutableArray<int> Winners, ImmutableArray<RoundRow> Rounds) None { get; } = ([], []);

    /// <param name="options">How many there are; at most <see cref="PollForm.MostOptions"/>, since ties are followed to their ends.</param>
    /// <param name="ballots">Each a list of options, the best first; not all need stand there.</param>
    public static (ImmutableArray<int> Winners, ImmutableArray<RoundRow> Rounds) Of(
        int options, ImmutableArray<ImmutableArray<int>> ballots)
    {
        if (ballots.IsEmpty) return None;
        ArgumentOutOfRangeException.ThrowIfGreaterThan(options, PollForm.MostOptions);
        var known = new Dictionary<int, int>();
        var all = (1 << options) - 1;
        var winners = Winners(all);
        var rounds = ImmutableArray.CreateBuilder<RoundRow>();
        var left = all;
        while (true)
        {
            var counts = Counts(left);
            var last = IsDecided(counts, left) ? [] : LastOf(counts, left);
            // Of several the first in the list whose leaving comes to the same end as the whole.
            int? goes = last is [] ? null : last.FirstOrDefault(option => Winners(left & ~(1 << option)) == Winners(left), last[0]);
            rounds.Add(new RoundRow(
                [.. Enumerable.Range(0, options).Select(option => IsIn(left, option) ? counts[option] : (int?)null)],
                ballots.Length - counts.Sum(), goes, last.Length > 1 ? last : []));
            if (goes is not { } gone) return (Set(winners), rounds.ToImmutable());
            left &= ~(1 << gone);
        }

        int Winners(int left)
        {
            if (known.TryGetValue(left, out var before)) return before;
            var counts = Counts(left);
            return known[left] = IsDecided(counts, left)
                ? Best(counts, left)
                : LastOf(counts, left).Aggregate(0, (found, option) => found | Winners(left & ~(1 << option)));
        }

        int[] Counts(int left)
        {
            var counts = new int[options];
            foreach (var ballot in ballots)
                foreach (var option in ballot)
                    if (IsIn(left, option))
                    {
                        counts[option]++;
                        break;
                    }
            return counts;
        }

        ImmutableArray<int> Set(int mask) => [.. Enumerable.Range(0, options).Where(option => IsIn(mask, option))];
    }

    private static bool IsIn(int set, int option) => (set >> option & 1) == 1;

    /// <summary>One has more than half, or no more than two are left, or those that are left are all level.</summary>
    private static bool IsDecided(int[] counts, int left) =>
        counts.Max() * 2 > counts.Sum() || int.PopCount(left) <= 2 || LastOf(counts, left).Length == int.PopCount(left);

    private static int Best(int[] counts, int left)
    {
        var most = counts.Max();
        return Enumerable.Range(0, counts.Length).Where(option => IsIn(left, option) && counts[option] == most)
            .Aggregate(0, (set, option) => set | 1 << option);
    }

    private static ImmutableArray<int> LastOf(int[] counts, int left)
    {
        var least = Enumerable.Range(0, counts.Length).Where(option => IsIn(left, option)).Min(option => counts[option]);
        return [.. Enumerable.Range(0, counts.Length).Where(option => IsIn(left, option) && counts[option] == least)];
    }
}
