using System.Net.Sockets;
using System.Text.RegularExpressions;
using HoldCourt.Server.Security;

namespace HoldCourt.Server.Hosting;

/// <summary>Under which addresses people reach the server.</summary>
/// <param name="Here">From this machine.</param>
/// <param name="Elsewhere">From other machines; empty when it listens to this one only.</param>
internal sealed partial record ServerAddresses(string Here, IReadOnlyList<string> Elsewhere)
{
    /// <summary>The one to be put into messages.</summary>
    public string Best => Elsewhere is [var first, ..] ? first : Here;

    /// <param name="bound">What the server listens to, such as "https://[::]:5080".</param>
    public static ServerAddresses Of(string bound) => new(
        Own().Replace(bound, "//localhost"),
        !All().IsMatch(bound)
            ? []
            : [.. OwnCertificate.Addresses()
            .Select(one => All().Replace(bound, one.AddressFamily == AddressFamily.InterNetworkV6 ? $"//[{one}]" : $"//{one}"))]);

    /// <summary>
    /// Whether other machines may reach the server: it listens to more than this machine, or a proxy or a public address is
    /// configured. What cannot be told counts as reached.
    /// </summary>
    public static bool IsReached(IConfiguration configuration)
    {
        if (configuration["Address"] is not null || configuration["Proxy:Known"] is not null
            || configuration.GetSection("Kestrel:Endpoints").GetChildren().Any()) return true;
        return configuration["urls"] is not { Length: > 0 } urls
            || urls.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Any(url => !(Uri.TryCreate(url, UriKind.Absolute, out var uri) && uri.IsLoopback));
    }

    [GeneratedRegex(@"//(127\.0\.0\.1|0\.0\.0\.0|\[::\]|\*|\+)")]
    private static partial Regex Own();

    [GeneratedRegex(@"//(0\.0\.0\.0|\[::\]|\*|\+)")]
    private static partial Regex All();
}
