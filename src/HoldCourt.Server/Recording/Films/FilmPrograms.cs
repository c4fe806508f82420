using HoldCourt.Server.Hosting;

namespace HoldCourt.Server.Recording.Films;

/// <summary>What of the system films are made with.</summary>
internal static class FilmPrograms
{
    /// <summary>What is missing, by the names of the packages.</summary>
    public static IReadOnlyList<string> Missing()
    {
        var missing = new List<string>();
        foreach (var (name, package) in new[] { (Natives.Vpx, "libvpx7"), (Natives.Yuv, "libyuv0") })
            if (!Natives.IsThere(name)) missing.Add(package);
        if (!Exists("ffmpeg")) missing.Add("ffmpeg");
        return missing;
    }

    private static bool Exists(string program) => (Environment.GetEnvironmentVariable("PATH") ?? "").Split(':')
        .Any(folder => folder.Length > 0 && File.Exists(Path.Combine(folder, program)));
}
