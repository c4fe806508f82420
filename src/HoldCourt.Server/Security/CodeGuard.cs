using System.Collections.Concurrent;
using Microsoft.AspNetCore.Identity;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Security;

/// <summary>What somebody at the door showed.</summary>
public enum Shown { Nothing, Passcode, HostKey, Wrong, TooOften }

/// <summary>
/// Checks passcodes and host keys, and slows guessing down: who guesses wrong a few times waits, twice as long each time.
/// A guess counts before it is looked at, so that many at once are many. It counts against the browser that made it, so
/// that nobody shuts out the one who knows the code; browsers are many, but the codes are long enough for that.
/// </summary>
public sealed class CodeGuard(TimeProvider time, HeavyWork heavy)
{
    /// <summary>Wrong guesses before a browser has to wait, and how many all browsers of one address make in a minute.</summary>
    private const int FreeTries = 5, MostOfAddress = 300;

    private const int LongestCode = 100, MostRemembered = 100_000;
    private static readonly TimeSpan _longestWait = TimeSpan.FromMinutes(15), _minute = TimeSpan.FromMinutes(1);

    private readonly PasswordHasher<object> _hasher = new();
    private readonly ConcurrentDictionary<(Guid Session, string By), Tries> _tries = new();

    public Task<string> Hash(string code) => heavy.Run(Lane.Quick, "codes", () => _hasher.HashPassword(this, code));

    /// <param name="browser">Whose guess it is: what the browser is known by; see <see cref="BrowserCookies.Guesser"/>.</param>
    /// <returns>What was shown, and how long to wait where it may not even be tried.</returns>
    public async Task<(Shown Shown, TimeSpan Wait)> Check(Guid session, string? passcodeHash, string? hostKeyHash, string? code,
        string browser, string address)
    {
        // An empty box is no guess.
        if (string.IsNullOrWhiteSpace(code) || (passcodeHash is null && hostKeyHash is null)) return (Shown.Nothing, TimeSpan.Zero);
        Forget();
        var own = _tries.GetOrAdd((session, browser), _ => new Tries());
        var all = _tries.GetOrAdd((session, "all of " + address), _ => new Tries());
        if (Begin(own, all) is { } wait) return (Shown.TooOften, wait);
        var typed = code.Trim();
        Shown shown;
        try
        {
            // Checking takes long on purpose.
            shown = typed.Length > LongestCode ? Shown.Wrong : await heavy.Run(Lane.Quick, address, () =>
                IsRight(hostKeyHash, typed) ? Shown.HostKey : IsRight(passcodeHash, typed) ? Shown.Passcode : Shown.Wrong,
                isStranger: true);
        }
        catch (BusyException)
        {
            // Nobody looked at it.
            Forgive(own, all);
            throw;
        }
        return (shown, End(own, all, shown != Shown.Wrong));
    }

    /// <summary>A code that is the house's rather than a session's: counts a guess,
    /// and says how many seconds to wait where it may not be made.</summary>
    public bool SlowsDown(string browser, string address, out int seconds)
    {
        var wait = Begin(OfHouse(browser), OfHouse("all of " + address));
        seconds = (int)Math.Ceiling(wait?.TotalSeconds ?? 0);
        return wait is not null;
    }

    /// <summary>The guess that was counted last was none.</summary>
    public void WasRight(string browser, string address) => End(OfHouse(browser), OfHouse("all of " + address), right: true);

    private Tries OfHouse(string by) => _tries.GetOrAdd((Guid.Empty, by), _ => new Tries());

    private bool IsRight(string? hash, string code) =>
        hash is not null && _hasher.VerifyHashedPassword(this, hash, code) != PasswordVerificationResult.Failed;

    /// <summary>Counts a guess as wrong until it turns out to be right.</summary>
    private TimeSpan? Begin(Tries own, Tries all)
    {
        var now = time.GetUtcNow();
        lock (all)
        {
            if (all.Until <= now) (all.Wrong, all.Until) = (0, now + _minute);
            if (all.Wrong >= MostOfAddress) return all.Until - now;
            all.Wrong++;
        }
        lock (own)
        {
            if (own.Until <= now && own.Wrong < FreeTries) own.Wrong = 0;
            if (own.Until > now && own.Wrong >= FreeTries) return own.Until - now;
            own.Wrong++;
            own.Until = now + WaitAfter(own.Wrong);
            return null;
        }
    }

    private static TimeSpan WaitAfter(int wrong) => wrong < FreeTries
        ? _minute
        : TimeSpan.FromSeconds(Math.Min(_longestWait.TotalSeconds, 5 * Math.Pow(2, Math.Min(wrong - FreeTries, 20))));

    private TimeSpan End(Tries own, Tries all, bool right)
    {
        if (right) lock (all) all.Wrong = Math.Max(0, all.Wrong - 1);
        lock (own)
        {
            if (right) (own.Wrong, own.Until) = (0, default);
            // The wait begins with the answer, however long it took to look.
            else own.Until = time.GetUtcNow() + WaitAfter(own.Wrong);
            var wait = own.Until - time.GetUtcNow();
            return own.Wrong >= FreeTries && wait > TimeSpan.Zero ? wait : TimeSpan.Zero;
        }
    }

    private static void Forgive(Tries own, Tries all)
    {
        lock (all) all.Wrong = Math.Max(0, all.Wrong - 1);
        lock (own) own.Wrong = Math.Max(0, own.Wrong - 1);
    }

    private void Forget()
    {
        if (_tries.Count <= MostRemembered) return;
        var now = time.GetUtcNow();
        foreach (var stale in _tries.Where(pair => pair.Value.Until < now).Select(pair => pair.Key).ToList())
            _tries.TryRemove(stale, out _);
    }

    private sealed class Tries
    {
        public int Wrong { get; set; }
        public DateTimeOffset Until { get; set; }
    }
}
