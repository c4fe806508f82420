using System.Text.Json;
using System.Text.Json.Serialization;

namespace HoldCourt.Server.Media;

/// <summary>The small JSON messages on the media socket, from the browser.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "type")]
[JsonDerivedType(typeof(WishMessage), "wish")]
[JsonDerivedType(typeof(KeyMessage), "key")]
[JsonDerivedType(typeof(EchoMessage), "echo")]
public abstract record FromBrowser;

/// <summary>What the browser shows, and how high each picture stands, in CSS pixels.</summary>
public sealed record WishMessage(IReadOnlyList<WishedPicture> Pictures) : FromBrowser;

public sealed record WishedPicture(SeatId Seat, int Height);

/// <summary>The decoder lost its thread and needs a key frame of a track.</summary>
public sealed record KeyMessage(int Track) : FromBrowser;

/// <summary>Answers a mark at once, so that the server knows how far behind this browser is.</summary>
public sealed record EchoMessage(int Mark) : FromBrowser;

/// <summary>The messages to the browser.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "type")]
[JsonDerivedType(typeof(PublishMessage), "publish")]
[JsonDerivedType(typeof(TrackMessage), "track")]
[JsonDerivedType(typeof(EndedMessage), "ended")]
[JsonDerivedType(typeof(WantedMessage), "wanted")]
[JsonDerivedType(typeof(NeedKeyMessage), "key")]
[JsonDerivedType(typeof(SpeakerMessage), "speaker")]
[JsonDerivedType(typeof(MarkMessage), "mark")]
[JsonDerivedType(typeof(CapacityMessage), "capacity")]
public abstract record ToBrowser
{
    public byte[] ToUtf8() => JsonSerializer.SerializeToUtf8Bytes(this, CoreJson.Options);
}

/// <summary>The track numbers under which this browser sends.</summary>
public sealed record PublishMessage(int Audio, int Full, int Thumb) : ToBrowser;

/// <summary>Whose track a number is; comes before the track's first frame.</summary>
public sealed record TrackMessage(int Track, SeatId Seat, HoldCourt.Core.Media.FrameType Kind) : ToBrowser;

/// <summary>These tracks have ended; their numbers may be given anew.</summary>
public sealed record EndedMessage(IReadOnlyList<int> Tracks) : ToBrowser;

/// <summary>Which of this browser's tracks anybody needs at all.</summary>
public sealed record WantedMessage(bool Audio, bool Full, bool Thumb) : ToBrowser;

public sealed record NeedKeyMessage(int Track) : ToBrowser;

/// <summary>Who speaks. How loud a voice is stands in its frames.</summary>
public sealed record SpeakerMessage(SeatId? Seat) : ToBrowser;

public sealed record MarkMessage(int Mark) : ToBrowser;

/// <summary>The connection carries less than it might, so fewer or smaller pictures come; or all again.</summary>
public sealed record CapacityMessage(bool Slow) : ToBrowser;
