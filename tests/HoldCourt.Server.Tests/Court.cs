using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Demo;
using HoldCourt.Server.Hosting;
using Microsoft.AspNetCore.Builder;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>The whole server on a real port with a real database in a folder of its own.</summary>
public sealed class Court : IAsyncLifetime
{
    private WebApplication? _app;
    private string[] _settings = ["--Demo:Load", "true"];
    private Action<IServiceCollection>? _change;
    private CookieCollection? _signedIn;

    /// <summary>With other settings than the usual ones, which load the demo.</summary>
    public static async Task<Court> With(params string[] settings)
    {
        var court = new Court { _settings = settings };
        await court.InitializeAsync();
        return court;
    }

    /// <summary>With services beside the usual ones.</summary>
    public static async Task<Court> With(Action<IServiceCollection> change)
    {
        var court = new Court { _change = change };
        await court.InitializeAsync();
        return court;
    }

    /// <summary>On a disk of its own.</summary>
    public static async Task<Court> In(string folder, params string[] settings)
    {
        var court = new Court { _settings = settings, Folder = folder };
        await court.InitializeAsync();
        return court;
    }

    public string Folder { get; private init; } = Directory.CreateTempSubdirectory("hold-court-test-").FullName;
    public ShiftedTime Time { get; } = new();
    public Uri Address { get; private set; } = new("http://localhost");
    public IServiceProvider Services => _app!.Services;

    public async Task InitializeAsync()
    {
        _app = CourtHost.Build(["--urls", "http://127.0.0.1:0", "--Data:Folder", Folder, "--Data:Pooling", "false", .. _settings],
            services =>
            {
                services.AddSingleton<TimeProvider>(new SteadyTime(Time));
                _change?.Invoke(services);
            });
        await _app.StartAsync();
        Address = new Uri(_app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.Single());
    }

    /// <summary>Stops the server and starts another one on the same data; its address is new.</summary>
    public async Task Restart()
    {
        await Stop();
        await InitializeAsync();
    }

    /// <summary>Leaves the data alone, for what looks at it by itself.</summary>
    public async Task Stop()
    {
        if (_app is null) return;
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(1));
        await _app.StopAsync(patience.Token);
        await _app.DisposeAsync();
        _app = null;
    }

    public async Task DisposeAsync()
    {
        await Stop();
        // A process that was told to stop may still write a last file.
        await Eventually.Succeeds(() =>
        {
            Directory.Delete(Folder, recursive: true);
            return Task.CompletedTask;
        });
    }

    public Visitor Visitor() => new(this);

    /// <summary>A host with an account of their own, who owns nothing yet.</summary>
    public async Task<Visitor> AnotherHost(string email = "teodor@larkmoor.example.org")
    {
        await using (var scope = Services.CreateAsyncScope())
            await scope.ServiceProvider.GetRequiredService<UserManager<Account>>()
                .CreateAsync(new Account { UserName = email, Email = email, EmailConfirmed = true, Name = "Teodor Quill" },
                DemoData.Password);
        var host = Visitor();
        (await host.Post("/api/sign-in", new SignIn(email, DemoData.Password))).StatusCode.ShouldBe(HttpStatusCode.OK);
        return host;
    }

    /// <summary>The demo's host in a browser of its own, signed in once for all: signing in is limited.</summary>
    public async Task<Visitor> Host()
    {
        var host = Visitor();
        if (_signedIn is null)
        {
            (await host.Post("/api/sign-in", new SignIn(DemoData.Email, DemoData.Password))).StatusCode.ShouldBe(HttpStatusCode.OK);
            _signedIn = host.Cookies.GetAllCookies();
        }
        else host.Cookies.Add(_signedIn);
        return host;
    }
}

/// <summary>Somebody with a browser's cookies.</summary>
public sealed class Visitor : IDisposable
{
    private readonly Court _court;
    private readonly HttpClient _http;

    public Visitor(Court court)
    {
        _court = court;
        _http = new HttpClient(new HttpClientHandler { CookieContainer = Cookies });
    }

    public CookieContainer Cookies { get; } = new();

    public Task<HttpResponseMessage> Get(string path) => _http.GetAsync(new Uri(_court.Address, path));

    public async Task<HttpResponseMessage> Get(string path, System.Net.Http.Headers.RangeHeaderValue range)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(_court.Address, path));
        request.Headers.Range = range;
        return await _http.SendAsync(request);
    }

    public async Task<T> Get<T>(string path) => (await (await Get(path)).Content.ReadFromJsonAsync<T>(CoreJson.Options))!;

    public Task<HttpResponseMessage> Post(string path, object? body = null, string? token = null) =>
        Send(HttpMethod.Post, path, body, token);

    /// <summary>A change with the page's token; bytes go as they are, anything else as JSON.</summary>
    public async Task<HttpResponseMessage> Send(HttpMethod method, string path, object? body = null, string? token = null)
    {
        using var request = new HttpRequestMessage(method, new Uri(_court.Address, path));
        request.Content = body is byte[] bytes
            ? new ByteArrayContent(bytes)
            : JsonContent.Create(body ?? new { }, options: CoreJson.Options);
        request.Headers.Add("X-Csrf", token ?? (await Get<Me>("/api/me")).Token);
        return await _http.SendAsync(request);
    }

    /// <summary>Bytes with headers of their own, as a program for sending files has them.</summary>
    public async Task<HttpResponseMessage> SendFile(
        HttpMethod method, string path, byte[]? body, params (string Name, string Value)[] headers)
    {
        using var request = new HttpRequestMessage(method, new Uri(_court.Address, path));
        if (body is not null)
        {
            request.Content = new ByteArrayContent(body);
            request.Content.Headers.ContentType = new("application/offset+octet-stream");
        }
        request.Headers.Add("X-Csrf", (await Get<Me>("/api/me")).Token);
        foreach (var (name, value) in headers) request.Headers.Add(name, value);
        return await _http.SendAsync(request);
    }

    /// <summary>A body as it stands, said to be JSON; from some address, where this machine is a proxy.</summary>
    public async Task<HttpResponseMessage> SendRaw(HttpMethod method, string path, string body, string token)
    {
        using var request = new HttpRequestMessage(method,
            new Uri(_court.Address, path))
        { Content = new StringContent(body, System.Text.Encoding.UTF8, "application/json") };
        request.Headers.Add("X-Csrf", token);
        request.Headers.Add("X-Forwarded-For", $"10.{Random.Shared.Next(256)}.{Random.Shared.Next(256)}.{Random.Shared.Next(256)}");
        return await _http.SendAsync(request);
    }

    public async Task<T> Put<T>(string path, object body)
    {
        var response = await Send(HttpMethod.Put, path, body);
        response.IsSuccessStatusCode.ShouldBeTrue(await response.Content.ReadAsStringAsync());
        return (await response.Content.ReadFromJsonAsync<T>(CoreJson.Options))!;
    }

    public async Task<T> Post<T>(string path, object? body = null)
    {
        var response = await Post(path, body);
        response.IsSuccessStatusCode.ShouldBeTrue(await response.Content.ReadAsStringAsync());
        return (await response.Content.ReadFromJsonAsync<T>(CoreJson.Options))!;
    }

    public static async Task<string> ReasonOf(HttpResponseMessage response) =>
        JsonDocument.Parse(await response.Content.ReadAsStringAsync()).RootElement.GetProperty("reason").GetString()!;

    public async Task<Live> Announces(OpenedSitting opened, string name)
    {
        await Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish(name));
        return await Connects(opened);
    }

    /// <summary>Why it was refused.</summary>
    public async Task<string> Refused(HttpMethod method, string path, object? body = null)
    {
        using var response = await Send(method, path, body);
        response.IsSuccessStatusCode.ShouldBeFalse(path);
        return await ReasonOf(response);
    }

    /// <summary>It was done.</summary>
    public async Task Does(HttpMethod method, string path, object? body = null)
    {
        using var response = await Send(method, path, body);
        response.IsSuccessStatusCode.ShouldBeTrue($"{path}: {await response.Content.ReadAsStringAsync()}");
    }

    public Task<Live> Connects(OpenedSitting opened) => Live.Join(_court.Address, Cookies, opened.Sitting);

    public void Dispose() => _http.Dispose();
}
