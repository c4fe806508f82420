using System.Net;
using System.Net.Sockets;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Lending;
using HoldCourt.Server.Media;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Signs;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Tests;

/// <summary>A live connection that keeps its view as a browser does.</summary>
public sealed class Live : IAsyncDisposable
{
    private readonly HubConnection _hub;
    private readonly Uri _address;
    private readonly TaskCompletionSource _answered = new();

    private Live(HubConnection hub, Uri address)
    {
        (_hub, _address) = (hub, address);
        hub.On<Joined>("Joined", joined =>
        {
            Whole(joined.View);
            Me = joined.Me;
            lock (this)
            {
                Messages.AddRange(joined.Chat.Rows);
                Captions.AddRange(joined.Captions);
            }
            _answered.TrySetResult();
        });
        hub.On<IReadOnlyList<CaptionRow>>("Captions", rows => { lock (this) Captions.AddRange(rows); });
        hub.On<IReadOnlyList<MessageRow>>("Messages", rows => { lock (this) Messages.AddRange(rows); });
        hub.On<IReadOnlyList<SignRow>>("Signs", rows => { lock (this) Signs.AddRange(rows); });
        hub.On<WholeView>("Whole", Whole);
        hub.On<ViewChange>("Change", Apply);
        hub.On<MeRow>("Me", me => Me = me);
        hub.On<OutlookRow>("Outlook", outlook => Outlook = outlook);
        hub.On<TroubleRow>("Trouble", trouble => (Trouble, Slow) = (trouble, trouble.Slow));
        hub.On<MarkActRow>("Mark", act => { lock (this) Acts.Add(act); });
        hub.On<IReadOnlyList<StrokeRow>>("Strokes", rows => { lock (this) Strokes.AddRange(rows); });
        hub.On("Superseded", () => Superseded = true);
        hub.On("Rejoin", () => _ = Again());
        hub.On("NoSeat", () => { NoSeat = true; _answered.TrySetResult(); });
    }

    public MeRow? Me { get; private set; }
    public SittingRow? Sitting { get; private set; }
    public Dictionary<SeatId, SeatRow> Seats { get; private set; } = [];
    public OutlookRow? Outlook { get; private set; }
    /// <summary>All that came, changed messages again.</summary>
    public List<MessageRow> Messages { get; } = [];
    public List<SignRow> Signs { get; } = [];
    /// <summary>All lines that came, corrected ones again.</summary>
    public List<CaptionRow> Captions { get; } = [];
    /// <summary>What was done to marks, as it came.</summary>
    public TroubleRow? Trouble { get; private set; }
    public List<MarkActRow> Acts { get; } = [];
    public List<StrokeRow> Strokes { get; } = [];
    /// <summary>Whose connections are slow, as the bench is told.</summary>
    public IReadOnlyList<SeatId> Slow { get; private set; } = [];
    public bool Superseded { get; private set; }
    public bool NoSeat { get; private set; }
    public bool IsClosed => _hub.State == HubConnectionState.Disconnected;
    public bool Missed { get; private set; }
    public long Version { get; private set; }

    public static async Task<Live> Join(Uri address, CookieContainer cookies, Guid sitting)
    {
        var hub = new HubConnectionBuilder()
            .WithUrl(new Uri(address, $"/live?sitting={sitting}"), options => options.Cookies = cookies)
            .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions))
            .Build();
        var live = new Live(hub, address);
        await hub.StartAsync();
        await live._answered.Task.WaitAsync(TimeSpan.FromSeconds(10));
        return live;
    }

    /// <summary>Takes the line up anew, as the page does when it is told to.</summary>
    public async Task Again()
    {
        await _hub.StopAsync();
        await _hub.StartAsync();
    }

    private void Whole(WholeView view)
    {
        lock (this) (Sitting, Seats, Version) = (view.Sitting, view.Seats.ToDictionary(row => row.Id), view.V);
    }

    private void Apply(ViewChange change)
    {
        lock (this)
        {
            if (change.V <= Version) return;
            if (change.From > Version) Missed = true;
            (Seats, Sitting, Version) = (Seats.With(change), Sitting?.With(change.Set), change.V);
        }
    }

    /// <param name="id">The wish's own id, as a browser gives one.</param>
    public Task<Refusal?> Do(SeatCommand command, string? id = null) =>
        Send(JsonSerializer.SerializeToElement(command, CoreJson.Options), id);

    public Task<Refusal?> Send(object? raw, string? id = null) => _hub.InvokeAsync<Refusal?>("Do", raw, id);

    public Task<T> Ask<T>(string question, params object?[] about) => _hub.InvokeCoreAsync<T>(question, about);

    public Task<Refusal?> Mark(int exhibit, MarkWish wish) =>
        _hub.InvokeAsync<Refusal?>("Mark", exhibit, JsonSerializer.SerializeToElement(wish, CoreJson.Options));

    public Task Drive(int exhibit, params DriveInput[] inputs) => _hub.InvokeAsync("Drive", exhibit, inputs);

    public Task Stroke(StrokeWish stroke) => _hub.InvokeAsync("Stroke", stroke);

    public async Task Done(SeatCommand command) => (await Do(command)).ShouldBeNull(command.ToString());

    public SeatId SeatOf(string name) => Seats.Values.Single(row => row.Name == name).Id;

    public async Task<Media> Media(bool smallBuffer = false) =>
        await Tests.Media.Open(_address, (await _hub.InvokeAsync<string?>("MediaTicket"))!, smallBuffer);

    public async ValueTask DisposeAsync() => await _hub.DisposeAsync();
}

/// <summary>The tracks of a browser.</summary>
public enum Kind { Audio, Full, Thumb }

/// <summary>Their numbers.</summary>
public sealed record OwnTracks(int Audio, int Full, int Thumb);

/// <summary>A media socket.</summary>
public sealed class Media : IDisposable
{
    private readonly ClientWebSocket _socket = new();
    private readonly List<(FrameHeader Header, byte[] Data, Kind Kind)> _frames = [];
    private readonly Dictionary<int, Kind> _introduced = [];
    private readonly List<ToBrowser> _messages = [];
    private readonly SemaphoreSlim _reads = new(1), _sends = new(1);
    private uint _sequence;

    public WebSocketCloseStatus? Closed { get; private set; }
    public OwnTracks Own { get; private set; } = new(0, 0, 0);

    public static TrackDescription[] Tracks { get; } =
        [new("microphone", Service.Voice, Layer.None, "opus"), new("camera", Service.Camera, Layer.Full, "vp8"),
            new("camera", Service.Camera, Layer.Thumb, "vp8")];

    /// <param name="smallBuffer">The kernel keeps little for it, so that a pause is felt soon at the other side.</param>
    public static async Task<Media> Open(Uri address, string ticket, bool smallBuffer = false)
    {
        var media = new Media();
        using var way = new HttpMessageInvoker(new SocketsHttpHandler
        {
            ConnectCallback = async (context, cancel) =>
            {
                var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
                if (smallBuffer) socket.ReceiveBufferSize = 16 * 1024;
                await socket.ConnectAsync(context.DnsEndPoint, cancel);
                return new NetworkStream(socket, ownsSocket: true);
            }
        });
        await media._socket.ConnectAsync(new Uri($"ws://{address.Authority}/media?ticket={Uri.EscapeDataString(ticket)}"), way,
            CancellationToken.None);
        _ = media.Read();
        await media.Describes(Tracks);
        await Eventually.Holds(() => media.Messages<Numbered>().Count > 0);
        media.Own = media.Messages<Numbered>()[0].Tracks is [var audio, var full, var thumb]
            ? new OwnTracks(audio, full, thumb)
            : throw new InvalidOperationException("Other tracks.");
        return media;
    }

    public List<T> Messages<T>() { lock (_frames) return [.. _messages.OfType<T>()]; }

    public int Frames(Kind kind) => Sequences(kind).Count;

    public List<FrameHeader> Sequences(Kind kind) { lock (_frames) return [.. Of(kind).Select(frame => frame.Header)]; }

    private IEnumerable<(FrameHeader Header, byte[] Data)> Of(Kind kind) =>
        _frames.Where(frame => frame.Kind == kind).Select(frame => (frame.Header, frame.Data));

    /// <summary>What the browser was told last is needed of its own tracks.</summary>
    public IReadOnlyList<Kind> Wanted => Messages<HoldCourt.Server.Media.Wanted>() is [.., var last]
        ? [.. Enum.GetValues<Kind>().Where(kind => last.Tracks.Contains(NumberOf(kind)))]
        : [];

    private int NumberOf(Kind kind) => kind switch { Kind.Audio => Own.Audio, Kind.Full => Own.Full, _ => Own.Thumb };

    /// <summary>Reads nothing more until told.</summary>
    public void Pause() => _reads.Wait();

    public void Resume() => _reads.Release();

    public List<byte[]> Data(Kind kind) { lock (_frames) return [.. Of(kind).Select(frame => frame.Data)]; }

    public byte[] LastData() { lock (_frames) return _frames[^1].Data; }

    public async Task Send(Kind kind, int track, byte[] data, bool key = false, byte level = 20)
    {
        var frame = new byte[FrameHeader.Size + data.Length];
        new FrameHeader(frame.Length, kind == Kind.Audio
            ? Service.Voice
            : Service.Camera, key ? FrameMarks.Key : FrameMarks.None, (ushort)track, _sequence++, level, 0, 200, _sequence * 20_000)
            .Write(frame);
        data.CopyTo(frame, FrameHeader.Size);
        await SendRaw(frame);
    }

    public Task Speak() => Send(Kind.Audio, Own.Audio, [1, 2, 3]);

    public Task SendRaw(byte[] bytes) => Send(bytes, WebSocketMessageType.Binary);

    public Task Say(string text) => Send(Encoding.UTF8.GetBytes(text), WebSocketMessageType.Text);

    private async Task Send(byte[] bytes, WebSocketMessageType type)
    {
        await _sends.WaitAsync();
        try { await _socket.SendAsync(bytes, type, true, CancellationToken.None); }
        finally { _sends.Release(); }
    }

    public Task Describes(params TrackDescription[] tracks) =>
        Say(JsonSerializer.Serialize<FromBrowser>(new Describe(tracks), CoreJson.Options));

    public Task Wishes(params (SeatId Seat, int Height)[] pictures) => Say(JsonSerializer.Serialize<FromBrowser>(
        new Show([.. pictures.Select(picture => new WishedPicture(picture.Seat, picture.Height))]), CoreJson.Options));

    private async Task Read()
    {
        var buffer = new byte[1 << 20];
        try
        {
            while (true)
            {
                await _reads.WaitAsync();
                _reads.Release();
                var length = 0;
                ValueWebSocketReceiveResult part;
                do
                {
                    part = await _socket.ReceiveAsync(buffer.AsMemory(length), CancellationToken.None);
                    length += part.Count;
                }
                while (!part.EndOfMessage);
                if (part.MessageType == WebSocketMessageType.Close) break;
                int? mark;
                lock (_frames) mark = Take(part.MessageType, buffer.AsSpan(0, length));
                if (mark is { } number) await Say(JsonSerializer.Serialize<FromBrowser>(new Echo(number), CoreJson.Options));
            }
        }
        catch (Exception e) when (e is WebSocketException or InvalidOperationException)
        {
            // Cut off; the status below tells.
        }
        Closed = _socket.CloseStatus ?? WebSocketCloseStatus.Empty;
    }

    /// <returns>A mark that has to be answered, as browsers do.</returns>
    private int? Take(WebSocketMessageType type, Span<byte> message)
    {
        if (type == WebSocketMessageType.Text)
        {
            _messages.Add(JsonSerializer.Deserialize<ToBrowser>(message, CoreJson.Options)!);
            if (_messages[^1] is Introduced { What: var what } introduced)
                _introduced[introduced.Track] = what.Layer switch { Layer.Full => Kind.Full, Layer.Thumb => Kind.Thumb, _ => Kind.Audio };
            return (_messages[^1] as Marked)?.Mark;
        }
        for (; FrameHeader.TryRead(message, out var header); message = message[header.Length..])
            _frames.Add((header, message[FrameHeader.Size..header.Length].ToArray(), _introduced[header.Track]));
        return null;
    }

    public void Dispose()
    {
        _socket.Dispose();
        _reads.Dispose();
        _sends.Dispose();
    }
}

internal static class Eventually
{
    /// <summary>Tries until nothing is thrown any more.</summary>
    public static async Task Succeeds(Func<Task> act, int seconds = 10)
    {
        for (var end = DateTime.UtcNow.AddSeconds(seconds); ; await Task.Delay(50))
        {
            try
            {
                await act();
                return;
            }
            catch (Exception) when (DateTime.UtcNow < end)
            {
                // Not yet.
            }
        }
    }

    public static async Task Holds(Func<bool> condition, int seconds = 10, string? why = null)
    {
        for (var end = DateTime.UtcNow.AddSeconds(seconds); DateTime.UtcNow < end; await Task.Delay(20))
            if (condition()) return;
        condition().ShouldBeTrue(why);
    }
}
