using System.Security.Cryptography;

namespace HoldCourt.Server.Hosting;

/// <summary>Which build of the pages this server hands out: what their first file says, which names all the others.</summary>
internal sealed class PageBuild(IWebHostEnvironment environment)
{
    private readonly Lazy<string> _build = new(() =>
    {
        var index = environment.WebRootFileProvider.GetFileInfo("index.html");
        if (!index.Exists) return "";
        using var file = index.CreateReadStream();
        return Convert.ToHexStringLower(SHA256.HashData(file)[..8]);
    });

    public string Build => _build.Value;
}
