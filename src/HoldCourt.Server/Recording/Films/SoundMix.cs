using Concentus;
using Concentus.Enums;

namespace HoldCourt.Server.Recording.Films;

/// <summary>
/// All voices of a recording as one: each packet is placed by its own time, since a muted microphone leaves gaps, and what lies between is
/// silence.
/// </summary>
internal static class SoundMix
{
    public const int Rate = 48_000, FrameMs = 20, Frame = Rate / 1_000 * FrameMs;

    private const int BitRate = 64_000;

    /// <summary>Above it, samples are bent rather than cut.</summary>
    private const float Soft = 0.8f;

    /// <returns>The loudest of each tenth of a second, 0 to 255.</returns>
    public static byte[] Write(string path, Timeline timeline, IReadOnlyList<TrackName> tracks, Func<SeatId, Instant, bool> isIn,
        Action<double> progress)
    {
        var sources = tracks.Where(track => track.Service is Service.Voice or Service.Sound).Select(track => new Source(track)).ToList();
        var peaks = new List<byte>();
        try
        {
            using var encoder = OpusCodecFactory.CreateEncoder(Rate, 1, OpusApplication.OPUS_APPLICATION_AUDIO);
            encoder.Bitrate = BitRate;
            using var writer = new WebmWriter(path, [WebmTrack.Sound()]);
            var (mix, packet) = (new float[Frame], new byte[1_500]);
            var (length, peak) = ((long)timeline.Length.TotalMilliseconds, 0f);
            for (long at = 0; at < length; at += FrameMs)
            {
                Array.Clear(mix);
                var moment = timeline.Moment(TimeSpan.FromMilliseconds(at))!.Value;
                foreach (var source in sources) source.AddTo(mix, moment, isIn(source.Seat, moment));
                for (var n = 0; n < Frame; n++)
                {
                    mix[n] = Bent(mix[n]);
                    peak = Math.Max(peak, Math.Abs(mix[n]));
                }
                if ((at + FrameMs) % 100 == 0)
                {
                    peaks.Add((byte)Math.Min(255, peak * 255));
                    peak = 0;
                }
                var size = encoder.Encode(mix, Frame, packet, packet.Length);
                writer.Write(1, at, packet.AsSpan(0, size), isKey: true);
                if (at % 10_000 == 0) progress((double)at / length);
            }
            writer.Finish();
        }
        finally
        {
            foreach (var source in sources) source.Dispose();
        }
        return [.. peaks];
    }

    private static float Bent(float sample)
    {
        var loud = Math.Abs(sample);
        return loud <= Soft ? sample : Math.Sign(sample) * (Soft + ((1 - Soft) * MathF.Tanh((loud - Soft) / (1 - Soft))));
    }

    /// <summary>One file of sound, decoded as it is needed.</summary>
    private sealed class Source : IDisposable
    {
        /// <summary>Packets that come so near to where the last one ended go on from there, in samples.</summary>
        private const long Near = Rate / 1_000 * 60;

        private const int Longest = Rate / 1_000 * 120;

        private readonly WebmReader _reader;
        private readonly IEnumerator<WebmBlock> _blocks;
        private readonly IOpusDecoder _decoder;
        private readonly int _channels;
        private readonly long _begins;
        private readonly Queue<float> _ready = new();
        private readonly float[] _pcm;
        private long _readyFrom;
        private bool _hasNext;

        public Source(TrackName track)
        {
            (Seat, _begins, _reader) = (track.Seat, track.Begins, new WebmReader(track.Path));
            _channels = _reader.Tracks[0].Channels;
            _decoder = OpusCodecFactory.CreateDecoder(Rate, _channels);
            _pcm = new float[Longest * _channels];
            _blocks = _reader.Blocks().GetEnumerator();
            _hasNext = _blocks.MoveNext();
        }

        public SeatId Seat { get; }

        /// <summary>Adds what is to be heard from a moment on, for the length of the mix.</summary>
        /// <param name="isHeard">Otherwise it only goes by.</param>
        public void AddTo(float[] mix, Instant moment, bool isHeard)
        {
            var from = moment.Milliseconds * (Rate / 1_000);
            // After a pause or a cut that is left out: what lies before is passed over.
            while (_hasNext && (_begins + _blocks.Current.At) * (Rate / 1_000) < from - Longest) _hasNext = _blocks.MoveNext();
            while (_hasNext && (_begins + _blocks.Current.At) * (Rate / 1_000) < from + mix.Length)
            {
                Decode(_blocks.Current);
                _hasNext = _blocks.MoveNext();
            }
            while (_ready.Count > 0 && _readyFrom < from)
            {
                _ready.Dequeue();
                _readyFrom++;
            }
            for (var n = (int)Math.Max(0, _readyFrom - from); n < mix.Length && _ready.Count > 0; n++, _readyFrom++)
            {
                var sample = _ready.Dequeue();
                if (isHeard) mix[n] += sample;
            }
        }

        private void Decode(in WebmBlock block)
        {
            // A packet of one byte says that nothing is said.
            if (block.Frame.Length <= 1) return;
            int samples;
            try { samples = _decoder.Decode(block.Frame, _pcm, Longest, false); }
            catch (OpusException) { return; }
            var at = (_begins + block.At) * (Rate / 1_000);
            var end = _readyFrom + _ready.Count;
            if (_ready.Count == 0 && Math.Abs(at - end) > Near) _readyFrom = at;
            else if (at - end > Near)
                for (var gap = at - end; gap > 0; gap--) _ready.Enqueue(0);
            for (var n = 0; n < samples; n++)
                _ready.Enqueue(_channels == 2 ? (_pcm[2 * n] + _pcm[(2 * n) + 1]) / 2 : _pcm[n]);
        }

        public void Dispose()
        {
            _blocks.Dispose();
            _reader.Dispose();
            _decoder.Dispose();
        }
    }
}
