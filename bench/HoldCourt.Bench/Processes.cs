using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using HoldCourt.Server.Api;
using HoldCourt.Server.Demo;

namespace HoldCourt.Bench;

/// <summary>A program started for a benchmark, which says a line when it is ready.</summary>
internal sealed class Started : IDisposable
{
    private readonly Process _process;
    private readonly Task _reading;

    private Started(Process process, Uri address, Action<string>? said)
    {
        (_process, Address) = (process, address);
        _reading = Task.Run(async () =>
        {
            while (await process.StandardOutput.ReadLineAsync() is { } line) said?.Invoke(line);
        });
    }

    public int Id => _process.Id;
    public bool HasEnded => _process.HasExited;

    public Uri Address { get; }
    public TimeSpan Cpu { get { _process.Refresh(); return _process.TotalProcessorTime; } }
    public double ResidentMegabytes { get { _process.Refresh(); return _process.WorkingSet64 / 1e6; } }

    /// <summary>The program that ./start made, as it is really run.</summary>
    /// <param name="address">Where it listens; null for anywhere.</param>
    /// <param name="said">Each line of its log, once it is ready.</param>
    public static Started Server(string folder, Uri? address = null, Action<string>? said = null) =>
        Start(Program(), $"--Data:Folder {folder} --Demo:Load true", "Hold Court is ready", address, said);

    private static string Program()
    {
        for (var at = AppContext.BaseDirectory; at is not null; at = Path.GetDirectoryName(at))
            if (File.Exists(Path.Combine(at, ".build", "app", "HoldCourt.Server.dll")))
                return Path.Combine(at, ".build", "app", "HoldCourt.Server.dll");
        throw new InvalidOperationException("Run ./start once first: the benchmarks use the program it makes.");
    }

    public static Started Bare() => Start(typeof(Started).Assembly.Location, "bare {url}", "ready");

    private static Started Start(string program, string arguments, string ready, Uri? at = null, Action<string>? said = null)
    {
        var address = at ?? new Uri($"http://127.0.0.1:{FreePort()}");
        var text = arguments.Contains("{url}", StringComparison.Ordinal)
            ? arguments.Replace("{url}", address.ToString(), StringComparison.Ordinal)
            : $"--urls {address} {arguments}";
        var process = Process.Start(new ProcessStartInfo("dotnet", $"{program} {text}") { RedirectStandardOutput = true })!;
        while (process.StandardOutput.ReadLine() is { } line)
            if (line.Contains(ready, StringComparison.Ordinal)) break;
        return new Started(process, address, said);
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    public void Dispose()
    {
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit();
        _reading.Wait(TimeSpan.FromSeconds(5));
        _process.Dispose();
    }
}

/// <summary>A person with cookies at a server.</summary>
internal sealed class CourtAddress
{
    private readonly HttpClient _http;
    private string? _token;

    public CourtAddress(Uri address)
    {
        // One for each sitting, and a host has many.
        Cookies = new CookieContainer { PerDomainCapacity = 300 };
        _http = new HttpClient(new HttpClientHandler { CookieContainer = Cookies }) { BaseAddress = address };
    }

    public CookieContainer Cookies { get; }

    /// <summary>Asks for the page's token, as a page does before its first change.</summary>
    public async Task Warm() => _token = (await _http.GetFromJsonAsync<Me>("/api/me", CoreJson.Options))!.Token;

    public async Task<T> Post<T>(string path, object body)
    {
        using var response = await Send(path, JsonContent.Create(body, options: CoreJson.Options));
        return response.StatusCode == HttpStatusCode.NoContent
            ? default!
            : (await response.Content.ReadFromJsonAsync<T>(CoreJson.Options))!;
    }

    /// <summary>Sends a file into a sitting (tus), and puts it on the shelf.</summary>
    /// <returns>The exhibit's number.</returns>
    public async Task<int> Bring(Guid sitting, string name, byte[] file)
    {
        var wish = new BringWish(await Upload(sitting, name, file), null);
        return (await Post<BroughtRow>($"/api/sittings/{sitting}/exhibits", wish)).Exhibit;
    }

    /// <summary>Sends a file into a sitting, and hands it out to everyone.</summary>
    public async Task HandOut(Guid sitting, string name, byte[] file) =>
        await Post<object?>($"/api/sittings/{sitting}/handouts", new HandoutWish(await Upload(sitting, name, file), null, false));

    private async Task<Guid> Upload(Guid sitting, string name, byte[] file)
    {
        if (_token is null) await Warm();
        using var room = new HttpRequestMessage(HttpMethod.Post, $"/api/sittings/{sitting}/files");
        room.Headers.Add("X-Csrf", _token);
        room.Headers.Add("Upload-Length", $"{file.Length}");
        room.Headers.Add("Upload-Metadata", $"filename {Convert.ToBase64String(System.Text.Encoding.UTF8.GetBytes(name))}");
        var address = (await _http.SendAsync(room)).EnsureSuccessStatusCode().Headers.Location!.ToString();
        using var piece = new HttpRequestMessage(HttpMethod.Patch, address) { Content = new ByteArrayContent(file) };
        piece.Headers.Add("X-Csrf", _token);
        piece.Headers.Add("Upload-Offset", "0");
        piece.Content.Headers.ContentType = new("application/offset+octet-stream");
        (await _http.SendAsync(piece)).EnsureSuccessStatusCode();
        return Guid.Parse(address[(address.LastIndexOf('/') + 1)..]);
    }

    /// <summary>A file; reads the answer to its end.</summary>
    public async Task Send(string path, byte[] file)
    {
        using var response = await Send(path, new ByteArrayContent(file));
        await response.Content.ReadAsByteArrayAsync();
    }

    public async Task<T> Get<T>(string path) => (await _http.GetFromJsonAsync<T>(path, CoreJson.Options))!;

    public Task<byte[]> Bytes(string path) => _http.GetByteArrayAsync(new Uri(path, UriKind.Relative));

    /// <summary>Whatever the answer is.</summary>
    public async Task Try(string path, object body)
    {
        try { (await Send(path, JsonContent.Create(body, options: CoreJson.Options))).Dispose(); }
        catch (InvalidOperationException) { /* It was refused, as it should be. */ }
    }

    public async Task SignIn()
    {
        await Post<object?>("/api/sign-in", new SignIn(DemoData.Email, DemoData.Password));
        _token = null;
    }

    private async Task<HttpResponseMessage> Send(string path, HttpContent content)
    {
        if (_token is null) await Warm();
        using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = content };
        request.Headers.Add("X-Csrf", _token);
        var response = await _http.SendAsync(request);
        return response.IsSuccessStatusCode
            ? response
            : throw new InvalidOperationException($"{path}: {await response.Content.ReadAsStringAsync()}");
    }
}
