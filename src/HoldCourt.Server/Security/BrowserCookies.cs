using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace HoldCourt.Server.Security;

/// <summary>
/// What a browser is known by where nobody has signed in: a mark, against which guesses are counted, and the personal links that were
/// shown in it. A link's token is a key to a role: it goes over the line once, in the body of a request, and lies in a cookie from then
/// on, out of reach of scripts, addresses and logs.
/// </summary>
public sealed class BrowserCookies(IDataProtectionProvider protection, TimeProvider time)
{
    private const string MarkName = "hold-court-browser";

    /// <summary>As long as a claim on a seat: whoever uses the browser tomorrow is not whoever was invited.</summary>
    private static readonly TimeSpan _linkLasts = TimeSpan.FromHours(24), _markLasts = TimeSpan.FromDays(30);

    private readonly IDataProtector _marks = protection.CreateProtector("mark of a browser");
    private readonly IDataProtector _links = protection.CreateProtector("personal link, with its end");

    /// <summary>Gives the browser its mark, where it has none.</summary>
    public void Mark(HttpContext http)
    {
        if (MarkOf(http) is null) Write(http, MarkName, _marks.Protect(SeatCookies.Random128()), _markLasts);
    }

    /// <summary>Against what a guess counts: the browser's mark, or the address of one that keeps no cookies.</summary>
    public string Guesser(HttpContext http) => MarkOf(http) ?? ClientAddress.Of(http);

    private string? MarkOf(HttpContext http) => Unprotected(_marks, http.Request.Cookies[MarkName]);

    /// <summary>From now on this browser has shown a personal link of a session.</summary>
    public void Remember(HttpContext http, Guid session, string token) => Write(http, NameOf(session),
        _links.Protect($"{session:N}|{(time.GetUtcNow() + _linkLasts).ToUnixTimeMilliseconds()}|{token}"), _linkLasts);

    /// <summary>The token of the personal link of a session that this browser has shown; null when it has shown none.</summary>
    public string? LinkOf(HttpContext http, Guid session) =>
        Unprotected(_links, http.Request.Cookies[NameOf(session)])?.Split('|', 3) is [var id, var end, var token]
            && id == session.ToString("N") && long.Parse(end, CultureInfo.InvariantCulture) > time.GetUtcNow().ToUnixTimeMilliseconds()
            ? token
            : null;

    private static string? Unprotected(IDataProtector protector, string? value)
    {
        if (value is not { Length: > 0 and < 2_000 }) return null;
        try { return protector.Unprotect(value); }
        catch (CryptographicException) { return null; }
    }

    private static void Write(HttpContext http, string name, string value, TimeSpan lasts) =>
        http.Response.Cookies.Append(name, value, new CookieOptions
        {
            HttpOnly = true,
            IsEssential = true,
            SameSite = SameSiteMode.Lax,
            Secure = http.Request.IsHttps,
            MaxAge = lasts
        });

    private static string NameOf(Guid session) => $"hold-court-link-{session:N}";
}
