using System.Collections.Concurrent;
using System.Net.WebSockets;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.SignalR;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace HoldCourt.Bench;

/// <summary>What we compare with: a hub that sends to a group, and a loop that writes each frame to every receiver.</summary>
internal static class BareServer
{
    private static readonly ConcurrentDictionary<WebSocket, SemaphoreSlim> _receivers = [];

    public static async Task Run(string address)
    {
        var builder = WebApplication.CreateBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls(address);
        builder.Services.AddSignalR(options => options.MaximumReceiveMessageSize = null)
            .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions));
        var app = builder.Build();
        app.UseWebSockets();
        app.MapHub<BareHub>("/bare");
        app.Map("/frames", Frames);
        app.Lifetime.ApplicationStarted.Register(() => Console.WriteLine("ready"));
        await app.RunAsync();
    }

    private static async Task Frames(HttpContext http)
    {
        using var socket = await http.WebSockets.AcceptWebSocketAsync();
        if (http.Request.Query["role"] == "receive") _receivers[socket] = new SemaphoreSlim(1);
        var buffer = new byte[256 * 1024];
        try
        {
            while (true)
            {
                var part = await socket.ReceiveAsync(buffer.AsMemory(), http.RequestAborted);
                if (part.MessageType == WebSocketMessageType.Close) break;
                foreach (var (receiver, turn) in _receivers)
                {
                    await turn.WaitAsync();
                    await receiver.SendAsync(buffer.AsMemory(0, part.Count), WebSocketMessageType.Binary, true, CancellationToken.None);
                    turn.Release();
                }
            }
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException)
        {
            // The load has ended.
        }
        _receivers.TryRemove(socket, out _);
    }

    private sealed class BareHub : Hub
    {
        public override Task OnConnectedAsync() => Groups.AddToGroupAsync(Context.ConnectionId, "all");
        public Task Say(ViewChange change) => Clients.Group("all").SendAsync("Change", change);
    }
}
