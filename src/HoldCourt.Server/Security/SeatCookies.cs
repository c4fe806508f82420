using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.WebUtilities;

namespace HoldCourt.Server.Security;

/// <summary>
/// A person's claim on a seat: a signed and encrypted cookie for one sitting, out of reach of scripts. It holds the
/// person's key, so that a reload, a dropped connection or a restarted server gives back the same seat.
/// </summary>
public sealed class SeatCookies(IDataProtectionProvider protection, TimeProvider time)
{
    private static readonly TimeSpan _lifetime = TimeSpan.FromHours(24);
    private readonly IDataProtector _protector = protection.CreateProtector("seat, with its end");

    public static PersonKey NewGuest() => new("guest:" + Random128());

    /// <summary>128 random bits in base64url.</summary>
    public static string Random128() => WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(16));

    public void Write(HttpContext http, Guid sitting, PersonKey person) =>
        http.Response.Cookies.Append(NameOf(sitting),
            _protector.Protect($"{sitting:N}|{(time.GetUtcNow() + _lifetime).ToUnixTimeMilliseconds()}|{person.Value}"), new CookieOptions
            {
                HttpOnly = true,
                IsEssential = true,
                SameSite = SameSiteMode.Lax,
                Secure = http.Request.IsHttps,
                MaxAge = _lifetime
            });

    /// <summary>The person who holds a claim on this sitting; null when there is none, or it is forged or has run out.</summary>
    public PersonKey? Read(HttpContext http, Guid sitting)
    {
        if (http.Request.Cookies[NameOf(sitting)] is not { Length: < 2_000 } value) return null;
        try
        {
            var parts = _protector.Unprotect(value).Split('|', 3);
            return parts is [var id, var end, var person] && id == sitting.ToString("N")
                && long.Parse(end, CultureInfo.InvariantCulture) > time.GetUtcNow().ToUnixTimeMilliseconds() && MayBe(http, person)
                ? new PersonKey(person)
                : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    /// <summary>Who was here as an account is that account only while signed in.</summary>
    private static bool MayBe(HttpContext http, string person) =>
        !person.StartsWith(AccountMark, StringComparison.Ordinal) || http.User.FindFirstValue(ClaimTypes.NameIdentifier) is { } id
            && person == KeyOf(id).Value;

    public static bool IsAccount(PersonKey person) => person.Value.StartsWith(AccountMark, StringComparison.Ordinal);

    private const string AccountMark = "account:";

    public static PersonKey KeyOf(string account) => new(AccountMark + account);

    private static string NameOf(Guid sitting) => $"hold-court-seat-{sitting:N}";
}
