using HoldCourt.Server.Hosting;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Polls;

/// <summary>After a start: wakes the sittings of which a box's key is left, so that what was closed is counted, and its key
/// destroyed.</summary>
internal sealed partial class BoxCounting(BoxKeys keys, IGrainFactory grains, Preparation preparation, ILogger<BoxCounting> log)
    : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await preparation.Ready.WaitAsync(stoppingToken);
            foreach (var sitting in keys.Sittings()) await grains.GetGrain<ISittingGrain>(sitting).Forget();
        }
        catch (Exception e) when (!stoppingToken.IsCancellationRequested)
        {
            LogFailed(e);
        }
        catch (OperationCanceledException) { }
    }

    [LoggerMessage(LogLevel.Error, "The boxes of secret polls could not be looked after")]
    private partial void LogFailed(Exception e);
}
