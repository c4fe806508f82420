using System.Security.Cryptography;
using System.Threading.RateLimiting;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Security;

/// <summary>
/// Slows the guessing of passwords without letting anybody lock somebody else out: guesses count for an account together
/// with the address they come from, or with the browser, where that has signed in before. What is answered never tells
/// whether there is such an account.
/// </summary>
public sealed class SignInGuard(IDataProtectionProvider protection, IPasswordHasher<Account> hasher, HeavyWork heavy) : IDisposable
{
    private const string KnownCookie = "hold-court-known";
    private static readonly TimeSpan _known = TimeSpan.FromDays(365);
    private static readonly Account _nobody = new() { Name = "" };
    private readonly IDataProtector _protector = protection.CreateProtector("known browser");
    private readonly Lazy<string> _nobodysHash = new(() => hasher.HashPassword(_nobody, RandomNumberGenerator.GetHexString(32)));
    private readonly PartitionedRateLimiter<(string Account, string From)> _byPlace = Of<(string, string)>(10, TimeSpan.FromMinutes(5));

    /// <summary>For all places together from which nobody has signed in yet.</summary>
    private readonly PartitionedRateLimiter<string> _strangers = Of<string>(200, TimeSpan.FromHours(1));

    /// <summary>Codes of one account from one place, and from all places; whoever tries them has shown the password.</summary>
    private readonly PartitionedRateLimiter<(string Account, string From)> _codes = Of<(string, string)>(10, TimeSpan.FromMinutes(15));
    private readonly PartitionedRateLimiter<string> _allCodes = Of<string>(60, TimeSpan.FromHours(1));

    /// <summary>Messages that anybody can have sent to an address.</summary>
    private readonly PartitionedRateLimiter<string> _letters = Of<string>(4, TimeSpan.FromHours(1));

    /// <summary>This browser has signed in to the account before.</summary>
    public bool IsKnown(HttpContext http, string email) => Known(http, email.Trim().ToUpperInvariant()) is not null;

    /// <summary>How long to wait before the next code; null when it may be tried now.</summary>
    public TimeSpan? BeginCode(HttpContext http, string account)
    {
        using var own = _codes.AttemptAcquire((account, ClientAddress.Of(http)));
        if (!own.IsAcquired) return WaitOf(own);
        using var all = _allCodes.AttemptAcquire(account);
        return all.IsAcquired ? null : WaitOf(all);
    }

    public bool MayWriteTo(string email)
    {
        using var lease = _letters.AttemptAcquire(email.Trim().ToUpperInvariant());
        return lease.IsAcquired;
    }

    /// <summary>How long to wait before the next try; null when it may be made now.</summary>
    public TimeSpan? Begin(HttpContext http, string email)
    {
        var account = email.Trim().ToUpperInvariant();
        var known = Known(http, account);
        using var own = _byPlace.AttemptAcquire((account, known ?? ClientAddress.Of(http)));
        if (!own.IsAcquired) return WaitOf(own);
        if (known is not null) return null;
        using var all = _strangers.AttemptAcquire(account);
        return all.IsAcquired ? null : WaitOf(all);
    }

    /// <summary>From now on this browser counts by itself.</summary>
    public void Remember(HttpContext http, string email) => http.Response.Cookies.Append(
        KnownCookie, _protector.Protect($"{email.Trim().ToUpperInvariant()}|{SeatCookies.Random128()}"),
        new CookieOptions
        {
            HttpOnly = true,
            IsEssential = true,
            SameSite = SameSiteMode.Strict,
            Secure = http.Request.IsHttps,
            MaxAge = _known
        });

    /// <summary>Takes as long as checking a password does.</summary>
    public Task PretendToCheck(HttpContext http, string password) => heavy.Run(Lane.Quick, ClientAddress.Of(http),
        () => hasher.VerifyHashedPassword(_nobody, _nobodysHash.Value, password), isStranger: true);

    private string? Known(HttpContext http, string account)
    {
        if (http.Request.Cookies[KnownCookie] is not { Length: < 2_000 } cookie) return null;
        try
        {
            return _protector.Unprotect(cookie) is var text && text.StartsWith(account + "|", StringComparison.Ordinal) ? text : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private static TimeSpan WaitOf(RateLimitLease lease) =>
        lease.TryGetMetadata(MetadataName.RetryAfter, out var wait) ? wait : TimeSpan.FromMinutes(1);

    private static PartitionedRateLimiter<T> Of<T>(int tries, TimeSpan window) where T : notnull => PartitionedRateLimiter.Create<T, T>(
        key => RateLimitPartition.GetFixedWindowLimiter(key, _ =>
            new FixedWindowRateLimiterOptions { PermitLimit = tries, Window = window }));

    public void Dispose()
    {
        _byPlace.Dispose();
        _strangers.Dispose();
        _codes.Dispose();
        _allCodes.Dispose();
        _letters.Dispose();
    }
}
