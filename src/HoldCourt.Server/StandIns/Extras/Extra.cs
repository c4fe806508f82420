using HoldCourt.Server.Media;

namespace HoldCourt.Server.StandIns.Extras;

/// <summary>One simulated person inside: sends pictures and voice through the relay like anybody's browser.</summary>
internal sealed class Extra : IPublisher
{
    private const double SoundFrameMs = 20;

    private readonly Stage _stage;
    private readonly Sender _sender;
    private readonly IReadOnlyList<VoiceClip> _voice;
    private readonly Reel _full, _thumb;
    private VoiceClip? _saying;
    private int _packet, _clip;
    private double _soundDue;
    private uint _soundSequence;

    public Extra(Stage stage, SeatId seat, Figure figure, IReadOnlyList<VoiceClip> voice, int offset)
    {
        _stage = stage;
        _voice = voice;
        _full = new Reel(figure.FullListening, figure.FullTalking, FrameType.Full, offset);
        _thumb = new Reel(figure.ThumbListening, figure.ThumbTalking, FrameType.Thumb, offset);
        _clip = offset;
        _sender = stage.AddSender(seat, this);
    }

    public SeatId Seat => _sender.Seat;
    public bool IsTalking => _saying is not null;

    public void Wanted(bool audio, bool full, bool thumb)
    {
        _full.Wanted = full;
        _thumb.Wanted = thumb;
    }

    public void NeedKey(ushort track)
    {
        if (track == _sender.Full.Id) _full.NeedKey = true;
        if (track == _sender.Thumb.Id) _thumb.NeedKey = true;
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
            Send(new FrameHeader(FrameHeader.Size + packet.Length, FrameType.Audio, FrameMarks.None, _sender.Audio.Id, _soundSequence++, saying.Levels[_packet], 0, 200, (ulong)(_soundDue * 1000)), packet);
            _soundDue += SoundFrameMs;
            if (++_packet >= saying.Packets.Count) _saying = null;
        }
        foreach (var (reel, track) in new[] { (_full, _sender.Full.Id), (_thumb, _sender.Thumb.Id) })
            if (reel.Next(now, IsTalking) is { } picture)
                Send(new FrameHeader(FrameHeader.Size + picture.Frame.Length, reel.Type, picture.IsKey ? FrameMarks.Key : FrameMarks.None, track, picture.Sequence, 0, 0, 0, (ulong)(now * 1000)), picture.Frame);
    }

    public void Leave() => _stage.Remove(_sender);

    private void Send(FrameHeader header, byte[] chunk)
    {
        Span<byte> frame = chunk.Length < 8_000 ? stackalloc byte[header.Length] : new byte[header.Length];
        header.Write(frame);
        chunk.CopyTo(frame[FrameHeader.Size..]);
        _stage.Publish(_sender, frame);
    }

    /// <summary>Plays a layer's clips in a loop, changing between them and starting anew at key frames only.</summary>
    private sealed class Reel(PictureClip listening, PictureClip talking, FrameType type, int offset)
    {
        private PictureClip? _playing;
        private int _at;
        private double _due;
        private uint _sequence;

        public FrameType Type => type;
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
