using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using System.Threading.Channels;
using HoldCourt.Server.Security;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Lending;

/// <summary>
/// The small programs beside shared screens, each of which connects out by one socket with a code from the page of whoever shares. They
/// are told who drives, each movement that the sitting lets through, and to let everything go. The protocol is in <c>docs/lending.md</c>.
/// </summary>
internal sealed class Agents(IGrainFactory grains, IHostApplicationLifetime life, TimeProvider time)
{
    /// <summary>A code that nobody used by then is void.</summary>
    public static readonly TimeSpan CodeLasts = TimeSpan.FromMinutes(10);

    private const int MostCodes = 10_000, MostWaiting = 2_000, LargestLine = 4_096;

    private readonly ConcurrentDictionary<string, (Guid Sitting, PersonKey Person, int Exhibit, DateTimeOffset Until)> _codes = new();
    private readonly ConcurrentDictionary<(Guid Sitting, int Exhibit), Agent> _there = new();

    /// <summary>A code for one connection; those given before for the same screen are void. Null while there are too many.</summary>
    public string? Issue(Guid sitting, PersonKey person, int exhibit)
    {
        var now = time.GetUtcNow();
        foreach (var (old, what) in _codes)
            if (what.Until < now || (what.Sitting == sitting && what.Exhibit == exhibit)) _codes.TryRemove(old, out _);
        if (_codes.Count >= MostCodes) return null;
        var code = SeatCookies.Random128();
        _codes[code] = (sitting, person, exhibit, now + CodeLasts);
        return code;
    }

    /// <summary>The socket of an agent, as long as it lasts.</summary>
    public async Task Serve(HttpContext http)
    {
        if (!http.WebSockets.IsWebSocketRequest || !Uses(http, out var what)
            || await grains.In<ISittingScreens>(what.Sitting).ScreenOf(what.Person) != what.Exhibit)
        {
            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            return;
        }
        using var socket = await http.WebSockets.AcceptWebSocketAsync(
            new WebSocketAcceptContext { KeepAliveInterval = TimeSpan.FromSeconds(5), KeepAliveTimeout = TimeSpan.FromSeconds(10) });
        using var ends = CancellationTokenSource.CreateLinkedTokenSource(http.RequestAborted);
        var agent = new Agent(ends);
        // A house that stops has it let go of everything, and does not wait for it.
        using var stops = life.ApplicationStopping.Register(agent.End);
        // The newest counts; the one before is told to let go, and goes.
        if (_there.TryGetValue((what.Sitting, what.Exhibit), out var older)) older.End();
        _there[(what.Sitting, what.Exhibit)] = agent;
        var grain = grains.GetGrain<ISittingGrain>(what.Sitting);
        try
        {
            agent.Say("""{"is":"hello","version":1}""");
            await grain.DoAsHouse(new NoteAgent(what.Exhibit, There: true));
            var says = agent.SendAll(socket);
            await Hear(socket, grain, what.Exhibit, agent, ends.Token);
            agent.End();
            await says;
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or IOException)
        {
            // It went without a goodbye.
        }
        finally
        {
            agent.End();
            if (_there.TryRemove(KeyValuePair.Create((what.Sitting, what.Exhibit), agent)))
                await grain.DoAsHouse(new NoteAgent(what.Exhibit, There: false));
        }
    }

    private bool Uses(HttpContext http, out (Guid Sitting, PersonKey Person, int Exhibit, DateTimeOffset Until) what)
    {
        what = default;
        const string bearer = "Bearer ";
        return http.Request.Headers.Authorization is [{ } header] && header.StartsWith(bearer, StringComparison.Ordinal)
            && _codes.TryRemove(header[bearer.Length..].Trim(), out what) && what.Until >= time.GetUtcNow();
    }

    /// <summary>An agent says one thing only: that whoever sits at the screen stops it.</summary>
    private static async Task Hear(WebSocket socket, ISittingGrain grain, int exhibit, Agent agent, CancellationToken cancel)
    {
        var buffer = new byte[LargestLine];
        while (socket.State == WebSocketState.Open)
        {
            var length = 0;
            ValueWebSocketReceiveResult piece;
            do
            {
                if (length == buffer.Length) return;
                piece = await socket.ReceiveAsync(buffer.AsMemory(length), cancel);
                length += piece.Count;
            }
            while (!piece.EndOfMessage);
            if (piece.MessageType == WebSocketMessageType.Close) return;
            if (IsStop(buffer.AsSpan(0, length)) && agent.TakesStop()) await grain.DoAsHouse(new StopLoan(exhibit));
        }
    }

    private static bool IsStop(ReadOnlySpan<byte> line)
    {
        try
        {
            var reader = new Utf8JsonReader(line);
            return JsonDocument.TryParseValue(ref reader, out var message)
                && message.RootElement.ValueKind == JsonValueKind.Object
                && message.RootElement.TryGetProperty("is", out var kind) && kind.ValueEquals("stop");
        }
        catch (JsonException)
        {
            return false;
        }
    }

    /// <summary>Who drives now; null to let everything go.</summary>
    /// <param name="line">The connection by which they drive.</param>
    public void Grant(Guid sitting, int exhibit, Seat? driver, string line)
    {
        if (_there.TryGetValue((sitting, exhibit), out var agent)) agent.Grant(driver, line);
    }

    public bool IsThere(Guid sitting, int exhibit) => _there.ContainsKey((sitting, exhibit));

    public void Pass(Guid sitting, int exhibit, ImmutableArray<DriveInput> inputs)
    {
        if (!_there.TryGetValue((sitting, exhibit), out var agent)) return;
        foreach (var input in inputs) agent.Say(input.ToLine());
    }

    /// <summary>The screen is open no more.</summary>
    public void End(Guid sitting, int exhibit)
    {
        if (_there.TryGetValue((sitting, exhibit), out var agent)) agent.End();
    }

    private sealed class Agent(CancellationTokenSource ends)
    {
        private static readonly TimeSpan _goodbye = TimeSpan.FromSeconds(2);

        /// <summary>An agent that does not read is cut off: what was pressed must not wait.</summary>
        private readonly Channel<string> _lines = Channel.CreateBounded<string>(MostWaiting);
        private (SeatId? Seat, string Line) _driver = (null, "");
        private long _stopped;

        public void Say(string line)
        {
            if (!_lines.Writer.TryWrite(line)) End();
        }

        /// <summary>Called by the sitting's grain alone, one after the other.</summary>
        public void Grant(Seat? driver, string line)
        {
            if (_driver == (driver?.Id, line)) return;
            _driver = (driver?.Id, line);
            Say(driver is null
                ? """{"is":"release"}"""
                : JsonSerializer.Serialize(new { @is = "grant", driver = driver.Name }, CoreJson.Options));
        }

        /// <summary>At most one in a second.</summary>
        public bool TakesStop()
        {
            var now = Environment.TickCount64;
            return now - Interlocked.Exchange(ref _stopped, now) > 1_000;
        }

        public void End()
        {
            _lines.Writer.TryComplete();
            try { ends.CancelAfter(_goodbye); }
            catch (ObjectDisposedException)
            {
                // It has just gone.
            }
        }

        public async Task SendAll(WebSocket socket)
        {
            try
            {
                await foreach (var line in _lines.Reader.ReadAllAsync(ends.Token))
                    await socket.SendAsync(Encoding.UTF8.GetBytes(line).AsMemory(), WebSocketMessageType.Text, true, ends.Token);
                await socket.SendAsync("""{"is":"release"}"""u8.ToArray(), WebSocketMessageType.Text, true, ends.Token);
                await socket.CloseOutputAsync(WebSocketCloseStatus.NormalClosure, "over", ends.Token);
            }
            catch (Exception e) when (e is WebSocketException or OperationCanceledException or IOException or ObjectDisposedException)
            {
                // It has gone.
            }
        }
    }
}
