using System.Security.Claims;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Planning;

/// <summary>Whose request it is, and what is theirs.</summary>
internal sealed class Desk(IHttpContextAccessor http, IDbContextFactory<CourtDb> databases, UserManager<Account> users, TimeProvider time)
{
    public string Owner => http.HttpContext!.User.FindFirstValue(ClaimTypes.NameIdentifier)!;
    public Instant Now => new(time.GetUtcNow().ToUnixTimeMilliseconds());

    public Task<CourtDb> Db() => databases.CreateDbContextAsync();

    /// <summary>One of the host's own sessions, or of those the host is a
    /// co-owner of; null when it is somebody else's or there is none.</summary>
    public Task<Session?> Session(CourtDb db, Guid id) =>
        db.Sessions.Include(session => session.Sittings).Where(Store.Planning.Session.IsOf(Owner))
        .SingleOrDefaultAsync(session => session.Id == id);

    public static Task<List<DocketRecord>> Invited(CourtDb db, Guid session) =>
        db.Docket.AsNoTracking().Where(line => line.SessionId == session && line.InvitedAt != null).ToListAsync();

    public async Task<string> Name() => (await users.FindByIdAsync(Owner))?.Name ?? "";
}
