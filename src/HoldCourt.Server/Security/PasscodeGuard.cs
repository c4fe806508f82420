using System.Collections.Concurrent;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Security;

/// <summary>
/// Checks passcodes and slows guessing down: after a few wrong ones a session's door makes everybody with a wrong one
/// from that address wait, twice as long each time; and however many addresses guess, one session takes only so many.
/// </summary>
public sealed class PasscodeGuard(TimeProvider time)
{
    private const int FreeTries = 5, MostPerSessionAndMinute = 60, MostRemembered = 10_000;
    private readonly PasswordHasher<object> _hasher = new();
    private readonly ConcurrentDictionary<(Guid, string), Tries> _tries = new();

    public string Hash(string passcode) => _hasher.HashPassword(this, passcode);

    /// <summary>Whether it is right, without counting a wrong one: it may still be another code. Nobody who has to wait may try.</summary>
    public bool IsRight(Guid session, string hash, string code, string address)
    {
        var now = time.GetUtcNow();
        if (_tries.TryGetValue((session, address), out var own) && own.Until > now && own.Wrong >= FreeTries) return false;
        if (_tries.TryGetValue((session, ""), out var all) && all.Until > now && all.Wrong >= MostPerSessionAndMinute) return false;
        return code.Length <= 100 && _hasher.VerifyHashedPassword(this, hash, code) != PasswordVerificationResult.Failed;
    }

    /// <summary>Whether the passcode is right; how long to wait when it may not even be tried.</summary>
    public (bool Right, TimeSpan Wait) Check(Guid session, string hash, string? passcode, string address)
    {
        var now = time.GetUtcNow();
        if (_tries.Count > MostRemembered)
            foreach (var stale in _tries.Where(pair => pair.Value.Until < now).Select(pair => pair.Key).ToList()) _tries.TryRemove(stale, out _);
        var (own, all) = (_tries.GetOrAdd((session, address), _ => new Tries()), _tries.GetOrAdd((session, ""), _ => new Tries()));
        if (own.Until > now && own.Wrong >= FreeTries) return (false, own.Until - now);
        if (all.Until > now && all.Wrong >= MostPerSessionAndMinute) return (false, all.Until - now);
        if (passcode is { Length: <= 100 } && _hasher.VerifyHashedPassword(this, hash, passcode) != PasswordVerificationResult.Failed)
        {
            own.Wrong = 0;
            return (true, TimeSpan.Zero);
        }
        // An empty box is no guess.
        if (string.IsNullOrEmpty(passcode)) return (false, TimeSpan.Zero);
        own.Wrong++;
        own.Until = now + TimeSpan.FromSeconds(own.Wrong < FreeTries ? 60 : Math.Min(900, 5 * Math.Pow(2, own.Wrong - FreeTries)));
        if (all.Until <= now) (all.Wrong, all.Until) = (0, now + TimeSpan.FromMinutes(1));
        all.Wrong++;
        return (false, own.Wrong >= FreeTries ? own.Until - now : TimeSpan.Zero);
    }

    private sealed class Tries
    {
        public int Wrong { get; set; }
        public DateTimeOffset Until { get; set; }
    }
}
