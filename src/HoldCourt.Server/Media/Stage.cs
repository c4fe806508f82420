using System.Collections.Concurrent;
using System.Collections.Immutable;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Recording;

namespace HoldCourt.Server.Media;

/// <summary>
/// The relay of one sitting: who sends, who receives, and the routes between them. It knows of the sitting what that tells it, asks the
/// core's forwarding plan, and decides nothing itself. Frames pass without a lock; routes change under one.
/// </summary>
/// <param name="tapFor">Opens what writes a recording down, by its number.</param>
/// <param name="ear">Turns voices into words; null where nothing does.</param>
internal sealed class Stage(TimeProvider time, Beats beats, Func<int, ITap>? tapFor = null, IEar? ear = null)
{
    private readonly Lock _gate = new();
    private readonly Lock _voicesGate = new();
    private readonly Dictionary<SeatId, Sender> _senders = [];
    private readonly Dictionary<IReceiver, Route> _routes = [];
    private readonly ConcurrentDictionary<int, Acoustics> _places = new() { [Hall] = new Acoustics() };
    private readonly HashSet<ushort> _tracks = [];
    private volatile StageState _state = StageState.Unknown;
    private volatile IReceiver[] _everyone = [];
    private SeatId? _notedSpeaker, _lastSpeaker;
    private volatile ITap? _tap;
    private int? _recording;
    private ushort _lastTrack;

    /// <summary>Rooms are numbered from 1.</summary>
    private const int Hall = 0;

    /// <summary>Who is heard in a place, and by whom: a voice goes no further.</summary>
    private sealed class Acoustics
    {
        /// <summary>Looked at under the gate of voices.</summary>
        public VoiceLevels Voices { get; } = new();
        public volatile IReceiver[] Listeners = [];
        public volatile HashSet<SeatId> Heard = [];
        public SeatId? LastSpeaker { get; set; }
    }

    private Acoustics PlaceOf(StageRow row) => _places.GetOrAdd(row.From.Room ?? Hall, _ => new Acoustics());

    /// <summary>What somebody wishes to see, and the layers they get.</summary>
    private sealed class Route
    {
        public IReadOnlyList<Wish> Wishes { get; set; } = [];
        public IReadOnlyDictionary<(SeatId Sender, string Source), Layer> Plan { get; set; } = new Dictionary<(SeatId, string), Layer>();
    }

    /// <summary>Nobody is connected, and the sitting is over.</summary>
    public bool IsDone => _state.IsOver && IsEmpty;

    public bool IsEmpty => _everyone is [] && _senders.Count == 0;

    /// <summary>Takes in what is different in the sitting; only what it touches is planned anew.</summary>
    public void Follow(StageChange change)
    {
        lock (_gate)
        {
            var before = _state;
            _state = _state.With(change);
            var touched = change.IsOver
                ? [.. _routes.Keys.Select(receiver => receiver.Seat), .. _senders.Keys]
                : change.Rows.Select(row => row.Seat).ToHashSet();
            Record(change.Recording);
            if (change.IsOver) ear?.End();
            if (touched.Count == 0) return;
            foreach (var receiver in _routes.Keys.Where(receiver => touched.Contains(receiver.Seat) && !_state.IsHere(receiver.Seat))
                .ToList()) receiver.End();
            // Whoever goes to another place is a new voice there, and none any more where it was.
            foreach (var seat in touched.Where(seat => !_state.MayBeHeard(seat) || _state.RoomOf(seat) != before.RoomOf(seat)))
                Silence(seat);
            // What was on a screen before it was shown, or of one that is closed, is kept for nobody.
            foreach (var row in change.Rows.Where(row => row.Screen is not { Held: true }))
                if (_senders.TryGetValue(row.Seat, out var shares))
                    foreach (var track in shares.Tracks) track.LetGo();
            FindListeners();
            WishForTap();
            Reroute(_routes.Where(pair => pair.Key == _tap || touched.Contains(pair.Key.Seat)
                || pair.Value.Wishes.Any(wish => touched.Contains(wish.Sender)))
                .Select(pair => pair.Key));
        }
    }

    /// <summary>Begins or ends what is written down.</summary>
    private void Record(int? number)
    {
        if (number == _recording) return;
        _recording = number;
        if (_tap is { } before)
        {
            _tap = null;
            Drop(before, ends: true);
        }
        if (number is { } next && tapFor?.Invoke(next) is { } tap)
        {
            _routes[tap] = new Route();
            _tap = tap;
            _notedSpeaker = null;
        }
        Relisten();
    }

    /// <summary>The recording gets everybody small, and sharp whoever speaks; all of them sharp while they are few.</summary>
    private void WishForTap()
    {
        if (_tap is not { } tap || !_routes.TryGetValue(tap, out var route)) return;
        var recorded = _state.Recorded.ToList();
        var seen = recorded.Where(_state.IsCameraRecorded).ToList();
        route.Wishes =
        [
            .. seen.Select(seat => new Wish(seat,
                seen.Count <= MostSharp || seat == _lastSpeaker || seat == _state.Floor ? ForwardingPlan.FullFrom : 1)),
            .. recorded.Where(_state.IsScreenRecorded).Select(seat => new Wish(seat, ForwardingPlan.FullFrom, Wish.Screen))
        ];
    }

    private const int MostSharp = 10;

    private ushort NewTrack()
    {
        // Zero is nobody's; a number in use is passed over.
        do _lastTrack++;
        while (_lastTrack == 0 || !_tracks.Add(_lastTrack));
        return _lastTrack;
    }

    /// <summary>A seat has one sender, the newest.</summary>
    public Sender AddSender(SeatId seat, IPublisher publisher)
    {
        lock (_gate)
        {
            RemoveSender(seat);
            return _senders[seat] = new Sender(seat, publisher, time);
        }
    }

    /// <summary>These are the sender's tracks from now on. What is described as it was keeps its number.</summary>
    /// <returns>False when they cannot be what a sender has.</returns>
    public bool Describe(Sender sender, IReadOnlyList<TrackDescription> tracks)
    {
        if (!TrackDescription.AreMeaningful(tracks)) return false;
        lock (_gate)
        {
            if (_senders.GetValueOrDefault(sender.Seat) != sender) return true;
            var kept = sender.Tracks.Where(track => tracks.Contains(track.What)).ToDictionary(track => track.What);
            End([.. sender.Tracks.Except(kept.Values)]);
            sender.Tracks = [.. tracks.Select(what => kept.GetValueOrDefault(what)
                ?? new Track(NewTrack(), sender.Seat, what, sender.Publisher, time))];
            // Before anything is said about them.
            sender.Publisher.Numbered([.. sender.Tracks.Select(track => (int)track.Id)]);
            foreach (var (_, route) in _routes)
                route.Plan = route.Plan.Where(pair => pair.Key.Sender != sender.Seat
                    || kept.Keys.Any(what => what.Source == pair.Key.Source)).ToDictionary();
            Reroute(_routes.Where(pair => pair.Value.Wishes.Any(wish => wish.Sender == sender.Seat)).Select(pair => pair.Key));
            return true;
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
        sender.HasEnded = true;
        End(sender.Tracks);
        Silence(seat);
        foreach (var (_, route) in _routes) route.Plan = route.Plan.Where(pair => pair.Key.Sender != seat).ToDictionary();
    }

    private void Silence(SeatId seat)
    {
        foreach (var place in _places.Values)
        {
            lock (_voicesGate) place.Voices.Forget(seat);
            if (place.Heard.Contains(seat)) place.Heard = [.. place.Heard.Where(heard => heard != seat)];
        }
    }

    private void End(IReadOnlyCollection<Track> tracks)
    {
        if (tracks.Count == 0) return;
        ushort[] ended = [.. tracks.Select(track => track.Id)];
        foreach (var receiver in _routes.Keys) receiver.Forget(ended);
        _tracks.ExceptWith(ended);
    }

    public void Add(IReceiver receiver)
    {
        lock (_gate)
        {
            // A seat has one socket, the newest.
            foreach (var older in _routes.Keys.Where(other => other.Seat == receiver.Seat).ToList()) Drop(older, ends: true);
            _routes[receiver] = new Route();
            if (!_state.IsHere(receiver.Seat)) receiver.End();
            beats.Add(receiver);
            Relisten();
        }
    }

    public void Remove(IReceiver receiver)
    {
        lock (_gate)
        {
            Drop(receiver, ends: false);
            Relisten();
        }
    }

    private void Drop(IReceiver receiver, bool ends)
    {
        if (!_routes.Remove(receiver)) return;
        foreach (var track in _senders.Values.SelectMany(sender => sender.Tracks).Where(track => track.Receivers.Contains(receiver)))
            track.Receivers = [.. track.Receivers.Where(other => other != receiver)];
        if (ends) receiver.End();
        beats.Remove(receiver);
    }

    private void Relisten()
    {
        _everyone = [.. _routes.Keys];
        FindListeners();
        TellWanted();
    }

    /// <summary>Who begins to listen learns who speaks; for whoever ends, nobody does.</summary>
    private void FindListeners()
    {
        var byPlace = _routes.Keys.Where(receiver => _state.MayReceive(receiver.Seat))
            .GroupBy(receiver => _state.RoomOf(receiver.Seat) ?? Hall).ToDictionary(group => group.Key, group => group.ToArray());
        foreach (var number in byPlace.Keys) _places.TryAdd(number, new Acoustics());
        foreach (var (number, place) in _places)
        {
            var before = place.Listeners;
            place.Listeners = byPlace.GetValueOrDefault(number, []);
            foreach (var receiver in before.Except(place.Listeners)) receiver.Say(new Speaker(null));
            foreach (var receiver in place.Listeners.Except(before)) receiver.Say(new Speaker(place.LastSpeaker));
            // A room in which nobody is any more is not listened in again.
            if (number != Hall && place.Listeners is [] && before is []) _places.TryRemove(number, out _);
        }
    }

    public void Show(IReceiver receiver, IReadOnlyList<Wish> wishes)
    {
        lock (_gate)
        {
            if (!_routes.TryGetValue(receiver, out var route)) return;
            route.Wishes = wishes;
            Reroute([receiver]);
        }
    }

    public void CapacityChanged(IReceiver receiver)
    {
        lock (_gate)
        {
            receiver.Say(new Carries(receiver.IsSlow));
            Reroute([receiver]);
        }
    }

    /// <summary>A browser lost a picture's thread. It may only ask for what it gets.</summary>
    public void AskForKey(IReceiver receiver, int track)
    {
        lock (_gate)
            foreach (var asked in _senders.Values.SelectMany(sender => sender.Tracks))
                if (asked.Id == track && asked.Receivers.Contains(receiver)) asked.AskForKey();
    }

    /// <summary>Plans these receivers anew and changes the tracks' lists where the plan differs.</summary>
    private void Reroute(IEnumerable<IReceiver> receivers)
    {
        foreach (var receiver in receivers.ToList())
        {
            if (!_routes.TryGetValue(receiver, out var route)) continue;
            var plan = ForwardingPlan.Allot(route.Wishes.Where(wish => receiver == _tap
                ? _state.IsRecorded(wish.Sender, wish.Service)
                : wish.Service == Service.Screen ? _state.MayGetScreen(wish.Sender, receiver.Seat)
                : _state.MayBeSeen(wish.Sender, receiver.Seat)), receiver.Capacity);
            foreach (var (seat, source) in route.Plan.Keys.Union(plan.Keys))
            {
                if (!_senders.TryGetValue(seat, out var sender)) continue;
                var layer = plan.GetValueOrDefault((seat, source));
                var service = new Wish(seat, 0, source).Service;
                foreach (var track in sender.Tracks.Where(track => track.What.Source == source && track.What.Service == service))
                    Set(track, receiver, track.What.Layer == layer);
            }
            route.Plan = plan;
        }
        TellWanted();
    }

    private void Set(Track track, IReceiver receiver, bool gets)
    {
        if (track.Receivers.Contains(receiver) == gets) return;
        if (gets)
        {
            receiver.AwaitKey(track.Id);
            // Of what stands still no new key frame comes.
            if (track.What.Service == Service.Screen && !_state.ScreenGoesOn(track.Owner))
                foreach (var (frame, isKey) in track.Kept) receiver.Take(track, frame, isKey);
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
            var isHeard = _state.MayBeHeard(sender.Seat);
            var sounds = _state.ScreenSounds(sender.Seat);
            int[] wanted = [.. sender.Tracks.Where(track => track.What.Service switch
                {
                    Service.Voice => isHeard,
                    Service.Sound => sounds,
                    _ => track.Receivers is not []
                })
                .Select(track => (int)track.Id)];
            if (sender.LastWanted is { } last && last.SequenceEqual(wanted)) continue;
            sender.LastWanted = wanted;
            sender.Publisher.Wanted(wanted);
        }
    }

    /// <summary>Forwards the frames of a message. What may not pass is dropped and counted.</summary>
    /// <returns>False when the sender floods and its connection should end.</returns>
    public bool Publish(Sender sender, ReadOnlySpan<byte> message)
    {
        beats.Wake();
        MediaMeter.CameIn(message.Length);
        while (message.Length > 0)
        {
            if (!FrameHeader.TryRead(message, out var header) || sender.Owns(header.Track, header.Service) is not { } track)
            {
                MediaMeter.Malformed.Add(1);
                return sender.Spend(Service.Camera, message.Length) is { Floods: false };
            }
            var frame = message[..header.Length];
            message = message[header.Length..];
            var (within, floods) = sender.Spend(header.Service, frame.Length);
            if (floods) return false;
            if (!within) MediaMeter.TooMany.Add(1);
            else if (sender.HasEnded || _state.Of(sender.Seat) is not { } row || !row.Passes(header.Service)) MediaMeter.Forbidden.Add(1);
            else if (header.Service == Service.Voice) ForwardVoice(sender, row, track, header, frame);
            else if (header.Service == Service.Sound) ForwardSound(row, track, frame);
            else ForwardPicture(track, header, frame);
        }
        return true;
    }

    /// <summary>It is nobody's voice: who speaks, and for how long, has nothing to do with it.</summary>
    private void ForwardSound(StageRow row, Track track, ReadOnlySpan<byte> frame)
    {
        var shared = frame.ToArray();
        foreach (var listener in PlaceOf(row).Listeners)
            if (listener.Seat != row.Seat) listener.Take(track, shared, isKey: true);
        if (_tap is { } tap && _state.IsScreenRecorded(row.Seat)) tap.Take(track, shared, isKey: true);
    }

    private void ForwardVoice(Sender sender, StageRow row, Track track, FrameHeader header, ReadOnlySpan<byte> frame)
    {
        var (place, now) = (PlaceOf(row), Now);
        lock (_voicesGate) place.Voices.Hear(row.Seat, header.Level, now);
        // As it came, also while others are louder.
        if (row.Recorded && _tap is { } tap) tap.Take(track, frame.ToArray(), isKey: true);
        if (!place.Heard.Contains(row.Seat) && !TryBeHeard(place, row) && !row.HeardInRooms) return;
        var shared = frame.ToArray();
        if (row.Transcribed && !sender.Publisher.BringsWords) ear?.Hear(row.Seat, shared);
        var sent = 0;
        // A voice that goes into all rooms goes there beside those that are heard there.
        foreach (var listener in row.HeardInRooms ? _places.Values.SelectMany(one => one.Listeners) : place.Listeners)
        {
            if (listener.Seat == row.Seat) continue;
            listener.Take(track, shared, isKey: true);
            sent++;
        }
        MediaMeter.Forwarded.Add(sent);
    }

    private Instant Now => new(time.GetUtcNow().ToUnixTimeMilliseconds());

    /// <summary>
    /// A new voice need not wait for the next choice while there is room, so that its first syllable is heard; whoever has the floor
    /// never waits.
    /// </summary>
    private static bool TryBeHeard(Acoustics place, StageRow row)
    {
        if (place.Heard.Count >= VoiceLevels.MostForwarded && !row.HasFloor) return false;
        place.Heard = [.. place.Heard, row.Seat];
        return true;
    }

    private void ForwardPicture(Track track, FrameHeader header, ReadOnlySpan<byte> frame)
    {
        var receivers = track.Receivers;
        if (receivers is []) return;
        var shared = frame.ToArray();
        if (header.Service == Service.Screen) track.Keep(shared, header.IsKey);
        var needsKey = false;
        foreach (var receiver in receivers)
        {
            // The state is asked at each frame, too: nothing slips into a recording while routes change.
            if (receiver == _tap && !_state.IsRecorded(track.Owner, header.Service)) continue;
            needsKey |= !receiver.Take(track, shared, header.IsKey);
        }
        MediaMeter.Forwarded.Add(receivers.Length);
        if (needsKey) track.AskForKey();
    }

    /// <summary>Chooses anew who speaks and who is heard, and tells the listeners when somebody else speaks.</summary>
    public void Listen()
    {
        foreach (var (number, place) in _places) Listen(place, number == Hall);
    }

    private void Listen(Acoustics place, bool isHall)
    {
        SeatId? speaker;
        lock (_voicesGate)
        {
            var now = Now;
            place.Voices.Decide(now);
            place.Heard = [.. place.Voices.Forwarded(now, _state.HasFloor)];
            speaker = place.Voices.SpeaksAt(now);
        }
        if (isHall) NoteSpeaker(speaker);
        if (speaker == place.LastSpeaker) return;
        place.LastSpeaker = speaker;
        if (isHall && speaker is not null) _lastSpeaker = speaker;
        if (isHall && _tap is { } tap && speaker is not null)
            lock (_gate)
            {
                WishForTap();
                Reroute([tap]);
            }
        var text = new Speaker(speaker).ToUtf8();
        foreach (var listener in place.Listeners) listener.Say(text);
    }

    /// <summary>Who spoke when stands in a recording only of those who are in it.</summary>
    private void NoteSpeaker(SeatId? speaker)
    {
        if (_tap is not { } tap) return;
        var noted = speaker is { } seat && _state.IsVoiceRecorded(seat) ? speaker : null;
        if (noted == _notedSpeaker) return;
        _notedSpeaker = noted;
        tap.Speaks(noted);
    }

    public (Instant? StandsSince, Instant? Gap) Recording => _tap is { } tap ? (tap.StandsSince, tap.TakeGap()) : default;

    public bool CannotRecord => _tap is { HasFailed: true };

    public StageReport Report()
    {
        Dictionary<SeatId, long> talked;
        lock (_voicesGate)
            talked = _places.Values.SelectMany(place => place.Voices.TakeTalk()).GroupBy(pair => pair.Key, pair => pair.Value)
                .ToDictionary(group => group.Key, group => group.Sum());
        return new StageReport(talked, [.. _everyone.Where(receiver => receiver.IsSlow).Select(receiver => receiver.Seat).Order()]);
    }

    public void Mark()
    {
        foreach (var listener in _places.Values.SelectMany(place => place.Listeners))
            if (listener.Mark()) CapacityChanged(listener);
    }
}
