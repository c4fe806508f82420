using HoldCourt.Server.Demo;
using HoldCourt.Server.Live;
using HoldCourt.Store;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace HoldCourt.Server.Hosting;

/// <summary>
/// Brings the database to its present form and loads what runs and the demo, while the other services start. Requests
/// wait until all of it is done.
/// </summary>
internal sealed class Preparation(IServiceProvider services, IConfiguration configuration, IHostApplicationLifetime lifetime) : IHostedService
{
    private readonly TaskCompletionSource _ready = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private string? _demoLink;

    /// <summary>Completes when everything has started.</summary>
    public Task Ready => _ready.Task;

    /// <summary>Where the server is reached from this machine; empty until it listens.</summary>
    public string Address { get; private set; } = "";

    public async Task StartAsync(CancellationToken cancellationToken)
    {
        lifetime.ApplicationStarted.Register(Started);
        await StoreSetup.Migrate(services);
        await services.GetRequiredService<SittingLoader>().StartWithRunning();
        if (!configuration.GetValue("Demo:Load", false)) return;
        await using var scope = services.CreateAsyncScope();
        _demoLink = await scope.ServiceProvider.GetRequiredService<DemoData>().Load();
    }

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    private void Started()
    {
        _ready.TrySetResult();
        var address = Address = services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault()?.Replace("127.0.0.1", "localhost", StringComparison.Ordinal) ?? "";
        Console.WriteLine($"Hold Court is ready at {address}");
        if (_demoLink is null) return;
        Console.WriteLine($"  Sign in as the host:          {DemoData.Email}   password: {DemoData.Password}");
        Console.WriteLine($"  A guest, in a second window:  {address}/s/{_demoLink}");
    }
}
