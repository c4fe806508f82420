using System.Diagnostics.Metrics;

namespace HoldCourt.Server.Media;

internal static class MediaMeter
{
    public const string Name = "HoldCourt.Media";
    private static readonly Meter _meter = new(Name);

    private static long _bytesIn, _bytesOut, _dropped;

    /// <summary>Bytes of frames that came from senders, since the start.</summary>
    public static long BytesIn => Volatile.Read(ref _bytesIn);

    /// <summary>Bytes of messages that went to receivers, since the start.</summary>
    public static long BytesOut => Volatile.Read(ref _bytesOut);

    /// <summary>Pictures dropped at slow receivers, since the start.</summary>
    public static long DroppedCount => Volatile.Read(ref _dropped);

    public static void CameIn(int bytes) => Interlocked.Add(ref _bytesIn, bytes);

    public static void WentOut(int bytes) => Interlocked.Add(ref _bytesOut, bytes);

    public static void Dropped(long count)
    {
        Interlocked.Add(ref _dropped, count);
        LateDropped.Add(count);
    }

    public static Counter<long> Forwarded { get; } =
        _meter.CreateCounter<long>("media.frames.forwarded", description: "Frames queued for a receiver.");
    public static Counter<long> Forbidden { get; } =
        _meter.CreateCounter<long>("media.frames.forbidden", description: "Frames of somebody who may not be heard or seen.");
    public static Counter<long> Malformed { get; } =
        _meter.CreateCounter<long>("media.frames.malformed", description: "Messages with a broken header or somebody else's track.");
    public static Counter<long> TooMany { get; } =
        _meter.CreateCounter<long>("media.frames.too_many", description: "Frames beyond a sender's share.");
    public static Counter<long> LateDropped { get; } =
        _meter.CreateCounter<long>("media.frames.late", description: "Pictures dropped at a slow receiver.");
    public static Counter<long> Floods { get; } =
        _meter.CreateCounter<long>("media.floods", description: "Connections ended for flooding.");
}
