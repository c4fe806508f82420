using Microsoft.AspNetCore.Mvc;

namespace HoldCourt.Server.Api;

/// <summary>Files that come as the body of a request.</summary>
internal static class Uploads
{
    /// <summary>In bytes.</summary>
    public const int Largest = 20 * 1024 * 1024;

    public static RequestSizeLimitAttribute Limit { get; } = new(Largest);

    /// <exception cref="BadHttpRequestException">The file is larger than is allowed; answered as "too large".</exception>
    public static async Task<byte[]> Read(HttpRequest request)
    {
        using var bytes = new MemoryStream();
        await request.Body.CopyToAsync(bytes, request.HttpContext.RequestAborted);
        return bytes.ToArray();
    }
}
