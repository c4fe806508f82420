using System.Text.Json.Serialization;

namespace HoldCourt.Core.Media;

/// <summary>How the frames of a track are treated on their way. Its number stands in each frame.</summary>
public enum Service : byte
{
    /// <summary>Goes first, and nothing of it is dropped.</summary>
    Voice = 1,

    /// <summary>What is late or too much is dropped up to the next key frame.</summary>
    Camera = 2,

    /// <summary>Has large key frames and long pauses: the newest key frame is never dropped, only what came after it.</summary>
    Screen = 3,

    /// <summary>What a shown screen sounds like: goes as voices do, in two channels, and is nobody's voice.</summary>
    Sound = 4
}

/// <summary>Layers of a picture in rising order of sharpness and cost.</summary>
public enum Layer { None, Thumb, Full }

/// <summary>A track as its sender describes it.</summary>
/// <param name="Source">What it comes from, such as <c>camera</c>; a source may have several layers.</param>
/// <param name="Layer">None for sound.</param>
/// <param name="Codec">As the browser's coders name it.</param>
public sealed record TrackDescription(string Source, Service Service, Layer Layer, string Codec)
{
    /// <summary>Most tracks of one sender, and longest name of a source or a codec, in UTF-16 units.</summary>
    public const int Most = 12, LongestName = 40;

    [JsonIgnore]
    public bool IsMeaningful =>
        Enum.IsDefined(Service) && Enum.IsDefined(Layer) && (Service is Service.Voice or Service.Sound) == (Layer == Layer.None)
        && Source.Length is > 0 and <= LongestName && Codec.Length is > 0 and <= LongestName;

    /// <summary>Each of them is meaningful, and no source has a layer twice.</summary>
    public static bool AreMeaningful(IReadOnlyCollection<TrackDescription> tracks) =>
        tracks.Count <= Most && tracks.All(track => track.IsMeaningful)
            && tracks.DistinctBy(track => (track.Source, track.Layer)).Count() == tracks.Count;
}
