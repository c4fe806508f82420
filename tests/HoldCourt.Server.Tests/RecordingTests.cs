using HoldCourt.Server.Api;
using HoldCourt.Server.Ledger;
using HoldCourt.Server.Media;
using HoldCourt.Server.Recording;
using Microsoft.Extensions.Logging.Abstractions;

namespace HoldCourt.Server.Tests;

/// <summary>What is written down of what people send, and of whom nothing is.</summary>
public sealed class RecordingTests(Court court) : IClassFixture<Court>
{
    private static RecordingFolder FolderOf(Court house, Guid sitting, int number = 1) => RecordingFolder.Of(house.Folder, sitting, number);

    private static List<WebmBlock> BlocksOf(RecordingFolder folder, SeatId seat, Service service) =>
        [.. folder.AllTracks().Where(track => track.Seat == seat && track.Service == service).SelectMany(track =>
        {
            using var reader = new WebmReader(track.Path);
            reader.IsWhole.ShouldBeTrue();
            return reader.Blocks().Select(block => block with { At = block.At + track.Begins }).ToList();
        })];

    [Fact]
    public async Task Whoever_has_not_agreed_is_in_no_file_and_nothing_of_a_pause_is()
    {
        await using var room = await RecordedRoom.Inside(court);
        var (host, guest) = (room.Host.Me!.Seat, room.Guest.Me!.Seat);
        await room.Host.Done(new SetRecordingRules(RecordingRules.Usual with { AsksConsent = true }));
        await room.GoOn(10);
        await room.Host.Done(new StartRecording());
        await room.GoOn(60);
        var folder = FolderOf(court, room.Sitting);
        folder.AllTracks().ShouldAllBe(track => track.Seat == host);
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Agreed));
        await room.GoOn(60);
        await room.Host.Done(new PauseRecording());
        var paused = court.Time.GetUtcNow().ToUnixTimeMilliseconds();
        await room.GoOn(40);
        var resumed = court.Time.GetUtcNow().ToUnixTimeMilliseconds();
        await room.Host.Done(new ResumeRecording());
        await room.GoOn(40);
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Unrecorded));
        var left = court.Time.GetUtcNow().ToUnixTimeMilliseconds();
        await room.GoOn(40);
        await room.Host.Done(new StopRecording());
        await RecordedRoom.Ended(court, room.Sitting);
        foreach (var seat in new[] { host, guest })
            foreach (var service in new[] { Service.Voice, Service.Camera })
            {
                var blocks = BlocksOf(folder, seat, service);
                blocks.Count.ShouldBeGreaterThan(20, $"{seat} {service}");
                blocks.ShouldAllBe(block => block.At <= paused + 30 || block.At >= resumed - 30);
                if (service == Service.Camera) blocks[0].IsKey.ShouldBeTrue();
                if (seat == guest) blocks.ShouldAllBe(block => block.At <= left + 30);
            }
        BlocksOf(folder, host, Service.Voice).Count.ShouldBeInRange(150, 201, "all that was sent while it ran");
        // Out of the whole: the files go, whatever else happens.
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true));
        await Eventually.Holds(() => folder.AllTracks().All(track => track.Seat == host));
    }

    /// <summary>What a kill leaves is what the files are at that moment: each write is the system's at once.</summary>
    [Fact]
    public async Task Killed_at_any_moment_what_was_written_up_to_a_second_ago_can_be_read()
    {
        await using var room = await RecordedRoom.Inside(court);
        await room.Host.Done(new StartRecording());
        var folder = FolderOf(court, room.Sitting);
        var random = new Random(20261128);
        var going = room.GoOn(400, court.Time);
        await Eventually.Holds(() => folder.Alive is not null);
        await Task.Delay(1_500);
        for (var n = 0; n < 20; n++)
        {
            await Task.Delay(random.Next(20, 350));
            var torn = new RecordingFolder(Directory.CreateTempSubdirectory("hold-court-torn-").FullName);
            Directory.CreateDirectory(torn.Tracks);
            var sent = room.Sent;
            foreach (var track in folder.AllTracks()) File.Copy(track.Path, Path.Combine(torn.Tracks, Path.GetFileName(track.Path)));
            // Torn in the middle of a write, too.
            var victim = torn.AllTracks()[random.Next(torn.AllTracks().Count)].Path;
            await using (var file = new FileStream(victim, FileMode.Open)) file.SetLength(Math.Max(600, file.Length - random.Next(1_200)));
            torn.Repair();
            foreach (var seat in new[] { room.Host.Me!.Seat, room.Guest.Me!.Seat })
                foreach (var service in new[] { Service.Voice, Service.Camera })
                {
                    var blocks = BlocksOf(torn, seat, service);
                    blocks.ShouldNotBeEmpty();
                    if (torn.AllTracks().All(track => track.Path != victim || track.Seat != seat || track.Service != service))
                        // A second, and what a busy machine takes for the way here.
                        (sent - blocks[^1].At).ShouldBeLessThan(1_500);
                }
            Directory.Delete(torn.Path, recursive: true);
        }
        await going;
    }

    [Fact]
    public async Task After_the_server_stopped_it_goes_on_as_the_same_recording_with_a_gap()
    {
        var own = await Court.With("--Demo:Load", "true");
        try
        {
            Visitor visitor;
            OpenedSitting opened;
            SeatId host;
            await using (var room = await RecordedRoom.Inside(own))
            {
                (visitor, opened, host) = (room.Visitor, room.Opened, room.Host.Me!.Seat);
                await room.Host.Done(new StartRecording());
                await room.GoOn(60);
            }
            await own.Restart();
            await Task.Delay(1_000);
            await using var back = await visitor.Connects(opened);
            await back.Done(new OpenMicrophone());
            using (var media = await back.Media())
                for (var n = 0; n < 60; n++)
                {
                    await media.Speak();
                    await Task.Delay(20);
                }
            back.Sitting!.Recording!.Phase.ShouldBe(RecordingPhase.Running);
            back.Sitting.Recording.Recorded.ShouldBeGreaterThan(800, "what was there before counts");
            await back.Done(new StopRecording());
            await RecordedRoom.Ended(own, opened.Sitting);
            var folder = FolderOf(own, opened.Sitting);
            var voice = BlocksOf(folder, host, Service.Voice);
            voice.Count.ShouldBeInRange(100, 121);
            folder.AllTracks().Count(track => track.Seat == host && track.Service == Service.Voice).ShouldBe(2);
            back.Sitting.Recording.Number.ShouldBe(1);
        }
        finally { await own.DisposeAsync(); }
    }

    [Fact]
    public async Task With_a_full_disk_it_stops_in_order_and_says_so_and_is_kept()
    {
        var own = await Court.With("--Demo:Load", "true", "--Recording:StopAt", $"{long.MaxValue / 2}");
        try
        {
            await using var room = await RecordedRoom.Inside(own);
            await room.Host.Done(new StartRecording());
            await room.GoOn(60);
            await Eventually.Holds(() => room.Host.Sitting!.Recording!.Phase == RecordingPhase.Stopped, seconds: 30);
            (await room.Host.Ask<LedgerPage>("Ledger", new LedgerWish(null, [Topic.Recording], null, false, null, null))).Rows
                .Select(row => row.What).ShouldContain("recordingBrokenOff");
            var recording = await RecordedRoom.Ended(own, room.Sitting);
            recording.Length.ShouldBeGreaterThan(500);
            BlocksOf(FolderOf(own, room.Sitting), room.Host.Me!.Seat, Service.Voice).Count.ShouldBe(60);
        }
        finally { await own.DisposeAsync(); }
    }

    /// <summary>What cannot be written any more does not take the sitting with it.</summary>
    [Fact]
    public async Task When_the_folder_goes_the_sitting_goes_on()
    {
        await using var room = await RecordedRoom.Inside(court);
        Directory.CreateDirectory(Path.Combine(court.Folder, "recordings"));
        // In the way of the recording's folder.
        await File.WriteAllTextAsync(Path.Combine(court.Folder, "recordings", room.Sitting.ToString("N")), "");
        await room.Host.Done(new StartRecording());
        await Eventually.Holds(() => room.Host.Sitting!.Recording!.Phase == RecordingPhase.Stopped, seconds: 30);
        await room.GuestMedia.Speak();
        await Eventually.Holds(() => room.HostMedia.Frames(Kind.Audio) > 0);
    }

    /// <summary>A sender chooses what a frame says of itself; a file holds what it is.</summary>
    [Fact]
    public async Task Odd_frames_odd_clocks_and_odd_coders_spoil_nothing()
    {
        var folder = new RecordingFolder(Directory.CreateTempSubdirectory("hold-court-odd-").FullName);
        await using (var tap = new Tap(folder, TimeProvider.System, NullLogger.Instance))
        {
            var publisher = new Nobody();
            var camera = new Track(1, new SeatId(2), new TrackDescription("camera", Service.Camera, Layer.Full, "vp8"), publisher,
                TimeProvider.System);
            var strange = new Track(2, new SeatId(2), new TrackDescription("screen", Service.Screen, Layer.Full, "../../secret"), publisher,
                TimeProvider.System);
            byte[] Framed(Track track, byte[] data, ulong clock)
            {
                var frame = new byte[FrameHeader.Size + data.Length];
                new FrameHeader(frame.Length, track.What.Service, FrameMarks.Key, track.Id, 1, 0, 0, 200, clock).Write(frame);
                data.CopyTo(frame, FrameHeader.Size);
                return frame;
            }
            ulong[] clocks = [0, ulong.MaxValue, 1, 90_000_000_000, 5];
            for (var n = 0; n < 50; n++)
            {
                tap.Take(camera, Framed(camera, n % 7 == 1 ? [1, 2, 3] : RecordedRoom.Clip.Frames[n % 30], clocks[n % 5]), isKey: true);
                tap.Take(strange, Framed(strange, RecordedRoom.Clip.Frames[0], 0), isKey: true);
                await Task.Delay(5);
            }
        }
        var track = folder.AllTracks().ShouldHaveSingleItem();
        (track.Seat, track.Service).ShouldBe((new SeatId(2), Service.Camera));
        using var reader = new WebmReader(track.Path);
        (reader.Tracks[0].Width, reader.Tracks[0].Height).ShouldBe(Codecs.SizeOf("V_VP8", RecordedRoom.Clip.Frames[0])!.Value);
        var times = reader.Blocks().Select(block => block.At).ToList();
        times.ShouldBe(times.Order());
        times[^1].ShouldBeLessThan(3_000);
        reader.Blocks().Where(block => block.IsKey).ShouldAllBe(block => Codecs.SizeOf("V_VP8", block.Frame) != null);
        Directory.GetFiles(folder.Path, "*", SearchOption.AllDirectories).Length.ShouldBe(2);
        Directory.Delete(folder.Path, recursive: true);
    }

    /// <summary>Six hours, by a clock that is put forward between the frames: each second two of a voice and one of a camera.</summary>
    [Fact]
    public async Task A_recording_of_six_hours_is_written_mended_and_found_one_s_way_in()
    {
        const int Seconds = 6 * 3_600;
        var (folder, time) = (new RecordingFolder(Directory.CreateTempSubdirectory("hold-court-long-").FullName), new ShiftedTime());
        var (seat, publisher) = (new SeatId(2), new Nobody());
        var voice = new Track(1, seat, new TrackDescription("microphone", Service.Voice, Layer.None, "opus"), publisher, time);
        var camera = new Track(2, seat, new TrackDescription("camera", Service.Camera, Layer.Full, "vp8"), publisher, time);
        static byte[] Framed(Track track, byte[] data)
        {
            var frame = new byte[FrameHeader.Size + data.Length];
            new FrameHeader(frame.Length, track.What.Service, FrameMarks.Key, track.Id, 1, 0, 0, 200, 0).Write(frame);
            data.CopyTo(frame, FrameHeader.Size);
            return frame;
        }
        var (sound, picture) = (Framed(voice, [0xF8, 0xFF, 0xFE]), Framed(camera, RecordedRoom.Clip.Frames[0]));
        var began = time.GetUtcNow();
        await using (var tap = new Tap(folder, time, NullLogger.Instance))
            for (var second = 0; second < Seconds; second++)
            {
                tap.Take(voice, sound, isKey: true);
                tap.Take(voice, sound, isKey: true);
                if (second % 10 == 0) tap.Take(camera, picture, isKey: true);
                time.Forward(TimeSpan.FromSeconds(1));
                // What it has not yet written stays little.
                if (second % 200 == 0) await Task.Delay(20);
            }
        var tracks = folder.AllTracks().ToList();
        tracks.Select(track => track.Service).ShouldBe([Service.Voice, Service.Camera], ignoreOrder: true);
        foreach (var track in tracks)
        {
            // A torn end, as a kill leaves it.
            using (var file = new FileStream(track.Path, FileMode.Open)) file.SetLength(file.Length - 30);
            folder.Repair();
            using var reader = new WebmReader(track.Path);
            reader.IsWhole.ShouldBeTrue();
            var times = reader.Blocks().Select(block => block.At).ToList();
            times.ShouldBe(times.Order());
            times.Count.ShouldBeInRange(track.Service == Service.Voice ? (2 * Seconds) - 200 : (Seconds / 10) - 20, 2 * Seconds);
            times[^1].ShouldBeGreaterThan((Seconds - 40) * 1_000L);
            (track.Begins - began.ToUnixTimeMilliseconds()).ShouldBeInRange(-1_000, 5_000);
        }
        Directory.Delete(folder.Path, recursive: true);
    }

    private sealed class Nobody : IPublisher
    {
        public void Numbered(IReadOnlyList<int> tracks) { }
        public void Wanted(IReadOnlyList<int> tracks) { }
        public void NeedKey(ushort track) { }
    }
}
