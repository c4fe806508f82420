using System.Diagnostics;
using System.Net.WebSockets;
using System.Text.Json;
using HoldCourt.Server.Media;

namespace HoldCourt.Bench;

/// <summary>What the load does: who sends, who receives, for how long.</summary>
/// <param name="Voices">How many of the senders also speak.</param>
/// <param name="Groups">
/// The first sender and the first receiver are in the first group, the second ones in the second, and so on round; each receiver wishes to
/// see its own group, as a browser wishes to see those who are in its room.
/// </param>
internal sealed record LoadPlan(string[] Senders, string[] Receivers, int[] SenderSeats, int Voices, int Seconds, int Groups = 1);

/// <param name="SentPerSecond">Frames that the senders sent: less than planned when the machine does not keep up.</param>
internal sealed record LoadResult(double FramesPerSecond, double Median, double P99, double MessagesPerFrame, double SentPerSecond);

/// <summary>The load generator, in a process of its own: senders at 20 pictures and 50 sounds a
/// second, and receivers that time each frame. At the end all stay and nobody sends.</summary>
internal static class RelayLoad
{
    private const int PictureBytes = 3_000, SoundBytes = 70;
    private static long _sent;

    public static async Task Run(string planFile)
    {
        var plan = JsonSerializer.Deserialize<LoadPlan>(await File.ReadAllTextAsync(planFile), CoreJson.Options)!;
        var delays = new List<double>();
        var messages = 0;
        _sent = 0;
        var measuring = false;
        foreach (var (at, url) in plan.Receivers.Index())
        {
            var socket = await Connect(url);
            _ = Receive(socket, (bytes, isText) =>
            {
                // As a browser that reads does; one that answers no mark gets no pictures.
                if (isText && JsonSerializer.Deserialize<ToBrowser>(bytes, CoreJson.Options) is Marked marked)
                    _ = socket.SendAsync(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(new Echo(marked.Mark), CoreJson.Options),
                        WebSocketMessageType.Text, true, default);
                if (isText || !Volatile.Read(ref measuring)) return;
                lock (delays)
                {
                    messages++;
                    var now = Micros();
                    for (var rest = bytes; FrameHeader.TryRead(rest, out var header); rest = rest[header.Length..])
                        delays.Add((now - (double)header.CaptureTime) / 1_000);
                }
            });
            if (plan.SenderSeats.Length > 0)
            {
                var own = plan.SenderSeats.Where((_, n) => n % plan.Groups == at % plan.Groups);
                await socket.SendAsync(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(
                    new Show([.. own.Select(seat => new WishedPicture(new SeatId(seat), 400))]), CoreJson.Options),
                    WebSocketMessageType.Text, true, default);
            }
        }
        var stop = new CancellationTokenSource();
        var sending = new List<Task>();
        for (var n = 0; n < plan.Senders.Length; n++)
            sending.Add(Send(await Connect(plan.Senders[n]), n, n < plan.Voices, plan.SenderSeats.Length > 0, stop.Token));
        // Both servers compile their hot paths anew while they are warm; what is measured is the state after that.
        await Task.Delay(TimeSpan.FromSeconds(25));
        Volatile.Write(ref measuring, true);
        var sent = Interlocked.Read(ref _sent);
        Console.WriteLine("measuring");
        await Task.Delay(TimeSpan.FromSeconds(plan.Seconds));
        Volatile.Write(ref measuring, false);
        sent = Interlocked.Read(ref _sent) - sent;
        lock (delays)
            Console.WriteLine(JsonSerializer.Serialize(new LoadResult(delays.Count / (double)plan.Seconds, delays.Percentile(0.5),
            delays.Percentile(0.99), messages / (double)Math.Max(1, delays.Count), sent / (double)plan.Seconds), CoreJson.Options));
        await stop.CancelAsync();
        await Task.WhenAll(sending);
        await Task.Delay(TimeSpan.FromSeconds(3));
        Console.WriteLine("at rest");
        await Task.Delay(TimeSpan.FromSeconds(plan.Seconds));
        Console.WriteLine("end");
        Environment.Exit(0);
    }

    private static async Task Send(ClientWebSocket socket, int number, bool speaks, bool toCourt, CancellationToken stop)
    {
        int[] own = [number + 1, number + 101];
        var told = new TaskCompletionSource();
        _ = Receive(socket, (bytes, isText) =>
        {
            if (isText && JsonSerializer.Deserialize<ToBrowser>(bytes, CoreJson.Options) is Numbered numbered)
            { own = [.. numbered.Tracks]; told.TrySetResult(); }
        });
        TrackDescription[] tracks = [new("microphone", Service.Voice, Layer.None, "opus"),
            new(Wish.Camera, Service.Camera, Layer.Full, "vp8")];
        if (toCourt)
        {
            await socket.SendAsync(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(new Describe(tracks), CoreJson.Options),
                WebSocketMessageType.Text, true, stop);
            await told.Task;
        }
        var clock = Stopwatch.StartNew();
        var (pictures, sounds) = (0u, 0u);
        using var timer = new PeriodicTimer(TimeSpan.FromMilliseconds(5));
        while (!stop.IsCancellationRequested && await timer.WaitForNextTickAsync(CancellationToken.None))
        {
            for (; sounds < clock.ElapsedMilliseconds / 20; sounds++)
                if (speaks) await Frame(Service.Voice, own[0], sounds, SoundBytes, FrameMarks.None);
            for (; pictures < clock.ElapsedMilliseconds / 50; pictures++)
                await Frame(Service.Camera, own[1], pictures, PictureBytes, pictures % 10 == 0 ? FrameMarks.Key : FrameMarks.None);
        }

        async Task Frame(Service service, int track, uint sequence, int bytes, FrameMarks marks)
        {
            var frame = new byte[FrameHeader.Size + bytes];
            new FrameHeader(frame.Length, service, marks, (ushort)track, sequence, (byte)(service == Service.Voice ? 25 : 0), 0, 200,
                (ulong)Micros()).Write(frame);
            if (service == Service.Camera) Vp8(frame.AsSpan(FrameHeader.Size), marks == FrameMarks.Key);
            await socket.SendAsync(frame, WebSocketMessageType.Binary, true, CancellationToken.None);
            Interlocked.Increment(ref _sent);
        }
    }

    /// <summary>As much of VP8 as a recording looks at (RFC 6386, 9.1).</summary>
    private static void Vp8(Span<byte> chunk, bool isKey)
    {
        chunk[0] = (byte)(isKey ? 0 : 1);
        if (isKey) ((ReadOnlySpan<byte>)[0x9D, 0x01, 0x2A, 0x80, 0x02, 0x68, 0x01]).CopyTo(chunk[3..]);
    }

    private delegate void Take(ReadOnlySpan<byte> bytes, bool isText);

    private static async Task Receive(ClientWebSocket socket, Take take)
    {
        var buffer = new byte[1 << 20];
        while (socket.State == WebSocketState.Open)
        {
            var length = 0;
            ValueWebSocketReceiveResult part;
            do
            {
                part = await socket.ReceiveAsync(buffer.AsMemory(length), CancellationToken.None);
                length += part.Count;
            }
            while (!part.EndOfMessage);
            take(buffer.AsSpan(0, length), part.MessageType == WebSocketMessageType.Text);
        }
    }

    private static async Task<ClientWebSocket> Connect(string url)
    {
        var socket = new ClientWebSocket();
        await socket.ConnectAsync(new Uri(url), CancellationToken.None);
        return socket;
    }

    private static double Micros() => Stopwatch.GetTimestamp() * 1e6 / Stopwatch.Frequency;
}
