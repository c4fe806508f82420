using System.Net;
using System.Net.Sockets;

namespace HoldCourt.Server.Security;

/// <summary>
/// What counts as one address where something is counted: all of an IPv4 address, and of an IPv6 address the first 64 bits, since
/// whoever has one line has all that begin with them (RFC 4291, 2.5.1; RFC 6177).
/// </summary>
public static class ClientAddress
{
    private const int PrefixBytes = 8;

    public static string Of(HttpContext http) => Of(http.Connection.RemoteIpAddress);

    /// <param name="address">Null for a connection that has none.</param>
    public static string Of(IPAddress? address)
    {
        if (address is null) return "";
        if (address.IsIPv4MappedToIPv6) return address.MapToIPv4().ToString();
        if (address.AddressFamily != AddressFamily.InterNetworkV6) return address.ToString();
        var bytes = address.GetAddressBytes();
        bytes.AsSpan(PrefixBytes).Clear();
        return $"{new IPAddress(bytes)}/64";
    }
}
