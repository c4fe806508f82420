using System.Buffers.Binary;
using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Net.WebSockets;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Media;
using HoldCourt.Server.Sittings;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;

namespace HoldCourt.Bench.Soak;

/// <summary>How a wish ended, as whoever made it knows.</summary>
internal enum Outcome { Done, Refused, Unknown }

/// <summary>
/// A browser without a page: a live line and a media socket that are taken up again whenever they end, and wishes that are made again
/// with the same id while their answer is lost.
/// </summary>
internal sealed class SoakPerson(SoakSitting sitting, int number, Uri server, CourtAddress? address = null)
{
    /// <summary>What a voice carries: the sitting, the person, their place, whether the bench has it silent, and when it was said.
    /// </summary>
    private const int VoiceBytes = 24;

    /// <summary>So long, in ms, whoever was silenced goes on sending as nobody should, before they may speak again.</summary>
    public const int SilentFor = 8_000;

    private readonly CancellationTokenSource _over = new();
    private readonly SemaphoreSlim _sends = new(1);
    private readonly ConcurrentDictionary<int, long> _heard = new();
    private HubConnection? _line;
    private ClientWebSocket? _media;
    private int _track = -1;
    private uint _sequence;

    public CourtAddress Address { get; } = address ?? new(server);
    public SoakSitting Sitting => sitting;
    public int Number => number;
    public string Name => number == 0 ? "Host" : $"Person {number}";
    public SeatId Seat { get; private set; }

    /// <summary>0 in the hall, one more than a room's number in it, -1 where nothing may be heard.</summary>
    public int Place { get; private set; } = -1;

    /// <summary>When the place became another one, in ms since 1970.</summary>
    public ConcurrentQueue<long> Moves { get; } = new();

    /// <summary>Since when the bench has it silent, as acknowledged; null while it may speak.</summary>
    public long? SilentSince { get; set; }

    /// <summary>Reads nothing from the media socket while it is set.</summary>
    public bool Dawdles { get; set; }

    /// <summary>Voices in a second; 0 for somebody who is quiet.</summary>
    public int Pace { get; set; }

    /// <summary>The poll that is open, if one is.</summary>
    public int? Ballot { get; private set; }

    public ImmutableArray<HandoutRow> Handouts { get; private set; } = [];
    public bool HasMicrophone { get; private set; }
    public bool IsConnected => _line?.State == HubConnectionState.Connected;
    public bool IsIn => IsConnected && Place >= 0;

    /// <summary>Why it could not come the last time.</summary>
    public string? Trouble { get; private set; }

    public static long Now => DateTimeOffset.UtcNow.ToUnixTimeMilliseconds();

    /// <summary>How many voices of somebody came here.</summary>
    public long HeardOf(int person) => _heard.GetValueOrDefault(person);

    public long Said { get; private set; }

    public void Stop() => _over.Cancel();

    /// <summary>The line and the socket end as when a cable is pulled.</summary>
    public async Task Cut()
    {
        _media?.Abort();
        if (_line is { } line) await line.DisposeAsync();
    }

    /// <summary>Comes to the door, and keeps coming back until it is over.</summary>
    public async Task Live()
    {
        while (!_over.IsCancellationRequested)
        {
            try { await Come(); }
            catch (Exception e) { Trouble = e.Message; }
            if (!_over.IsCancellationRequested) await Task.Delay(Random.Shared.Next(500, 2_000));
        }
    }

    private async Task Come()
    {
        await Address.Warm();
        if (number > 0) await Address.Post<Announcement>($"/api/door/{sitting.Link}/announce", new AnnounceWish(Name));
        var ended = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        var line = Crowd.Build(new Uri(server, $"/live?sitting={sitting.Id}"), Address);
        line.On<Joined>("Joined", joined => Take(joined.Me));
        line.On<MeRow>("Me", Take);
        line.On("Rejoin", () => ended.TrySetResult());
        line.On("NoSeat", () => ended.TrySetResult());
        line.Closed += _ => { ended.TrySetResult(); return Task.CompletedTask; };
        await line.StartAsync(_over.Token);
        _line = line;
        try
        {
            using var stop = CancellationTokenSource.CreateLinkedTokenSource(_over.Token);
            var media = Media(line, ended.Task, stop.Token);
            await Task.WhenAny(ended.Task, Task.Delay(Timeout.Infinite, _over.Token));
            await stop.CancelAsync();
            await media;
        }
        finally { await line.DisposeAsync(); }

        void Take(MeRow me)
        {
            Seat = me.Seat;
            var place = me.Place != Core.Sittings.Place.Seated ? -1 : me.Room is { } room ? room + 1 : 0;
            if (place != Place) Moves.Enqueue(Now);
            Place = place;
            (Ballot, Handouts) = (me.Ballot?.Poll, me.Handouts);
            HasMicrophone = me.Microphone == MicrophoneState.Open;
            // Gone: the page would lead back to the door.
            if (me.Place == Core.Sittings.Place.Gone) ended.TrySetResult();
        }
    }

    /// <summary>Takes up the media socket again and again while the line is there.</summary>
    private async Task Media(HubConnection line, Task ended, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested && !ended.IsCompleted)
        {
            try
            {
                if (Place >= 0 && await line.InvokeAsync<string?>("MediaTicket", stop) is { } ticket)
                {
                    using var socket = new ClientWebSocket();
                    await socket.ConnectAsync(new Uri($"ws://{server.Authority}/media?ticket={Uri.EscapeDataString(ticket)}"), stop);
                    (_track, _media) = (-1, socket);
                    await Write(socket, JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(
                        new Describe([new TrackDescription("microphone", Service.Voice, Layer.None, "opus")]), CoreJson.Options), stop);
                    using var speaking = CancellationTokenSource.CreateLinkedTokenSource(stop);
                    var speaks = Speak(socket, speaking.Token);
                    try { await Hear(socket, stop); }
                    finally
                    {
                        await speaking.CancelAsync();
                        await speaks;
                    }
                }
            }
            catch (Exception e) when (IsOfTheWay(e)) { /* It is taken up again. */ }
            if (!stop.IsCancellationRequested) await Task.Delay(Random.Shared.Next(500, 1_500), CancellationToken.None);
        }
    }

    private static bool IsOfTheWay(Exception e) =>
        e is WebSocketException or OperationCanceledException or InvalidOperationException or HubException or IOException;

    private async Task Write(ClientWebSocket socket, byte[] bytes, CancellationToken stop,
        WebSocketMessageType type = WebSocketMessageType.Text)
    {
        await _sends.WaitAsync(stop);
        try { await socket.SendAsync(bytes, type, true, stop); }
        finally { _sends.Release(); }
    }

    private async Task Speak(ClientWebSocket socket, CancellationToken stop)
    {
        var (clock, due) = (Environment.TickCount64, 0L);
        using var timer = new PeriodicTimer(TimeSpan.FromMilliseconds(20));
        try
        {
            while (await timer.WaitForNextTickAsync(stop))
                for (; due < (Environment.TickCount64 - clock) * Pace / 1_000; due++)
                {
                    // Who stood still does not say all of it at once.
                    if (_track < 0 || due < ((Environment.TickCount64 - clock) * Pace / 1_000) - 10) continue;
                    var frame = new byte[FrameHeader.Size + VoiceBytes];
                    new FrameHeader(frame.Length, Service.Voice, FrameMarks.None, (ushort)_track, _sequence, 25, 0, 200,
                        _sequence++ * 20_000UL).Write(frame);
                    var said = frame.AsSpan(FrameHeader.Size);
                    BinaryPrimitives.WriteInt32LittleEndian(said, sitting.Number);
                    BinaryPrimitives.WriteInt32LittleEndian(said[4..], number);
                    BinaryPrimitives.WriteInt32LittleEndian(said[8..], Place);
                    var isSilent = SilentSince is { } since && Now - since is > 1_000 and < SilentFor - 1_000;
                    BinaryPrimitives.WriteInt32LittleEndian(said[12..], isSilent ? 1 : 0);
                    BinaryPrimitives.WriteInt64LittleEndian(said[16..], Now);
                    await Write(socket, frame, stop, WebSocketMessageType.Binary);
                    Said++;
                }
        }
        catch (Exception e) when (e is WebSocketException or OperationCanceledException or ObjectDisposedException) { /* It has ended. */ }
    }

    private async Task Hear(ClientWebSocket socket, CancellationToken stop)
    {
        var buffer = new byte[1 << 18];
        while (socket.State == WebSocketState.Open)
        {
            while (Dawdles) await Task.Delay(100, stop);
            var length = 0;
            ValueWebSocketReceiveResult part;
            do
            {
                part = await socket.ReceiveAsync(buffer.AsMemory(length), stop);
                length += part.Count;
            }
            while (!part.EndOfMessage);
            if (part.MessageType == WebSocketMessageType.Close) return;
            if (part.MessageType == WebSocketMessageType.Binary)
                for (var at = 0; FrameHeader.TryRead(buffer.AsSpan(at, length - at), out var header); at += header.Length)
                {
                    if (header.Service == Service.Voice && header.Length == FrameHeader.Size + VoiceBytes)
                        Note(buffer.AsSpan(at + FrameHeader.Size, VoiceBytes));
                }
            else if (JsonSerializer.Deserialize<ToBrowser>(buffer.AsSpan(0, length), CoreJson.Options) is var said)
            {
                if (said is Numbered { Tracks: [var own, ..] }) _track = own;
                else if (said is Marked marked)
                    await Write(socket, JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(new Echo(marked.Mark), CoreJson.Options), stop);
            }
        }
    }

    private void Note(ReadOnlySpan<byte> said)
    {
        var (of, who) = (BinaryPrimitives.ReadInt32LittleEndian(said), BinaryPrimitives.ReadInt32LittleEndian(said[4..]));
        var (place, silent) = (BinaryPrimitives.ReadInt32LittleEndian(said[8..]), BinaryPrimitives.ReadInt32LittleEndian(said[12..]) == 1);
        _heard.AddOrUpdate(who, 1, (_, count) => count + 1);
        if (of != sitting.Number || place != Place || silent)
            sitting.Oracle.Suspect(new OddVoice(
                of, who, place, silent, Said: BinaryPrimitives.ReadInt64LittleEndian(said[16..]), Hearer: this, At: Place, Heard: Now));
    }

    /// <summary>Makes a wish, and makes it again with the same id until it is answered or half a minute is over.</summary>
    public async Task<Outcome> Wish(SeatCommand command)
    {
        var (id, until, asked) = (Guid.NewGuid().ToString("N"), Now + 30_000, false);
        while (Now < until && !_over.IsCancellationRequested)
        {
            if (_line is { State: HubConnectionState.Connected } line)
                try
                {
                    asked = true;
                    using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(12));
                    var refusal = await line.InvokeAsync<Refusal?>(
                        "Do", JsonSerializer.SerializeToElement(command, CoreJson.Options), id, patience.Token);
                    if (refusal is null) return Outcome.Done;
                    sitting.Oracle.Refused(refusal);
                    // A line that another one of the same person has replaced says nothing of the wish.
                    if (refusal.Reason != Reason.Superseded && refusal.Reason != Reason.NoSuchSeat) return Outcome.Refused;
                }
                catch (Exception e) when (IsOfTheWay(e)) { /* Lost; once more, with the same id. */ }
            await Task.Delay(300);
        }
        return asked ? Outcome.Unknown : Outcome.Refused;
    }
}
