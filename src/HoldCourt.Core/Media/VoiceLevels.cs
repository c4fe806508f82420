namespace HoldCourt.Core.Media;

/// <summary>
/// Who speaks, from the level in each audio frame. Loudness is smoothed over a medium and a long span, so
/// that a cough does not win and a pause does not lose; a new speaker must be clearly louder for a moment. After
/// I. Volfin and I. Cohen, "Dominant speaker identification for multipoint videoconferencing", Computer Speech and
/// Language 27 (2013), with exponential averages in place of sub-band counts.
/// </summary>
public sealed class VoiceLevels
{
    /// <summary>Most voices forwarded to one listener.</summary>
    public const int MostForwarded = 4;

    private const double MediumMs = 400, LongMs = 1_500;
    private const double Margin = 1.25;
    private const double SpeechFloor = 12;
    private const long HangOverMs = 300, ChallengeMs = 240, PauseMs = 1_200, ForgottenMs = 3_000;

    private readonly Dictionary<SeatId, Voice> _voices = [];
    private readonly Dictionary<SeatId, double> _talked = [];
    private SeatId? _challenger;
    private Instant _challengedAt;

    /// <summary>The dominant speaker; stays after the last word until somebody else takes over.</summary>
    public SeatId? Speaker { get; private set; }

    /// <summary>Takes in a frame.</summary>
    /// <param name="level">0 (full scale) to 127 (silence), in -dBov (RFC 6464).</param>
    public void Hear(SeatId seat, byte level, Instant at)
    {
        if (!_voices.TryGetValue(seat, out var voice)) _voices[seat] = voice = new Voice();
        var elapsed = voice.Take(Loudness(level), at);
        if (voice.Speaks(at)) _talked[seat] = _talked.GetValueOrDefault(seat) + Math.Min(elapsed, HangOverMs);
    }

    /// <summary>How long each voice was heard since this was last asked, in milliseconds; a pause of up to 300 ms belongs to it.</summary>
    public IReadOnlyDictionary<SeatId, long> TakeTalk()
    {
        var talked = _talked.ToDictionary(pair => pair.Key, pair => (long)pair.Value);
        _talked.Clear();
        return talked;
    }

    public void Forget(SeatId seat)
    {
        _voices.Remove(seat);
        if (Speaker == seat) Speaker = null;
    }

    /// <summary>Chooses the speaker anew. Call some times a second.</summary>
    public SeatId? Decide(Instant now)
    {
        foreach (var seat in _voices.Where(pair => (now - pair.Value.At).TotalMilliseconds > ForgottenMs).Select(pair => pair.Key).ToList())
            _voices.Remove(seat);
        var best = _voices.Where(pair => pair.Value.Speaks(now)).OrderByDescending(pair => pair.Value.Weight(now))
            .ThenBy(pair => pair.Key).ToList();
        if (best is [] || best[0].Key == Speaker)
        {
            _challenger = null;
            return Speaker;
        }
        var (loudest, weight) = (best[0].Key, best[0].Value.Weight(now));
        if (Speaker is not { } speaker || !_voices.TryGetValue(speaker, out var held)) return Speaker = loudest;
        if (weight <= Margin * held.Weight(now))
        {
            _challenger = null;
            return Speaker;
        }
        if (_challenger != loudest) (_challenger, _challengedAt) = (loudest, now);
        if ((now - _challengedAt).TotalMilliseconds < ChallengeMs) return Speaker;
        _challenger = null;
        return Speaker = loudest;
    }

    /// <summary>The voices worth forwarding, loudest first, at most <see cref="MostForwarded"/>.</summary>
    /// <param name="always">Forwarded whatever the level: who holds the floor.</param>
    public IReadOnlyList<SeatId> Forwarded(Instant now, Func<SeatId, bool>? always = null) =>
        [.. _voices.OrderByDescending(pair => always?.Invoke(pair.Key) == true).ThenByDescending(pair => pair.Key == Speaker)
            .ThenByDescending(pair => pair.Value.Weight(now)).ThenBy(pair => pair.Key).Take(MostForwarded).Select(pair => pair.Key)];

    /// <summary>The dominant speaker, if not silent for longer than a pause between sentences.</summary>
    public SeatId? SpeaksAt(Instant now) =>
        Speaker is { } speaker && _voices.TryGetValue(speaker, out var voice) && voice.SilentFor(now) <= PauseMs ? speaker : null;

    /// <summary>0 at silence, 127 at full scale.</summary>
    private static double Loudness(byte level) => 127 - Math.Min(level, (byte)127);

    private sealed class Voice
    {
        private double _medium, _long;
        private Instant _spokeAt = new(long.MinValue / 2);
        private bool _heard;

        public Instant At { get; private set; }

        /// <returns>Milliseconds since the frame before.</returns>
        public double Take(double loudness, Instant at)
        {
            var over = Math.Max(0, loudness - 127 + 62);
            var elapsed = _heard ? Math.Clamp((at - At).TotalMilliseconds, 1, 1_000) : 20;
            _medium = Blend(_medium, over, elapsed, MediumMs);
            _long = Blend(_long, over, elapsed, LongMs);
            if (over >= SpeechFloor) _spokeAt = at;
            (At, _heard) = (at, true);
            return elapsed;
        }

        public bool Speaks(Instant now) => SilentFor(now) <= HangOverMs;

        public long SilentFor(Instant now) => now.Milliseconds - _spokeAt.Milliseconds;

        public double Weight(Instant now) => (now - At).TotalMilliseconds > HangOverMs ? 0 : _medium + (0.5 * _long);

        private static double Blend(double old, double now, double elapsed, double span)
        {
            var share = 1 - Math.Exp(-elapsed / span);
            return old + (share * (now - old));
        }
    }
}
