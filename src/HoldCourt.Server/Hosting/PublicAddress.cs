namespace HoldCourt.Server.Hosting;

/// <summary>The address that stands in links and messages: one for all, when it is configured as <c>Address</c>.</summary>
internal sealed class PublicAddress(IConfiguration configuration, Preparation preparation)
{
    private readonly string? _configured = (configuration["Address"] ?? configuration["Mail:Address"])?.TrimEnd('/');

    public string? Configured => _configured;

    /// <summary>For what a signed-in host sends: otherwise the address that the host uses.</summary>
    public string For(HttpContext http) => _configured ?? $"{http.Request.Scheme}://{http.Request.Host}";

    /// <summary>
    /// For what goes out without a host: otherwise what the server knows of itself. A request's own words are not trusted here,
    /// since whoever asks for somebody else's new password could name any address.
    /// </summary>
    public string OfHouse => _configured ?? preparation.Address;
}
