using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using HoldCourt.Store.Recording;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Recording;

/// <summary>What somebody may do with a recording, each with what stands before it.</summary>
public enum RecordingRight
{
    None,

    /// <summary>Sees it, having opened a link to it, and has nothing to do with the session.</summary>
    ByLink,

    /// <summary>Sees it, having been inside or invited, and has the papers.</summary>
    Watch,
    Keep
}

/// <summary>
/// <em>May this visitor see this recording?</em> Asked at each request, of the table as it stands then: whose session it is keeps it; the
/// bench sees it; whoever was inside or was invited does where it says so; whoever has opened a link does as long as the link is there.
/// </summary>
internal sealed class Watching(
    IDbContextFactory<CourtDb> databases, SeatCookies cookies, BrowserCookies browsers, IGrainFactory grains,
    IDataProtectionProvider protection, TimeProvider time)
{
    private static readonly TimeSpan _opened = TimeSpan.FromHours(12);
    private readonly IDataProtector _protector = protection.CreateProtector("a recording that a link has opened");

    public async Task<(RecordingRight Right, RecordingRecord? Recording)> Find(HttpContext http, Guid id)
    {
        await using var db = await databases.CreateDbContextAsync();
        if (await db.Recordings.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id) is not { } recording)
            return (RecordingRight.None, null);
        var session = await db.Sittings.Where(sitting => sitting.Id == recording.SittingId).Select(sitting => sitting.SessionId)
            .SingleAsync();
        var account = http.User.FindFirstValue(ClaimTypes.NameIdentifier);
        if (account is not null && await db.Sessions.Where(Session.IsOf(account)).AnyAsync(one => one.Id == session))
            return (RecordingRight.Keep, recording);
        // What lies in the wastebasket is seen by those alone who can take it out.
        if (recording.DeletedAt is not null) return (RecordingRight.None, null);
        // Where people came for visits the table may say what it likes.
        if (recording.Watchers != Watchers.Bench && await grains.In<ISittingRecording>(recording.SittingId).HasVisits())
            recording.Watchers = Watchers.Bench;
        if (await Watches(db, http, recording, session, account)) return (RecordingRight.Watch, recording);
        return await WasOpened(db, http, recording) ? (RecordingRight.ByLink, recording) : (RecordingRight.None, null);
    }

    /// <summary>
    /// By the place that whoever asks had at the end, as whom they may be: by the seat of this browser, as an account, by a personal link
    /// that was shown in it. Whoever waited or was put out as any of them sees nothing as another.
    /// </summary>
    private async Task<bool> Watches(CourtDb db, HttpContext http, RecordingRecord recording, Guid session, string? account)
    {
        var grain = grains.In<ISittingRecording>(recording.SittingId);
        var line = browsers.LinkOf(http, session) is { } token
            ? await db.Docket.AsNoTracking().FirstOrDefaultAsync(one => one.SessionId == session && one.Token == token)
            : null;
        var was = new List<Presence>();
        if (cookies.Read(http, recording.SittingId) is { } person) was.Add(await grain.WasInside(person, null));
        if (account is not null) was.Add(await grain.WasInside(SeatCookies.KeyOf(account), null));
        if (line is not null) was.Add(await grain.WasInside(null, DocketTable.KeyOf(line)));
        if (was.Contains(Presence.Outside)) return false;
        return recording.Watchers switch
        {
            Watchers.Bench => was.Contains(Presence.Bench),
            Watchers.Present => was.Exists(one => one is Presence.Bench or Presence.Inside),
            _ => line?.InvitedAt is not null || was.Exists(one => one is Presence.Bench or Presence.Inside)
        };
    }

    public static byte[] HashOf(string secret) => SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(secret));

    /// <summary>A browser has opened a recording by its link.</summary>
    public void Remember(HttpContext http, RecordingLink link) => http.Response.Cookies.Append(NameOf(link.RecordingId),
        _protector.Protect($"{link.Id:N}|{(time.GetUtcNow() + _opened).ToUnixTimeMilliseconds().ToString(CultureInfo.InvariantCulture)}"),
        new CookieOptions
        {
            HttpOnly = true,
            IsEssential = true,
            SameSite = SameSiteMode.Lax,
            Secure = http.Request.IsHttps,
            MaxAge = _opened
        });

    /// <summary>The link must still be there, and not have ended.</summary>
    private async Task<bool> WasOpened(CourtDb db, HttpContext http, RecordingRecord recording)
    {
        if (http.Request.Cookies[NameOf(recording.Id)] is not { Length: < 2_000 } value) return false;
        try
        {
            var now = time.GetUtcNow().ToUnixTimeMilliseconds();
            return _protector.Unprotect(value).Split('|') is [var id, var end] && Guid.TryParse(id, out var link)
                && long.Parse(end, CultureInfo.InvariantCulture) > now
                && await db.RecordingLinks.AnyAsync(one =>
                    one.Id == link && one.RecordingId == recording.Id && (one.EndsAt == null || one.EndsAt > now));
        }
        catch (CryptographicException) { return false; }
    }

    private static string NameOf(Guid recording) => $"hold-court-recording-{recording:N}";
}
