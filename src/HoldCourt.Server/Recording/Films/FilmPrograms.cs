using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;

namespace HoldCourt.Server.Recording.Films;

/// <summary>What of the system films are made with.</summary>
internal static class FilmPrograms
{
    /// <summary>What is missing, by the names of the packages.</summary>
    /// <param name="folders">Where programs are looked for; null for where this process does.</param>
    public static IReadOnlyList<string> Missing(string? folders = null)
    {
        var missing = new List<string>();
        foreach (var (name, package) in new[] { (Natives.Vpx, "libvpx7"), (Natives.Yuv, "libyuv0") })
            if (!Natives.IsThere(name)) missing.Add(package);
        if (!Exists("ffmpeg", folders ?? Environment.GetEnvironmentVariable("PATH") ?? "")) missing.Add("ffmpeg");
        if (!Sandbox.IsThere) missing.Add("bubblewrap");
        return missing;
    }

    private static bool Exists(string program, string folders) => folders.Split(':')
        .Any(folder => folder.Length > 0 && File.Exists(Path.Combine(folder, program)));
}
