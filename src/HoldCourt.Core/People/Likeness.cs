using System.Collections.Immutable;
using System.Globalization;
using System.Reflection;
using System.Runtime.CompilerServices;
using System.Text;

namespace HoldCourt.Core.People;

/// <summary>
/// Tells when a name looks like that of somebody on the bench, so that nobody is taken for the host. Names look alike when
/// their skeletons agree (Unicode UTS 39, section 4), case, blanks and punctuation aside.
/// </summary>
public static class Likeness
{
    private static readonly Lazy<Dictionary<Rune, string>> _looks = new(ReadLooks);
    private static readonly ConditionalWeakTable<string, Looks> _known = [];

    /// <summary>Whether a reader could take one name for the other.</summary>
    public static bool LooksLike(string one, string other) => LooksOf(one).Meets(LooksOf(other));

    /// <summary>Whose name begins or ceases to look like that of the bench with a change; null when nobody's does.</summary>
    internal static LikenessNoted? Note(Sitting before, Sitting after)
    {
        if (ReferenceEquals(before.Seats, after.Seats) && ReferenceEquals(before.Docket, after.Docket)) return null;
        var changed = after.Seats.ChangedSince(before.Seats).Where(pair => Matters(pair.Before, pair.After)).ToList();
        var all = !ReferenceEquals(before.Docket, after.Docket)
            || changed.Exists(pair => pair.After.OnBench || pair.Before is { OnBench: true });
        if (!all && changed.Count == 0) return null;
        var bench = Bench(after);
        var people = ImmutableArray.CreateBuilder<LikenessNoted.Person>();
        foreach (var seat in all ? [.. after.Seats] : changed.ConvertAll(pair => pair.After))
            if (Model(seat, bench) is var model && model.Name != seat.LooksLike)
                people.Add(new LikenessNoted.Person(seat.Id, model.Name, model.Seat));
        return people.Count == 0 ? null : new LikenessNoted(people.DrainToImmutable());
    }

    private static bool Matters(Seat? before, Seat after) =>
        before is null || before.Name != after.Name || before.OnBench != after.OnBench || before.Proof != after.Proof;

    private static List<(string Name, SeatId? Seat, string? Key)> Bench(Sitting sitting) =>
    [
        .. sitting.Seats.Where(seat => seat.OnBench).Select(seat => (seat.Name, (SeatId?)seat.Id, (string?)null)),
        .. sitting.Docket.Lines.Where(line => line.Role >= Role.Deputy).Select(line => (line.Name, (SeatId?)null, line.Key))
    ];

    private static (string? Name, SeatId? Seat) Model(Seat seat, List<(string Name, SeatId? Seat, string? Key)> bench)
    {
        if (seat.OnBench || bench.Count == 0) return default;
        var looks = LooksOf(seat.Name);
        foreach (var (name, model, key) in bench)
            if (!(key is not null && key == seat.Proof) && looks.Meets(LooksOf(name))) return (name, model);
        return default;
    }

    private static Looks LooksOf(string name) =>
        _known.GetValue(name, static text => new Looks(Plain(Skeleton(text)), Plain(Skeleton(Lower(text)))));

    /// <summary>
    /// The skeleton of UTS 39: decomposed, what shows nothing left out, each character as what it looks like. Wide, narrow
    /// and ornamental forms, which UTS 39 leaves to other checks, are made plain first (Unicode TR 15, NFKD).
    /// </summary>
    private static string Skeleton(string text)
    {
        var looks = new StringBuilder(text.Length);
        foreach (var rune in text.Normalize(NormalizationForm.FormKD).EnumerateRunes())
            if (!Characters.ShowsNothing(rune)) looks.Append(_looks.Value.TryGetValue(rune, out var look) ? look : rune.ToString());
        return looks.ToString().Normalize(NormalizationForm.FormD);
    }

    private static string Plain(string skeleton)
    {
        var plain = new StringBuilder(skeleton.Length);
        foreach (var rune in Lower(skeleton).EnumerateRunes())
            if (Rune.IsLetterOrDigit(rune) || Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark
                or UnicodeCategory.SpacingCombiningMark) plain.Append(rune);
        return plain.ToString();
    }

    private static string Lower(string text) => text.ToLowerInvariant();

    private static Dictionary<Rune, string> ReadLooks()
    {
        using var table = new StreamReader(Assembly.GetExecutingAssembly().GetManifestResourceStream("lookalikes.txt")!, Encoding.UTF8);
        var looks = new Dictionary<Rune, string>();
        while (table.ReadLine() is { } line)
            if (line.Split('\t') is [var look, var letters])
                foreach (var letter in letters.EnumerateRunes()) looks[letter] = look;
        return looks;
    }

    /// <summary>A name's skeleton as it is written, and that of its small letters: a large I looks like a small l.</summary>
    private sealed record Looks(string Written, string Small)
    {
        public bool Meets(Looks other) =>
            Written == other.Written || Written == other.Small || Small == other.Written || Small == other.Small;
    }
}
