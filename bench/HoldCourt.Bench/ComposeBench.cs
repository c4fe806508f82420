using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Server.StandIns.Extras;

namespace HoldCourt.Bench;

/// <summary>Films composed of the simulated people's clips, by the very program that composes them.</summary>
internal static class ComposeBench
{
    private static readonly Instant _start = new(1_770_000_000_000);

    public static async Task Run()
    {
        Numbers.Head("Films at 1280x720, 20 pictures a second");
        foreach (var (people, shows) in new[] { (4, false), (9, true), (16, false) })
        {
            const int Seconds = 90;
            var job = Job(people, shows, Seconds);
            var clock = Stopwatch.StartNew();
            using (var process = Start(job)) await process.WaitForExitAsync();
            var film = new FileInfo(Path.Combine(Path.GetDirectoryName(job)!, Composer.FilmName));
            Numbers.Row($"{people} cameras{(shows ? " and a screen" : "")}",
                $"{Seconds / clock.Elapsed.TotalSeconds:F1} times real time{(people == 9 ? " (target: at least 3)" : "")}, "
                    + $"{film.Length / 1e6 / Seconds * 3_600:F0} MB an hour");
            if (people == 9) CutOfAnHour(film.FullName, Seconds);
        }
        Cut();
    }

    /// <summary>One film after the other, at low priority as the server has it done, until told.</summary>
    public static async Task Endlessly(CancellationToken ends)
    {
        var job = Job(9, true, 120);
        while (!ends.IsCancellationRequested)
        {
            using var process = Start(job, nice: true);
            try { await process.WaitForExitAsync(ends); }
            catch (OperationCanceledException) { process.Kill(entireProcessTree: true); }
        }
    }

    /// <summary>Parts left out of a film of an hour, which is the one that was composed again and again.</summary>
    private static void CutOfAnHour(string film, int seconds)
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        var (list, hour) = (Path.Combine(folder, "list.txt"), Path.Combine(folder, "hour.webm"));
        File.WriteAllLines(list, Enumerable.Repeat($"file '{film}'", 3_600 / seconds));
        using (var joined = System.Diagnostics.Process.Start(
            "ffmpeg", ["-loglevel", "error", "-f", "concat", "-safe", "0", "-i", list, "-c", "copy", hour])) joined.WaitForExit();
        var clock = Stopwatch.StartNew();
        var parts = Cutter.Snap(Cutter.KeysOf(hour),
        [
            new Passage(TimeSpan.Zero, TimeSpan.FromSeconds(61.3)), new Passage(TimeSpan.FromMinutes(20), TimeSpan.FromMinutes(31.7)),
            new Passage(TimeSpan.FromMinutes(58), TimeSpan.FromHours(1))
        ], 3_600_000);
        Cutter.Cut(hour, Path.Combine(folder, "cut"), parts, 3_600_000, []);
        Numbers.Row("three parts cut out of an hour", $"{clock.Elapsed.TotalSeconds:F2} s (target: under 5)");
        Directory.Delete(folder, recursive: true);
    }

    /// <summary>How long seeking to a chapter of a long film's tracks takes to write: an hour of one person.</summary>
    private static void Cut()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        var path = Path.Combine(folder, "hour.webm");
        Picture(path, Figures[0].FullListening, 0, 3_600);
        var clock = Stopwatch.StartNew();
        using (var file = new FileStream(path, FileMode.Open)) file.SetLength(file.Length - 1_000);
        WebmReader.Repair(path);
        Numbers.Row("a torn track of an hour, mended", $"{clock.ElapsedMilliseconds} ms");
        Directory.Delete(folder, recursive: true);
    }

    private static IReadOnlyList<Figure> Figures { get; } = new ClipLibrary().Figures;

    private static Process Start(string job, bool nice = false)
    {
        var program = typeof(Composer).Assembly.Location;
        var line = $"{program} {Composer.Command} {job}";
        return Process.Start(new ProcessStartInfo(nice ? "nice" : "dotnet", nice ? $"-n 19 dotnet {line}" : line)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true
        })!;
    }

    private static string Job(int people, bool shows, int seconds)
    {
        var folder = new RecordingFolder(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        Directory.CreateDirectory(folder.Tracks);
        var library = new ClipLibrary();
        for (var seat = 1; seat <= people; seat++)
        {
            Picture(NameOf(folder, seat, Service.Camera), Figures[seat % Figures.Count].FullTalking, 0, seconds);
            using var voice = new WebmWriter(NameOf(folder, seat, Service.Voice), [WebmTrack.Sound()]);
            var sentence = library.Voices[seat % library.Voices.Count][0];
            for (var at = 0; at < seconds * 1_000 / 20; at++)
                voice.Write(1, at * 20, sentence.Packets[at % sentence.Packets.Count], isKey: true);
            voice.Finish();
        }
        if (shows) Picture(NameOf(folder, 1, Service.Screen), library.Page, 0, seconds);
        folder.Note(Enumerable.Range(0, seconds / 5).Select(n => new Spoken(_start + TimeSpan.FromSeconds(n * 5), (n % people) + 1)));
        var scene = new Scene(_start, Framing.Lead, true, true,
            [.. Enumerable.Range(1, people).Select(seat => new ScenePerson(new SeatId(seat), $"Person {seat}", true, true))], null,
            shows ? [new SceneExhibit(1, ExhibitKind.Screen, "Gauge", new SeatId(1), null)] : [], null);
        var output = Path.Combine(folder.Path, "film");
        Directory.CreateDirectory(output);
        var score = new Score("Bench", [new Stretch(_start, _start + TimeSpan.FromSeconds(seconds))], [scene], [], [], []);
        var job = new FilmJob(
            folder.Path, output, score, shows ? Framing.Lead : Framing.Even, Names: true, Questions: true, [], [], [], "Beginning",
            "After");
        File.WriteAllText(FilmJob.FileOf(output), JsonSerializer.Serialize(job, CoreJson.Options));
        return FilmJob.FileOf(output);
    }

    private static string NameOf(RecordingFolder folder, int seat, Service service) =>
        Path.Combine(folder.Tracks, TrackName.FileOf(new SeatId(seat), service, _start.Milliseconds));

    private static void Picture(string path, PictureClip clip, double from, double to)
    {
        var (wide, high) = Codecs.SizeOf("V_VP8", clip.Frames[0])!.Value;
        using var writer = new WebmWriter(path, [WebmTrack.Picture("V_VP8", wide, high)]);
        var frame = 0;
        for (var at = from * 1_000; at < to * 1_000; at += 1_000 / clip.FramesPerSecond)
        {
            writer.Write(1, (long)at, clip.Frames[frame], clip.IsKey(frame));
            frame = (frame + 1) % clip.Frames.Count;
        }
        writer.Finish();
    }
}
