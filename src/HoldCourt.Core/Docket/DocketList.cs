using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Docket;

/// <summary>A person expected.</summary>
/// <param name="Name">As the host wrote it; 1 to 80 characters.</param>
/// <param name="Email">Whoever proves to have this address is this person.</param>
/// <param name="Slot">When this person's visit is planned to begin.</param>
/// <param name="Minutes">Planned length of the visit, 1 to 1,440; null when the session says it.</param>
/// <param name="Key">The line's own key, which a personal link proves.</param>
public sealed record DocketLine(
    string Name, Role Role = Role.Attendee, string? Email = null, string? Group = null, Instant? Slot = null, int? Minutes = null,
    string? Key = null);

/// <summary>The people expected at a session, in the order in which the host listed them. A line is named by its place in it.</summary>
public sealed class DocketList
{
    private readonly Lazy<Matcher> _matcher;
    private bool? _hasSlots;
    private ImmutableArray<string> _groups;

    [JsonConstructor]
    public DocketList(ImmutableArray<DocketLine> lines)
    {
        Lines = lines.IsDefault ? [] : lines;
        _matcher = new Lazy<Matcher>(() => new Matcher(Lines));
    }

    /// <summary>Longest docket of one sitting.</summary>
    public const int MostLines = 5_000;

    public static DocketList Empty { get; } = new([]);

    public ImmutableArray<DocketLine> Lines { get; }

    /// <summary>Finds the lines a person may be; built once for a docket.</summary>
    [JsonIgnore]
    public Matcher Matcher => _matcher.Value;

    [JsonIgnore]
    public bool HasSlots => _hasSlots ??= Lines.Any(line => line.Slot is not null);

    /// <summary>The groups that lines belong to, each once, in the order of the lines.</summary>
    [JsonIgnore]
    public ImmutableArray<string> Groups => _groups.IsDefault
        ? _groups = [.. Lines.Select(line => line.Group?.Trim()).OfType<string>().Where(group => group.Length > 0)
            .Distinct(StringComparer.OrdinalIgnoreCase)]
        : _groups;

    public DocketLine? this[int? line] => line is { } at && at >= 0 && at < Lines.Length ? Lines[at] : null;

    /// <summary>The planned length of a visit whose line says none.</summary>
    public const int UsualMinutes = 15;

    /// <summary>The planned length of a line's visit.</summary>
    public int MinutesOf(int line) => Lines[line].Minutes is { } minutes and > 0 ? minutes : UsualMinutes;

    public DocketList With(DocketLine line) => new(Lines.Add(line));
}
