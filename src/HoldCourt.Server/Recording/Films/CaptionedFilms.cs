using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace HoldCourt.Server.Recording.Films;

/// <summary>
/// Films with their captions as a track of the file (WebVTT in WebM), for players that know nothing of a file beside it. Made when somebody
/// wants one, with the captions as they are corrected then, without coding anything anew; one at a time.
/// </summary>
internal sealed class CaptionedFilms : IDisposable
{
    private const string Pattern = "captioned-*.webm";
    private static readonly TimeSpan _kept = TimeSpan.FromDays(1);
    private readonly SemaphoreSlim _one = new(1);

    /// <param name="folder">Of the film.</param>
    /// <param name="captions">As WebVTT.</param>
    /// <returns>Where it lies; null when it cannot be made.</returns>
    public async Task<string?> Of(string folder, string captions, CancellationToken cancel)
    {
        var film = new FileInfo(Path.Combine(folder, Composer.FilmName));
        if (!film.Exists) return null;
        // Another film, or other words, make another file.
        var key = string.Create(CultureInfo.InvariantCulture, $"{film.Length} {film.LastWriteTimeUtc.Ticks}\n{captions}");
        var path = Path.Combine(folder, $"captioned-{Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(key)))[..16]}.webm");
        await _one.WaitAsync(cancel);
        try
        {
            if (File.Exists(path)) return path;
            Forget(folder);
            var (words, partial) = (Path.Combine(folder, "captions.vtt"), $"{path}.part");
            await File.WriteAllTextAsync(words, captions, cancel);
            using var coder = Process.Start(new ProcessStartInfo("ffmpeg",
            [
                "-hide_banner", "-loglevel", "error", "-nostdin", "-y", "-i", film.FullName, "-i", words, "-map", "0", "-map", "1",
                "-c", "copy", "-c:s", "webvtt", "-cues_to_front", "1", "-f", "webm", partial
            ]));
            if (coder is null) return null;
            try { await coder.WaitForExitAsync(cancel); }
            finally
            {
                if (!coder.HasExited) coder.Kill();
                File.Delete(words);
            }
            if (coder.ExitCode != 0)
            {
                File.Delete(partial);
                return null;
            }
            File.Move(partial, path, overwrite: true);
            return path;
        }
        finally { _one.Release(); }
    }

    /// <summary>What was made of a film that is another now.</summary>
    public static void Forget(string folder)
    {
        foreach (var old in Directory.EnumerateFiles(folder, Pattern).Concat(Directory.EnumerateFiles(folder, Pattern + ".part")))
            File.Delete(old);
    }

    /// <summary>Those that nobody has wanted for a day; they can be made again.</summary>
    public static void Tidy(string folder)
    {
        foreach (var old in Directory.EnumerateFiles(folder, Pattern))
            if (File.GetLastWriteTimeUtc(old) < DateTime.UtcNow - _kept) File.Delete(old);
    }

    public void Dispose() => _one.Dispose();
}
