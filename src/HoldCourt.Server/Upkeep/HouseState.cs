using System.Diagnostics;
using System.Diagnostics.Metrics;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Live;
using HoldCourt.Server.Mailing;
using HoldCourt.Server.Media;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Upkeep;

/// <summary>A sitting that runs. What is said in it is not the keeper's business.</summary>
public sealed record LiveSitting(string Title, string Owner, Instant Since, int Seated, int Waiting);

/// <summary>How the house is, for whoever keeps it.</summary>
/// <param name="Lines">Browsers that are connected.</param>
/// <param name="RelayIn">Bytes a second that came in from people's cameras and microphones, over the last moments.</param>
/// <param name="RelayOut">Bytes a second that went out to others.</param>
/// <param name="Dropped">Pictures a second that slow receivers did not get.</param>
/// <param name="DataBytes">Size of the data folder.</param>
/// <param name="DiskFree">Bytes that are free on its disk.</param>
/// <param name="MailSince">How long the oldest message that waits has been waiting for.</param>
/// <param name="BackupFailure">Why the last backup was not made.</param>
/// <param name="MakesBackups">The server makes backups by itself.</param>
/// <param name="Memory">Bytes that the server uses.</param>
/// <param name="Failed">What runs beside the requests and has failed since the start, the newest first.</param>
/// <param name="Busy">Costly things that wait or are under way.</param>
/// <param name="TurnedAway">How many of them were told to come again.</param>
/// <param name="Processor">Share of one core that it used over the last moments, 1.0 for a whole one.</param>
public sealed record HousePage(
    string Version, Instant StartedAt, IReadOnlyList<LiveSitting> Sittings, int People, int Lines, long RelayIn, long RelayOut,
    long Dropped, long DataBytes, long DiskFree, int MailWaits, Instant? MailSince,
    int MailGivenUp, bool MailIsDelivered, Instant? BackupAt, string? BackupFailure, bool MakesBackups, long Memory, double Processor,
    string? Address, IReadOnlyList<WorkRow> Failed, int Busy, long TurnedAway);

/// <summary>Looks at the house, and gives the same numbers out as metrics.</summary>
internal sealed class HouseState : SupervisedService
{
    public const string MeterName = "HoldCourt.House";
    private static readonly TimeSpan _between = TimeSpan.FromSeconds(5);

    private readonly IDbContextFactory<CourtDb> _databases;
    private readonly RunningSittings _sittings;
    private readonly Lines _lines;
    private readonly Outbox _outbox;
    private readonly Rounds _rounds;
    private readonly TimeProvider _time;
    private readonly IConfiguration _configuration;
    private readonly PublicAddress _address;
    private readonly DiskRoom _disk;
    private readonly HeavyWork _heavy;
    private readonly Meter _meter;
    private readonly Instant _startedAt;
    private (long At, long In, long Out, long Dropped, TimeSpan Processor) _before;
    private (long In, long Out, long Dropped, double Processor) _rates;
    private (int Waits, long? Since, int GivenUp) _mail;
    private long _dataBytes;

    public HouseState(
        IDbContextFactory<CourtDb> databases, RunningSittings sittings, Lines lines, Outbox outbox, Rounds rounds, TimeProvider time,
        IConfiguration configuration, PublicAddress address, DiskRoom disk, IMeterFactory meters, HeavyWork heavy,
        Supervisor supervisor) : base(supervisor)
    {
        (_databases, _sittings, _lines, _outbox, _rounds, _time, _configuration, _address, _disk, _heavy) =
            (databases, sittings, lines, outbox, rounds, time, configuration, address, disk, heavy);
        _startedAt = new Instant(time.GetUtcNow().ToUnixTimeMilliseconds());
        _meter = meters.Create(MeterName);
        _meter.CreateObservableGauge("house.sittings", () => _sittings.All().Count, description: "Sittings that run.");
        _meter.CreateObservableGauge("house.people", () => _sittings.All().Sum(one => one.State.Seats.Count(seat => seat.IsSeated)),
            description: "People seated in them.");
        _meter.CreateObservableGauge("house.lines", () => _lines.Count, description: "Live lines that are open.");
        _meter.CreateObservableGauge("house.relay.in", () => _rates.In, "By/s", "Bytes a second from senders.");
        _meter.CreateObservableGauge("house.relay.out", () => _rates.Out, "By/s", "Bytes a second to receivers.");
        _meter.CreateObservableGauge("house.disk.free", () => _disk.Free ?? 0, "By", "Free on the disk of the data folder.");
        _meter.CreateObservableGauge("house.data", () => _dataBytes, "By", "Size of the data folder.");
        _meter.CreateObservableGauge("house.mail.waiting", () => _mail.Waits, description: "Messages that wait for the mail server.");
        _meter.CreateObservableGauge("house.backup.age", () => BackupFile.Last(Folder) is { } last
            ? (_time.GetUtcNow() - last.At).TotalSeconds
            : double.NaN, "s", "Since the newest backup.");
    }

    private string Folder => CourtHost.FolderOf(_configuration);

    protected override string Name => "house";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(_between);
        do
        {
            // When the database is locked for a moment the next look tells more.
            await Supervisor.Once(Name, () =>
            {
                Measure();
                return LookAtMail(stoppingToken);
            });
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private void Measure()
    {
        using var self = Process.GetCurrentProcess();
        var now = (At: _time.GetTimestamp(), In: MediaMeter.BytesIn, Out: MediaMeter.BytesOut, Dropped: MediaMeter.DroppedCount,
            Processor: self.TotalProcessorTime);
        if (_before.At != 0)
        {
            var seconds = _time.GetElapsedTime(_before.At, now.At).TotalSeconds;
            if (seconds > 0)
                _rates = ((long)((now.In - _before.In) / seconds), (long)((now.Out - _before.Out) / seconds),
                (long)((now.Dropped - _before.Dropped) / seconds), (now.Processor - _before.Processor).TotalSeconds / seconds);
        }
        _before = now;
        _dataBytes = Directory.Exists(Folder) ? new DirectoryInfo(Folder).EnumerateFiles("*", SearchOption.AllDirectories)
            .Sum(file => file.Exists ? file.Length : 0) : 0;
    }

    private async Task LookAtMail(CancellationToken cancel)
    {
        await using var db = await _databases.CreateDbContextAsync(cancel);
        var recent = (_time.GetUtcNow() - TimeSpan.FromDays(7)).ToUnixTimeMilliseconds();
        _mail = (await db.Outbox.CountAsync(message => message.State == MailState.Waiting, cancel),
            await db.Outbox.Where(message => message.State == MailState.Waiting).MinAsync(message => (long?)message.At, cancel),
            await db.Outbox.CountAsync(message => message.State == MailState.GivenUp && message.At > recent, cancel));
    }

    public async Task<HousePage> Page()
    {
        await LookAtMail(CancellationToken.None);
        await using var db = await _databases.CreateDbContextAsync();
        var running = _sittings.All().ToDictionary(one => one.Sitting, one => one.State);
        var sittings = (await db.Sittings.AsNoTracking().Where(sitting => sitting.AdjournedAt == null).OrderBy(sitting => sitting.OpenedAt)
            .Select(sitting => new
            {
                sitting.Id,
                sitting.Session!.Title,
                Owner = db.Users.Where(account => account.Id == sitting.Session.OwnerId).Select(account => account.Name).FirstOrDefault(),
                sitting.OpenedAt
            }).ToListAsync())
            .ConvertAll(sitting => new LiveSitting(sitting.Title, sitting.Owner ?? "", new Instant(sitting.OpenedAt),
                running.TryGetValue(sitting.Id, out var state)
                ? state.Seats.Count(seat => seat.IsSeated)
                : 0, state?.Seats.Count(seat => seat.Place == Place.Lobby) ?? 0));
        var last = BackupFile.Last(Folder);
        return new HousePage(
            Version: BackupFile.Version, StartedAt: _startedAt, Sittings: sittings, People: sittings.Sum(sitting => sitting.Seated),
            Lines: _lines.Count, RelayIn: _rates.In, RelayOut: _rates.Out, Dropped: _rates.Dropped, DataBytes: _dataBytes,
            DiskFree: _disk.Free ?? 0, MailWaits: _mail.Waits, MailSince: _mail.Since is { } since ? new Instant(since) : null,
            MailGivenUp: _mail.GivenUp, MailIsDelivered: _outbox.HasServer,
            BackupAt: last is null ? null : new Instant(last.At.ToUnixTimeMilliseconds()), BackupFailure: _rounds.LastFailure,
            MakesBackups: _rounds.MakesBackups, Memory: Environment.WorkingSet, Processor: _rates.Processor, Address: _address.Configured,
            Failed: Supervisor.Failed, Busy: _heavy.Waiting, TurnedAway: _heavy.TurnedAway);
    }

    public override void Dispose()
    {
        _meter.Dispose();
        base.Dispose();
    }
}
