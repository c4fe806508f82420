using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace HoldCourt.Server.Tests;

/// <summary>As much of RFC 5321 as taking messages needs, and some ways of not taking them.</summary>
internal sealed class MailServer : IDisposable
{
    private readonly TcpListener _listener;
    private readonly CancellationTokenSource _stop = new();

    public MailServer(int port = 0)
    {
        _listener = new TcpListener(IPAddress.Loopback, port);
        _listener.Start();
        Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
        _ = Listen();
    }

    public int Port { get; }

    /// <summary>What it says when a message has come whole.</summary>
    public string Answer { get; set; } = "250 fine, kept as 17";

    /// <summary>How long it takes for each message.</summary>
    public TimeSpan Slowness { get; set; }

    /// <summary>It takes connections and says nothing.</summary>
    public bool Hangs { get; set; }

    public ConcurrentQueue<string> Taken { get; } = new();

    private async Task Listen()
    {
        try
        {
            while (true) _ = Talk(await _listener.AcceptTcpClientAsync(_stop.Token));
        }
        catch (Exception e) when (e is OperationCanceledException or SocketException or ObjectDisposedException) { }
    }

    private async Task Talk(TcpClient client)
    {
        using var _ = client;
        if (Hangs)
        {
            await Task.Delay(Timeout.Infinite, _stop.Token).ContinueWith(done => done, TaskScheduler.Default);
            return;
        }
        using var reader = new StreamReader(client.GetStream(), Encoding.Latin1);
        await using var writer = new StreamWriter(client.GetStream(), Encoding.Latin1) { NewLine = "\r\n", AutoFlush = true };
        try
        {
            await writer.WriteLineAsync("220 ready");
            while (await reader.ReadLineAsync() is { } line)
            {
                var said = line.StartsWith("QUIT", StringComparison.Ordinal) ? "221 bye" : "250 fine";
                if (line.StartsWith("DATA", StringComparison.Ordinal))
                {
                    await writer.WriteLineAsync("354 go on");
                    var message = new StringBuilder();
                    while (await reader.ReadLineAsync() is { } text && text != ".")
                        message.Append(text.StartsWith('.') ? text[1..] : text).Append("\r\n");
                    said = Answer;
                    await Task.Delay(Slowness, _stop.Token);
                    if (said.StartsWith('2')) Taken.Enqueue(message.ToString());
                }
                await writer.WriteLineAsync(said);
                if (said.StartsWith("221", StringComparison.Ordinal)) break;
            }
        }
        catch (Exception e) when (e is IOException or OperationCanceledException) { }
    }

    public void Dispose()
    {
        _stop.Cancel();
        _listener.Dispose();
    }
}
