using System.Collections.Concurrent;
using System.Threading.Channels;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Media;

namespace HoldCourt.Server.Recording;

/// <summary>
/// Writes down what the relay passes on, as it came. The relay's threads only put frames into a queue; one task writes. What is written
/// can be read up to the last second whatever happens to the process.
/// </summary>
internal sealed partial class Tap : ITap, IAsyncDisposable
{
    /// <summary>Pictures that wait to be written, in bytes: beyond it they are dropped up to the next key frame.</summary>
    private const long MostWaiting = 64_000_000;

    /// <summary>With so many bytes free on a disk that was full, it goes on.</summary>
    private const long RoomToGoOn = 8_000_000;

    private static readonly TimeSpan _beat = TimeSpan.FromMilliseconds(200), _betweenSyncs = TimeSpan.FromSeconds(5);

    private readonly RecordingFolder _folder;
    private readonly TimeProvider _time;
    private readonly ILogger _log;
    private readonly Channel<Act> _acts = Channel.CreateUnbounded<Act>(new UnboundedChannelOptions { SingleReader = true });
    private readonly ConcurrentDictionary<ushort, bool> _awaiting = new();
    private readonly Task _writing;
    private long _waiting, _standsSince, _gap;
    private Instant _writtenUntil;
    private volatile bool _hasFailed;

    public Tap(RecordingFolder folder, TimeProvider time, ILogger log)
    {
        (_folder, _time, _log) = (folder, time, log);
        // A thread of its own: the pool's may be busy for longer than a second.
        _writing = Task.Factory.StartNew(Write, CancellationToken.None, TaskCreationOptions.LongRunning, TaskScheduler.Default);
    }

    /// <summary>Nobody's.</summary>
    public SeatId Seat => default;

    public long Capacity => 200_000_000;
    public bool IsSlow => false;
    public bool HasFailed => _hasFailed;

    /// <summary>What is to be done by the task that writes.</summary>
    private abstract record Act;

    private sealed record Frame(SeatId Seat, Track Track, byte[] Bytes, bool IsKey, Instant At) : Act;

    private sealed record Speech(Spoken Spoken) : Act;

    private sealed record Erase(SeatId Seat, TaskCompletionSource Done) : Act;

    public void Say(ToBrowser message) { }

    public void Say(byte[] text) { }

    public bool Take(Track track, byte[] frame, bool isKey)
    {
        if (_hasFailed) return true;
        var isPicture = track.What.Service is Service.Camera or Service.Screen;
        if (isPicture)
        {
            if (isKey) _awaiting.TryRemove(track.Id, out _);
            else if (_awaiting.ContainsKey(track.Id)) return true;
            if (Interlocked.Read(ref _waiting) > MostWaiting)
            {
                _awaiting[track.Id] = true;
                return false;
            }
        }
        Interlocked.Add(ref _waiting, frame.Length);
        _acts.Writer.TryWrite(new Frame(track.Owner, track, frame, isKey, Now));
        return true;
    }

    public void Speaks(SeatId? seat) => _acts.Writer.TryWrite(new Speech(new Spoken(Now, seat?.Number ?? 0)));

    public void AwaitKey(ushort track) => _awaiting[track] = true;

    public void Forget(IReadOnlyCollection<ushort> tracks)
    {
        foreach (var track in tracks) _awaiting.TryRemove(track, out _);
    }

    public void Flush() { }

    public bool Mark() => false;

    /// <summary>What waits is still written, and the files are ended.</summary>
    public void End() => _acts.Writer.TryComplete();

    /// <summary>Takes what was written of somebody away, and what waits to be.</summary>
    public Task Forget(SeatId seat)
    {
        var done = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        if (_acts.Writer.TryWrite(new Erase(seat, done))) return done.Task;
        return _writing;
    }

    public async ValueTask DisposeAsync()
    {
        End();
        await _writing;
    }

    private Instant Now => new(_time.GetUtcNow().ToUnixTimeMilliseconds());

    private void Write()
    {
        var files = new Dictionary<(SeatId Seat, Service Service), TrackFile>();
        try
        {
            Directory.CreateDirectory(_folder.Tracks);
            var synced = _time.GetTimestamp();
            while (true)
            {
                var isOver = _acts.Reader.Completion.IsCompleted;
                var syncs = _time.GetElapsedTime(synced) > _betweenSyncs;
                if (syncs) synced = _time.GetTimestamp();
                try
                {
                    if (Stands) LetGo();
                    else WriteWhatWaits(files, syncs);
                }
                catch (IOException e) when (DiskRoom.IsFull(e)) { StandStill(files, e); }
                if (isOver) break;
                Thread.Sleep(_beat);
                if (Stands && HasRoom) GoOn();
            }
            // On a full disk it stays without its end, as after a kill, and is mended when it is read.
            try
            {
                foreach (var file in files.Values) file.Finish();
            }
            catch (IOException e) when (DiskRoom.IsFull(e)) { LogUnfinished(e, _folder.Path); }
        }
        catch (Exception e)
        {
            // Whatever it was: nothing is put into a queue that nobody reads.
            _hasFailed = true;
            LogFailed(e, _folder.Path);
            _acts.Writer.TryComplete();
            while (_acts.Reader.TryRead(out var act))
                if (act is Erase erase) erase.Done.TrySetException(e);
        }
        finally
        {
            foreach (var file in files.Values) file.Dispose();
        }
    }

    private void WriteWhatWaits(Dictionary<(SeatId Seat, Service Service), TrackFile> files, bool syncs)
    {
        var spoken = new List<Spoken>();
        while (_acts.Reader.TryRead(out var act))
            switch (act)
            {
                case Frame frame:
                    Interlocked.Add(ref _waiting, -frame.Bytes.Length);
                    Put(files, frame);
                    break;
                case Speech speech:
                    spoken.Add(speech.Spoken);
                    break;
                case Erase erase:
                    foreach (var file in files.Where(pair => pair.Key.Seat == erase.Seat).Select(pair => pair.Value)) file.Delete();
                    Forget(erase);
                    break;
            }
        if (spoken.Count > 0) _folder.Note(spoken);
        foreach (var file in files.Values) file.Flush(syncs);
        _folder.KeepAlive(Now);
        _writtenUntil = Now;
    }

    private void Forget(Erase erase)
    {
        foreach (var track in _folder.AllTracks().Where(track => track.Seat == erase.Seat)) File.Delete(track.Path);
        erase.Done.SetResult();
    }

    private bool Stands => Interlocked.Read(ref _standsSince) != 0;

    private bool HasRoom
    {
        get
        {
            try { return new DriveInfo(_folder.Path).AvailableFreeSpace >= RoomToGoOn; }
            catch (Exception e) when (e is IOException or ArgumentException or UnauthorizedAccessException) { return false; }
        }
    }

    /// <summary>The disk is full: what was written stays as it is, and begins anew, in files of its own, when there is room.</summary>
    private void StandStill(Dictionary<(SeatId Seat, Service Service), TrackFile> files, IOException why)
    {
        LogStands(why, _folder.Path);
        foreach (var file in files.Values) file.Dispose();
        files.Clear();
        Interlocked.Exchange(ref _standsSince, _writtenUntil is { Milliseconds: > 0 } until ? until.Milliseconds : Now.Milliseconds);
        LetGo();
    }

    /// <summary>Nothing gathers meanwhile; what is to be forgotten is.</summary>
    private void LetGo()
    {
        while (_acts.Reader.TryRead(out var act))
            if (act is Frame frame) Interlocked.Add(ref _waiting, -frame.Bytes.Length);
            else if (act is Erase erase) Forget(erase);
    }

    private void GoOn()
    {
        Interlocked.Exchange(ref _gap, Interlocked.Exchange(ref _standsSince, 0));
        LogGoesOn(_folder.Path);
    }

    public Instant? StandsSince => Interlocked.Read(ref _standsSince) is > 0 and var since ? new Instant(since) : null;

    public Instant? TakeGap() => Interlocked.Exchange(ref _gap, 0) is > 0 and var from ? new Instant(from) : null;

    private void Put(Dictionary<(SeatId, Service), TrackFile> files, Frame frame)
    {
        var what = frame.Track.What;
        if (Codecs.InWebm(what.Codec) is not { } codec) return;
        var key = (frame.Seat, what.Service);
        if (files.TryGetValue(key, out var file) && file.Codec != codec)
        {
            file.Finish();
            file.Dispose();
            file = null;
        }
        file ??= files[key] = new TrackFile(_folder, frame.Seat, what.Service, codec);
        if (!FrameHeader.TryRead(frame.Bytes, out var header)) return;
        if (!file.Write(frame.Track.Id, frame.At.Milliseconds, header.CaptureTime / 1000.0, frame.Bytes.AsSpan(FrameHeader.Size),
            frame.IsKey))
            frame.Track.AskForKey();
    }

    [LoggerMessage(LogLevel.Error, "The recording in {Folder} can be written no more")]
    private partial void LogFailed(Exception e, string folder);

    [LoggerMessage(LogLevel.Warning, "The disk is full: the recording in {Folder} is left without its end")]
    private partial void LogUnfinished(Exception e, string folder);

    [LoggerMessage(LogLevel.Error, "The disk is full: the recording in {Folder} stands still")]
    private partial void LogStands(Exception e, string folder);

    [LoggerMessage(LogLevel.Information, "The recording in {Folder} goes on")]
    private partial void LogGoesOn(string folder);
}
