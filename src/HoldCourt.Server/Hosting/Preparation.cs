using HoldCourt.Server.Accounts;
using HoldCourt.Server.Demo;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Hosting;

/// <summary>
/// Brings the database to its present form and loads what runs and the demo, while the other services start. Requests
/// wait until all of it is done.
/// </summary>
internal sealed class Preparation(IServiceProvider services, IConfiguration configuration, IHostApplicationLifetime lifetime)
    : IHostedService
{
    private readonly TaskCompletionSource _ready = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private string? _demoLink;
    private bool _demoIsKept;

    /// <summary>Completes when everything has started.</summary>
    public Task Ready => _ready.Task;

    /// <summary>Where people reach the server; empty until it listens.</summary>
    public string Address { get; private set; } = "";

    public async Task StartAsync(CancellationToken cancellationToken)
    {
        lifetime.ApplicationStarted.Register(Started);
        await StoreSetup.Migrate(services);
        await services.GetRequiredService<SittingLoader>().StartWithRunning();
        var isReached = ServerAddresses.IsReached(configuration);
        var house = services.GetRequiredService<House>();
        await using var scope = services.CreateAsyncScope();
        _demoIsKept = configuration.GetValue("Demo:Load", false) && isReached && !configuration.GetValue("Demo:Everywhere", false);
        if (configuration.GetValue("Demo:Load", false) && !_demoIsKept)
        {
            _demoLink = await scope.ServiceProvider.GetRequiredService<DemoData>().Load();
            // Nobody waits for it.
            if (configuration.GetValue("Demo:Recording", false))
                _ = Task.Run(() => services.GetRequiredService<DemoRecording>().Make(lifetime.ApplicationStopping), CancellationToken.None);
        }
        await house.Look(isReached);
    }

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    private void Started()
    {
        _ready.TrySetResult();
        var addresses = ServerAddresses.Of(
            services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault() ?? "");
        Address = addresses.Best;
        // The one people use, where it is configured; the proxy knows the other.
        Console.WriteLine($"Hold Court is ready at {services.GetRequiredService<PublicAddress>().Configured ?? addresses.Here}");
        foreach (var address in addresses.Elsewhere) Console.WriteLine($"  From other machines:          {address}");
        if (configuration.GetValue("Https:OwnCertificate", false)) TellOfCertificate();
        if (services.GetRequiredService<House>().SetUpCode is { } code)
        {
            Console.WriteLine("  Nobody keeps this house yet. Open the address above and make the first account with");
            Console.WriteLine($"  Set-up code: {code}");
        }
        if (_demoIsKept)
            Console.WriteLine("  The demo is not loaded, since other machines reach this address and its password is known to all. "
                + "--demo loads it all the same.");
        if (_demoLink is null) return;
        Console.WriteLine($"  Sign in as the host:          {DemoData.Email}   password: {DemoData.Password}");
        Console.WriteLine($"  A guest, in a second window:  {addresses.Best}/s/{_demoLink}");
    }

    private void TellOfCertificate()
    {
        var folder = CourtHost.FolderOf(configuration);
        using var certificate = OwnCertificate.For(folder, TimeProvider.System);
        Console.WriteLine("  Browsers warn of a certificate they do not know. It is this one if its SHA-256 fingerprint is");
        Console.WriteLine($"    {OwnCertificate.Fingerprint(certificate)}");
        Console.WriteLine($"  To be spared the warning, import it into the browser: {Path.Combine(folder, OwnCertificate.PublicFile)}");
    }
}
