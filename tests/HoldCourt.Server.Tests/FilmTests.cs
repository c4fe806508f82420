using System.Collections.Immutable;
using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;

namespace HoldCourt.Server.Tests;

/// <summary>
/// Films are composed of made-up tracks and decoded again by another program: who is seen goes by the colour of the picture, who is heard
/// by the pitch of the voice, and both give a sign at once now and then.
/// </summary>
public sealed class FilmTests : IDisposable
{
    private const int Wide = 64, High = 36, Rate = 48_000;
    private const string Red = "0xC02020", Green = "0x20A020", Blue = "0x2020D0";

    private static readonly Instant _start = new(1_770_000_000_000);
    private readonly RecordingFolder _folder = new(Directory.CreateTempSubdirectory("hold-court-film-").FullName);
    private readonly List<Entry> _entries = [];
    private Sitting _sitting = Sitting.Empty;

    private static Instant At(double second) => _start + TimeSpan.FromSeconds(second);

    public FilmTests()
    {
        Directory.CreateDirectory(_folder.Tracks);
        Do(-60, Actor.House, new Open("Assembly", new PersonKey("account:odalys"), new Door(DoorMode.Open), StandingOrders.Usual, []));
        foreach (var (name, key) in new[] { ("Odalys", "account:odalys"), ("Nia", "guest:nia"), ("Teodor", "guest:teodor") })
            Do(-50, Actor.House, new Announce(new PersonKey(key), name, Owns: key == "account:odalys"));
        foreach (var seat in new[] { 1, 2, 3 })
        {
            Do(-40, By(seat), new TurnCamera(true));
            Do(-40, By(seat), new OpenMicrophone());
        }
        Do(-30, By(3), new AnswerRecording(RecordingAnswer.Unrecorded));
        Do(-20, By(1), new SetRunSheet([new Item(1, "Welcome"), new Item(2, "Flood season")]));
    }

    private static Actor By(int seat) => Actor.Of(new SeatId(seat));

    private void Do(double second, Actor by, Command command)
    {
        var decision = SittingRules.Decide(_sitting, command, by, At(second));
        decision.Refusal.ShouldBeNull($"{command}");
        (var entries, _sitting) = SittingRules.Record(_sitting, decision.Facts, by, At(second));
        _entries.AddRange(entries);
    }

    private static byte[] Ran(params string[] line)
    {
        var start = new ProcessStartInfo("ffmpeg") { RedirectStandardOutput = true };
        foreach (var word in (string[])["-hide_banner", "-loglevel", "error", "-y", .. line]) start.ArgumentList.Add(word);
        using var process = Process.Start(start)!;
        using var output = new MemoryStream();
        process.StandardOutput.BaseStream.CopyTo(output);
        process.WaitForExit();
        process.ExitCode.ShouldBe(0);
        return output.ToArray();
    }

    /// <summary>A person's tracks from the beginning on: a colour and silence; white and a tone at the signs, for half a second.</summary>
    private void Track(int seat, string colour, int pitch, double seconds, params double[] signs)
    {
        var when = string.Join('+', signs.Select(at => FormattableString.Invariant($"between(t,{at},{at + 0.499})")));
        var made = Path.Combine(_folder.Path, "made.webm");
        Ran("-f", "lavfi", "-i", $"color={colour}:s=320x180:r=20:d={seconds},drawbox=c=white:t=fill:enable='{when}'",
            "-f", "lavfi", "-i", $"sine=frequency={pitch}:sample_rate={Rate}:duration={seconds},volume=volume='{when}':eval=frame",
            "-c:v", "libvpx", "-g", "40", "-b:v", "300k", "-c:a", "libopus", "-b:a", "48k", made);
        using var reader = new WebmReader(made);
        using var picture = new WebmWriter(NameOf(Service.Camera), [WebmTrack.Picture("V_VP8", 320, 180)]);
        using var voice = new WebmWriter(NameOf(Service.Voice), [WebmTrack.Sound()]);
        foreach (var block in reader.Blocks())
            (block.Track == 1 ? picture : voice).Write(1, block.At, block.Frame, block.IsKey);
        picture.Finish();
        voice.Finish();

        string NameOf(Service service) =>
            Path.Combine(_folder.Tracks, TrackName.FileOf(new SeatId(seat), service, _start.Milliseconds));
    }

    private FilmJob Job(Framing? framing, ImmutableArray<Passage>? cuts = null) => new(
        _folder.Path, Path.Combine(_folder.Path, $"film-{framing}"), Score.Of(_entries, 1), framing, Names: false, Questions: true,
        cuts ?? [], [], [], "Beginning", "After a pause");

    private static string Composed(FilmJob job)
    {
        using (var composer = new Composer(job, _ => { })) composer.Compose();
        return Path.Combine(job.Output, Composer.FilmName);
    }

    private sealed record Seen(byte[] Pictures, float[] Sound)
    {
        public int Frames => Pictures.Length / (Wide * High * 3);

        /// <summary>What stands at a place, from 0 to 1, at a moment of the film.</summary>
        public string Colour(double second, double x, double y)
        {
            var at = ((Math.Min((int)(second * 20), Frames - 1) * Wide * High) + ((int)(y * High) * Wide) + (int)(x * Wide)) * 3;
            var (r, g, b) = (Pictures[at], Pictures[at + 1], Pictures[at + 2]);
            return r > 170 && g > 170 && b > 170 ? "white" : r > g + 50 && r > b + 50 ? "red" : g > r + 50 && g > b + 50 ? "green"
                : b > r + 50 && b > g + 50 ? "blue" : "dark";
        }

        /// <summary>How strong a pitch is in a passage (Goertzel, 1958), 0 to about 1.</summary>
        public double Pitch(double pitch, double from, double length)
        {
            var (start, count) = ((int)(from * Rate), (int)(length * Rate));
            var (before, last, factor) = (0.0, 0.0, 2 * Math.Cos(2 * Math.PI * pitch / Rate));
            for (var n = 0; n < count; n++) (before, last) = (last, Sound[start + n] + (factor * last) - before);
            return Math.Sqrt(Math.Max(0, (before * before) + (last * last) - (factor * before * last))) * 2 / count;
        }

        /// <summary>When a pitch begins, looked for from a moment on, in steps of 5 ms.</summary>
        public double Begins(double pitch, double from)
        {
            for (var at = from; at < from + 1; at += 0.005)
                if (Pitch(pitch, at, 0.02) > 0.02) return at + 0.01;
            return double.NaN;
        }
    }

    private static Seen See(string film, bool pictures = true)
    {
        var sound = Ran("-i", film, "-map", "0:a", "-f", "f32le", "-ac", "1", "-ar", $"{Rate}", "-");
        var samples = new float[sound.Length / 4];
        Buffer.BlockCopy(sound, 0, samples, 0, samples.Length * 4);
        var frames = pictures
            ? Ran("-i", film, "-map", "0:v", "-vf", $"fps=20,scale={Wide}:{High}", "-f", "rawvideo", "-pix_fmt", "rgb24", "-")
            : [];
        return new Seen(frames, samples);
    }

    /// <summary>Twelve seconds with a pause of two: the signs at 3 and 9 s are the host's, the one at 5 s is Nia's.</summary>
    private void Recorded()
    {
        Track(1, Red, 440, 12, 3, 9);
        Track(2, Green, 660, 12, 5, 7);
        // Somebody who said no has no track; if there were one, nothing of it would be seen or heard.
        Track(3, Blue, 880, 12, 2, 4, 8.5);
        _folder.Note([new Spoken(At(0), 1), new Spoken(At(4.5), 2), new Spoken(At(8.5), 0)]);
        Do(0, By(1), new StartRecording());
        Do(4, By(1), new NextItem());
        Do(6, By(1), new PauseRecording());
        Do(8, By(1), new ResumeRecording());
        Do(10, By(1), new OpenSheet("Weir"));
        Do(10, By(1), new ShowExhibit(1));
        Do(12, By(1), new StopRecording());
    }

    [Fact]
    public void Every_framing_shows_and_sounds_the_right_people_at_the_right_times_and_nobody_who_said_no()
    {
        Recorded();
        var even = See(Composed(Job(Framing.Even)));
        even.Frames.ShouldBe(200, "ten seconds: the pause is out");
        foreach (var second in new[] { 0.5, 2.5, 5.7, 6.5, 7.8 })
            (even.Colour(second, 0.25, 0.5), even.Colour(second, 0.75, 0.5)).ShouldBe(("red", "green"), $"{second}");
        (even.Colour(3.25, 0.25, 0.5), even.Colour(5.25, 0.75, 0.5)).ShouldBe(("white", "white"));
        even.Colour(9, 0.4, 0.5).ShouldBe("white", "the sheet");

        var lead = See(Composed(Job(Framing.Lead)));
        (lead.Colour(2, 0.4, 0.5), lead.Colour(2, 0.9, 0.1)).ShouldBe(("red", "green"));
        (lead.Colour(4.8, 0.4, 0.5), lead.Colour(4.8, 0.9, 0.1)).ShouldBe(("green", "red"), "whoever speaks is large");
        (lead.Colour(9.5, 0.4, 0.5), lead.Colour(9.5, 0.9, 0.1)).ShouldBe(("white", "green"), "what is shown takes the large place");

        var exhibit = See(Composed(Job(Framing.Exhibit)));
        (exhibit.Colour(9.5, 0.4, 0.5), exhibit.Colour(9.5, 0.9, 0.1), exhibit.Colour(9.5, 0.9, 0.4)).ShouldBe(("white", "green", "dark"));

        var sound = See(Composed(Job(Framing.Sound)), pictures: false);
        foreach (var film in new[] { even, lead, exhibit, sound })
        {
            film.Sound.Length.ShouldBeInRange(Rate * 99 / 10, Rate * 102 / 10);
            for (var n = 0; n < film.Frames; n++)
                foreach (var (x, y) in new[] { (0.25, 0.5), (0.75, 0.5), (0.9, 0.1), (0.9, 0.3), (0.4, 0.5) })
                    film.Colour(n / 20.0, x, y).ShouldNotBe("blue");
            film.Pitch(440, 3.1, 0.3).ShouldBeGreaterThan(0.03);
            film.Pitch(660, 5.1, 0.3).ShouldBeGreaterThan(0.03);
            film.Pitch(440, 7.1, 0.3).ShouldBeGreaterThan(0.03, "9 s is 7 s without the pause");
            film.Pitch(660, 6.1, 0.3).ShouldBeLessThan(0.005, "7 s was in the pause");
            for (var at = 0.2; at < 9.5; at += 0.2) film.Pitch(880, at, 0.2).ShouldBeLessThan(0.005, "said no");
            film.Pitch(440, 1, 0.5).ShouldBeLessThan(0.005);
        }
    }

    [Fact]
    public void Pictures_and_voices_are_in_step_and_chapters_stand_where_the_timeline_says()
    {
        Recorded();
        var film = Composed(Job(Framing.Lead, [new Passage(TimeSpan.FromSeconds(1), TimeSpan.FromSeconds(2))]));
        var seen = See(film);
        seen.Frames.ShouldBe(180);
        // Signs: host at 2 s, Nia at 4, host again at 6; each in the picture and in the sound.
        foreach (var (pitch, at, x, y) in new[] { (440, 2.0, 0.4, 0.5), (660, 4.0, 0.4, 0.5), (440, 6.0, 0.9, 0.1) })
        {
            var heard = seen.Begins(pitch, at - 0.3);
            var shown = Enumerable.Range((int)((at - 0.3) * 20), 20).First(n => seen.Colour(n / 20.0, x, y) == "white") / 20.0;
            Math.Abs(heard - shown).ShouldBeLessThan(0.08, $"heard {heard}, seen {shown}");
            heard.ShouldBe(at, 0.08);
        }
        using var reader = new WebmReader(film);
        reader.Chapters().ShouldBe([
            new WebmChapter(0, "Beginning"), new WebmChapter(3_000, "Welcome"), new WebmChapter(5_000, "After a pause"),
            new WebmChapter(7_000, "A Weir")]);
        var made = JsonSerializer.Deserialize<FilmMade>(
            File.ReadAllText(Path.Combine(Path.GetDirectoryName(film)!, Composer.MadeName)), CoreJson.Options)!;
        made.Length.ShouldBe(9_000);
        made.Peaks.Length.ShouldBe(90);
        (made.Peaks[22] > 20, made.Peaks[12] < 5).ShouldBe((true, true), "loud at the sign, silent before");
        File.Exists(Path.Combine(Path.GetDirectoryName(film)!, Composer.PosterName)).ShouldBeTrue();
    }

    [Fact]
    public void A_part_is_left_out_without_coding_anew_and_pictures_voices_and_chapters_move_with_it()
    {
        Recorded();
        var film = Composed(Job(Framing.Lead));
        var keys = Cutter.KeysOf(film);
        // From 0.5 s to 2.4 s was wished; the nearest key frame is at 2 s.
        var parts = Cutter.Snap(keys, [new Passage(TimeSpan.FromSeconds(0.5), TimeSpan.FromSeconds(2.4))], 10_000);
        parts.ShouldHaveSingleItem().From.ShouldBe(TimeSpan.FromSeconds(0.5));
        (parts[0].To - TimeSpan.FromSeconds(2.4)).Duration().ShouldBeLessThanOrEqualTo(TimeSpan.FromSeconds(1));
        var gone = parts[0].Length.TotalSeconds;
        var to = Path.Combine(_folder.Path, "cut");
        var made = Cutter.Cut(film, to, parts, 10_000, [new WebmChapter(0, "Beginning"), new WebmChapter(1_900, "Welcome")]);
        made.Length.ShouldBe(10_000 - (long)parts[0].Length.TotalMilliseconds);
        var seen = See(Path.Combine(to, Composer.FilmName));
        Math.Abs((seen.Frames / 20.0) - (10 - gone)).ShouldBeLessThan(0.2);
        foreach (var (pitch, at, x, y) in new[] { (440, 3 - gone, 0.4, 0.5), (660, 5 - gone, 0.4, 0.5), (440, 7 - gone, 0.4, 0.5) })
        {
            var heard = seen.Begins(pitch, at - 0.3);
            heard.ShouldBe(at, 0.1);
            if (pitch == 660) seen.Colour(at + 0.25, x, y).ShouldBe("white");
        }
        using var reader = new WebmReader(Path.Combine(to, Composer.FilmName));
        reader.Chapters().Select(chapter => chapter.Title).ShouldBe(["Beginning", "Welcome"]);
        reader.IsWhole.ShouldBeTrue();
        // Killed while it is written: there is none, or a whole one.
        for (var n = 0; n < 20; n++)
        {
            var torn = Path.Combine(_folder.Path, $"torn {n}");
            Directory.CreateDirectory(torn);
            var bytes = File.ReadAllBytes(Path.Combine(to, Composer.FilmName));
            File.WriteAllBytes(Path.Combine(torn, Composer.FilmName + ".part"), bytes[..(bytes.Length * n / 20)]);
            File.Exists(Path.Combine(torn, Composer.FilmName)).ShouldBeFalse();
            Cutter.Cut(film, torn, parts, 10_000, []);
            File.ReadAllBytes(Path.Combine(torn, Composer.FilmName)).Length.ShouldBeInRange(bytes.Length - 400, bytes.Length);
        }
    }

    /// <summary>The very program, killed at random moments; nothing is made twice, and nothing half.</summary>
    [Fact]
    public async Task Killed_at_any_moment_while_composing_there_is_a_whole_film_or_none_and_the_next_one_is_whole()
    {
        Recorded();
        var job = Job(Framing.Lead) with { Output = Path.Combine(_folder.Path, "killed") };
        Directory.CreateDirectory(job.Output);
        var file = Path.Combine(job.Output, "job.json");
        var film = Path.Combine(job.Output, Composer.FilmName);
        var random = new Random(20_261_128);
        Process Started()
        {
            File.WriteAllText(file, JsonSerializer.Serialize(job, CoreJson.Options));
            return Process.Start(new ProcessStartInfo("dotnet", [typeof(Composer).Assembly.Location, Composer.Command, file])
            {
                RedirectStandardInput = true,
                RedirectStandardOutput = true
            })!;
        }
        for (var n = 0; n < 20; n++)
        {
            using var composing = Started();
            await Task.Delay(random.Next(200, 1_600));
            // Half of them die with whoever started them.
            if (n % 2 == 0) composing.Kill();
            else composing.StandardInput.Close();
            await composing.WaitForExitAsync();
            if (!File.Exists(film)) continue;
            using (var reader = new WebmReader(film)) reader.Chapters().Count.ShouldBe(4);
            File.Delete(film);
        }
        using (var composing = Started())
        {
            await composing.WaitForExitAsync();
            composing.ExitCode.ShouldBe(0);
        }
        See(film).Frames.ShouldBe(200);
        Directory.GetFiles(job.Output, "*.part").ShouldBeEmpty();
        Directory.GetFiles(job.Output, "*.webm").ShouldHaveSingleItem();
    }

    [Fact]
    public void Parts_that_overlap_or_reach_beyond_the_end_are_one_and_all_of_it_leaves_nothing()
    {
        static Passage Of(double from, double to) => new(TimeSpan.FromSeconds(from), TimeSpan.FromSeconds(to));
        long[] keys = [0, 2_000, 4_000, 6_000, 8_000];
        Cutter.Snap(keys, [Of(5, 7.2), Of(1, 3.9), Of(3, 5)], 10_000).ShouldBe([Of(1, 8)]);
        Cutter.Snap(keys, [Of(1, 3.2), Of(3.8, 5.5)], 10_000).ShouldBe([Of(1, 6)]);
        Cutter.Snap(keys, [Of(7, 99)], 10_000).ShouldBe([Of(7, 10)]);
        Cutter.Snap(keys, [Of(0, 10)], 10_000).Sum(part => part.Length.TotalSeconds).ShouldBe(10);
        Cutter.Snap(keys, [Of(50, 60), Of(3.9, 4.1)], 10_000).ShouldBe([Of(3.9, 4)]);
    }

    /// <summary>Only telephones; nobody at all; a recording that was begun and ended in a breath.</summary>
    [Fact]
    public void With_no_picture_with_nobody_and_with_hardly_any_time_there_is_still_a_film()
    {
        Do(-10, By(1), new TurnCamera(false));
        Do(-10, By(2), new TurnCamera(false));
        Do(0, By(1), new StartRecording());
        Do(2, By(1), new AnswerRecording(RecordingAnswer.Unrecorded));
        Do(2, By(2), new AnswerRecording(RecordingAnswer.Unrecorded));
        Do(4, By(1), new StopRecording());
        var seen = See(Composed(Job(Framing.Lead)));
        seen.Frames.ShouldBe(80);
        seen.Sound.Max(Math.Abs).ShouldBeLessThan(0.01f);
        Do(5, By(1), new StartRecording());
        Do(5.001, By(1), new StopRecording());
        See(Composed(Job(Framing.Even) with { Score = Score.Of(_entries, 2), Output = Path.Combine(_folder.Path, "short") }))
            .Frames.ShouldBe(1);
    }

    /// <summary>It says so and leaves nothing half, and the server knows before.</summary>
    [Fact]
    public async Task Without_the_program_that_codes_there_is_no_film_and_no_rest_of_one()
    {
        FilmPrograms.Missing("/nowhere:/tmp").ShouldContain("ffmpeg");
        FilmPrograms.Missing().ShouldBeEmpty();
        Recorded();
        var job = Job(Framing.Lead) with { Output = Path.Combine(_folder.Path, "without") };
        Directory.CreateDirectory(job.Output);
        var file = Path.Combine(job.Output, "job.json");
        File.WriteAllText(file, JsonSerializer.Serialize(job, CoreJson.Options));
        var start = new ProcessStartInfo(Environment.ProcessPath!, [typeof(Composer).Assembly.Location, Composer.Command, file])
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true
        };
        start.Environment["PATH"] = "/nowhere";
        using var composing = Process.Start(start)!;
        var said = await composing.StandardError.ReadToEndAsync();
        await composing.WaitForExitAsync();
        composing.ExitCode.ShouldNotBe(0);
        said.ShouldContain("ffmpeg");
        Directory.GetFiles(job.Output, "*.webm").ShouldBeEmpty();
    }

    public void Dispose() => Directory.Delete(_folder.Path, recursive: true);
}
