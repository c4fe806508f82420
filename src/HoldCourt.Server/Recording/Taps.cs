using System.Collections.Concurrent;
using HoldCourt.Server.Hosting;

namespace HoldCourt.Server.Recording;

/// <summary>The recordings that are being made in this process.</summary>
internal sealed class Taps(IConfiguration configuration, TimeProvider time, ILogger<Taps> log) : ITaps, IHostedService
{
    private readonly string _data = CourtHost.FolderOf(configuration);
    private readonly ConcurrentDictionary<(Guid Sitting, int Recording), Tap> _open = new();

    public RecordingFolder FolderOf(Guid sitting, int recording) => RecordingFolder.Of(_data, sitting, recording);

    public ITap Open(Guid sitting, int recording)
    {
        var folder = FolderOf(sitting, recording);
        // One that goes on: what was written before is ended, and new files begin.
        if (_open.TryRemove((sitting, recording), out var before)) before.End();
        return _open[(sitting, recording)] = new Tap(folder, time, log);
    }

    /// <summary>When it has been ended, all that was to be written is.</summary>
    public async Task Settle(Guid sitting, int recording)
    {
        if (_open.TryRemove((sitting, recording), out var tap)) await tap.DisposeAsync();
        FolderOf(sitting, recording).Repair();
    }

    /// <summary>Takes what was recorded of somebody away.</summary>
    public async Task Forget(Guid sitting, int recording, SeatId seat)
    {
        if (_open.TryGetValue((sitting, recording), out var tap)) await tap.Forget(seat);
        foreach (var track in FolderOf(sitting, recording).AllTracks().Where(track => track.Seat == seat)) File.Delete(track.Path);
    }

    public Task StartAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public async Task StopAsync(CancellationToken cancellationToken)
    {
        foreach (var tap in _open.Values) await tap.DisposeAsync();
    }
}
