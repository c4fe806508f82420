using System.Collections;
using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using System.Reflection;
using System.Text;

namespace HoldCourt.Core.Sittings;

/// <summary>
/// The one place where what comes in from outside is bounded, before any rule looks at it: lists are there, not too long,
/// and hold nothing empty; texts are not absurdly long; moments lie within a century. What is sensible within that, each
/// topic's rules say with reasons of their own.
/// </summary>
public static class Bounds
{
    /// <summary>Longest list in anything that comes in.</summary>
    public const int MostItems = 10_000;

    /// <summary>Longest text in anything that comes in, in UTF-16 units,
    /// unless it says otherwise by <see cref="LongestAttribute"/>.</summary>
    public const int LongestText = 100_000;

    /// <summary>1970-01-01 to 2100-01-01, in milliseconds.</summary>
    public static Instant Earliest { get; } = new(0);

    /// <inheritdoc cref="Earliest"/>
    public static Instant Latest { get; } = new(4_102_444_800_000);

    private static readonly ConcurrentDictionary<Type, PropertyInfo[]> _properties = new();

    /// <summary>Why a value from outside is not looked at any further; null when it may be.</summary>
    public static Refusal? Refuses(object? value) => value switch
    {
        null => null,
        string text => RefusesText(text, LongestText),
        Instant at => at < Earliest || at > Latest ? new Refusal(Reason.TimeOutOfRange) : null,
        Enum name => Enum.IsDefined(name.GetType(), name) ? null : new Refusal(Reason.NotUnderstood),
        double number => double.IsFinite(number) ? null : new Refusal(Reason.NotUnderstood),
        IEnumerable list => RefusesList(list),
        _ when IsOurs(value.GetType()) => RefusesProperties(value),
        _ => null
    };

    private static Refusal? RefusesText(string text, int longest) =>
        text.Length > longest ? new Refusal(Reason.TooLong, Remedy.Shorten) : null;

    private static bool IsOurs(Type type) => type.Namespace?.StartsWith("HoldCourt.", StringComparison.Ordinal) == true;

    private static Refusal? RefusesList(IEnumerable list)
    {
        if (list.GetType() is { IsGenericType: true } type && type.GetGenericTypeDefinition() == typeof(ImmutableArray<>)
            && (bool)type.GetProperty("IsDefault")!.GetValue(list)!)
            return new Refusal(Reason.NotUnderstood);
        var count = 0;
        foreach (var item in list)
        {
            if (++count > MostItems) return new Refusal(Reason.TooMany);
            if (item is null) return new Refusal(Reason.NotUnderstood);
            if (Refuses(item) is { } refusal) return refusal;
        }
        return null;
    }

    private static Refusal? RefusesProperties(object value)
    {
        foreach (var property in _properties.GetOrAdd(value.GetType(), PropertiesOf))
            if ((property.GetValue(value) is string text
                ? RefusesText(text, property.GetCustomAttribute<LongestAttribute>()?.Units ?? LongestText)
                : Refuses(property.GetValue(value))) is { } refusal)
                return refusal;
        return null;
    }

    /// <summary>What is written in the value's JSON; what is computed of it is not looked at.</summary>
    private static PropertyInfo[] PropertiesOf(Type type) =>
        [.. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
            .Where(property => property is { CanWrite: true } && property.GetIndexParameters().Length == 0)];

    /// <summary>
    /// A text as it may be kept: without control characters and halves of characters, line ends made one kind, its ends
    /// trimmed.
    /// </summary>
    /// <param name="lines">Line ends may stay; otherwise they become blanks.</param>
    public static string Clean(string? text, bool lines = true)
    {
        if (string.IsNullOrEmpty(text)) return "";
        var clean = new StringBuilder(text.Length);
        foreach (var rune in text.ReplaceLineEndings("\n").EnumerateRunes())
        {
            if (rune.Value == 0xFFFD && !text.Contains('\uFFFD', StringComparison.Ordinal)) continue;
            if (rune.Value is '\n' or '\t') clean.Append(lines ? (char)rune.Value : ' ');
            else if (Rune.GetUnicodeCategory(rune)
                is not (UnicodeCategory.Control or UnicodeCategory.LineSeparator or UnicodeCategory.ParagraphSeparator)) clean.Append(rune);
        }
        return clean.ToString().Trim();
    }

    /// <summary>The text as it may be kept; null when nothing is left of it.</summary>
    public static string? Meaningful(string? text) => Clean(text) is { Length: > 0 } clean ? clean : null;
}

/// <summary>How long a text may be that is longer than others.</summary>
/// <param name="units">In UTF-16 units.</param>
[AttributeUsage(AttributeTargets.Property)]
public sealed class LongestAttribute(int units) : Attribute
{
    public int Units => units;
}
