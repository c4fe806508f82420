using System.IO.Compression;
using System.Reflection;
using System.Security.Cryptography;
using System.Text.Json;
using HoldCourt.Server.Exhibits;
using HoldCourt.Store;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Server.Hosting;

/// <summary>What stands in a backup, so that it can be checked before anything is put back.</summary>
/// <param name="Form">The newest form of the database that it needs.</param>
internal sealed record BackupManifest(string Product, string Version, DateTimeOffset Made, string Form, IReadOnlyList<BackedUp> Files);

/// <param name="Size">In bytes.</param>
/// <param name="Sha256">In hexadecimal.</param>
internal sealed record BackedUp(string Name, long Size, string Sha256);

/// <summary>When the newest backup was made, and where; kept in the data folder for the keeper's page.</summary>
internal sealed record LastBackup(DateTimeOffset At, string File, long Size);

/// <summary>Why a backup was not made or not put back, in a sentence.</summary>
internal sealed class BackupException(string sentence) : Exception(sentence);

/// <summary>
/// A backup is one zip file: the database as SQLite's own backup copies it while the server runs, the keys that protect
/// cookies, the server's own certificate, the files that people brought into sittings, and
/// a manifest with the digest of each. It is written under another name, checked,
/// and only then named as wished.
/// </summary>
internal static class BackupFile
{
    public const string DatabaseName = "hold-court.db", LastName = "last-backup.json";
    private const string Product = "Hold Court", ManifestName = "manifest.json";
    private static readonly string[] _certificate = ["certificate.pfx", "certificate.crt"];
    private const long LargestManifest = 10_000_000;

    public static string Version { get; } =
        typeof(BackupFile).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion ?? "unknown";

    /// <exception cref="BackupException">There is nothing to back up, the file stands there
    /// already, or the disk is full or broken; nothing is left of it then.</exception>
    public static LastBackup Write(string folder, string target, DateTimeOffset now)
    {
        var database = Path.Combine(folder, DatabaseName);
        if (!File.Exists(database))
            throw new BackupException($"There is no database in {folder}. Name the folder of the server's data with --Data:Folder.");
        target = Path.GetFullPath(target);
        if (File.Exists(target) || Directory.Exists(target))
            throw new BackupException($"{target} stands there already. Name another file.");
        var (copy, partial) = ($"{target}.copy", $"{target}.partial");
        try
        {
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            File.Delete(copy);
            StoreSetup.Copy(database, copy);
            var sources = new List<(string Name, string Path)> { (DatabaseName, copy) };
            var keys = new DirectoryInfo(Path.Combine(folder, "keys"));
            foreach (var name in keys.Exists ? keys.GetFiles("*.xml").Select(key => key.FullName).Order().ToList() : [])
                sources.Add(($"keys/{Path.GetFileName(name)}", name));
            foreach (var name in _certificate.Where(name => File.Exists(Path.Combine(folder, name))))
                sources.Add((name, Path.Combine(folder, name)));
            var brought = new DirectoryInfo(Path.Combine(folder, KeptFiles.FolderName));
            foreach (var file in brought.Exists ? brought.GetFiles().Where(file => KeptFiles.IsName(file.Name)).ToList() : [])
                sources.Add(($"{KeptFiles.FolderName}/{file.Name}", file.FullName));
            var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.ReadWrite };
            // Whoever has the keys can be anybody.
            if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            using (var file = new FileStream(partial, options))
            {
                using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
                {
                    // A file that somebody brought may have gone meanwhile.
                    var files = sources.Where(source => File.Exists(source.Path)).Select(source => Put(zip, source.Name, source.Path))
                        .ToList();
                    using var manifest = zip.CreateEntry(ManifestName).Open();
                    JsonSerializer.Serialize(manifest, new BackupManifest(Product, Version, now, StoreSetup.FormOf(copy), files),
                        CoreJson.Options);
                }
                file.Flush(flushToDisk: true);
            }
            File.Move(partial, target);
            var last = new LastBackup(now, target, new FileInfo(target).Length);
            Note(folder, last);
            return last;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or SqliteException)
        {
            throw new BackupException(e is SqliteException { SqliteErrorCode: var code } && (code & 0xFF) is 11 or 26
                ? $"The database in {folder} is damaged, so no backup was made. Keep the older ones."
                : $"The backup could not be written to {target}: {StartFailure.Reason(e)} Nothing was left there.");
        }
        finally
        {
            foreach (var left in new[] { copy, partial })
                try { File.Delete(left); }
                catch (Exception e) when (e is IOException or UnauthorizedAccessException) { /* It is in nobody's way. */ }
        }
    }

    /// <summary>Puts a backup into an empty folder.</summary>
    /// <exception cref="BackupException">It is none, is damaged, is of a newer
    /// version, or the folder is not empty; the folder is as before.</exception>
    public static BackupManifest Restore(string source, string folder)
    {
        folder = Path.GetFullPath(folder);
        if (!File.Exists(source)) throw new BackupException($"There is no file {source}.");
        if (File.Exists(folder) || (Directory.Exists(folder) && Directory.EnumerateFileSystemEntries(folder).Any()))
            throw new BackupException(
                $"{folder} is not empty, and a backup is put into an empty folder only. Name another with --Data:Folder, or move away "
                    + "what stands there.");
        var partial = folder.TrimEnd(Path.DirectorySeparatorChar) + ".partial";
        try
        {
            if (Directory.Exists(partial)) Directory.Delete(partial, recursive: true);
            Directory.CreateDirectory(partial);
            using var zip = ZipFile.OpenRead(source);
            var manifest = ReadManifest(zip);
            foreach (var file in manifest.Files) Take(zip, file, partial, source);
            var database = Path.Combine(partial, DatabaseName);
            if (!File.Exists(database) || !StoreSetup.IsWhole(database))
                throw new BackupException($"The database in {source} is damaged. Take an older backup.");
            try { StoreSetup.Check(database); }
            catch (OtherFormException other)
            {
                throw new BackupException(
                $"{source} was made by {(other.IsNewer ? "a newer" : "an older")} version ({manifest.Version}). Install that version, and "
                    + "put it back there.");
            }
            foreach (var left in new[] { database + "-wal", database + "-shm" }) File.Delete(left);
            if (Directory.Exists(folder)) Directory.Delete(folder);
            Directory.Move(partial, folder);
            return manifest;
        }
        catch (Exception e) when (e is InvalidDataException or JsonException)
        {
            throw new BackupException($"{source} is no backup of Hold Court, or is damaged. Take another.");
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or SqliteException)
        {
            throw new BackupException($"The backup could not be put into {folder}: {StartFailure.Reason(e)} The folder is as before.");
        }
        finally
        {
            try { if (Directory.Exists(partial)) Directory.Delete(partial, recursive: true); }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException) { /* It is in nobody's way. */ }
        }
    }

    /// <summary>Null when none was made from this folder.</summary>
    public static LastBackup? Last(string folder)
    {
        try { return JsonSerializer.Deserialize<LastBackup>(File.ReadAllText(Path.Combine(folder, LastName)), CoreJson.Options); }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or JsonException) { return null; }
    }

    private static void Note(string folder, LastBackup last)
    {
        try { File.WriteAllText(Path.Combine(folder, LastName), JsonSerializer.Serialize(last, CoreJson.Options)); }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException) { /* The backup stands all the same. */ }
    }

    private static BackedUp Put(ZipArchive zip, string name, string path)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var from = File.Open(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        using var to = zip.CreateEntry(name, CompressionLevel.Fastest).Open();
        var size = Pour(from, to, hash, long.MaxValue);
        return new BackedUp(name, size, Convert.ToHexStringLower(hash.GetHashAndReset()));
    }

    private static BackupManifest ReadManifest(ZipArchive zip)
    {
        if (zip.GetEntry(ManifestName) is not { Length: < LargestManifest } entry) throw new InvalidDataException();
        using var stream = entry.Open();
        var manifest = JsonSerializer.Deserialize<BackupManifest>(stream, CoreJson.Options);
        return manifest is { Product: Product, Files.Count: > 0 } ? manifest : throw new InvalidDataException();
    }

    private static void Take(ZipArchive zip, BackedUp file, string folder, string source)
    {
        // Only what a backup may hold, under just these names.
        var isKey = file.Name.StartsWith("keys/", StringComparison.Ordinal) && file.Name == $"keys/{Path.GetFileName(file.Name)}"
            && file.Name.EndsWith(".xml", StringComparison.Ordinal);
        var isBrought = file.Name == $"{KeptFiles.FolderName}/{Path.GetFileName(file.Name)}"
            && KeptFiles.IsName(Path.GetFileName(file.Name));
        if (!isKey && !isBrought && file.Name != DatabaseName && !_certificate.Contains(file.Name)) throw new InvalidDataException();
        if (zip.GetEntry(file.Name) is not { } entry) throw new InvalidDataException();
        var path = Path.Combine(folder, file.Name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        using var from = entry.Open();
        using var to = new FileStream(path, options);
        if (Pour(from, to, hash, file.Size) != file.Size || Convert.ToHexStringLower(hash.GetHashAndReset()) != file.Sha256)
            throw new BackupException($"{file.Name} in {source} is damaged. Take another backup.");
        to.Flush(flushToDisk: true);
    }

    /// <returns>How many bytes there were; one more than <paramref name="most"/> where there were more.</returns>
    private static long Pour(Stream from, Stream to, IncrementalHash hash, long most)
    {
        var buffer = new byte[128 * 1024];
        var size = 0L;
        for (int read; (read = from.Read(buffer)) > 0;)
        {
            size += read;
            if (size > most) return most + 1;
            hash.AppendData(buffer, 0, read);
            to.Write(buffer, 0, read);
        }
        return size;
    }
}
