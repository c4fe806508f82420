using System.Collections.Concurrent;

namespace HoldCourt.Server.Accounts;

/// <summary>A code of RFC 6238 is good once (section 5.2), though it holds for a few steps of 30 s in which clocks may differ.</summary>
internal sealed class UsedCodes(TimeProvider time)
{
    /// <summary>A code is taken from two steps before to two steps after.</summary>
    private static readonly TimeSpan _held = TimeSpan.FromSeconds(5 * 30);

    private readonly ConcurrentDictionary<(string Account, string Code), DateTimeOffset> _used = new();

    /// <summary>Digits alone, as people type them with blanks.</summary>
    public static string Clean(string? code) => code is { Length: <= 40 } ? string.Concat(code.Where(char.IsAsciiDigit)) : "";

    /// <returns>False when it was used before.</returns>
    public bool Use(string account, string code)
    {
        foreach (var (old, until) in _used)
            if (until <= time.GetUtcNow()) _used.TryRemove(old, out _);
        return _used.TryAdd((account, code), time.GetUtcNow() + _held);
    }
}
