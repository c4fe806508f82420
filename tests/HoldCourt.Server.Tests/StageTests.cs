using HoldCourt.Server.Media;

namespace HoldCourt.Server.Tests;

/// <summary>The relay by itself, with senders and receivers that are no browsers.</summary>
public sealed class StageTests : IDisposable
{
    private static readonly TrackDescription _voice = new("microphone", Service.Voice, Layer.None, "opus"),
    _camera = new(Wish.Camera, Service.Camera, Layer.Full, "vp8"),
        _screen = new("screen", Service.Screen, Layer.Full, "vp9");

    private readonly Beats _beats = new(TimeProvider.System, 1, Made.Supervisor());
    private readonly Stage _stage;

    public StageTests() => _stage = new Stage(TimeProvider.System, _beats);

    public void Dispose() => _beats.Dispose();

    private sealed class Someone : IPublisher
    {
        public IReadOnlyList<int> Numbers { get; private set; } = [];
        public IReadOnlyList<int> Needed { get; private set; } = [];
        public void Numbered(IReadOnlyList<int> tracks) => Numbers = tracks;
        public void Wanted(IReadOnlyList<int> tracks) => Needed = tracks;
        public int Asked;
        public void NeedKey(ushort track) => Interlocked.Increment(ref Asked);
    }

    /// <summary>Keeps what it gets, as something that writes it down would.</summary>
    private sealed class Tap(SeatId seat) : IReceiver
    {
        public List<(string Source, byte Data)> Taken { get; } = [];
        public Dictionary<string, long> Bytes { get; } = [];
        public List<ToBrowser> Said { get; } = [];
        public List<ushort> Forgotten { get; } = [];
        public bool HasEnded { get; private set; }
        public SeatId Seat => seat;
        public long Capacity => 8_000_000;
        public bool IsSlow => false;
        public void Say(ToBrowser message) => Said.Add(message);
        public void Say(byte[] text) { }
        public bool Take(Track track, byte[] frame, bool isKey)
        {
            Taken.Add((track.What.Source, frame[^1]));
            Bytes[track.What.Source] = Bytes.GetValueOrDefault(track.What.Source) + frame.Length;
            return true;
        }

        public void AwaitKey(ushort track) { }
        public void Forget(IReadOnlyCollection<ushort> tracks) => Forgotten.AddRange(tracks);
        public void Flush() { }
        public bool Mark() => false;
        public void End() => HasEnded = true;
    }

    private static StageRow Inside(int seat, bool heard = true, bool seen = true, ScreenRow? screen = null) =>
        new(new SeatId(seat), Viewer.Attendee, Here: true, Receives: true, heard, seen ? [Viewer.Bench, Viewer.Attendee] : [], screen);

    private (Sender Sender, Someone Browser) Comes(int seat, params TrackDescription[] tracks)
    {
        var browser = new Someone();
        var sender = _stage.AddSender(new SeatId(seat), browser);
        _stage.Describe(sender, tracks).ShouldBeTrue();
        return (sender, browser);
    }

    private void Sends(Sender sender, int track, Service service, byte data, byte level = 30, int bytes = 1, bool isKey = true)
    {
        var frame = new byte[FrameHeader.Size + bytes];
        new FrameHeader(frame.Length, service, isKey ? FrameMarks.Key : FrameMarks.None, (ushort)track, 1, level, 0, 200, 0).Write(frame);
        frame[^1] = data;
        _stage.Publish(sender, frame).ShouldBeTrue();
    }

    [Fact]
    public void Whatever_receives_gets_what_its_seat_may_hear_and_see_and_nothing_of_a_screen_that_is_not_open()
    {
        _stage.Follow(new StageChange(false, null, [Inside(1), Inside(2), Inside(3) with { Receives = false }]));
        var (sender, browser) = Comes(1, _voice, _camera, _screen);
        var (tap, waiting) = (new Tap(new SeatId(2)), new Tap(new SeatId(3)));
        foreach (var receiver in new[] { tap, waiting })
        {
            _stage.Add(receiver);
            _stage.Show(receiver, [new Wish(new SeatId(1), 400), new Wish(new SeatId(1), 400, "screen")]);
        }
        browser.Needed.ShouldBe(browser.Numbers.Take(2), "no screen is open");
        for (byte n = 0; n < 3; n++) Sends(sender, browser.Numbers[n], (Service)(n + 1), n);
        tap.Taken.ShouldBe([("microphone", 0), ("camera", 1)]);
        waiting.Taken.ShouldBeEmpty();

        _stage.Follow(new StageChange(false, null, [Inside(1, heard: false, seen: false)]));
        for (byte n = 0; n < 3; n++) Sends(sender, browser.Numbers[n], (Service)(n + 1), 9);
        tap.Taken.Count.ShouldBe(2);
        browser.Needed.ShouldBeEmpty();
        _stage.Follow(new StageChange(IsOver: true, null, []));
        tap.HasEnded.ShouldBeTrue();
    }

    [Fact]
    public async Task Whoever_comes_just_after_a_whole_picture_was_sent_has_one_asked_for_too()
    {
        var shown = new ScreenRow(Shown: true, Held: false);
        _stage.Follow(new StageChange(false, null, [Inside(1, screen: shown), Inside(2), Inside(3)]));
        var (sender, browser) = Comes(1, _voice, _camera, _screen);
        foreach (var seat in new[] { 2, 3 })
        {
            var tap = new Tap(new SeatId(seat));
            _stage.Add(tap);
            _stage.Show(tap, [new Wish(new SeatId(1), 700, Wish.Screen)]);
            // What stands still is sent once.
            if (seat == 2) Sends(sender, browser.Numbers[2], Service.Screen, 1);
        }
        browser.Asked.ShouldBe(1);
        await Eventually.Holds(() => browser.Asked == 2);
    }

    [Fact]
    public void A_screen_goes_to_its_owner_first_and_to_all_when_it_is_shown_and_not_a_frame_passes_while_it_is_held()
    {
        _stage.Follow(new StageChange(false, null, [Inside(1), Inside(2), Inside(3), Inside(4) with { Receives = false }]));
        var (sender, browser) = Comes(1, _voice, _camera, _screen);
        var (own, other, waiting) = (new Tap(new SeatId(1)), new Tap(new SeatId(2)), new Tap(new SeatId(4)));
        void Comes2(Tap tap) { _stage.Add(tap); _stage.Show(tap, [new Wish(new SeatId(1), 700, Wish.Screen)]); }
        foreach (var tap in new[] { own, other, waiting }) Comes2(tap);
        void Is(ScreenRow? screen) => _stage.Follow(new StageChange(false, null, [Inside(1, screen: screen)]));
        void Sends3(byte data, bool isKey = true) => Sends(sender, browser.Numbers[2], Service.Screen, data, isKey: isKey);
        byte[] Of(Tap tap) => [.. tap.Taken.Where(frame => frame.Source == "screen").Select(frame => frame.Data)];

        Sends3(1);
        Is(new ScreenRow(Shown: false, Held: false));
        Sends3(2);
        Of(own).ShouldBe([2]);
        Of(other).ShouldBeEmpty();
        Is(new ScreenRow(Shown: true, Held: false));
        Of(other).ShouldBeEmpty("what stood there before it was shown is nobody's");
        Sends3(3);
        Sends3(4, isKey: false);
        Is(new ScreenRow(Shown: true, Held: true));
        Sends3(5);
        Of(other).ShouldBe([3, 4]);
        // Whoever comes while it stands still has it at once.
        var late = new Tap(new SeatId(3));
        Comes2(late);
        Of(late).ShouldBe([3, 4]);
        Is(new ScreenRow(Shown: true, Held: false));
        Sends3(6);
        Of(other).ShouldBe([3, 4, 6]);
        Of(late).ShouldBe([3, 4, 6]);
        Is(new ScreenRow(Shown: false, Held: false));
        Sends3(7);
        Is(null);
        Sends3(8);
        Of(other).ShouldBe([3, 4, 6]);
        Of(own).ShouldBe([2, 3, 4, 6, 7]);
        Of(waiting).ShouldBeEmpty();
        // A camera that calls itself a screen, and the other way round, are nobody's.
        var (liar, lies) = Comes(2, _camera with { Source = Wish.Screen }, _screen with { Source = Wish.Camera });
        _stage.Follow(new StageChange(false, null, [Inside(2, screen: new ScreenRow(Shown: true, Held: false))]));
        _stage.Show(late, [new Wish(new SeatId(2), 700, Wish.Screen), new Wish(new SeatId(2), 700)]);
        late.Taken.Clear();
        Sends(liar, lies.Numbers[0], Service.Camera, 1);
        Sends(liar, lies.Numbers[1], Service.Screen, 1);
        late.Taken.ShouldBeEmpty();
    }

    [Fact]
    public void What_a_screen_sounds_like_is_heard_by_the_others_while_all_see_it_go_on_and_is_nobodys_voice()
    {
        _stage.Follow(new StageChange(false, null, [Inside(1), Inside(2), Inside(4) with { Receives = false }]));
        var (sender, browser) = Comes(1, _voice, _screen, new TrackDescription(Wish.Screen, Service.Sound, Layer.None, "opus"));
        var (own, other, waiting) = (new Tap(new SeatId(1)), new Tap(new SeatId(2)), new Tap(new SeatId(4)));
        foreach (var tap in new[] { own, other, waiting }) _stage.Add(tap);
        void Is(ScreenRow? screen) => _stage.Follow(new StageChange(false, null, [Inside(1, screen: screen)]));
        var number = (byte)0;
        bool Passes()
        {
            Sends(sender, browser.Numbers[2], Service.Sound, ++number, isKey: true);
            return other.Taken.Any(frame => frame.Data == number);
        }
        Passes().ShouldBeFalse("no screen is open");
        Is(new ScreenRow(Shown: false, Held: false));
        Passes().ShouldBeFalse("nobody else sees it");
        browser.Needed.ShouldNotContain(browser.Numbers[2]);
        Is(new ScreenRow(Shown: true, Held: false));
        browser.Needed.ShouldContain(browser.Numbers[2]);
        Passes().ShouldBeTrue();
        Is(new ScreenRow(Shown: true, Held: true));
        Passes().ShouldBeFalse("it is held");
        Is(new ScreenRow(Shown: true, Held: false));
        Passes().ShouldBeTrue();
        Is(null);
        Passes().ShouldBeFalse();
        (own.Taken.Count, waiting.Taken.Count).ShouldBe((0, 0));
        _stage.Listen();
        _stage.Report().Talked.ShouldBeEmpty();
        // Sound that calls itself a voice goes by the rules of voices.
        Is(new ScreenRow(Shown: true, Held: false));
        other.Taken.Clear();
        Sends(sender, browser.Numbers[2], Service.Voice, 99, isKey: true);
        Sends(sender, browser.Numbers[0], Service.Sound, 98, isKey: true);
        other.Taken.ShouldBeEmpty();
    }

    [Fact]
    public void Of_six_who_talk_the_one_who_has_the_floor_is_always_heard_however_softly()
    {
        _stage.Follow(new StageChange(
            false, null, [.. Enumerable.Range(1, 7).Select(seat => Inside(seat) with { HasFloor = seat == 6 })]));
        var tap = new Tap(new SeatId(7));
        _stage.Add(tap);
        var people = Enumerable.Range(1, 6).Select(seat => Comes(seat, _voice)).ToList();
        for (var n = 0; n < 30; n++)
        {
            if (n % 5 == 4) _stage.Listen();
            foreach (var (sender, browser) in people)
                Sends(sender, browser.Numbers[0], Service.Voice, (byte)sender.Seat.Number,
                level: (byte)(sender.Seat.Number == 6 ? 60 : 25));
        }
        tap.Taken.Count(frame => frame.Data == 6).ShouldBe(30, "not one syllable is missing");
        tap.Taken.Select(frame => frame.Data).Distinct().Count().ShouldBeInRange(4, 5);
    }

    [Fact]
    public void A_voice_that_is_no_voice_and_a_camera_that_says_it_is_a_screen_get_through_no_more_than_others()
    {
        _stage.Follow(new StageChange(false, null, [Inside(1), Inside(2)]));
        var tap = new Tap(new SeatId(2));
        _stage.Add(tap);
        _stage.Show(tap, [new Wish(new SeatId(1), 400)]);
        var (sender, browser) = Comes(1, _voice, _camera, _screen);
        var begun = DateTime.UtcNow;
        // More of each than any honest browser sends in five seconds, but not enough to be cut off.
        for (var n = 0; n < 600; n++) Sends(sender, browser.Numbers[0], Service.Voice, 0, bytes: 700);
        for (var n = 0; n < 240; n++) Sends(sender, browser.Numbers[1], Service.Camera, 0, bytes: 30_000);
        var seconds = (long)Math.Ceiling((DateTime.UtcNow - begun).TotalSeconds + 1);
        tap.Bytes["microphone"].ShouldBeLessThan(50_000 * seconds);
        tap.Bytes[Wish.Camera].ShouldBeLessThan(1_050_000 * seconds);
    }

    [Fact]
    public void A_description_that_makes_no_sense_changes_nothing_and_what_stays_keeps_its_number()
    {
        _stage.Follow(new StageChange(false, null, [Inside(1), Inside(2)]));
        var tap = new Tap(new SeatId(2));
        _stage.Add(tap);
        var (sender, browser) = Comes(1, _voice, _camera);
        var before = browser.Numbers;
        TrackDescription[][] bad =
        [
            [_voice, _voice], [_camera, _camera with { Codec = "av1" }], [_voice with { Layer = Layer.Full }],
            [_camera with { Layer = Layer.None }],
            [_camera with { Source = "" }], [_camera with { Source = new string('x', 41) }], [_camera with { Service = (Service)7 }],
            [_camera with { Layer = (Layer)9 }],
            [.. Enumerable.Range(0, 13).Select(n => _camera with { Source = $"camera {n}" })]
        ];
        foreach (var tracks in bad) _stage.Describe(sender, tracks).ShouldBeFalse();
        browser.Numbers.ShouldBe(before);
        _stage.Describe(sender, [_screen, _voice]).ShouldBeTrue();
        browser.Numbers[1].ShouldBe(before[0]);
        before.ShouldNotContain(browser.Numbers[0]);
        tap.Forgotten.ShouldBe([(ushort)before[1]]);
        Sends(sender, before[1], Service.Camera, 1);
        tap.Taken.ShouldBeEmpty("the number is not the sender's any more");
        // One that was replaced describes nothing any more.
        var (_, newer) = Comes(1, _voice);
        var held = newer.Numbers;
        _stage.Describe(sender, [_voice, _camera]);
        newer.Numbers.ShouldBe(held);
    }

    [Fact]
    public void A_tracks_number_is_somebody_elses_only_when_everybody_was_told()
    {
        var (_, stays) = Comes(1, _voice, _camera);
        for (var n = 0; n < 35_000; n++)
        {
            var (_, comes) = Comes(2 + (n % 3), _voice, _camera);
            comes.Numbers.ShouldNotContain(number => number == 0 || stays.Numbers.Contains(number));
        }
    }

    [Fact]
    public void What_waits_of_a_screen_is_never_less_than_its_newest_whole_picture_while_a_camera_starts_anew()
    {
        var outgoing = new Outgoing(TimeProvider.System);
        Track Of(ushort id, TrackDescription what) => new(id, new SeatId(1), what, new Someone(), TimeProvider.System);
        var (screen, camera) = (Of(1, _screen), Of(2, _camera));
        static byte[] Frame(int length, byte data) => [.. Enumerable.Repeat(data, length)];
        outgoing.Take(screen, Frame(200_000, 1), isKey: true).ShouldBeTrue();
        outgoing.Take(camera, Frame(1_000, 7), isKey: true).ShouldBeTrue();
        for (byte n = 0; n < 4; n++) outgoing.Take(screen, Frame(100_000, 2), isKey: false).ShouldBeTrue();
        outgoing.Take(screen, Frame(200_000, 3), isKey: false).ShouldBeFalse("too much waits");
        outgoing.Take(screen, Frame(10, 3), isKey: false).ShouldBeFalse("and nothing can follow a gap");
        outgoing.Take(camera, Frame(200_000, 7), isKey: false).ShouldBeFalse();
        Sent(outgoing).ShouldBe([(1, 200_000)], "of the camera nothing is left, of the screen a whole picture");

        outgoing.Take(screen, Frame(220_000, 4), isKey: true).ShouldBeTrue();
        outgoing.Take(screen, Frame(50, 5), isKey: false).ShouldBeTrue();
        outgoing.Take(screen, Frame(230_000, 6), isKey: true).ShouldBeTrue();
        Sent(outgoing).ShouldBe([(6, 230_000)], "a newer whole picture takes the place of all before");
    }

    /// <summary>What goes out, as the value of its bytes and how many there are.</summary>
    private static List<(int Data, int Length)> Sent(Outgoing outgoing)
    {
        var all = new List<(int, int)>();
        while (outgoing.Next() is var (message, type))
            if (type == System.Net.WebSockets.WebSocketMessageType.Binary)
                all.AddRange(message.ToArray().CountBy(value => value).Select(pair => ((int)pair.Key, pair.Value)));
        return all;
    }

    private static StageRow In(int? room, int seat, ScreenRow? screen = null) => new(
        new SeatId(seat), new Viewpoint(Viewer.Attendee, room), Here: true, Receives: true, Heard: true,
        [.. Viewpoint.Inside(room)], screen);

    /// <summary>Who gets what of a sender's frames, by the last byte of each.</summary>
    private string Heard(Sender sender, Someone browser, params Tap[] taps)
    {
        foreach (var tap in taps) tap.Taken.Clear();
        for (byte n = 0; n < browser.Numbers.Count; n++) Sends(sender, browser.Numbers[n], (Service)(n + 1), n);
        return string.Join(" ", taps.Where(tap => tap.Taken.Count > 0)
            .Select(tap => $"{tap.Seat.Number}:{string.Concat(tap.Taken.Select(one => one.Data))}"));
    }

    [Fact]
    public void Neither_voice_nor_picture_nor_screen_passes_a_wall_but_the_voice_that_goes_into_all_rooms()
    {
        var shown = new ScreenRow(Shown: true, Held: false);
        _stage.Follow(new StageChange(false, null, [In(null, 1, shown), In(null, 2), In(1, 3), In(1, 4), In(2, 5)]));
        var (sender, browser) = Comes(1, _voice, _camera, _screen);
        Tap[] taps = [.. Enumerable.Range(2, 4).Select(seat => new Tap(new SeatId(seat)))];
        foreach (var tap in taps)
        {
            _stage.Add(tap);
            _stage.Show(tap, [new Wish(new SeatId(1), 400), new Wish(new SeatId(1), 700, Wish.Screen)]);
        }
        Heard(sender, browser, taps).ShouldBe("2:012", "those in the hall");
        _stage.Follow(new StageChange(false, null, [In(1, 1, shown)]));
        Heard(sender, browser, taps).ShouldBe("3:012 4:012", "those in the room, and nobody in the hall");
        _stage.Follow(new StageChange(false, null, [In(1, 1, shown) with { HeardInRooms = true }]));
        Heard(sender, browser, taps).ShouldBe("2:0 3:012 4:012 5:0", "the voice alone");
        _stage.Follow(new StageChange(false, null, [In(1, 1, shown), In(2, 3)]));
        Heard(sender, browser, taps).ShouldBe("4:012", "whoever has gone to another room gets nothing more");
        _stage.Follow(new StageChange(false, null, [In(null, 3), In(null, 4), In(null, 5), In(null, 1, shown)]));
        Heard(sender, browser, taps).ShouldBe("2:012 3:012 4:012 5:012", "everybody is back");
    }

    [Fact]
    public void Each_room_has_its_own_speaker_and_its_own_four_voices()
    {
        _stage.Follow(new StageChange(false, null, [.. Enumerable.Range(1, 12).Select(seat => In(seat <= 6 ? 1 : 2, seat))]));
        var taps = new[] { 1, 7 }.Select(seat => new Tap(new SeatId(seat))).ToList();
        taps.ForEach(_stage.Add);
        var senders = Enumerable.Range(1, 12).Where(seat => seat is not (1 or 7)).Select(seat => Comes(seat, _voice)).ToList();
        for (byte n = 0; n < 30; n++)
        {
            foreach (var (sender, browser) in senders) Sends(sender, browser.Numbers[0], Service.Voice, (byte)sender.Seat.Number);
            _stage.Listen();
        }
        foreach (var tap in taps) tap.Taken.Clear();
        foreach (var (sender, browser) in senders) Sends(sender, browser.Numbers[0], Service.Voice, (byte)sender.Seat.Number);
        taps[0].Taken.Count.ShouldBe(VoiceLevels.MostForwarded);
        taps[0].Taken.ShouldAllBe(one => one.Data <= 6);
        taps[1].Taken.Count.ShouldBe(VoiceLevels.MostForwarded);
        taps[1].Taken.ShouldAllBe(one => one.Data > 6);
    }
}
