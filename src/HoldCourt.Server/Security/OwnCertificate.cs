using System.Net;
using System.Net.NetworkInformation;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace HoldCourt.Server.Security;

/// <summary>
/// A certificate that the server makes for itself, since browsers give cameras and microphones to secure pages only. It
/// names this machine and its addresses, and is kept beside the data, so that those who accepted it are not asked again.
/// </summary>
internal static class OwnCertificate
{
    /// <summary>The part that others may have: to be imported where the browser's warning is not wanted.</summary>
    public const string PublicFile = "certificate.crt";

    private const string File = "certificate.pfx";
    private static readonly TimeSpan _span = TimeSpan.FromDays(397), _renewed = TimeSpan.FromDays(30);

    /// <summary>The kept certificate, or a new one when there is none, it ends within 30 days, or an address is not in it.</summary>
    /// <exception cref="IOException">The folder cannot be written.</exception>
    public static X509Certificate2 For(string folder, TimeProvider time)
    {
        var path = Path.Combine(folder, File);
        var addresses = Addresses();
        if (Kept(path) is { } kept)
        {
            if (kept.NotAfter.ToUniversalTime() > time.GetUtcNow().UtcDateTime + _renewed
                && addresses.All(address => kept.MatchesHostname(address.ToString()))) return kept;
            kept.Dispose();
        }
        var made = Make(addresses, time.GetUtcNow());
        var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        using (var file = new FileStream(path, options)) file.Write(made.Export(X509ContentType.Pkcs12));
        System.IO.File.WriteAllText(Path.Combine(folder, PublicFile), made.ExportCertificatePem());
        return made;
    }

    /// <summary>The addresses under which other machines reach this one, those of version 4 first.</summary>
    public static IReadOnlyList<IPAddress> Addresses() =>
    [
        .. NetworkInterface.GetAllNetworkInterfaces()
            .Where(card => card.OperationalStatus == OperationalStatus.Up && card.NetworkInterfaceType != NetworkInterfaceType.Loopback)
            .SelectMany(card => card.GetIPProperties().UnicastAddresses).Select(one => one.Address)
            .Where(address => address.AddressFamily == AddressFamily.InterNetwork
                || address is { AddressFamily: AddressFamily.InterNetworkV6, IsIPv6LinkLocal: false })
            .Distinct().OrderBy(address => address.AddressFamily == AddressFamily.InterNetwork ? 0 : 1)
    ];

    /// <summary>SHA-256 of the certificate, as browsers show it, to compare by eye.</summary>
    public static string Fingerprint(X509Certificate2 certificate) =>
        BitConverter.ToString(certificate.GetCertHash(HashAlgorithmName.SHA256)).Replace('-', ':');

    private static X509Certificate2? Kept(string path)
    {
        if (!System.IO.File.Exists(path)) return null;
        try { return X509CertificateLoader.LoadPkcs12FromFile(path, null); }
        catch (CryptographicException) { return null; }
    }

    private static X509Certificate2 Make(IEnumerable<IPAddress> addresses, DateTimeOffset now)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=Hold Court on this machine", key, HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        foreach (var name in new[] { "localhost", Dns.GetHostName() }.Distinct(StringComparer.OrdinalIgnoreCase)) names.AddDnsName(name);
        foreach (var address in addresses.Prepend(IPAddress.IPv6Loopback).Prepend(IPAddress.Loopback)) names.AddIpAddress(address);
        request.CertificateExtensions.Add(names.Build());
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(false, false, 0, true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.DigitalSignature, true));
        request.CertificateExtensions.Add(new X509EnhancedKeyUsageExtension([new Oid("1.3.6.1.5.5.7.3.1")], false));
        using var made = request.CreateSelfSigned(now.AddDays(-1), now + _span);
        // Read back, because a key that lives only in memory does not serve on every platform.
        return X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pkcs12), null, X509KeyStorageFlags.Exportable);
    }
}
