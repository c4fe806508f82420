using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using SkiaSharp;

namespace HoldCourt.Server.Recording.Films;

/// <summary>
/// Composes a film from the tracks of a recording, in a process of its own: what it decodes was sent by browsers, and may be stopped at any
/// moment. It begins anew each time; what is there when it ends is whole.
/// </summary>
internal sealed class Composer : IDisposable
{
    /// <summary>What the program is called with to compose a film; a file with the job follows.</summary>
    public const string Command = "compose";

    public const string FilmName = "film.webm", MadeName = "made.json", PosterName = "poster.jpg";

    private readonly FilmJob _job;
    private readonly Timeline _timeline;
    private readonly Action<double> _progress;
    private readonly Canvas _canvas = new(FilmJob.Wide, FilmJob.High);
    private readonly Painter _painter;
    private readonly Dictionary<(SeatId, Service), PictureTrack> _tracks = [];
    private readonly List<TrackName> _files;
    private readonly HashSet<SeatId> _erased;

    public Composer(FilmJob job, Action<double> progress)
    {
        (_job, _progress, _timeline, _painter) = (job, progress, job.Timeline, new Painter(job));
        _erased = [.. job.Erased.Select(number => new SeatId(number))];
        _files = [.. new RecordingFolder(job.Folder).AllTracks().Where(track => !_erased.Contains(track.Seat))];
        foreach (var track in _files.Where(file => file.Service is Service.Camera or Service.Screen)
            .GroupBy(file => (file.Seat, file.Service)))
            _tracks[track.Key] = new PictureTrack(track);
    }

    /// <summary>Done as a command of the program: reads the job, tells how far it is, line by line.</summary>
    public static int Run(string jobFile)
    {
        var job = JsonSerializer.Deserialize<FilmJob>(File.ReadAllText(jobFile), CoreJson.Options)!;
        var watch = new Thread(EndWithParent) { IsBackground = true };
        watch.Start();
        using var composer = new Composer(job, share =>
        {
            Console.WriteLine(share.ToString("0.0000", CultureInfo.InvariantCulture));
            Console.Out.Flush();
        });
        composer.Compose();
        return 0;
    }

    /// <summary>Whoever started it holds the other end of its input, and has gone when that ends.</summary>
    private static void EndWithParent()
    {
        while (Console.In.Read() >= 0) { }
        Environment.Exit(1);
    }

    /// <exception cref="InvalidOperationException">The coder failed.</exception>
    public void Compose()
    {
        Directory.CreateDirectory(_job.Output);
        foreach (var old in Directory.EnumerateFiles(_job.Output, "*.part")) File.Delete(old);
        CaptionedFilms.Forget(_job.Output);
        var sound = Path.Combine(_job.Output, "sound.webm");
        var soundOnly = _job.Framing == Framing.Sound;
        var peaks = SoundMix.Write(sound, _timeline, _files, IsIn, share => _progress(share * (soundOnly ? 0.95 : 0.15)));
        var film = Path.Combine(_job.Output, FilmName);
        // Of its own: a coder whose composer was killed may still be writing its last.
        var partial = $"{film}.{Environment.ProcessId}.part";
        try { Encode(sound, partial, soundOnly); }
        finally { File.Delete(sound); }
        File.Move(partial, film, overwrite: true);
        File.WriteAllText(Path.Combine(_job.Output, MadeName), JsonSerializer.Serialize(
            new FilmMade((long)_timeline.Length.TotalMilliseconds, peaks), CoreJson.Options));
        _progress(1);
    }

    private Scene? SceneAt(Instant moment)
    {
        var scenes = _job.Score.Scenes;
        var (low, high) = (0, scenes.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (scenes[middle].At <= moment) low = middle + 1;
            else high = middle;
        }
        return low == 0 ? null : scenes[low - 1];
    }

    private bool IsIn(SeatId seat, Instant moment) => SceneAt(moment)?.People.Any(person => person.Seat == seat) == true;

    private void Encode(string sound, string partial, bool soundOnly)
    {
        var chapters = Path.Combine(_job.Output, "chapters.txt");
        File.WriteAllText(chapters, Chapters());
        var start = new ProcessStartInfo("ffmpeg") { RedirectStandardInput = true, RedirectStandardError = true };
        string[] picture = soundOnly
            ? ["-i", sound, "-i", chapters, "-map", "0:a", "-map_metadata", "1", "-map_chapters", "1"]
            : ["-f", "rawvideo", "-pix_fmt", "yuv420p", "-s", $"{FilmJob.Wide}x{FilmJob.High}", "-r", $"{FilmJob.FramesPerSecond}",
                "-i", "pipe:0", "-i", sound, "-i", chapters, "-map", "0:v", "-map", "1:a", "-map_metadata", "2", "-map_chapters", "2",
                "-c:v", "libvpx-vp9", "-deadline", "realtime", "-cpu-used", "8", "-row-mt", "1", "-tile-columns", "2", "-threads", "2",
                "-crf", "36", "-b:v", "0", "-g", $"{FilmJob.FramesPerSecond * 2}", "-force_key_frames", KeyFrames()];
        foreach (var argument in (string[])["-hide_banner", "-loglevel", "error", "-y", .. picture, "-c:a", "copy",
            "-cues_to_front", "1", "-f", "webm", partial])
            start.ArgumentList.Add(argument);
        using var coder = Process.Start(start) ?? throw new InvalidOperationException("No coder.");
        var trouble = coder.StandardError.ReadToEndAsync();
        try
        {
            if (!soundOnly) Paint(coder.StandardInput.BaseStream);
            coder.StandardInput.Close();
        }
        catch (IOException)
        {
            // It has ended, and says why.
        }
        coder.WaitForExit();
        if (coder.ExitCode != 0) throw new InvalidOperationException($"ffmpeg: {trouble.Result}");
    }

    private string KeyFrames() => string.Join(',', _job.Score.Chapters.Select(chapter => _timeline.Nearest(chapter.At).TotalSeconds)
        .Concat([0]).Distinct().Order().Select(at => at.ToString("0.000", CultureInfo.InvariantCulture)));

    /// <summary>Chapters as the coder reads them.</summary>
    private string Chapters()
    {
        var text = new System.Text.StringBuilder(";FFMETADATA1\n")
            .Append(CultureInfo.InvariantCulture, $"title={Escaped(_job.Score.Title)}\n");
        var chapters = FilmChapters.Of(_job.Score, _timeline, _job.Beginning, _job.GoesOn);
        foreach (var (chapter, at) in chapters.Select((chapter, at) => (chapter, at)))
        {
            var end = at + 1 < chapters.Count ? chapters[at + 1].At : (long)_timeline.Length.TotalMilliseconds;
            text.Append(CultureInfo.InvariantCulture,
                $"[CHAPTER]\nTIMEBASE=1/1000\nSTART={chapter.At}\nEND={Math.Max(end, chapter.At)}\ntitle={Escaped(chapter.Title)}\n");
        }
        return text.ToString();

        static string Escaped(string text) => string.Concat(text.ReplaceLineEndings(" ")
            .Select(letter => letter is '=' or ';' or '#' or '\\' ? $"\\{letter}" : $"{letter}"));
    }

    private void Paint(Stream coder)
    {
        const double Step = 1_000.0 / FilmJob.FramesPerSecond;
        var count = (long)Math.Ceiling(_timeline.Length.TotalMilliseconds / Step);
        var spoken = new Speaking(new RecordingFolder(_job.Folder).AllSpoken());
        Scene? before = null;
        var placed = System.Collections.Immutable.ImmutableArray<Placed>.Empty;
        SeatId? speaker = null;
        for (long n = 0; n < count; n++)
        {
            var place = TimeSpan.FromMilliseconds(n * Step);
            if (_timeline.Moment(place) is not { } moment) break;
            var scene = SceneAt(moment);
            var speaks = spoken.At(moment);
            var isNew = scene != before || speaks != speaker;
            if (isNew && scene is not null)
            {
                (before, speaker) = (scene, speaks);
                // A message stands below the faces, and never over them.
                placed = Placing.Of(scene, speaks, _job.Framing ?? scene.Framing, FilmJob.Wide, FilmJob.High - BandOf(scene));
                _canvas.Fill(new Area(0, 0, FilmJob.Wide, FilmJob.High), Canvas.Ground);
                if (placed.IsEmpty) _canvas.Draw(_painter.Title(_job.Score.Title, FilmJob.Wide, FilmJob.High),
                    new Area(0, 0, FilmJob.Wide, FilmJob.High));
            }
            if (scene is not null) Draw(scene, placed, speaker, moment, isNew);
            coder.Write(_canvas.Bytes);
            if (n == Math.Min(count - 1, FilmJob.FramesPerSecond * 5)) KeepPoster();
            if (n % FilmJob.FramesPerSecond == 0) _progress(0.15 + (0.85 * n / count));
        }
    }

    private void Draw(Scene scene, IReadOnlyList<Placed> placed, SeatId? speaker, Instant moment, bool isNew)
    {
        var seen = new HashSet<(SeatId, Service)>();
        foreach (var one in placed)
            if (one.Seat is { } seat)
            {
                seen.Add((seat, Service.Camera));
                DrawPerson(scene.People.First(person => person.Seat == seat), one, moment, isNew, seat == speaker && placed.Count > 1);
            }
            else if (scene.Shown.First(exhibit => exhibit.Number == one.Exhibit) is var exhibit)
            {
                if (exhibit.Kind == ExhibitKind.Screen) seen.Add((exhibit.By, Service.Screen));
                DrawExhibit(exhibit, one.Area, moment, isNew);
            }
        foreach (var (key, track) in _tracks)
            if (!seen.Contains(key)) track.Pass(moment);
        if (!_job.Questions || scene.Message is not { } message) return;
        if (isNew)
            _canvas.Draw(_painter.Message(message, FilmJob.Wide),
                new Area(0, FilmJob.High - BandOf(scene), FilmJob.Wide, BandOf(scene)));
    }

    /// <summary>How much of the picture's height a message takes.</summary>
    private int BandOf(Scene scene) =>
        _job.Questions && scene.Message is { } message ? _painter.Message(message, FilmJob.Wide).Height & ~1 : 0;

    private void DrawPerson(ScenePerson person, Placed placed, Instant moment, bool isNew, bool speaks)
    {
        var track = _tracks.GetValueOrDefault((person.Seat, Service.Camera));
        var picture = person.Camera ? track?.At(moment) : null;
        if (!person.Camera) track?.Pass(moment);
        if (picture is { } there)
        {
            if (!isNew && !track!.IsNew) return;
            _canvas.Draw(there, placed.Area, fills: true);
        }
        else _canvas.Draw(_painter.Person(person.Name, placed.Area), placed.Area);
        if (_job.Names)
        {
            var (name, area) = _painter.Name(person.Name, placed.Area, placed.Large);
            _canvas.Draw(name, area);
        }
        if (speaks && !placed.Large) _canvas.Frame(placed.Area, 4, Painter.Speaks);
    }

    private void DrawExhibit(SceneExhibit exhibit, Area area, Instant moment, bool isNew)
    {
        if (exhibit.Kind == ExhibitKind.Screen)
        {
            var track = _tracks.GetValueOrDefault((exhibit.By, Service.Screen));
            if (track?.At(moment) is { } picture && (isNew || track.IsNew)) _canvas.Draw(picture, area, fills: false);
            return;
        }
        if (exhibit.Pages is null || (!_painter.PageChanged(exhibit, moment) && !isNew)) return;
        using var page = _painter.Page(exhibit, area);
        _canvas.Draw(page, area);
    }

    /// <summary>A small picture of it, for the library.</summary>
    private void KeepPoster()
    {
        using var bitmap = _canvas.ToBitmap(320, 180);
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 80);
        using var file = File.Create(Path.Combine(_job.Output, PosterName));
        data.SaveTo(file);
    }

    public void Dispose()
    {
        foreach (var track in _tracks.Values) track.Dispose();
        _painter.Dispose();
        _canvas.Dispose();
    }

    /// <summary>Who spoke when; asked in order.</summary>
    private sealed class Speaking(IReadOnlyList<Spoken> spoken)
    {
        private int _at = -1;
        private SeatId? _last;

        /// <summary>Whoever spoke last stays it until somebody else does.</summary>
        public SeatId? At(Instant moment)
        {
            while (_at + 1 < spoken.Count && spoken[_at + 1].At <= moment)
                if (spoken[++_at].Seat is > 0 and var seat) _last = new SeatId(seat);
            return _last;
        }
    }
}
