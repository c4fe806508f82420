using HoldCourt.Server.Planning;
using Microsoft.AspNetCore.Mvc;

namespace HoldCourt.Server.Api;

/// <summary>Files that come as the body of a request.</summary>
internal static class Uploads
{
    /// <summary>In bytes.</summary>
    public const int Largest = SessionPapers.Largest;

    /// <summary>Up to here a file that is too large is read to its end, since a browser whose sending breaks off shows no answer.</summary>
    public static RequestSizeLimitAttribute Limit { get; } = new(10L * Largest);

    /// <exception cref="BadHttpRequestException">The file is larger than is allowed; answered as "too large".</exception>
    public static async Task<byte[]> Read(HttpRequest request)
    {
        using var bytes = new MemoryStream();
        var buffer = new byte[64 * 1024];
        long size = 0;
        for (int read; (read = await request.Body.ReadAsync(buffer, request.HttpContext.RequestAborted)) > 0; size += read)
            if (size + read <= Largest) await bytes.WriteAsync(buffer.AsMemory(0, read));
        return size <= Largest
            ? bytes.ToArray()
            : throw new BadHttpRequestException("The file is too large.", StatusCodes.Status413PayloadTooLarge);
    }
}
