using System.Diagnostics.Metrics;

namespace HoldCourt.Server.Media;

internal static class MediaMeter
{
    public const string Name = "HoldCourt.Media";
    private static readonly Meter _meter = new(Name);

    public static Counter<long> Forwarded { get; } = _meter.CreateCounter<long>("media.frames.forwarded", description: "Frames queued for a receiver.");
    public static Counter<long> Forbidden { get; } = _meter.CreateCounter<long>("media.frames.forbidden", description: "Frames of somebody who may not be heard or seen.");
    public static Counter<long> Malformed { get; } = _meter.CreateCounter<long>("media.frames.malformed", description: "Messages with a broken header or somebody else's track.");
    public static Counter<long> TooMany { get; } = _meter.CreateCounter<long>("media.frames.too_many", description: "Frames beyond a sender's share.");
    public static Counter<long> LateDropped { get; } = _meter.CreateCounter<long>("media.frames.late", description: "Pictures dropped at a slow receiver.");
    public static Counter<long> Floods { get; } = _meter.CreateCounter<long>("media.floods", description: "Connections ended for flooding.");
}
