using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using HoldCourt.Server.Security;
using Microsoft.AspNetCore.DataProtection;

namespace HoldCourt.Server.Media;

/// <summary>Short-lived leave to open the media socket of one seat, good for once.</summary>
public sealed class MediaTickets(IDataProtectionProvider protection, TimeProvider time)
{
    /// <summary>Tickets that were used, with when they would have run out.</summary>
    private readonly ConcurrentDictionary<string, DateTimeOffset> _used = new();
    private static readonly TimeSpan _lifetime = TimeSpan.FromSeconds(30);
    private readonly IDataProtector _protector = protection.CreateProtector("media, with its end");

    /// <param name="signIn">The sign-in with which the socket ends; null for guests.</param>
    public string Issue(Guid sitting, SeatId seat, string? signIn = null) =>
        _protector.Protect($"{sitting:N}|{seat.Number}|{SeatCookies.Random128()}|"
            + $"{(time.GetUtcNow() + _lifetime).ToUnixTimeMilliseconds()}|{signIn}");

    /// <summary>Whose ticket it is; null when it is forged, has run out, or was used before.</summary>
    public (Guid Sitting, SeatId Seat, string? SignIn)? Use(string? ticket)
    {
        if (ticket is not { Length: > 0 and < 1_000 }) return null;
        try
        {
            var parts = _protector.Unprotect(ticket).Split('|');
            foreach (var (old, until) in _used)
                if (until < time.GetUtcNow()) _used.TryRemove(old, out _);
            if (long.Parse(parts[3], CultureInfo.InvariantCulture) <= time.GetUtcNow().ToUnixTimeMilliseconds()) return null;
            if (!_used.TryAdd(parts[2], time.GetUtcNow() + 2 * _lifetime)) return null;
            return (Guid.ParseExact(parts[0], "N"), new SeatId(int.Parse(parts[1], CultureInfo.InvariantCulture)), parts[4].Length > 0
                ? parts[4]
                : null);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
