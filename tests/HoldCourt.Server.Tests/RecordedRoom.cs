using HoldCourt.Server.Api;
using HoldCourt.Server.StandIns.Extras;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>A host and a guest inside, with microphones and cameras that send real pictures.</summary>
internal sealed record RecordedRoom(
    Visitor Visitor, Visitor GuestVisitor, OpenedSitting Opened, Live Host, Live Guest, Media HostMedia, Media GuestMedia)
    : IAsyncDisposable
{
    public static PictureClip Clip { get; } =
        PictureClip.Read(Path.Combine(AppContext.BaseDirectory, "StandIns", "Extras", "clips", "f01-full-talk.ivf"));

    public Guid Sitting => Opened.Sitting;

    /// <summary>When both had sent their last frame of each kind, in milliseconds; 0 before.</summary>
    public long Sent { get; private set; }

    public static async Task<RecordedRoom> Inside(Court house)
    {
        var (visitor, guestVisitor) = (await house.Host(), house.Visitor());
        var opened = await visitor.Post<OpenedSitting>("/api/sessions", new OpenNow("Recorded"));
        var host = await visitor.Announces(opened, "Odalys");
        var guest = await guestVisitor.Announces(opened, "Guest");
        await Eventually.Holds(() => host.Seats.Count == 2);
        await host.Done(new Admit([guest.Me!.Seat]));
        foreach (var one in new[] { host, guest })
        {
            await one.Done(new OpenMicrophone());
            await one.Done(new TurnCamera(true));
        }
        return new RecordedRoom(visitor, guestVisitor, opened, host, guest, await host.Media(), await guest.Media());
    }

    /// <summary>Both speak for a while, and show themselves.</summary>
    /// <param name="time">Of the house, where it matters when something was sent.</param>
    public async Task GoOn(int frames, TimeProvider? time = null)
    {
        for (var n = 0; n < frames; n++)
        {
            var now = time?.GetUtcNow().ToUnixTimeMilliseconds() ?? 0;
            foreach (var media in new[] { HostMedia, GuestMedia })
            {
                await media.Speak();
                if (n % 3 == 0) await media.Send(Kind.Full, media.Own.Full, Clip.Frames[n / 3 % 30], Clip.IsKey(n / 3 % 30));
            }
            if (n % 3 == 0) Sent = now;
            await Task.Delay(20);
        }
    }

    public static async Task<RecordingRecord> Ended(Court house, Guid sitting, int number = 1)
    {
        RecordingRecord? found = null;
        await Eventually.Succeeds(async () =>
        {
            await using var db = await house.Services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
            found = await db.Recordings.SingleAsync(one => one.SittingId == sitting && one.Number == number);
            found.EndedAt.ShouldNotBeNull();
        });
        return found!;
    }

    public async ValueTask DisposeAsync()
    {
        HostMedia.Dispose();
        GuestMedia.Dispose();
        await Host.DisposeAsync();
        await Guest.DisposeAsync();
    }
}
