using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using System.Threading.Channels;

namespace HoldCourt.Agent;

/// <summary>The agent's side of the protocol in <c>docs/lending.md</c>.</summary>
internal sealed class Driving(Screen screen, TextWriter says)
{
    private const int LargestLine = 4_096;

    /// <summary>So often it is looked whether somebody sits at the screen.</summary>
    private static readonly TimeSpan _looks = TimeSpan.FromMilliseconds(60);

    private string? _driver;

    /// <summary>Until the socket ends, by whoever ends it.</summary>
    /// <exception cref="WebSocketException">It could not be connected: the code is void, or there is no such server.</exception>
    public async Task Run(Uri server, string code, CancellationToken cancel)
    {
        using var socket = new ClientWebSocket();
        socket.Options.SetRequestHeader("Authorization", $"Bearer {code}");
        socket.Options.KeepAliveInterval = TimeSpan.FromSeconds(5);
        socket.Options.KeepAliveTimeout = TimeSpan.FromSeconds(10);
        var address = new UriBuilder(server) { Scheme = server.Scheme == "https" ? "wss" : "ws", Path = "/agent" };
        await socket.ConnectAsync(address.Uri, cancel);
        var lines = Channel.CreateUnbounded<string>(new UnboundedChannelOptions { SingleReader = true });
        var reads = Read(socket, lines.Writer, cancel);
        try
        {
            await Follow(socket, lines.Reader, cancel);
            await reads;
        }
        finally
        {
            LetGo();
        }
    }

    private static async Task Read(WebSocket socket, ChannelWriter<string> lines, CancellationToken cancel)
    {
        var buffer = new byte[LargestLine];
        try
        {
            while (socket.State == WebSocketState.Open)
            {
                var length = 0;
                ValueWebSocketReceiveResult piece;
                do
                {
                    piece = await socket.ReceiveAsync(buffer.AsMemory(length), cancel);
                    length += piece.Count;
                }
                while (!piece.EndOfMessage && length < LargestLine);
                if (piece.MessageType == WebSocketMessageType.Close || length == LargestLine) break;
                lines.TryWrite(Encoding.UTF8.GetString(buffer, 0, length));
            }
        }
        catch (WebSocketException)
        {
            // The connection broke: what is pressed is let go.
        }
        finally
        {
            lines.TryComplete();
        }
    }

    private async Task Follow(WebSocket socket, ChannelReader<string> lines, CancellationToken cancel)
    {
        var more = lines.WaitToReadAsync(cancel).AsTask();
        for (; ; )
        {
            await Task.WhenAny(more, Task.Delay(_looks, cancel));
            cancel.ThrowIfCancellationRequested();
            // Before anything else is done: whoever sits there comes first.
            if (_driver is not null && screen.IsTouched())
            {
                says.WriteLine("Somebody uses this screen: nobody drives it any more.");
                LetGo();
                await socket.SendAsync("""{"is":"stop"}"""u8.ToArray(), WebSocketMessageType.Text, true, cancel);
            }
            if (!more.IsCompleted) continue;
            if (!await more) return;
            while (lines.TryRead(out var line)) Take(line);
            more = lines.WaitToReadAsync(cancel).AsTask();
        }
    }

    private void Take(string line)
    {
        using var message = JsonDocument.Parse(line);
        var root = message.RootElement;
        switch (root.GetProperty("is").GetString())
        {
            case "hello": says.WriteLine("Connected. Nobody drives this screen yet."); break;
            case "grant":
                LetGo();
                _driver = root.GetProperty("driver").GetString();
                screen.Show($"{_driver} drives this screen. Press Pause, any key, or move the mouse to stop.");
                says.WriteLine($"{_driver} drives this screen.");
                break;
            case "release":
                if (_driver is not null) says.WriteLine("Nobody drives this screen any more.");
                LetGo();
                break;
            // What comes after letting go is too late.
            case var _ when _driver is null: break;
            case "move": screen.Move(root.GetProperty("x").GetDouble(), root.GetProperty("y").GetDouble()); break;
            case "button": screen.Press(root.GetProperty("button").GetUInt32(), root.GetProperty("down").GetBoolean()); break;
            case "wheel": screen.Turn(root.GetProperty("x").GetDouble(), root.GetProperty("y").GetDouble()); break;
            case "key": screen.Key(root.GetProperty("code").GetString()!, root.GetProperty("down").GetBoolean()); break;
        }
    }

    private void LetGo()
    {
        _driver = null;
        screen.Release();
    }
}
