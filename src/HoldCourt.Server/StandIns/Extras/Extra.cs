using HoldCourt.Server.Media;

namespace HoldCourt.Server.StandIns.Extras;

/// <summary>One simulated person inside: sends pictures and voice through the relay like anybody's browser.</summary>
internal sealed class Extra : IPublisher
{
    private const double SoundFrameMs = 20;

    private static readonly TrackDescription[] _tracks =
    [
        new("microphone", Service.Voice, Layer.None, "opus"),
        new(Wish.Camera, Service.Camera, Layer.Full, "vp8"),
        new(Wish.Camera, Service.Camera, Layer.Thumb, "vp8"),
        new(Wish.Screen, Service.Screen, Layer.Full, "vp8")
    ];

    private readonly Stage _stage;
    private readonly Sender _sender;
    private readonly IReadOnlyList<VoiceClip> _voice;
    private readonly Reel _full, _thumb, _screen;
    private int _voiceTrack;
    private VoiceClip? _saying, _said;
    private int _packet, _clip;
    private double _soundDue;
    private uint _soundSequence, _deskSequence;

    /// <param name="page">What stands on the screen that it may share.</param>
    public Extra(Stage stage, SeatId seat, Figure figure, IReadOnlyList<VoiceClip> voice, PictureClip page, int offset)
    {
        _stage = stage;
        _voice = voice;
        _clip = offset;
        _full = new Reel(figure.FullListening, figure.FullTalking, offset);
        _thumb = new Reel(figure.ThumbListening, figure.ThumbTalking, offset);
        _screen = new Reel(page, page, 0);
        _sender = stage.AddSender(seat, this);
        stage.Describe(_sender, _tracks);
    }

    public SeatId Seat => _sender.Seat;

    /// <summary>What stands on the screen in place of the page.</summary>
    public MadeUpDesk? Desk { get; set; }

    public bool IsTalking => _saying is not null;

    /// <summary>The clip says what stands in the script.</summary>
    public bool BringsWords => true;

    /// <summary>What was said last, told once, and how long that took.</summary>
    public (string Words, int Milliseconds)? TakeSaid()
    {
        var said = _said;
        _said = null;
        return said is null ? null : (said.Words, (int)(said.Packets.Count * SoundFrameMs));
    }

    public void Numbered(IReadOnlyList<int> tracks) =>
        (_voiceTrack, _full.Track, _thumb.Track, _screen.Track) = (tracks[0], tracks[1], tracks[2], tracks[3]);

    public void Wanted(IReadOnlyList<int> tracks)
    {
        foreach (var reel in new[] { _full, _thumb, _screen }) reel.Wanted = tracks.Contains(reel.Track);
    }

    public void NeedKey(ushort track)
    {
        foreach (var reel in new[] { _full, _thumb, _screen })
            if (reel.Track == track) reel.NeedKey = true;
    }

    /// <summary>Begins to say the next of its sentences.</summary>
    public void Speak(double now)
    {
        _saying = _voice[_clip++ % _voice.Count];
        (_packet, _soundDue) = (0, now);
    }

    /// <summary>Sends what is due.</summary>
    /// <param name="now">Milliseconds of a clock that never goes back.</param>
    public void Play(double now)
    {
        while (_saying is { } saying && _soundDue <= now)
        {
            var packet = saying.Packets[_packet];
            Send(Service.Voice, _voiceTrack, _soundSequence++, packet, FrameMarks.None, _soundDue, saying.Levels[_packet], 200);
            _soundDue += SoundFrameMs;
            if (++_packet >= saying.Packets.Count) (_saying, _said) = (null, saying);
        }
        while (Desk?.Next() is { } seen)
            Send(Service.Screen, _screen.Track, _deskSequence++, seen.Frame, seen.IsKey ? FrameMarks.Key : FrameMarks.None, now);
        foreach (var reel in Desk is null ? new[] { _full, _thumb, _screen } : [_full, _thumb])
            if (reel.Next(now, IsTalking) is { } picture)
                Send(reel == _screen ? Service.Screen : Service.Camera, reel.Track, picture.Sequence, picture.Frame,
                    picture.IsKey ? FrameMarks.Key : FrameMarks.None, now);
    }

    public void Leave() => _stage.Remove(_sender);

    /// <param name="at">In milliseconds.</param>
    /// <param name="duration">In 0.1 ms.</param>
    private void Send(Service service, int track, uint sequence, byte[] chunk, FrameMarks marks, double at, byte level = 0,
        ushort duration = 0)
    {
        var header = new FrameHeader(
            Length: FrameHeader.Size + chunk.Length,
            Service: service,
            Flags: marks,
            Track: (ushort)track,
            Sequence: sequence,
            Level: level,
            Rotation: 0,
            Duration: duration,
            CaptureTime: (ulong)(at * 1000));
        Span<byte> frame = chunk.Length < 8_000 ? stackalloc byte[header.Length] : new byte[header.Length];
        header.Write(frame);
        chunk.CopyTo(frame[FrameHeader.Size..]);
        _stage.Publish(_sender, frame);
    }

    /// <summary>Plays a layer's clips in a loop, changing between them and starting anew at key frames only.</summary>
    private sealed class Reel(PictureClip listening, PictureClip talking, int offset)
    {
        private PictureClip? _playing;
        private int _at;
        private double _due;
        private uint _sequence;

        public int Track { get; set; }
        public bool Wanted { get; set; }
        public bool NeedKey { get; set; }

        public (byte[] Frame, bool IsKey, uint Sequence)? Next(double now, bool isTalking)
        {
            if (!Wanted || now < _due) return null;
            var clip = isTalking ? talking : listening;
            _due = Math.Max(_due, now - 500) + (1000 / clip.FramesPerSecond);
            // People do not nod in step: each begins elsewhere.
            if (_playing is null) _at = clip.NextKey(offset * 7 % clip.Frames.Count);
            else if (clip != _playing) _at = 0;
            else if (NeedKey || _at >= clip.Frames.Count) _at = clip.NextKey(_at);
            (_playing, NeedKey) = (clip, false);
            var index = _at++;
            return (clip.Frames[index], clip.IsKey(index), _sequence++);
        }
    }
}
