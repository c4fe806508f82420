using System.Globalization;

namespace HoldCourt.Server.Recording;

/// <summary>A file of one person's frames of one kind.</summary>
/// <param name="Begins">The moment that its time counts from, in milliseconds since 1970.</param>
internal sealed record TrackName(SeatId Seat, Service Service, long Begins, string Path)
{
    public static TrackName? Of(string path) =>
        System.IO.Path.GetFileNameWithoutExtension(path).Split('-') is [var service, var seat, var begins]
        && Enum.TryParse<Service>(service, ignoreCase: true, out var kind) && Enum.IsDefined(kind)
        && int.TryParse(seat, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        && long.TryParse(begins, NumberStyles.None, CultureInfo.InvariantCulture, out var at)
            ? new TrackName(new SeatId(number), kind, at, path)
            : null;

    public static string FileOf(SeatId seat, Service service, long begins) =>
        string.Create(CultureInfo.InvariantCulture, $"{service.ToString().ToLowerInvariant()}-{seat.Number}-{begins}.webm");
}

/// <summary>Who spoke from then on; 0 for nobody who is recorded.</summary>
internal readonly record struct Spoken(Instant At, int Seat);

/// <summary>Where a recording lies: its tracks, who spoke when, and the moment up to which it was written.</summary>
internal sealed class RecordingFolder(string path)
{
    public string Path => path;
    public string Tracks => System.IO.Path.Combine(path, "tracks");
    private string SpokenFile => System.IO.Path.Combine(path, "spoken.csv");
    private string AliveFile => System.IO.Path.Combine(path, "alive");

    public static RecordingFolder Of(string data, Guid sitting, int recording) => new(
        System.IO.Path.Combine(data, "recordings", sitting.ToString("N"), recording.ToString(CultureInfo.InvariantCulture)));

    public bool Exists => Directory.Exists(path);

    public IReadOnlyList<TrackName> AllTracks() => Directory.Exists(Tracks)
        ? [.. Directory.EnumerateFiles(Tracks, "*.webm").Select(TrackName.Of).OfType<TrackName>().OrderBy(track => track.Begins)
            .ThenBy(track => track.Seat)]
        : [];

    /// <summary>Of all that is in it, in bytes.</summary>
    public long Size => Directory.Exists(path)
        ? new DirectoryInfo(path).EnumerateFiles("*", SearchOption.AllDirectories).Sum(file => file.Length)
        : 0;

    /// <summary>Up to when it was written; null before the first second.</summary>
    public Instant? Alive
    {
        get
        {
            try { return long.TryParse(File.ReadAllText(AliveFile), out var at) ? new Instant(at) : null; }
            catch (IOException) { return null; }
        }
    }

    /// <exception cref="IOException">The disk is full or broken.</exception>
    public void KeepAlive(Instant now)
    {
        // Over what stood there, which needs no more room: on a full disk the last moment is still known.
        using var file = new FileStream(AliveFile, FileMode.OpenOrCreate, FileAccess.Write, FileShare.ReadWrite, bufferSize: 0);
        file.Write(System.Text.Encoding.ASCII.GetBytes(now.Milliseconds.ToString("D14", CultureInfo.InvariantCulture)));
    }

    public void Note(IEnumerable<Spoken> spoken) => File.AppendAllLines(SpokenFile,
        spoken.Select(one => string.Create(CultureInfo.InvariantCulture, $"{one.At.Milliseconds},{one.Seat}")));

    /// <summary>A torn line is none.</summary>
    public IReadOnlyList<Spoken> AllSpoken()
    {
        if (!File.Exists(SpokenFile)) return [];
        var spoken = new List<Spoken>();
        foreach (var line in File.ReadLines(SpokenFile))
            if (line.Split(',') is [var at, var seat] && long.TryParse(at, out var moment) && int.TryParse(seat, out var number))
                spoken.Add(new Spoken(new Instant(moment), number));
        return spoken;
    }

    /// <summary>Ends files that were not ended, as when the server was killed; what holds not a frame goes.</summary>
    public void Repair()
    {
        foreach (var track in AllTracks())
            try
            {
                if (!WebmReader.Repair(track.Path)) File.Delete(track.Path);
            }
            catch (IOException)
            {
                // It is being written: the recording goes on already.
            }
    }
}
