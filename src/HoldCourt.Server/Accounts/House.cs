using System.Security.Cryptography;
using System.Text;
using HoldCourt.Server.Planning;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Accounts;

/// <summary>
/// Whether this house has somebody who keeps it, and the code with which the first one is made. The code is made anew at
/// each start, printed, and good until a keeper stands.
/// </summary>
internal sealed class House(IDbContextFactory<CourtDb> databases, IConfiguration configuration, SignIns signIns)
{
    private string? _code;

    /// <summary>Other machines reach the server, by its own address or through a proxy.</summary>
    public bool IsReached { get; private set; }

    /// <summary>The demo's account may be used, although its password is known to all.</summary>
    public bool DemoIsOpen => !IsReached || configuration.GetValue("Demo:Everywhere", false);

    /// <summary>Everybody who reads the pages should know that anybody can sign in.</summary>
    public bool WarnsOfDemo { get; private set; }

    /// <summary>Null once there is a keeper.</summary>
    public string? SetUpCode => _code;

    public bool NeedsSetUp => _code is not null;

    /// <summary>Looks who is there; before anybody is let in.</summary>
    public async Task Look(bool isReached)
    {
        IsReached = isReached;
        await using var db = await databases.CreateDbContextAsync();
        // An older version did not mark the demo's account.
        var accounts = await db.Users.AsNoTracking()
            .Select(account => new
            {
                account.Id,
                account.IsKeeper,
                IsDemo = account.IsDemo
            || account.Email == Demo.DemoData.Email,
                account.SuspendedAt
            }).ToListAsync();
        var closed = accounts.Where(account => account.SuspendedAt is not null || (account.IsDemo && !DemoIsOpen))
            .Select(account => account.Id).ToHashSet();
        await signIns.Load(closed);
        WarnsOfDemo = isReached && accounts.Any(account => account.IsDemo && !closed.Contains(account.Id));
        _code = accounts.Any(account => account.IsKeeper && !closed.Contains(account.Id)) ? null : Plans.NewCode(12);
    }

    /// <summary>Compared in the same time whatever is typed.</summary>
    public bool IsSetUpCode(string? typed) =>
        _code is { } code && typed is { Length: < 100 }
            && CryptographicOperations.FixedTimeEquals(Digest(typed.Trim().ToLowerInvariant()), Digest(code));

    public void HasKeeper() => _code = null;

    private static byte[] Digest(string text) => SHA256.HashData(Encoding.UTF8.GetBytes(text));
}
