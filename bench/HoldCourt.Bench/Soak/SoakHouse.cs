using System.Collections.Concurrent;
using System.Diagnostics;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Bench.Soak;

/// <summary>A server on a disk of its own, at an address that stays, with what it takes of the machine.</summary>
internal sealed partial class SoakHouse : IDisposable
{
    private const long Size = 1_500_000_000;
    private readonly ConcurrentDictionary<string, int> _failures = new();
    private readonly string _image;
    private readonly bool _mounted;

    public SoakHouse()
    {
        _image = Path.Combine(Path.GetTempPath(), $"{Path.GetFileName(Folder)}.img");
        using (var image = File.Create(_image)) image.SetLength(Size);
        _mounted = Ran("mkfs.ext4", "-q", _image) && Ran("mount", "-o", "loop", _image, Folder);
        if (!_mounted) throw new InvalidOperationException("A disk of its own could not be mounted: run it as root.");
        Server = Started.Server(Folder, said: Listen);
        Address = Server.Address;
    }

    public string Folder { get; } = Directory.CreateTempSubdirectory("hold-court-soak-").FullName;
    public Started Server { get; private set; }
    public Uri Address { get; }
    public List<TimeSpan> Restarts { get; } = [];

    /// <summary>What the server's log calls an error, and how often.</summary>
    public IReadOnlyDictionary<string, int> Failures => _failures;

    public double Megabytes => Server.ResidentMegabytes;
    public int Handles => Directory.GetFiles($"/proc/{Server.Id}/fd").Length;
    public int Threads => Directory.GetDirectories($"/proc/{Server.Id}/task").Length;

    /// <summary>The marks of all messages as they stand on the disk.</summary>
    public List<string> Written() => [.. Entries().SelectMany(entry => Mark().Matches(entry)).Select(match => match.Value)];

    /// <summary>How many recordings the server ended by itself.</summary>
    public int BrokenOff() => Entries().Count(entry =>
        new KeptEntry(0, entry, []).TryRead() is { By.IsHouse: true, Fact: RecordingStopped });

    /// <summary>All of all sittings, read without the server.</summary>
    private IEnumerable<string> Entries()
    {
        using var db = new SqliteConnection($"Data Source={Path.Combine(Folder, "hold-court.db")};Mode=ReadOnly;Pooling=False");
        db.Open();
        using var command = db.CreateCommand();
        command.CommandText = "SELECT Json FROM Entries";
        using var reader = command.ExecuteReader();
        while (reader.Read()) yield return reader.GetString(0);
    }

    [GeneratedRegex("s[0-9]+ p[0-9]+ n[0-9]+ [0-9a-f]{32}")]
    private static partial Regex Mark();

    public async Task Restart()
    {
        Server.Dispose();
        var clock = Stopwatch.StartNew();
        Server = await Task.Run(() => Started.Server(Folder, Address, Listen));
        Restarts.Add(clock.Elapsed);
    }

    /// <summary>Nothing is written to the disk meanwhile, and nothing fails: whoever writes waits.</summary>
    public async Task Freeze(TimeSpan so)
    {
        if (!Ran("fsfreeze", "-f", Folder)) throw new InvalidOperationException("The disk cannot be made to stand still here.");
        await Task.Delay(so);
        Ran("fsfreeze", "-u", Folder);
    }

    /// <summary>What the server says, to be read afterwards.</summary>
    public string Log => $"{_image}.log";

    private bool _isError;

    private void Listen(string line)
    {
        lock (_failures) File.AppendAllText(Log, line + "\n");
        if (line.StartsWith("fail:", StringComparison.Ordinal) || line.StartsWith("crit:", StringComparison.Ordinal)) _isError = true;
        else if (_isError)
        {
            _isError = false;
            var words = new string([.. line.Trim().Where(letter => !char.IsAsciiHexDigit(letter) || !char.IsDigit(letter))]);
            _failures.AddOrUpdate(words.Length > 110 ? words[..110] : words, 1, (_, count) => count + 1);
        }
    }

    private static bool Ran(string program, params string[] words)
    {
        using var process = Process.Start(program, words);
        process.WaitForExit();
        return process.ExitCode == 0;
    }

    public void Dispose()
    {
        Server.Dispose();
        if (_mounted) Ran("umount", Folder);
        File.Delete(_image);
    }
}
