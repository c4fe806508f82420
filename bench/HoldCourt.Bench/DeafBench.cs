using System.Diagnostics;
using System.Net.Sockets;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Media;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Bench;

/// <summary>
/// One of 50 takes the live line and the media socket and then reads nothing: what its neighbours feel of it, against
/// the same rounds without it, before and after.
/// </summary>
internal static class DeafBench
{
    private const int People = 50, Rounds = 300, UntilFull = 500, Sounds = 1_500;

    public static async Task Run()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        using var server = Started.Server(folder);
        var host = new CourtAddress(server.Address);
        await host.SignIn();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Deaf"));
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));
        var inbox = new Inbox();
        var leads = await Connect(host);
        await Do(new SetDoor(DoorMode.Open));
        var listeners = new List<Listener>();
        for (var n = 1; n < People; n++)
        {
            var guest = new CourtAddress(server.Address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish($"Person {n}"));
            listeners.Add(await Listener.Open(server.Address, await Connect(guest)));
        }
        await Do(new OpenMicrophone());
        var sender = await Listener.Open(server.Address, leads);

        var (before, beforeSound) = (await Changes(Rounds), await Voices());
        using var line = await DeafLine();
        using var media = await DeafMedia();
        await Changes(UntilFull);
        await Voices();
        var (with, withSound) = (await Changes(Rounds), await Voices());
        line.Abort();
        media.Abort();
        await Task.Delay(2_000);
        var (after, afterSound) = (await Changes(Rounds), await Voices());

        Numbers.Head($"A receiver that never reads among {People}");
        Tell("one change at all the others", before, with, after);
        Tell("one voice at all the others", beforeSound, withSound, afterSound);
        Numbers.Row("resident memory of the server", $"{server.ResidentMegabytes:F0} MB");
        Directory.Delete(folder, recursive: true);

        static void Tell(string what, List<double> before, List<double> with, List<double> after)
        {
            double[] alone = [.. before, .. after];
            Numbers.Row($"{what}, without it: median, p99", $"{alone.Percentile(0.5):F1} ms, {alone.Percentile(0.99):F1} ms");
            Numbers.Row($"{what}, with it: median, p99", $"{with.Percentile(0.5):F1} ms, {with.Percentile(0.99):F1} ms");
            Numbers.Row($"{what}: p99 with it over p99 without",
                $"{with.Percentile(0.99) / alone.Percentile(0.99):F2} (target: at most 1.2)");
        }

        async Task Do(SeatCommand command)
        {
            while (await leads.InvokeAsync<Refusal?>("Do", JsonSerializer.SerializeToElement(command, CoreJson.Options), null)
                is { } refusal)
            {
                if (refusal.Reason != Reason.TooMany) throw new InvalidOperationException(refusal.ToString());
                await Task.Delay(50);
            }
        }

        async Task<List<double>> Changes(int rounds)
        {
            var times = new List<double>();
            for (var n = 0; n < rounds; n++)
            {
                inbox.Expect(People);
                var start = Stopwatch.GetTimestamp();
                await Do(new SetArrangement(n % 2 == 0 ? Arrangement.Even : Arrangement.Lead));
                await inbox.All;
                times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
                await Task.Delay(55);
            }
            await Do(new SetArrangement(null));
            await Task.Delay(200);
            return times;
        }

        async Task<List<double>> Voices()
        {
            foreach (var listener in listeners) listener.Delays.Clear();
            for (var n = 0; n < Sounds; n++)
            {
                await sender.Speak();
                await Task.Delay(20);
            }
            await Task.Delay(500);
            return [.. listeners.SelectMany(listener => listener.Delays)];
        }

        async Task<HubConnection> Connect(CourtAddress who)
        {
            var connection = new HubConnectionBuilder()
                .WithUrl(new Uri(server.Address, $"/live?sitting={opened.Sitting}"), options => options.Cookies = who.Cookies)
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<ViewChange>("Change", change => { if (change.Set is not null) inbox.Take(); });
            await connection.StartAsync();
            return connection;
        }

        async Task<ClientWebSocket> DeafLine()
        {
            var guest = new CourtAddress(server.Address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Deaf line"));
            var socket = await Sockets.Narrow(new Uri($"ws://{server.Address.Authority}/live?sitting={opened.Sitting}"),
                guest.Cookies.GetCookieHeader(server.Address));
            await socket.SendAsync(Encoding.UTF8.GetBytes("{\"protocol\":\"json\",\"version\":1}\u001e"), WebSocketMessageType.Text, true,
                CancellationToken.None);
            return socket;
        }

        async Task<ClientWebSocket> DeafMedia()
        {
            var guest = new CourtAddress(server.Address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Deaf ears"));
            var ticket = await (await Connect(guest)).InvokeAsync<string?>("MediaTicket");
            return await Sockets.Narrow(new Uri($"ws://{server.Address.Authority}/media?ticket={Uri.EscapeDataString(ticket!)}"), null);
        }
    }

    private static class Sockets
    {
        /// <summary>A web socket for which the kernel keeps little.</summary>
        public static async Task<ClientWebSocket> Narrow(Uri address, string? cookies)
        {
            var socket = new ClientWebSocket();
            if (cookies is not null) socket.Options.SetRequestHeader("Cookie", cookies);
            using var way = new HttpMessageInvoker(new SocketsHttpHandler
            {
                UseCookies = false,
                ConnectCallback = async (context, cancel) =>
                {
                    var tcp = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true, ReceiveBufferSize = 8 * 1024 };
                    await tcp.ConnectAsync(context.DnsEndPoint, cancel);
                    return new NetworkStream(tcp, ownsSocket: true);
                }
            });
            await socket.ConnectAsync(address, way, CancellationToken.None);
            return socket;
        }
    }

    /// <summary>A media socket that reads, answers marks, and notes how long each voice frame took.</summary>
    private sealed class Listener
    {
        private readonly ClientWebSocket _socket = new();
        private readonly SemaphoreSlim _sends = new(1);
        private int _track;
        private uint _sequence;

        public List<double> Delays { get; } = [];

        public static async Task<Listener> Open(Uri address, HubConnection line)
        {
            var listener = new Listener();
            var ticket = await line.InvokeAsync<string?>("MediaTicket");
            await listener._socket.ConnectAsync(new Uri($"ws://{address.Authority}/media?ticket={Uri.EscapeDataString(ticket!)}"),
                CancellationToken.None);
            _ = Task.Run(listener.Read);
            await listener.Send(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(
                new Describe([new("microphone", Service.Voice, Layer.None, "opus")]), CoreJson.Options), WebSocketMessageType.Text);
            return listener;
        }

        public async Task Speak()
        {
            var frame = new byte[FrameHeader.Size + 70];
            new FrameHeader(frame.Length, Service.Voice, FrameMarks.None, (ushort)_track, _sequence++, 20, 0, 200,
                (ulong)Stopwatch.GetTimestamp()).Write(frame);
            await Send(frame, WebSocketMessageType.Binary);
        }

        private async Task Send(byte[] bytes, WebSocketMessageType type)
        {
            await _sends.WaitAsync();
            try { await _socket.SendAsync(bytes, type, true, CancellationToken.None); }
            finally { _sends.Release(); }
        }

        private async Task Read()
        {
            var buffer = new byte[1 << 18];
            while (_socket.State == WebSocketState.Open)
            {
                var got = await _socket.ReceiveAsync(buffer, CancellationToken.None);
                if (got.MessageType == WebSocketMessageType.Text)
                {
                    var message = JsonSerializer.Deserialize<ToBrowser>(buffer.AsSpan(0, got.Count), CoreJson.Options);
                    if (message is Numbered numbered) _track = numbered.Tracks[0];
                    if (message is Marked { Mark: var mark })
                        await Send(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(new Echo(mark), CoreJson.Options),
                        WebSocketMessageType.Text);
                    continue;
                }
                for (var rest = buffer.AsMemory(0, got.Count); FrameHeader.TryRead(rest.Span, out var header); rest = rest[header.Length..])
                    Delays.Add(Stopwatch.GetElapsedTime((long)header.CaptureTime).TotalMilliseconds);
            }
        }
    }
}
