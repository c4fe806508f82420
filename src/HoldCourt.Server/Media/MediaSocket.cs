using System.Net.WebSockets;
using System.Text.Json;
using HoldCourt.Server.Accounts;

namespace HoldCourt.Server.Media;

/// <summary>The media socket of a browser: frames and small messages both ways.</summary>
internal sealed class MediaSocket(Stages stages, MediaTickets tickets, SignIns signIns, TimeProvider time)
{
    private const int LargestText = 16 * 1024, MostTextsPerSecond = 50, SmallestBuffer = 8 * 1024;

    public async Task Serve(HttpContext http)
    {
        if (!http.WebSockets.IsWebSocketRequest || tickets.Use(http.Request.Query["ticket"]) is not { } held)
        {
            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            return;
        }
        using var socket = await http.WebSockets.AcceptWebSocketAsync(
            new WebSocketAcceptContext { KeepAliveInterval = TimeSpan.FromSeconds(15), KeepAliveTimeout = TimeSpan.FromSeconds(30) });
        var stage = stages.Of(held.Sitting);
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(http.RequestAborted, signIns.Ends(held.SignIn));
        var receiver = new BrowserReceiver(held.Seat, socket, time, ends);
        var sender = stage.AddSender(held.Seat, new Browser(receiver));
        stage.Add(receiver);
        try
        {
            await Read(socket, stage, sender, receiver, ends.Token);
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or IOException)
        {
            // The connection ended without a goodbye.
        }
        finally
        {
            receiver.HasEnded();
            stage.Remove(sender);
            stage.Remove(receiver);
        }
    }

    private async Task Read(WebSocket socket, Stage stage, Sender sender, BrowserReceiver receiver, CancellationToken cancel)
    {
        var buffer = new byte[SmallestBuffer];
        var (second, texts) = (0L, 0);
        while (socket.State == WebSocketState.Open)
        {
            var length = 0;
            ValueWebSocketReceiveResult part;
            do
            {
                if (length == buffer.Length)
                {
                    if (length >= FrameHeader.LargestFrame)
                    {
                        MediaMeter.Malformed.Add(1);
                        await Close(socket, WebSocketCloseStatus.MessageTooBig, "too large");
                        return;
                    }
                    Array.Resize(ref buffer, Math.Min(buffer.Length * 2, FrameHeader.LargestFrame));
                }
                part = await socket.ReceiveAsync(buffer.AsMemory(length), cancel);
                if (part.MessageType == WebSocketMessageType.Close)
                {
                    await Close(socket, WebSocketCloseStatus.NormalClosure, "");
                    return;
                }
                length += part.Count;
            }
            while (!part.EndOfMessage);

            if (part.MessageType == WebSocketMessageType.Text)
            {
                var now = time.GetTimestamp() / time.TimestampFrequency;
                (second, texts) = now == second ? (second, texts + 1) : (now, 1);
                if (texts > MostTextsPerSecond || length > LargestText) MediaMeter.TooMany.Add(1);
                else if (!Hear(stage, sender, receiver, buffer.AsSpan(0, length)))
                {
                    await EndFlood(socket, "too many descriptions");
                    return;
                }
            }
            else if (!stage.Publish(sender, buffer.AsSpan(0, length)))
            {
                await EndFlood(socket, "too many frames");
                return;
            }
        }
    }

    private static Task EndFlood(WebSocket socket, string why)
    {
        MediaMeter.Floods.Add(1);
        return Close(socket, WebSocketCloseStatus.PolicyViolation, why);
    }

    /// <returns>False when the sender floods and its connection should end.</returns>
    private static bool Hear(Stage stage, Sender sender, BrowserReceiver receiver, ReadOnlySpan<byte> text)
    {
        switch (Parse(text))
        {
            case Describe when !sender.MayDescribe():
                return false;
            case Describe { Tracks: var tracks } when stage.Describe(sender, tracks):
                break;
            case Show show:
                stage.Show(receiver, [.. show.Pictures.Where(picture => picture.Source is Wish.Camera or Wish.Screen)
                    .Take(ForwardingPlan.MostPictures)
                    .Select(picture => new Wish(picture.Seat, Math.Clamp(picture.Height, 0, 4_320), picture.Source))]);
                break;
            case AskForKey key:
                stage.AskForKey(receiver, key.Track);
                break;
            case Echo echo:
                if (receiver.Echo(echo.Mark)) stage.CapacityChanged(receiver);
                break;
            default:
                MediaMeter.Malformed.Add(1);
                break;
        }
        return true;
    }

    private static FromBrowser? Parse(ReadOnlySpan<byte> text)
    {
        try
        {
            return JsonSerializer.Deserialize<FromBrowser>(text, CoreJson.Options) is { } message && Bounds.Refuses(message) is null
            ? message
            : null;
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or FormatException) { return null; }
    }

    private static async Task Close(WebSocket socket, WebSocketCloseStatus status, string why)
    {
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(2));
        if (socket.State is WebSocketState.Open or WebSocketState.CloseReceived) await socket.CloseOutputAsync(status, why, patience.Token);
    }

    /// <summary>A browser as a sender.</summary>
    private sealed class Browser(BrowserReceiver receiver) : IPublisher
    {
        public void Numbered(IReadOnlyList<int> tracks) => receiver.Say(new Numbered(tracks));
        public void Wanted(IReadOnlyList<int> tracks) => receiver.Say(new Wanted(tracks));
        public void NeedKey(ushort track) => receiver.Say(new NeedKey(track));
    }
}
