using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Net.WebSockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using HoldCourt.Server.Api;

namespace HoldCourt.Server.Tests;

/// <summary>Debian's nginx in front, with the very configuration that ships, and TLS.</summary>
public sealed class ProxyTests : IAsyncLifetime
{
    private const string ProxyFrom = "127.0.0.9";
    private readonly string _folder = Directory.CreateTempSubdirectory("hold-court-nginx-").FullName;
    private readonly int _port = FreePort(), _plainPort = FreePort();
    private Court _court = null!;
    private Process? _nginx;

    private string Public => $"https://court.example.org:{_port}";

    public async Task InitializeAsync()
    {
        _court = await Court.With("--Demo:Load", "true", "--Demo:Everywhere", "true", "--Address", Public, "--Proxy:Known",
            $"{ProxyFrom}, 10.1.0.0/16");
        MakeCertificate();
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "HoldCourt.slnx"))) root = Path.GetDirectoryName(root)!;
        var shipped = (await File.ReadAllTextAsync(Path.Combine(root, "deploy", "nginx.conf")))
            .Replace("listen 443 ssl", $"listen 127.0.0.1:{_port} ssl", StringComparison.Ordinal)
            .Replace("listen 80;", $"listen 127.0.0.1:{_plainPort};", StringComparison.Ordinal)
            .Replace("/etc/ssl/certs/court.example.org.pem", Path.Combine(_folder, "court.pem"), StringComparison.Ordinal)
                .Replace("/etc/ssl/private/court.example.org.key", Path.Combine(_folder, "court.key"), StringComparison.Ordinal)
            .Replace("server 127.0.0.1:5080", $"server {_court.Address.Authority}", StringComparison.Ordinal)
            // So that the proxy is told apart from whoever else comes from this machine.
            .Replace("proxy_pass http://hold_court;", $"proxy_pass http://hold_court; proxy_bind {ProxyFrom};", StringComparison.Ordinal);
        await File.WriteAllTextAsync(Path.Combine(_folder, "nginx.conf"),
            $"daemon off; pid {_folder}/pid; error_log {_folder}/error.log; events {{ worker_connections 4096; }} http {{ access_log "
                + $"off; client_body_temp_path {_folder}/body; proxy_temp_path {_folder}/proxy; fastcgi_temp_path {_folder}/f; "
                + $"uwsgi_temp_path {_folder}/u; scgi_temp_path {_folder}/s;\n{shipped}\n}}");
        _nginx = Process.Start(new ProcessStartInfo("/usr/sbin/nginx",
            ["-p", _folder, "-c", Path.Combine(_folder, "nginx.conf")])
        { RedirectStandardError = true })!;
        using var probe = Guest("127.0.0.1");
        await Eventually.Succeeds(async () => (await probe.GetAsync($"{Public}/health")).StatusCode.ShouldBe(HttpStatusCode.OK));
    }

    public async Task DisposeAsync()
    {
        _nginx?.Kill(entireProcessTree: true);
        _nginx?.Dispose();
        await _court.DisposeAsync();
        Directory.Delete(_folder, recursive: true);
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private void MakeCertificate()
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=court.example.org", key, HashAlgorithmName.SHA256);
        using var made = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(2));
        File.WriteAllText(Path.Combine(_folder, "court.pem"), made.ExportCertificatePem());
        File.WriteAllText(Path.Combine(_folder, "court.key"), key.ExportPkcs8PrivateKeyPem());
    }

    /// <summary>A browser at an address of its own (all of 127.0.0.0/8 is this machine).</summary>
    private static HttpClient Guest(string from, CookieContainer? cookies = null) =>
        new(HandlerFrom(from, cookies ?? new CookieContainer()));

    private static SocketsHttpHandler HandlerFrom(string from, CookieContainer cookies) => new()
    {
        CookieContainer = cookies,
        AllowAutoRedirect = false,
        SslOptions = { RemoteCertificateValidationCallback = (_, certificate, _, _) => certificate!.Subject == "CN=court.example.org" },
        ConnectCallback = async (context, cancel) =>
        {
            var socket = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
            socket.Bind(new IPEndPoint(IPAddress.Parse(from), 0));
            await socket.ConnectAsync(IPAddress.Loopback, context.DnsEndPoint.Port, cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
    };

    private static async Task<HttpResponseMessage> Post(HttpClient guest, string address, string path, object body,
        params (string Name, string Value)[] headers)
    {
        var me = (await guest.GetFromJsonAsync<Me>($"{address}/api/me", CoreJson.Options))!;
        using var request = new HttpRequestMessage(HttpMethod.Post,
            $"{address}{path}")
        { Content = JsonContent.Create(body, options: CoreJson.Options) };
        request.Headers.Add("X-Csrf", me.Token);
        foreach (var (name, value) in headers) request.Headers.Add(name, value);
        return await guest.SendAsync(request);
    }

    [Fact]
    public async Task Three_hundred_guests_are_three_hundred_addresses_and_nobody_lends_themselves_another()
    {
        // Of one address twenty letters are taken at once, and one more each second.
        var answers = new ConcurrentDictionary<HttpStatusCode, int>();
        await Parallel.ForEachAsync(Enumerable.Range(0, 300), new ParallelOptions { MaxDegreeOfParallelism = 16 }, async (n, _) =>
        {
            using var guest = Guest($"127.1.{n / 200}.{(n % 200) + 1}");
            using var answer = await Post(guest, Public, "/api/forgot", new ForgotWish($"nobody{n}@example.org"));
            answers.AddOrUpdate(answer.StatusCode, 1, (_, count) => count + 1);
        });
        answers.ShouldBe(new Dictionary<HttpStatusCode, int> { [HttpStatusCode.NoContent] = 300 }, ignoreOrder: true);

        // One guest who says to be somebody else each time is one guest, through the proxy and past it.
        async Task<Dictionary<HttpStatusCode, int>> Answers(string from, string address)
        {
            using var liar = Guest(from);
            // Its cookies first: many first pages at once would each bring others.
            await liar.GetAsync($"{address}/api/me");
            var answers = await Task.WhenAll(Enumerable.Range(0, 160).Select(async n =>
            {
                using var answer = await Post(liar, address, "/api/forgot", new ForgotWish($"liar{n}@example.org"),
                    ("X-Forwarded-For", $"192.0.2.{n}"), ("X-Forwarded-Proto", "https"));
                return answer.StatusCode;
            }));
            return answers.CountBy(status => status).ToDictionary();
        }
        (await Answers("127.3.0.1", Public)).ShouldContainKey(HttpStatusCode.TooManyRequests);
        (await Answers("127.3.0.2", _court.Address.ToString().TrimEnd('/'))).ShouldContainKey(HttpStatusCode.TooManyRequests);
    }

    [Fact]
    public async Task Links_cookies_and_web_sockets_are_those_of_the_public_address_and_other_hosts_are_turned_away()
    {
        var cookies = new CookieContainer();
        using var host = Guest("127.2.0.1", cookies);
        using (var signedIn = await Post(host, Public, "/api/sign-in", new SignIn(Demo.DemoData.Email, Demo.DemoData.Password)))
        {
            signedIn.StatusCode.ShouldBe(HttpStatusCode.OK);
            signedIn.Headers.GetValues("Set-Cookie")
                .ShouldAllBe(cookie => cookie.Contains("secure", StringComparison.OrdinalIgnoreCase), "the proxy says that it is https");
        }
        using (var page = await host.GetAsync($"{Public}/api/account"))
            (await page.Content.ReadFromJsonAsync<AccountPage>(CoreJson.Options))!.SignIns.Single().Address.ShouldBe("127.2.0.1");
        using (var invited = await Post(host, Public, "/api/house/invitations", new InviteHost("new@larkmoor.example.org", null, false)))
            (await invited.Content.ReadFromJsonAsync<InvitedHost>(CoreJson.Options))!.Link.ShouldStartWith(Public + "/join#");
        // A forged host gets into no message.
        using (var forgot = await Post(host, Public, "/api/forgot", new ForgotWish(Demo.DemoData.Email),
            ("X-Forwarded-Host", "evil.example.net"))) forgot.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        await Eventually.Succeeds(async () =>
        {
            var row = (await host.GetFromJsonAsync<List<OutboxRow>>($"{Public}/api/outbox", CoreJson.Options))!.First(one =>
                one.Subject == "A new password");
            (await host.GetFromJsonAsync<OutboxPage>($"{Public}/api/outbox/{row.Id}", CoreJson.Options))!.Text.ShouldContain(Public
                + "/reset#");
        });
        using (var elsewhere = new HttpRequestMessage(HttpMethod.Get,
            $"{_court.Address}api/me")
        { Headers = { Host = "evil.example.net" } })
        using (var answer = await host.SendAsync(elsewhere)) answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        using (var plain = await Guest("127.2.0.1")
            .SendAsync(new HttpRequestMessage(HttpMethod.Get,
            $"http://127.0.0.1:{_plainPort}/s/x")
            { Headers = { Host = "court.example.org" } }))
            plain.Headers.Location!.ToString().ShouldBe("https://court.example.org/s/x");

        OpenedSitting opened;
        using (var open = await Post(host, Public, "/api/sessions", new OpenNow("Behind the proxy")))
            opened = (await open.Content.ReadFromJsonAsync<OpenedSitting>(CoreJson.Options))!;
        using (var announced = await Post(host, Public, $"/api/door/{opened.Link}/announce", new AnnounceWish("Odalys")))
            announced.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await FirstWords(cookies, opened, Public)).ShouldContain("\"target\":\"Joined\"");
        (await Should.ThrowAsync<WebSocketException>(() =>
            FirstWords(cookies, opened, "https://evil.example.net"))).Message.ShouldContain("403");
    }

    /// <summary>What the live line says first, through TLS and the proxy.</summary>
    private async Task<string> FirstWords(CookieContainer cookies, OpenedSitting opened, string origin)
    {
        using var socket = new ClientWebSocket();
        socket.Options.SetRequestHeader("Origin", origin);
        using var way = new HttpMessageInvoker(HandlerFrom("127.2.0.1", cookies));
        await socket.ConnectAsync(new Uri($"{Public.Replace("https", "wss", StringComparison.Ordinal)}/live?sitting={opened.Sitting}"), way,
            CancellationToken.None);
        await socket.SendAsync(Encoding.UTF8.GetBytes("{\"protocol\":\"json\",\"version\":1}\u001e"), WebSocketMessageType.Text, true,
            CancellationToken.None);
        var heard = new StringBuilder();
        var buffer = new byte[64 * 1024];
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(10));
        while (!heard.ToString().Contains("Joined", StringComparison.Ordinal))
        {
            var part = await socket.ReceiveAsync(buffer.AsMemory(), patience.Token);
            heard.Append(Encoding.UTF8.GetString(buffer, 0, part.Count));
        }
        return heard.ToString();
    }
}
