using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json.Serialization;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Core.Docket;

/// <summary>How certain it is that the person at the door is somebody expected.</summary>
public enum Match
{
    Unknown,

    /// <summary>The line is already inside or claimed by somebody else who waits.</summary>
    Twice,

    /// <summary>The only expected person of that name, not claimed by anybody else.</summary>
    Sure
}

/// <summary>A person expected.</summary>
public sealed record DocketLine(string Name, Role Role = Role.Attendee);

/// <summary>The people expected at a session.</summary>
public sealed class DocketList
{
    private readonly Dictionary<string, DocketLine?> _byName = [];

    [JsonConstructor]
    public DocketList(ImmutableArray<DocketLine> lines)
    {
        Lines = lines.IsDefault ? [] : lines;
        foreach (var line in Lines)
            // A name that stands twice identifies nobody.
            if (!_byName.TryAdd(Fold(line.Name), line)) _byName[Fold(line.Name)] = null;
    }

    public static DocketList Empty { get; } = new([]);

    public ImmutableArray<DocketLine> Lines { get; }

    /// <summary>The one line of that name, or null.</summary>
    public DocketLine? LineFor(string name) => _byName.GetValueOrDefault(Fold(name));

    /// <summary>
    /// Matches a typed name by its folded words. Only whole equality counts as sure, since sure matches are admitted
    /// in bulk.
    /// </summary>
    /// <param name="others">The other people who wait or are inside.</param>
    public Match MatchOf(string name, IEnumerable<Seat> others)
    {
        if (LineFor(name) is null) return Match.Unknown;
        var folded = Fold(name);
        return others.Any(seat => seat.Place != Place.Gone && Fold(seat.Name) == folded) ? Match.Twice : Match.Sure;
    }

    /// <summary>
    /// Case, diacritics, punctuation and order taken out: compatibility decomposition (Unicode TR 15, NFKD), marks
    /// dropped, words sorted.
    /// </summary>
    public static string Fold(string name)
    {
        var letters = new StringBuilder(name.Length);
        foreach (var rune in name.Normalize(NormalizationForm.FormKD).EnumerateRunes())
        {
            if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark) continue;
            if (Rune.IsLetterOrDigit(rune)) letters.Append(Rune.ToLowerInvariant(rune));
            else letters.Append(' ');
        }
        return string.Join(' ', letters.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal));
    }
}
