using System.Reflection;
using System.Runtime.InteropServices;

namespace HoldCourt.Server.Recording.Films;

/// <summary>The libraries of the system that films are made with. Their names change from one release of it to the next.</summary>
internal static class Natives
{
    public const string Vpx = "vpx", Yuv = "yuv";

    private static readonly Dictionary<string, string[]> _names = new()
    {
        [Vpx] = ["libvpx.so.7", "libvpx.so.9", "libvpx.so.8", "libvpx.so.6", "libvpx.so"],
        [Yuv] = ["libyuv.so.0", "libyuv.so.1", "libyuv.so"]
    };

    private static int _isSet;

    /// <summary>The libraries that are missing, by the names of their packages.</summary>
    public static IReadOnlyList<string> Missing()
    {
        var missing = new List<string>();
        foreach (var (name, package) in new[] { (Vpx, "libvpx7"), (Yuv, "libyuv0") })
            if (Load(name) == nint.Zero) missing.Add(package);
        if (!Exists("ffmpeg")) missing.Add("ffmpeg");
        return missing;
    }

    public static void Use()
    {
        if (Interlocked.Exchange(ref _isSet, 1) == 0)
            NativeLibrary.SetDllImportResolver(typeof(Natives).Assembly, (name, _, _) => _names.ContainsKey(name) ? Load(name) : nint.Zero);
    }

    private static nint Load(string name)
    {
        foreach (var file in _names[name])
            if (NativeLibrary.TryLoad(file, Assembly.GetExecutingAssembly(), null, out var library)) return library;
        return nint.Zero;
    }

    private static bool Exists(string program) => (Environment.GetEnvironmentVariable("PATH") ?? "").Split(':')
        .Any(folder => folder.Length > 0 && File.Exists(Path.Combine(folder, program)));
}
