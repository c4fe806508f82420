using HoldCourt.Server.Hosting;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Polls;

/// <summary>After a start: wakes the sittings of which a box's key is left, so that what was closed is counted, and its key
/// destroyed.</summary>
internal sealed class BoxCounting(BoxKeys keys, IGrainFactory grains, Preparation preparation, Supervisor supervisor)
    : SupervisedService(supervisor)
{
    protected override string Name => "boxes";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        await preparation.Ready.WaitAsync(stoppingToken);
        foreach (var sitting in keys.Sittings()) await grains.GetGrain<ISittingGrain>(sitting).Forget();
    }
}
