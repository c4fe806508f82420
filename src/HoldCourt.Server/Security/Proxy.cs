using System.Net;
using HoldCourt.Server.Hosting;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.HttpOverrides;

namespace HoldCourt.Server.Security;

/// <summary>
/// Behind a proxy: what it says of a request's address, scheme and host is believed only when the connection comes from a
/// proxy that <c>Proxy:Known</c> names, by address or network. Where one public <c>Address</c> is configured, requests
/// for other hosts are turned away.
/// </summary>
internal static class Proxy
{
    public static void AddProxy(this WebApplicationBuilder builder)
    {
        if (builder.Configuration["Address"] is { } set
            && !(Uri.TryCreate(set, UriKind.Absolute, out var uri) && uri is { Scheme: "http" or "https", PathAndQuery: "/" }))
            throw new SettingException(
                $"Address is {set}, which is no address of a server. It looks like https://court.example.org, without a path.");
        var known = builder.Configuration["Proxy:Known"]?.Split([',', ' ', ';'], StringSplitOptions.RemoveEmptyEntries) ?? [];
        // Looked at now, so that what is wrong is said before anything starts.
        foreach (var one in known) Know(new ForwardedHeadersOptions(), one);
        builder.Services.Configure<ForwardedHeadersOptions>(options =>
        {
            options.KnownProxies.Clear();
            options.KnownIPNetworks.Clear();
            foreach (var one in known) Know(options, one);
            options.ForwardedHeaders = known.Length == 0
                ? ForwardedHeaders.None
                : ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost;
            // Several proxies in a row, as long as each is named; the first that is not is the one who asks.
            options.ForwardLimit = null;
        });
        if (builder.Configuration["AllowedHosts"] is null or "*"
            && Uri.TryCreate(builder.Configuration["Address"], UriKind.Absolute, out var address))
            builder.Services.PostConfigure<HostFilteringOptions>(options =>
                options.AllowedHosts = [address.Host, "localhost", "127.0.0.1", "[::1]"]);
    }

    public static void UseForwarded(this WebApplication app) => app.UseForwardedHeaders();

    /// <exception cref="SettingException">It is neither an address nor a network.</exception>
    private static void Know(ForwardedHeadersOptions options, string one)
    {
        if (IPAddress.TryParse(one, out var address)) options.KnownProxies.Add(address);
        else if (System.Net.IPNetwork.TryParse(one, out var network)) options.KnownIPNetworks.Add(network);
        else throw new SettingException(
            $"Proxy:Known names {one}, which is neither an address such as 127.0.0.1 nor a network such as 10.0.0.0/8.");
    }
}
