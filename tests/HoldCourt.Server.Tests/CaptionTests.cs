using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using Concentus;
using Concentus.Enums;
using HoldCourt.Server.Api;
using HoldCourt.Server.Captions;
using HoldCourt.Store.Recording;
using Microsoft.Extensions.Logging.Abstractions;

namespace HoldCourt.Server.Tests;

/// <summary>What is said, in words: to whom it is told, what a machine hears, and the transcript of a recording.</summary>
public sealed class CaptionTests(Court court) : IClassFixture<Court>
{
    private static string[] Read(Live live) { lock (live) return [.. live.Captions.Select(row => row.Text)]; }

    [Fact]
    public async Task A_line_reaches_those_inside_once_and_nobody_else_and_one_who_comes_back_reads_on()
    {
        await using var room = await RecordedRoom.Inside(court);
        await using var lobby = await court.Visitor().Announces(room.Opened, "Waits");
        await room.Host.Done(new SetOrder(Order.SeePeople, Audience.Bench));
        await room.Host.Done(new NameCaptioner(room.Guest.Me!.Seat));
        await Eventually.Holds(() => room.Guest.Me!.Captioner is { Turn: true });
        room.Host.Me!.Captioner.ShouldBeNull();
        lobby.Sitting!.Captions!.On.ShouldBeFalse("whoever waits is not told");
        await room.Guest.Done(new WriteCaption("Good mroning.", room.Host.Me!.Seat, 1_000));
        await Eventually.Holds(() => Read(room.Host).Length == 1 && Read(room.Guest).Length == 1);
        await room.Guest.Done(new CorrectCaption(1, "Good morning."));
        await Eventually.Holds(() => Read(room.Host).SequenceEqual(["Good mroning.", "Good morning."]));
        // Another connection of the same browser takes the seat, and has the lines as they are now.
        await using var again = await room.GuestVisitor.Connects(room.Opened);
        Read(again).ShouldBe(["Good morning."]);
        again.Captions[0].Name.ShouldBe("Odalys", "the host is seen by all");
        // The older connection is told, and cut a moment later.
        try { (await room.Guest.Do(new WriteCaption("From the old line.")))!.Reason.ShouldBe(Reason.Superseded); }
        catch (InvalidOperationException) { room.Guest.Superseded.ShouldBeTrue(); }
        Read(lobby).ShouldBeEmpty();
        foreach (var command in new SeatCommand[] { new WriteCaption("Me."), new TakeCaptionTurn(), new CorrectCaption(1, "Mine."),
            new NameCaptioner(lobby.Me!.Seat), new CaptionByMachine(true) })
            (await lobby.Do(command)).ShouldNotBeNull(command.ToString());
        await room.Host.Done(new Remove([again.Me!.Seat], MayReturn: true));
        (await again.Do(new WriteCaption("Still here."))).ShouldNotBeNull();
        await room.Host.Done(new NameCaptioner(room.Host.Me!.Seat));
        await room.Host.Done(new WriteCaption("After that."));
        await Eventually.Holds(() => Read(room.Host).Contains("After that."));
        Read(again).ShouldNotContain("After that.");
        Read(lobby).ShouldBeEmpty();
    }

    [Fact]
    public async Task The_machine_writes_what_it_hears_and_hears_nobody_who_does_not_want_it()
    {
        await using var room = await RecordedRoom.Inside(court);
        var packets = Spoken("good morning everybody. the first question is about the bridge.");
        async Task Says()
        {
            foreach (var packet in packets)
            {
                await room.GuestMedia.Send(Kind.Audio, room.GuestMedia.Own.Audio, packet);
                await Task.Delay(15);
            }
        }
        await Says();
        Read(room.Host).ShouldBeEmpty("nobody turned it on");
        await room.Host.Done(new CaptionByMachine(true));
        await Says();
        await Eventually.Holds(() => string.Join(' ', Read(room.Host)) is var heard
            && new[] { "morning", "question", "bridge", "first" }.Count(word =>
                heard.Contains(word, StringComparison.OrdinalIgnoreCase)) >= 2, seconds: 30);
        lock (room.Host)
        {
            room.Host.Captions.ShouldAllBe(row => row.Draft && row.Name == "Guest");
            room.Host.Captions.ShouldAllBe(row => row.Heard.Milliseconds > court.Time.GetUtcNow().ToUnixTimeMilliseconds() - 60_000);
        }
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Unrecorded));
        await Task.Delay(2_000);
        var before = Read(room.Host).Length;
        await Says();
        // What is no sound at all is let go, too.
        for (var n = 0; n < 30; n++)
            await room.HostMedia.Send(Kind.Audio, room.HostMedia.Own.Audio, [.. Enumerable.Repeat((byte)(n * 37), 40)]);
        await Task.Delay(2_500);
        Read(room.Host).Length.ShouldBe(before);
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Agreed));
        await Says();
        await Eventually.Holds(() => Read(room.Host).Length > before, seconds: 30);
    }

    /// <summary>Whoever listens takes a core: another sitting is not listened to before a place is given back.</summary>
    [Fact]
    public async Task No_more_sittings_are_listened_to_at_once_than_there_are_places()
    {
        var (heard, recogniser, places) = (new ConcurrentQueue<int>(), new Echo(), new Places(1));
        Ear Of(int sitting) => new(recogniser, places, (_, _, _) => heard.Enqueue(sitting), TimeProvider.System, NullLogger.Instance);
        var (first, second) = (Of(1), Of(2));
        var packets = Spoken("good morning");
        void Says(Ear ear)
        {
            foreach (var packet in packets) ear.Hear(new SeatId(1), [.. new byte[FrameHeader.Size], .. packet]);
        }
        Says(first);
        Says(second);
        await Eventually.Holds(() => heard.Contains(1));
        await Task.Delay(1_000);
        heard.ShouldNotContain(2);
        first.End();
        await Task.Delay(200);
        Says(second);
        await Eventually.Holds(() => heard.Contains(2));
        second.End();
        await Eventually.Holds(() => recogniser.Open == 0);
    }

    /// <summary>Says something whenever a voice ends.</summary>
    private sealed class Echo : IRecogniser
    {
        private int _open;

        public int Open => Volatile.Read(ref _open);
        public bool IsThere => true;

        public IHearing Begin()
        {
            Interlocked.Increment(ref _open);
            return new Hearing(this);
        }

        private sealed class Hearing(Echo echo) : IHearing
        {
            public string? Take(ReadOnlySpan<short> samples) => null;
            public string? End() => "words";
            public void Dispose() => Interlocked.Decrement(ref echo._open);
        }
    }

    /// <summary>A sentence in the voice of <c>flite</c>, as a microphone would send it.</summary>
    private static List<byte[]> Spoken(string sentence)
    {
        var wave = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():N}.wav");
        using (var flite = Process.Start("flite", ["-voice", "slt", "-t", sentence, "-o", wave])) flite.WaitForExit();
        var bytes = File.ReadAllBytes(wave);
        File.Delete(wave);
        // 16 bits, one channel, 16 kHz, behind a head of 44 bytes; with half a second of silence after it.
        var samples = new short[((bytes.Length - 44) / 2) + 16_000];
        Buffer.BlockCopy(bytes, 44, samples, 0, bytes.Length - 44);
        using var encoder = OpusCodecFactory.CreateEncoder(16_000, 1, OpusApplication.OPUS_APPLICATION_VOIP);
        encoder.Bitrate = 32_000;
        var (packets, packet) = (new List<byte[]>(), new byte[1_500]);
        for (var at = 0; at + 320 <= samples.Length; at += 320)
            packets.Add(packet[..encoder.Encode(samples.AsSpan(at, 320), 320, packet, packet.Length)]);
        return packets;
    }

    /// <summary>The track of captions of a film, by another program: from, to, and the words without who says them.</summary>
    private static List<(long From, long To, string Text)> InFile(byte[] film)
    {
        var path = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():N}.webm");
        File.WriteAllBytes(path, film);
        using var reader = Process.Start(new ProcessStartInfo("ffmpeg", ["-v", "error", "-i", path, "-map", "0:s:0", "-f", "webvtt", "-"])
        {
            RedirectStandardOutput = true
        })!;
        var text = reader.StandardOutput.ReadToEnd();
        reader.WaitForExit();
        File.Delete(path);
        static long Time(string time) => (long)TimeSpan.Parse(
            time.Split(':').Length == 2 ? $"0:{time}" : time, System.Globalization.CultureInfo.InvariantCulture).TotalMilliseconds;
        return [.. text.Split("\n\n", StringSplitOptions.RemoveEmptyEntries).Skip(1).Select(cue => cue.Trim().Split('\n'))
            .Select(cue => (Times: cue[0].Split(" --> "), Text: System.Text.RegularExpressions.Regex.Replace(cue[1], "<v [^>]*>", "")))
            .Select(cue => (Time(cue.Times[0]), Time(cue.Times[1]), cue.Text))];
    }

    [Fact]
    public async Task A_transcript_goes_with_its_film_and_is_corrected_by_whoever_keeps_it_alone()
    {
        await using var room = await RecordedRoom.Inside(court);
        var (host, guest) = (room.Host.Me!.Seat, room.Guest.Me!.Seat);
        await room.Host.Done(new NameCaptioner(host));
        await room.Host.Done(new SetRecordingRules(RecordingRules.Usual with { Watchers = Watchers.Present }));
        await room.Host.Done(new WriteCaption("Before all of it.", host));
        await room.Host.Done(new StartRecording());
        await room.GoOn(30);
        await room.Host.Done(new WriteCaption("The <b>first</b> & best.", host));
        await room.GoOn(60);
        await room.Host.Done(new PauseRecording());
        await room.Host.Done(new WriteCaption("Said in a pause.", host));
        await room.GoOn(20);
        await room.Host.Done(new ResumeRecording());
        await room.GoOn(30);
        await room.Host.Done(new WriteCaption("The second.", guest));
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Unrecorded));
        await room.GoOn(20);
        await room.Host.Done(new WriteCaption("What nobody wanted kept.", guest));
        await room.GoOn(30);
        await room.Host.Done(new StopRecording());
        var recording = (await RecordedRoom.Ended(court, room.Sitting)).Id;
        RecordingPage? page = null;
        await Eventually.Succeeds(async () =>
        {
            page = await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}");
            page.Film.ShouldNotBeNull();
        }, seconds: 60);
        var film = $"/api/recordings/{recording}/films/{page!.Film}";
        async Task<TranscriptPage> Transcript(string of) => await room.Visitor.Get<TranscriptPage>($"{of}/transcript");
        var all = await Transcript(film);
        all.Cues.Select(cue => (cue.Name, cue.Text)).ShouldBe([("Odalys", "The <b>first</b> & best."), ("Guest", "The second.")]);
        all.Cues[0].From.ShouldBeInRange(300, 2_500);
        all.Cues[1].To.ShouldBeLessThanOrEqualTo(page.Recording.Films[0].Length);
        var vtt = await (await room.Visitor.Get($"{film}/captions.vtt")).Content.ReadAsStringAsync();
        vtt.ShouldStartWith("WEBVTT\n");
        vtt.ShouldContain("<v Odalys>The &lt;b&gt;first&lt;/b&gt; &amp; best.");
        (await (await room.Visitor.Get($"{film}/transcript.txt")).Content.ReadAsStringAsync()).ShouldContain("] Guest\nThe second.");

        // Those who may see it read it; only its keeper changes a word.
        var (nobody, other) = (court.Visitor(), await court.AnotherHost("ansel@larkmoor.example.org"));
        foreach (var part in new[] { "transcript", "captions.vtt", "transcript.txt" })
        {
            (await room.GuestVisitor.Get($"{film}/{part}")).StatusCode.ShouldBe(HttpStatusCode.OK, part);
            foreach (var visitor in new[] { nobody, other })
                (await visitor.Get($"{film}/{part}")).StatusCode.ShouldBe(HttpStatusCode.NotFound, part);
        }
        var line = $"/api/recordings/{recording}/lines/{all.Cues[0].Line}";
        (await room.GuestVisitor.Refused(HttpMethod.Put, line, new LineWish("Mine."))).ShouldBe("signInNeeded");
        (await other.Refused(HttpMethod.Put, line, new LineWish("Mine."))).ShouldBe("noSuchRecording");
        (await room.Visitor.Refused(HttpMethod.Put, line, new LineWish(new string('a', 301)))).ShouldBe("captionTooLong");
        // Neither a line that never was, nor one that is not in it, can be made one.
        foreach (var odd in new[] { 0, -1, 1, 3, 5, int.MaxValue })
            (await room.Visitor.Refused(HttpMethod.Put, $"/api/recordings/{recording}/lines/{odd}", new LineWish("A")))
                .ShouldBe("noSuchCaption");
        await room.Visitor.Does(HttpMethod.Put, line, new LineWish("The first, and best."));
        (await Transcript(film)).Cues[0].ShouldSatisfyAllConditions(
            cue => cue.Text.ShouldBe("The first, and best."), cue => cue.Corrected.ShouldBeTrue());
        // A film without its beginning has the lines of the rest, earlier by as much, and corrected alike.
        var cut = await room.Visitor.Post<FilmCutMade>($"{film}/cut", new FilmCut([new CutRow(0, all.Cues[0].From + 400)]));
        var gone = cut.Parts.Sum(part => part.To - part.From);
        var rest = await Transcript($"/api/recordings/{recording}/films/{cut.Film}");
        rest.Cues[^1].From.ShouldBe(all.Cues[^1].From - gone);
        if (gone > all.Cues[0].From) rest.Cues.Length.ShouldBe(1);
        // In the file itself, as another program reads it, with the words and times that the transcript has.
        var now = await Transcript(film);
        var inFile = InFile(await (await room.Visitor.Get($"{film}/captioned.webm")).Content.ReadAsByteArrayAsync());
        inFile.Select(cue => cue.Text).ShouldBe(now.Cues.Select(cue => cue.Text));
        // The whole of the file may begin some milliseconds later: a coder of sound needs them.
        foreach (var (cue, own) in inFile.Zip(now.Cues))
            (Math.Abs(cue.From - own.From) + Math.Abs(cue.To - own.To)).ShouldBeLessThan(40);
        (await room.GuestVisitor.Get($"{film}/captioned.webm")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await nobody.Get($"{film}/captioned.webm")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await room.Visitor.Does(HttpMethod.Put, line, new LineWish(""));
        (await Transcript(film)).ShouldSatisfyAllConditions(
            now => now.Cues.Length.ShouldBe(1), now => now.TakenOut.ShouldBe([all.Cues[0].Line]));
        (await room.GuestVisitor.Get<TranscriptPage>($"{film}/transcript")).TakenOut.ShouldBeEmpty();
        await room.Visitor.Does(HttpMethod.Put, line, new LineWish(null));
        (await Transcript(film)).Cues.ShouldBe(all.Cues);
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}/people/{guest.Number}");
        await Eventually.Succeeds(async () =>
        {
            page = await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}");
            page.Recording.Films.ShouldAllBe(one => one.State == FilmState.Ready);
            (await Transcript(film)).Cues.ShouldAllBe(cue => cue.Name == "Odalys");
        }, seconds: 60);
    }
}
