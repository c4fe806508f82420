using System.Reflection;
using System.Runtime.InteropServices;

namespace HoldCourt.Server.Hosting;

/// <summary>The libraries of the system that the server uses. Their names change from one release of it to the next.</summary>
internal static class Natives
{
    public const string Vpx = "vpx", Yuv = "yuv", Sphinx = "pocketsphinx", SphinxBase = "sphinxbase";

    private static readonly Dictionary<string, string[]> _names = new()
    {
        [Vpx] = ["libvpx.so.7", "libvpx.so.9", "libvpx.so.8", "libvpx.so.6", "libvpx.so"],
        [Yuv] = ["libyuv.so.0", "libyuv.so.1", "libyuv.so"],
        [Sphinx] = ["libpocketsphinx.so.3", "libpocketsphinx.so"],
        [SphinxBase] = ["libsphinxbase.so.3", "libsphinxbase.so"]
    };

    private static int _isSet;

    public static bool IsThere(string name) => Load(name) != nint.Zero;

    /// <summary>Must be called before anything in one of them is.</summary>
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
}
