using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.WebSockets;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Media;
using Microsoft.AspNetCore.SignalR.Client;

namespace HoldCourt.Bench;

/// <summary>
/// What strangers and hosts can ask of the server that costs much, sixty at once and again and again, while somebody speaks in a sitting:
/// the longest silence of the voice, and what the host's clicks take, beside the same without it, and beside as many who ask at the same
/// pace for something that costs nothing: the asking itself takes this machine, too.
/// </summary>
internal static class FloodBench
{
    private const int AtOnce = 60, Seconds = 8, Rounds = 5;

    private const string Little = "who they are";

    private static readonly Dictionary<string, Func<CourtAddress, string, int, Task>> _floods = new()
    {
        [Little] = (who, _, _) => who.Warm(),
        ["sign-ins of a stranger"] = (who, _, n) => who.Try("/api/sign-in", new SignIn($"nobody{n}@example.org", "wrong words here")),
        ["how strong a password is"] = (who, _, n) => who.Try("/api/password-strength", new StrengthWish(
            $"lantern ferry heron {n} kettle moss quarry lantern ferry heron", "Nia Okafor", "nia@larkmoor.example.org")),
        ["host keys at a door"] = (who, link, n) => who.Try($"/api/door/{link}/announce", new AnnounceWish($"Guess {n}", $"guess{n}"))
    };

    private static int _click;

    /// <summary>The strangers, in a process of their own, until it is ended.</summary>
    public static async Task Flood(string name, Uri address, string link)
    {
        var strangers = await Task.WhenAll(Enumerable.Range(0, AtOnce).Select(async _ =>
        {
            var who = new CourtAddress(address);
            await who.Warm();
            return who;
        }));
        Console.WriteLine("ready");
        await Task.WhenAll(strangers.Select(async (who, n) =>
        {
            while (true)
            {
                await _floods[name](who, link, n);
                await Task.Delay(300);
            }
        }));
    }

    public static async Task Run()
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        var crowd = await Crowd.Gather(server.Address, "Flooded", 1, after: new OpenMicrophone());
        var session = (await crowd.Host.Get<DoorPage>($"/api/door/{crowd.Link}")).Session;
        await crowd.Host.Post<NewCode>($"/api/plans/{session}/host-key", new { });
        var arrived = new ConcurrentQueue<long>();
        using var hears = await Socket(server.Address, crowd.Bench);
        using var speaks = await Socket(server.Address, crowd.People[0]);
        _ = Read(hears, bytes =>
        {
            if (FrameHeader.TryRead(bytes, out var header) && header.Service == Service.Voice) arrived.Enqueue(Stopwatch.GetTimestamp());
        });
        using var over = new CancellationTokenSource();
        var speaking = Speak(speaks, over.Token);
        await Task.Delay(4_000);

        Numbers.Head($"{AtOnce} costly wishes at once, again and again for {Seconds} s, beside a voice (medians of {Rounds})");
        foreach (var name in _floods.Keys.Where(name => name != Little))
        {
            var (quiet, cheap, costly) = (new List<Measure>(), new List<Measure>(), new List<Measure>());
            for (var round = 0; round < Rounds; round++)
            {
                quiet.Add(await Measured(crowd.Bench, arrived));
                cheap.Add(await Under(Little));
                costly.Add(await Under(name));
            }
            double[] silences = [.. new[] { quiet, cheap, costly }.Select(all => all.Select(one => one.Silence).Percentile(0.5))];
            double[] clicks = [.. new[] { quiet, cheap, costly }.Select(all => all.Select(one => one.Click).Percentile(0.5))];
            Numbers.Row($"{name}: longest silence of the voice without, with as many who ask for little, with",
                $"{silences[0]:F0} ms, {silences[1]:F0} ms, {silences[2]:F0} ms: {silences[2] / silences[0]:F2} and "
                    + $"{silences[2] / silences[1]:F2} times");
            Numbers.Row($"{name}: longest click of the host", $"{clicks[0]:F0} ms, {clicks[1]:F0} ms, {clicks[2]:F0} ms");
        }

        // Strangers are on machines of their own, so their process takes only what the server and the voice leave of this one.
        async Task<Measure> Under(string name)
        {
            using var flood = Process.Start(new ProcessStartInfo("nice",
                ["-n", "10", "dotnet", typeof(FloodBench).Assembly.Location, "flood", name, server.Address.ToString(), crowd.Link])
            { RedirectStandardOutput = true })!;
            await flood.StandardOutput.ReadLineAsync();
            await Task.Delay(500);
            var under = await Measured(crowd.Bench, arrived);
            flood.Kill(entireProcessTree: true);
            await flood.WaitForExitAsync();
            await Task.Delay(3_000);
            return under;
        }
        Numbers.Row("resident memory at the end", $"{server.ResidentMegabytes:F0} MB");
        await over.CancelAsync();
        await speaking;
    }

    /// <summary>In ms, the longest of each.</summary>
    private sealed record Measure(double Silence, double Click);

    private static async Task<Measure> Measured(HubConnection bench, ConcurrentQueue<long> arrived)
    {
        arrived.Clear();
        var (clock, longest) = (Stopwatch.StartNew(), 0.0);
        while (clock.Elapsed < TimeSpan.FromSeconds(Seconds))
        {
            var began = Stopwatch.GetTimestamp();
            await Crowd.Say(bench, new SetOrder(Order.Rename, _click++ % 2 == 0 ? Audience.Bench : Audience.Everyone));
            longest = Math.Max(longest, Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            await Task.Delay(150);
        }
        var times = arrived.ToArray();
        var silence = times.Length < 2 ? Seconds * 1_000.0 : times.Zip(times.Skip(1), (one, next) =>
            Stopwatch.GetElapsedTime(one, next).TotalMilliseconds).Max();
        return new Measure(silence, longest);
    }

    private static async Task<ClientWebSocket> Socket(Uri address, HubConnection line)
    {
        var socket = new ClientWebSocket();
        var ticket = await line.InvokeAsync<string>("MediaTicket");
        await socket.ConnectAsync(new Uri($"ws://{address.Authority}/media?ticket={Uri.EscapeDataString(ticket)}"), default);
        return socket;
    }

    private static async Task Speak(ClientWebSocket socket, CancellationToken stop)
    {
        var track = new TaskCompletionSource<int>();
        _ = Read(socket, bytes => { }, text =>
        {
            if (JsonSerializer.Deserialize<ToBrowser>(text, CoreJson.Options) is Numbered { Tracks: [var own, ..] })
                track.TrySetResult(own);
        });
        await socket.SendAsync(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(
            new Describe([new TrackDescription("microphone", Service.Voice, Layer.None, "opus")]), CoreJson.Options),
            WebSocketMessageType.Text, true, default);
        var number = await track.Task;
        var (clock, sent) = (Stopwatch.StartNew(), 0u);
        using var timer = new PeriodicTimer(TimeSpan.FromMilliseconds(5));
        while (!stop.IsCancellationRequested && await timer.WaitForNextTickAsync(CancellationToken.None))
            for (; sent < clock.ElapsedMilliseconds / 20; sent++)
            {
                var frame = new byte[FrameHeader.Size + 70];
                new FrameHeader(
                    frame.Length, Service.Voice, FrameMarks.None, (ushort)number, sent, 25, 0, 200, sent * 20_000).Write(frame);
                await socket.SendAsync(frame, WebSocketMessageType.Binary, true, CancellationToken.None);
            }
    }

    /// <summary>Reads on; a mark is answered, as browsers do.</summary>
    private static async Task Read(ClientWebSocket socket, Action<byte[]> take, Action<byte[]>? said = null)
    {
        var buffer = new byte[1 << 20];
        while (socket.State == WebSocketState.Open)
        {
            var part = await socket.ReceiveAsync(buffer, CancellationToken.None);
            var bytes = buffer.AsSpan(0, part.Count).ToArray();
            if (part.MessageType != WebSocketMessageType.Text) take(bytes);
            else if (said is not null) said(bytes);
            else if (JsonSerializer.Deserialize<ToBrowser>(bytes, CoreJson.Options) is Marked marked)
                await socket.SendAsync(JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(new Echo(marked.Mark), CoreJson.Options),
                    WebSocketMessageType.Text, true, CancellationToken.None);
        }
    }
}
