using System.Security.Cryptography;
using System.Text;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Accounts;

/// <summary>
/// A code of RFC 6238 is good once (section 5.2), though it holds for a few steps of 30 s in which clocks may differ. What was used is
/// written down, so that a restart forgets none.
/// </summary>
internal sealed class UsedCodes(IDbContextFactory<CourtDb> databases, TimeProvider time)
{
    /// <summary>A code is taken from two steps before to two steps after.</summary>
    private static readonly TimeSpan _held = TimeSpan.FromSeconds(5 * 30);

    /// <summary>Digits alone, as people type them with blanks.</summary>
    public static string Clean(string? code) => code is { Length: <= 40 } ? string.Concat(code.Where(char.IsAsciiDigit)) : "";

    /// <returns>False when it was used before, at the same moment included.</returns>
    public async Task<bool> Use(string account, string code)
    {
        var now = time.GetUtcNow();
        var digest = Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes($"{account}|{code}")));
        await using var db = await databases.CreateDbContextAsync();
        await db.UsedCodes.Where(old => old.Until <= now.ToUnixTimeMilliseconds()).ExecuteDeleteAsync();
        return await db.Database.ExecuteSqlAsync($"""
            INSERT INTO UsedCodes (AccountId, Digest, Until) VALUES ({account}, {digest}, {(now + _held).ToUnixTimeMilliseconds()})
            ON CONFLICT DO NOTHING
            """) == 1;
    }
}
