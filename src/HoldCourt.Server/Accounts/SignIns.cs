using System.Collections.Concurrent;
using System.Security.Claims;
using HoldCourt.Server.Live;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Accounts;

/// <summary>
/// Who is signed in, and where. A cookie counts only while its record is here, so that ending a sign-in ends it at once,
/// with the live lines and media sockets that were opened under it.
/// </summary>
public sealed class SignIns(IDbContextFactory<CourtDb> databases, TimeProvider time)
{
    /// <summary>The claim that names the record.</summary>
    public const string Claim = "sign-in";

    /// <summary>A browser that is not seen for so long is signed out.</summary>
    public static TimeSpan Lifetime { get; } = TimeSpan.FromDays(14);

    /// <summary>For so long after a proof the person is asked for none again.</summary>
    public static TimeSpan ProofHolds { get; } = TimeSpan.FromMinutes(10);

    /// <summary>How often the moment last seen is written down.</summary>
    private static readonly TimeSpan _betweenNotes = TimeSpan.FromMinutes(5);

    private const int MostOfOne = 50;
    private readonly ConcurrentDictionary<string, Held> _held = new();
    private readonly ConcurrentDictionary<string, byte> _closed = new();

    /// <summary>Before anybody is let in.</summary>
    /// <param name="closed">Accounts that may not sign in, because they are suspended, or the demo's where others reach it.</param>
    public async Task Load(IEnumerable<string> closed)
    {
        _held.Clear();
        _closed.Clear();
        foreach (var account in closed) _closed[account] = 0;
        await using var db = await databases.CreateDbContextAsync();
        var oldest = Now - (long)Lifetime.TotalMilliseconds;
        await db.SignIns.Where(record => record.SeenAt < oldest).ExecuteDeleteAsync();
        foreach (var record in await db.SignIns.AsNoTracking().ToListAsync()) _held[record.Id] = new Held(record);
    }

    /// <param name="stamp">The account's security stamp by which the person was let in.</param>
    public async Task<string> Begin(string account, string? stamp, HttpContext http)
    {
        var record = new SignInRecord
        {
            Id = SeatCookies.Random128(),
            AccountId = account,
            At = Now,
            SeenAt = Now,
            ProvedAt = Now,
            Device = DeviceName.Of(http.Request.Headers.UserAgent),
            Address = http.Connection.RemoteIpAddress?.ToString() ?? ""
        };
        await using var db = await databases.CreateDbContextAsync();
        db.Add(record);
        await db.SaveChangesAsync();
        _held[record.Id] = new Held(record);
        // The password may have been changed while the old one was being checked.
        if (await db.Users.Where(kept => kept.Id == account).Select(kept => kept.SecurityStamp).SingleOrDefaultAsync() != stamp)
            await End(record.Id);
        foreach (var surplus in Of(account).Skip(MostOfOne).ToList()) await End(surplus.Id);
        return record.Id;
    }

    /// <summary>Whether this cookie still counts; the moment is noted now and then.</summary>
    public async Task<bool> IsLive(ClaimsPrincipal? user)
    {
        if (HeldBy(user) is not { } held || held.Record.AccountId != user!.FindFirstValue(ClaimTypes.NameIdentifier)
            || _closed.ContainsKey(held.Record.AccountId)) return false;
        if (Now - held.Record.SeenAt > Lifetime.TotalMilliseconds)
        {
            await End(held.Record.Id);
            return false;
        }
        if (Now - held.Record.SeenAt < _betweenNotes.TotalMilliseconds) return true;
        held.Record.SeenAt = Now;
        await Note(held.Record);
        return true;
    }

    public bool IsClosed(string account) => _closed.ContainsKey(account);

    /// <summary>The person has proved who they are a short while ago.</summary>
    public bool IsProved(ClaimsPrincipal user) => HeldBy(user) is { } held && Now - held.Record.ProvedAt <= ProofHolds.TotalMilliseconds;

    public async Task Prove(ClaimsPrincipal user)
    {
        if (HeldBy(user) is not { } held) return;
        held.Record.ProvedAt = held.Record.SeenAt = Now;
        await Note(held.Record);
    }

    /// <summary>Of one account, the newest first.</summary>
    public IEnumerable<SignInRecord> Of(string account) =>
        _held.Values.Select(held => held.Record).Where(record => record.AccountId == account).OrderByDescending(record => record.SeenAt);

    public static string? IdOf(ClaimsPrincipal? user) => user?.FindFirstValue(Claim);

    /// <summary>Is cancelled when the sign-in under which a request came ends; never for guests.</summary>
    public CancellationToken Ends(string? signIn) =>
        signIn is null ? CancellationToken.None : _held.TryGetValue(signIn, out var held) ? held.Ends.Token : new CancellationToken(true);

    public async Task End(string signIn)
    {
        if (_held.TryRemove(signIn, out var held)) await held.Ends.CancelAsync();
        await using var db = await databases.CreateDbContextAsync();
        await db.SignIns.Where(record => record.Id == signIn).ExecuteDeleteAsync();
    }

    /// <param name="but">This one goes on.</param>
    public async Task EndAll(string account, string? but = null)
    {
        foreach (var record in Of(account).Where(record => record.Id != but).ToList()) await End(record.Id);
    }

    /// <summary>Nobody signs in with this account until it is opened again.</summary>
    public async Task Close(string account)
    {
        _closed[account] = 0;
        await EndAll(account);
    }

    public void Reopen(string account) => _closed.TryRemove(account, out _);

    private Held? HeldBy(ClaimsPrincipal? user) => IdOf(user) is { } id && _held.TryGetValue(id, out var held) ? held : null;

    private async Task Note(SignInRecord record)
    {
        await using var db = await databases.CreateDbContextAsync();
        await db.SignIns.Where(kept => kept.Id == record.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(kept => kept.SeenAt, record.SeenAt)
            .SetProperty(kept => kept.ProvedAt, record.ProvedAt));
    }

    private long Now => time.GetUtcNow().ToUnixTimeMilliseconds();

    private sealed record Held(SignInRecord Record)
    {
        public CancellationTokenSource Ends { get; } = new();
    }
}
