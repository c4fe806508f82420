using System.Net;
using System.Net.Sockets;
using System.Text;

namespace HoldCourt.Server.Tests;

/// <summary>As much of RFC 5321 as taking one message needs.</summary>
internal sealed class MailServer : IDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly Task<byte[]> _received;

    public MailServer()
    {
        _listener.Start();
        Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
        _received = Take();
    }

    public int Port { get; }

    public Task<byte[]> Received() => _received.WaitAsync(TimeSpan.FromSeconds(20));

    private async Task<byte[]> Take()
    {
        using var client = await _listener.AcceptTcpClientAsync();
        using var reader = new StreamReader(client.GetStream(), Encoding.Latin1);
        await using var writer = new StreamWriter(client.GetStream(), Encoding.Latin1) { NewLine = "\r\n", AutoFlush = true };
        var message = new StringBuilder();
        await writer.WriteLineAsync("220 ready");
        while (await reader.ReadLineAsync() is { } line)
        {
            if (line.StartsWith("DATA", StringComparison.Ordinal))
            {
                await writer.WriteLineAsync("354 go on");
                while (await reader.ReadLineAsync() is { } text && text != ".") message.Append(text.StartsWith('.') ? text[1..] : text).Append("\r\n");
            }
            await writer.WriteLineAsync(line.StartsWith("QUIT", StringComparison.Ordinal) ? "221 bye" : "250 fine");
            if (line.StartsWith("QUIT", StringComparison.Ordinal)) break;
        }
        return Encoding.Latin1.GetBytes(message.ToString());
    }

    public void Dispose() => _listener.Dispose();
}
