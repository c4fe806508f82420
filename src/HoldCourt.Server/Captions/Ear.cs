using System.Threading.Channels;
using Concentus;

namespace HoldCourt.Server.Captions;

/// <summary>Gets the voices of a sitting that are to be turned into words.</summary>
internal interface IEar
{
    /// <param name="frame">A packet of Opus with its header; shared, and never changed. Never waits.</param>
    void Hear(SeatId seat, byte[] frame);

    /// <summary>The sitting is over.</summary>
    void End();
}

/// <summary>
/// Listens to the voices of one sitting, two at most at once, on a thread of its own that rests while nobody is listened to. What comes
/// faster than it can be listened to is let go: captions by a machine are no record.
/// </summary>
/// <param name="atOnce">How many sittings of this house are listened to at once; the voices of others are let go meanwhile.</param>
/// <param name="tell">Gets what somebody said, and how long ago it began, in milliseconds.</param>
internal sealed partial class Ear(
    IRecogniser recogniser, Places atOnce, Action<SeatId, string, int> tell, TimeProvider time, ILogger log) : IEar
{
    private const int MostVoices = 2, MostWaiting = 500;

    /// <summary>Whoever sends nothing for so long has fallen silent.</summary>
    private static readonly TimeSpan _silence = TimeSpan.FromMilliseconds(700);

    /// <summary>For so long the thread waits for more.</summary>
    private static readonly TimeSpan _rest = TimeSpan.FromSeconds(60);

    private readonly Channel<(SeatId Seat, byte[] Frame, long At)> _waiting =
        Channel.CreateBounded<(SeatId, byte[], long)>(new BoundedChannelOptions(MostWaiting)
        {
            SingleReader = true,
            FullMode = BoundedChannelFullMode.DropWrite
        });

    private readonly Dictionary<SeatId, Voice> _voices = [];
    private int _runs;
    private volatile bool _hasFailed, _isOver;

    public void Hear(SeatId seat, byte[] frame)
    {
        if (_hasFailed || _isOver) return;
        if (Interlocked.CompareExchange(ref _runs, 1, 0) == 0)
        {
            if (!atOnce.TryTake())
            {
                Interlocked.Exchange(ref _runs, 0);
                return;
            }
            new Thread(Listen) { IsBackground = true, Name = "captions" }.Start();
        }
        _waiting.Writer.TryWrite((seat, frame, time.GetTimestamp()));
    }

    public void End() => _isOver = true;

    private void Listen()
    {
        try
        {
            var last = time.GetTimestamp();
            while (!_isOver && time.GetElapsedTime(last) < _rest)
            {
                while (_waiting.Reader.TryRead(out var next))
                {
                    last = time.GetTimestamp();
                    Hear(next.Seat, next.Frame, next.At);
                }
                EndSilent();
                Thread.Sleep(50);
            }
        }
        catch (Exception e)
        {
            _hasFailed = true;
            LogFailed(e);
        }
        finally
        {
            foreach (var voice in _voices.Values) voice.Hearing.Dispose();
            _voices.Clear();
            atOnce.GiveBack();
            Interlocked.Exchange(ref _runs, 0);
        }
    }

    private void Hear(SeatId seat, byte[] frame, long at)
    {
        if (!_voices.TryGetValue(seat, out var voice))
        {
            if (_voices.Count >= MostVoices) return;
            _voices[seat] = voice = new Voice(recogniser.Begin());
        }
        voice.Last = at;
        var samples = voice.Decode(frame);
        if (samples.Length == 0) return;
        // What is said begins some time before the recogniser has told of it; silence before it counts for nothing.
        if (voice.Began is null && IsLoud(samples)) voice.Began = at;
        if (voice.Hearing.Take(samples) is { } words) Tell(seat, voice, words);
    }

    private static bool IsLoud(ReadOnlySpan<short> samples)
    {
        foreach (var sample in samples)
            if (sample is > Loud or < -Loud) return true;
        return false;
    }

    private const short Loud = 1_000;

    private void Tell(SeatId seat, Voice voice, string words)
    {
        var ago = voice.Began is { } began ? time.GetElapsedTime(began).TotalMilliseconds : 0;
        voice.Began = null;
        tell(seat, words, (int)Math.Clamp(ago, 0, CaptionLine.LongestAgo));
    }

    private void EndSilent()
    {
        foreach (var (seat, voice) in _voices.Where(pair => time.GetElapsedTime(pair.Value.Last) > _silence).ToList())
        {
            if (voice.Hearing.End() is { } words) Tell(seat, voice, words);
            _voices.Remove(seat);
            voice.Hearing.Dispose();
        }
    }

    [LoggerMessage(LogLevel.Error, "Captions by machine have stopped")]
    private partial void LogFailed(Exception e);

    private sealed class Voice(IHearing hearing)
    {
        private readonly IOpusDecoder _decoder = OpusCodecFactory.CreateDecoder(IHearing.Rate, 1);

        /// <summary>The longest packet that there can be, 120 ms.</summary>
        private readonly short[] _samples = new short[IHearing.Rate / 1_000 * 120];

        public IHearing Hearing => hearing;
        public long Last { get; set; }
        public long? Began { get; set; }

        /// <returns>Nothing for what is no packet of Opus, or says that nothing was sent.</returns>
        public ReadOnlySpan<short> Decode(byte[] frame)
        {
            var packet = frame.AsSpan(FrameHeader.Size);
            if (packet.Length <= 1) return [];
            try { return _samples.AsSpan(0, _decoder.Decode(packet, _samples, _samples.Length, false)); }
            catch (Exception)
            {
                // A sender chooses what it sends, and must not end what is written of the others.
                return [];
            }
        }
    }
}
