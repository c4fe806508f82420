using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace HoldCourt.Server.Media;

/// <summary>Short-lived leave to open the media socket of one seat.</summary>
public sealed class MediaTickets(IDataProtectionProvider protection)
{
    private static readonly TimeSpan _lifetime = TimeSpan.FromSeconds(30);
    private readonly ITimeLimitedDataProtector _protector = protection.CreateProtector("media").ToTimeLimitedDataProtector();

    public string Issue(Guid sitting, SeatId seat) => _protector.Protect($"{sitting:N}|{seat.Number}", _lifetime);

    public (Guid Sitting, SeatId Seat)? Read(string? ticket)
    {
        if (ticket is not { Length: > 0 and < 1_000 }) return null;
        try
        {
            var parts = _protector.Unprotect(ticket).Split('|');
            return (Guid.ParseExact(parts[0], "N"), new SeatId(int.Parse(parts[1], CultureInfo.InvariantCulture)));
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
