using HoldCourt.Server.Chat;
using HoldCourt.Server.Ledger;
using System.IO.Compression;
using System.Text.Json;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Polls;
using HoldCourt.Server.Rooms;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Accounts;

/// <summary>Everything that belongs to an account, in open formats: JSON, messages by RFC 5322, and papers as they were.</summary>
internal sealed class OwnData(IDbContextFactory<CourtDb> databases, IGrainFactory grains, TimeProvider time)
{
    private static readonly JsonSerializerOptions _json = new(CoreJson.Options) { WriteIndented = true };

    /// <returns>A stream over a file that goes when it is closed.</returns>
    public async Task<Stream> Archive(Account account, CancellationToken cancel)
    {
        var options = new FileStreamOptions
        {
            Mode = FileMode.CreateNew,
            Access = FileAccess.ReadWrite,
            Options = FileOptions.DeleteOnClose | FileOptions.Asynchronous
        };
        if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        var file = new FileStream(Path.Combine(Path.GetTempPath(), $"hold-court-{Guid.NewGuid():N}.zip"), options);
        try
        {
            await using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true)) await Write(zip, account, cancel);
            file.Position = 0;
            return file;
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }

    private async Task Write(ZipArchive zip, Account account, CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await Put("account.json",
            new
            {
                account.Name,
                account.Email,
                account.EmailConfirmed,
                account.TwoFactorEnabled,
                Since = DateOf(account.CreatedAt),
                Settings = account.Settings is { } settings ? JsonDocument.Parse(settings).RootElement : (JsonElement?)null
            });
        await Put("contacts.json", (await db.Contacts.AsNoTracking().Where(contact => contact.OwnerId == account.Id).ToListAsync(cancel))
            .Select(contact => new
            {
                contact.Name,
                contact.Email,
                contact.Phone,
                Groups = JsonDocument.Parse(contact.Groups).RootElement
            }));
        await Put("presets.json", (await db.Presets.AsNoTracking().Where(preset => preset.OwnerId == account.Id).ToListAsync(cancel))
            .Select(preset => new { preset.Name, preset.Door, Orders = JsonDocument.Parse(preset.Orders).RootElement }));
        var now = new Instant(time.GetUtcNow().ToUnixTimeMilliseconds());
        foreach (var session in await db.Sessions.AsNoTracking().Where(session => session.OwnerId == account.Id).ToListAsync(cancel))
        {
            var folder = $"sessions/{session.Id:N}";
            var docket = await db.Docket.AsNoTracking().Where(line => line.SessionId == session.Id).OrderBy(line => line.Position)
                .ToListAsync(cancel);
            var zone = PlanTimes.Zone(session.Zone) ?? TimeZoneInfo.Utc;
            await Put($"{folder}/plan.json", Plans.Of(session, docket.Count(line => line.InvitedAt is not null), now));
            await Put($"{folder}/docket.json", docket.Select(line => DocketTable.LineOf(line, zone)));
            foreach (var paper in await db.Papers.AsNoTracking().Where(paper => paper.SessionId == session.Id).ToListAsync(cancel))
                await PutBytes($"{folder}/papers/{paper.Id}-{paper.Name}", paper.Content);
            foreach (var sitting in await db.Sittings.AsNoTracking().Where(sitting => sitting.SessionId == session.Id).ToListAsync(cancel))
            {
                // As the account may know them by its seat: what two others wrote to each other is in neither.
                var (id, person) = (sitting.Id, SeatCookies.KeyOf(account.Id));
                var place = $"{folder}/sittings/{DateOf(sitting.OpenedAt):yyyy-MM-dd'T'HHmmss}-{sitting.Id:N}";
                if (await grains.In<ISittingLedger>(id).Export(person) is { } ledger) await Put($"{place}/ledger.json", ledger);
                if (await grains.In<ISittingPolls>(id).Export(person) is { Polls.Length: > 0 } polls)
                    await Put($"{place}/polls.json", polls);
                if (await grains.In<ISittingRooms>(id).ExportRounds(person) is { Rooms.Length: > 0 } rounds)
                    await Put($"{place}/rounds.json", rounds);
                if (await grains.In<ISittingChat>(id).Export(person) is { } chat) await Put($"{place}/chat.json", chat);
            }
        }
        foreach (var message in await db.Outbox.AsNoTracking().Where(message => message.OwnerId == account.Id).ToListAsync(cancel))
            await PutBytes($"outbox/{message.Id}.eml", message.Mime);

        Task Put(string name, object value) => PutBytes(name, JsonSerializer.SerializeToUtf8Bytes(value, _json));

        async Task PutBytes(string name, byte[] bytes)
        {
            var entry = zip.CreateEntry(name, CompressionLevel.Fastest);
            await using var stream = await entry.OpenAsync(cancel);
            await stream.WriteAsync(bytes, cancel);
        }
    }

    private static DateTimeOffset DateOf(long milliseconds) => DateTimeOffset.FromUnixTimeMilliseconds(milliseconds);
}
