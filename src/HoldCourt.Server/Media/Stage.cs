using System.Collections.Immutable;

namespace HoldCourt.Server.Media;

/// <summary>
/// The relay of one sitting: who sends, who receives, and the routes between them. It asks the core's forwarding plan
/// and decides nothing itself. Frames pass without a lock; routes change under one.
/// </summary>
internal sealed class Stage(TimeProvider time, Action wake)
{
    private readonly Lock _gate = new();
    private readonly Lock _voicesGate = new();
    private readonly Dictionary<SeatId, Sender> _senders = [];
    private readonly Dictionary<SeatId, Receiver> _receivers = [];
    private readonly VoiceLevels _voices = new();
    private volatile Sitting _sitting = Sitting.Empty;
    private volatile Receiver[] _everyone = [];
    private volatile Receiver[] _listeners = [];
    private volatile HashSet<SeatId> _heard = [];
    private SeatId? _toldSpeaker;
    private readonly HashSet<ushort> _tracks = [];
    private ushort _lastTrack;
    private long _lastFrameAt;

    public Sitting Sitting => _sitting;

    /// <summary>When somebody last sent, as a timestamp of the time provider.</summary>
    public long LastFrameAt => Volatile.Read(ref _lastFrameAt);

    public bool IsEmpty => _everyone is [] && _senders.Count == 0;

    /// <summary>Takes in the sitting's newest state; only what it touches is planned anew.</summary>
    public void Follow(Sitting sitting)
    {
        lock (_gate)
        {
            var before = _sitting;
            _sitting = sitting;
            var touched = sitting.Seats.ChangedSince(before.Seats).Select(pair => pair.After.Id).ToHashSet();
            // Who may see whom depends on more than the two.
            if (before.Phase != sitting.Phase || before.Orders.SeePeople != sitting.Orders.SeePeople || before.Turn?.Seat != sitting.Turn?.Seat || !ReferenceEquals(before.Picture, sitting.Picture))
                touched = [.. _receivers.Keys, .. _senders.Keys];
            if (touched.Count == 0) return;
            foreach (var receiver in _receivers.Values.Where(receiver => touched.Contains(receiver.Seat) && IsOver(receiver.Seat)).ToList()) receiver.End();
            foreach (var seat in touched.Where(seat => !ForwardingPlan.MayBeHeard(sitting, seat)))
                lock (_voicesGate) _voices.Forget(seat);
            FindListeners();
            Route(_receivers.Values.Where(receiver => touched.Contains(receiver.Seat) || receiver.Wishes.Any(wish => touched.Contains(wish.Sender))));
        }
    }

    private bool IsOver(SeatId seat) => _sitting.Phase == Phase.Adjourned || !_sitting.Seats.TryGet(seat, out var held) || held.Place == Place.Gone;

    private ushort NewTrack()
    {
        // Zero is nobody's; a number in use is passed over.
        do _lastTrack++;
        while (_lastTrack == 0 || !_tracks.Add(_lastTrack));
        return _lastTrack;
    }

    public Sender AddSender(SeatId seat, IPublisher publisher)
    {
        lock (_gate)
        {
            RemoveSender(seat);
            Track New(FrameType kind) => new(NewTrack(), seat, kind, publisher, time);
            var sender = new Sender(seat, publisher, New(FrameType.Audio), New(FrameType.Full), New(FrameType.Thumb), time);
            _senders[seat] = sender;
            Route(_receivers.Values.Where(receiver => receiver.Wishes.Any(wish => wish.Sender == seat)));
            TellWanted();
            return sender;
        }
    }

    public void Remove(Sender sender)
    {
        lock (_gate)
            if (_senders.GetValueOrDefault(sender.Seat) == sender) RemoveSender(sender.Seat);
    }

    private void RemoveSender(SeatId seat)
    {
        if (!_senders.Remove(seat, out var sender)) return;
        ushort[] ended = [sender.Audio.Id, sender.Full.Id, sender.Thumb.Id];
        sender.HasEnded = true;
        foreach (var receiver in _receivers.Values) receiver.Forget(ended);
        _tracks.ExceptWith(ended);
        lock (_voicesGate) _voices.Forget(seat);
        foreach (var receiver in _receivers.Values) receiver.Plan = receiver.Plan.Where(pair => pair.Key != seat).ToDictionary();
    }

    public void Add(Receiver receiver)
    {
        lock (_gate)
        {
            // A seat has one socket, the newest.
            _receivers.GetValueOrDefault(receiver.Seat)?.End();
            _receivers[receiver.Seat] = receiver;
            if (_sitting.Phase != Phase.New && IsOver(receiver.Seat)) receiver.End();
            Relisten();
        }
    }

    public void Remove(Receiver receiver)
    {
        lock (_gate)
        {
            if (_receivers.GetValueOrDefault(receiver.Seat) == receiver) _receivers.Remove(receiver.Seat);
            Relisten();
            foreach (var sender in _senders.Values)
            {
                sender.Full.Receivers = [.. sender.Full.Receivers.Where(other => other != receiver)];
                sender.Thumb.Receivers = [.. sender.Thumb.Receivers.Where(other => other != receiver)];
            }
            TellWanted();
        }
    }

    private void Relisten()
    {
        _everyone = [.. _receivers.Values];
        FindListeners();
        TellWanted();
    }

    /// <summary>Who begins to listen learns who speaks; for whoever ends, nobody does.</summary>
    private void FindListeners()
    {
        var before = _listeners;
        _listeners = [.. _receivers.Values.Where(receiver => ForwardingPlan.MayReceive(_sitting, receiver.Seat))];
        foreach (var receiver in before.Except(_listeners)) receiver.Say(new SpeakerMessage(null));
        foreach (var receiver in _listeners.Except(before)) receiver.Say(new SpeakerMessage(_toldSpeaker));
    }

    public void Show(Receiver receiver, IReadOnlyList<Wish> wishes)
    {
        lock (_gate)
        {
            receiver.Wishes = wishes;
            Route([receiver]);
        }
    }

    public void CapacityChanged(Receiver receiver)
    {
        lock (_gate)
        {
            receiver.Say(new CapacityMessage(receiver.IsSlow));
            Route([receiver]);
        }
    }

    /// <summary>A browser lost a picture's thread. It may only ask for what it gets.</summary>
    public void AskForKey(Receiver receiver, int track)
    {
        lock (_gate)
            foreach (var sender in _senders.Values)
                foreach (var asked in new[] { sender.Full, sender.Thumb })
                    if (asked.Id == track && asked.Receivers.Contains(receiver)) asked.AskForKey();
    }

    /// <summary>Plans these receivers anew and changes the tracks' lists where the plan differs.</summary>
    private void Route(IEnumerable<Receiver> receivers)
    {
        foreach (var receiver in receivers.ToList())
        {
            var plan = ForwardingPlan.Allot(_sitting, receiver.Seat, receiver.Wishes, receiver.Capacity);
            foreach (var seat in receiver.Plan.Keys.Union(plan.Keys))
            {
                if (!_senders.TryGetValue(seat, out var sender)) continue;
                var layer = plan.GetValueOrDefault(seat);
                Set(sender.Full, receiver, layer == Layer.Full);
                Set(sender.Thumb, receiver, layer == Layer.Thumb);
            }
            receiver.Plan = plan;
        }
        TellWanted();
    }

    private static void Set(Track track, Receiver receiver, bool gets)
    {
        if (track.Receivers.Contains(receiver) == gets) return;
        if (gets)
        {
            receiver.AwaitKey(track.Id);
            track.Receivers = [.. track.Receivers, receiver];
            track.AskForKey();
        }
        else
        {
            track.Receivers = [.. track.Receivers.Where(other => other != receiver)];
        }
    }

    private void TellWanted()
    {
        foreach (var sender in _senders.Values)
        {
            var wanted = (ForwardingPlan.MayBeHeard(_sitting, sender.Seat), sender.Full.Receivers is not [], sender.Thumb.Receivers is not []);
            if (wanted == sender.Told) continue;
            sender.Told = wanted;
            sender.Publisher.Wanted(wanted.Item1, wanted.Item2, wanted.Item3);
        }
    }

    /// <summary>Forwards the frames of a message. What may not pass is dropped and counted.</summary>
    /// <returns>False when the sender floods and its connection should end.</returns>
    public bool Publish(Sender sender, ReadOnlySpan<byte> message)
    {
        Volatile.Write(ref _lastFrameAt, time.GetTimestamp());
        wake();
        MediaMeter.CameIn(message.Length);
        while (message.Length > 0)
        {
            if (!FrameHeader.TryRead(message, out var header) || sender.Owns(header.Track, header.Type) is not { } track)
            {
                MediaMeter.Malformed.Add(1);
                return sender.Spend(message.Length) is { Floods: false };
            }
            var frame = message[..header.Length];
            message = message[header.Length..];
            var (within, floods) = sender.Spend(frame.Length);
            if (floods) return false;
            if (!within) MediaMeter.TooMany.Add(1);
            else if (header.Type == FrameType.Audio) ForwardSound(sender, track, header, frame);
            else ForwardPicture(sender, track, header, frame);
        }
        return true;
    }

    private void ForwardSound(Sender sender, Track track, FrameHeader header, ReadOnlySpan<byte> frame)
    {
        if (sender.HasEnded || !ForwardingPlan.MayBeHeard(_sitting, sender.Seat))
        {
            MediaMeter.Forbidden.Add(1);
            return;
        }
        var now = new Instant(time.GetUtcNow().ToUnixTimeMilliseconds());
        lock (_voicesGate) _voices.Hear(sender.Seat, header.Level, now);
        if (!_heard.Contains(sender.Seat) && !TryBeHeard(sender.Seat)) return;
        var listeners = _listeners;
        var shared = frame.ToArray();
        var sent = 0;
        foreach (var listener in listeners)
        {
            if (listener.Seat == sender.Seat) continue;
            listener.TakeSound(track, shared);
            sent++;
        }
        MediaMeter.Forwarded.Add(sent);
    }

    /// <summary>A new voice need not wait for the next choice while there is room, so that its first syllable is heard.</summary>
    private bool TryBeHeard(SeatId seat)
    {
        if (_heard.Count >= VoiceLevels.MostForwarded) return false;
        _heard = [.. _heard, seat];
        return true;
    }

    private void ForwardPicture(Sender sender, Track track, FrameHeader header, ReadOnlySpan<byte> frame)
    {
        if (sender.HasEnded || !ForwardingPlan.MayBeSeen(_sitting, sender.Seat))
        {
            MediaMeter.Forbidden.Add(1);
            return;
        }
        var receivers = track.Receivers;
        if (receivers is []) return;
        var shared = frame.ToArray();
        var needsKey = false;
        foreach (var receiver in receivers) needsKey |= !receiver.TakePicture(track, shared, header.IsKey);
        MediaMeter.Forwarded.Add(receivers.Length);
        if (needsKey) track.AskForKey();
    }

    /// <summary>Sends what has gathered to everybody.</summary>
    public void Flush()
    {
        foreach (var receiver in _everyone) receiver.Flush();
    }

    /// <summary>Chooses anew who speaks and who is heard, and tells the listeners when somebody else speaks.</summary>
    public void Listen()
    {
        SeatId? speaker;
        lock (_voicesGate)
        {
            var now = new Instant(time.GetUtcNow().ToUnixTimeMilliseconds());
            _voices.Decide(now);
            _heard = [.. _voices.Forwarded(now)];
            speaker = _voices.SpeaksAt(now);
        }
        if (speaker == _toldSpeaker) return;
        _toldSpeaker = speaker;
        var text = new SpeakerMessage(speaker).ToUtf8();
        foreach (var listener in _listeners) listener.Say(text);
    }

    /// <summary>How long each was heard since this was last asked, in milliseconds.</summary>
    public IReadOnlyDictionary<SeatId, long> TakeTalk()
    {
        lock (_voicesGate) return _voices.TakeTalk();
    }

    /// <summary>Those whose connection carries less than it might.</summary>
    public ImmutableArray<SeatId> Slow() => [.. _everyone.Where(receiver => receiver.IsSlow).Select(receiver => receiver.Seat).Order()];

    public void Mark()
    {
        foreach (var listener in _listeners)
            if (listener.Mark()) CapacityChanged(listener);
    }
}
