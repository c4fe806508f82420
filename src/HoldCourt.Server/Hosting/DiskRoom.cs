using HoldCourt.Server.Exhibits;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Hosting;

/// <summary>There is no room on the disk for what somebody brings.</summary>
internal sealed class DiskFullException : Exception;

/// <summary>
/// How much room the disk of the data folder has. What people bring never takes the last of it, which the record of the sittings needs.
/// </summary>
internal sealed class DiskRoom(IConfiguration configuration, IOptions<FileBounds> bounds)
{
    private readonly string _folder = CourtHost.FolderOf(configuration);

    /// <summary>In bytes; null when the disk does not say it.</summary>
    public long? Free
    {
        get
        {
            try { return new DriveInfo(_folder).AvailableFreeSpace; }
            catch (Exception e) when (e is IOException or ArgumentException or UnauthorizedAccessException) { return null; }
        }
    }

    /// <summary>What entries need at the least, in bytes.</summary>
    private const long LeastForEntries = 2_000_000;

    /// <summary>There is room for entries again, as far as the disk tells.</summary>
    public bool HasRoomForEntries => Free is null or >= LeastForEntries;

    /// <exception cref="DiskFullException">So many bytes more would leave less than is kept free.</exception>
    public void For(long bytes)
    {
        if (Free - bytes < bounds.Value.KeptFree) throw new DiskFullException();
    }

    /// <summary>The disk said itself that it is full (ENOSPC, EDQUOT).</summary>
    public static bool IsFull(IOException failure) => (failure.HResult & 0xffff) is 28 or 122;
}
