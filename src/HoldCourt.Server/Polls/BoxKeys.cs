using System.Collections.Concurrent;
using System.Security.Cryptography;

namespace HoldCourt.Server.Polls;

/// <summary>
/// The keys of the boxes that are open. Each lies in a file of its own beside the database, which no backup takes along, and is
/// destroyed once its box is counted: what the database, its journal or a copy of it still holds cannot be read from then on.
/// </summary>
internal sealed class BoxKeys(string folder)
{
    private const int Size = 32;

    private readonly ConcurrentDictionary<(Guid Sitting, int Poll), byte[]> _keys = new();

    /// <summary>Null when there is none, or what is there is no key.</summary>
    public byte[]? Find(Guid sitting, int poll)
    {
        if (_keys.TryGetValue((sitting, poll), out var known)) return known;
        try
        {
            return File.ReadAllBytes(FileOf(sitting, poll)) is { Length: Size } read ? _keys[(sitting, poll)] = read : null;
        }
        catch (Exception e) when (e is FileNotFoundException or DirectoryNotFoundException)
        {
            return null;
        }
    }

    /// <summary>It is on disk when this returns.</summary>
    /// <exception cref="IOException">The disk is full or broken.</exception>
    public byte[] Make(Guid sitting, int poll)
    {
        Directory.CreateDirectory(folder);
        var (file, key) = (FileOf(sitting, poll), RandomNumberGenerator.GetBytes(Size));
        var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        try
        {
            using (var stream = new FileStream(file + Unfinished, options))
            {
                stream.Write(key);
                stream.Flush(flushToDisk: true);
            }
            File.Move(file + Unfinished, file);
        }
        catch (Exception)
        {
            File.Delete(file + Unfinished);
            throw;
        }
        return _keys[(sitting, poll)] = key;
    }

    public void Destroy(Guid sitting, int poll)
    {
        if (_keys.TryRemove((sitting, poll), out var key)) CryptographicOperations.ZeroMemory(key);
        var file = FileOf(sitting, poll);
        if (!File.Exists(file)) return;
        using (var stream = new FileStream(file, FileMode.Open, FileAccess.Write))
        {
            stream.Write(new byte[Size]);
            stream.Flush(flushToDisk: true);
        }
        File.Delete(file);
    }

    /// <summary>Those sittings of which a key is left.</summary>
    public IEnumerable<Guid> Sittings() => !Directory.Exists(folder)
        ? []
        : [.. Directory.EnumerateFiles(folder, "*" + Suffix).Select(file => Path.GetFileName(file)[..32])
            .Where(name => Guid.TryParseExact(name, "N", out _)).Select(name => Guid.ParseExact(name, "N")).Distinct()];

    private const string Suffix = ".key", Unfinished = ".new";

    private string FileOf(Guid sitting, int poll) => Path.Combine(folder, $"{sitting:N}-{poll}{Suffix}");
}
