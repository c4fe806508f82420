using System.Text.Json;

namespace HoldCourt.Server.Media;

/// <summary>The small JSON messages on the media socket, from the browser.</summary>
[Union("type")]
public abstract record FromBrowser;

/// <summary>All tracks that this browser has, in place of those before. What is described as it was keeps its number.</summary>
public sealed record Describe(IReadOnlyList<TrackDescription> Tracks) : FromBrowser;

/// <summary>What the browser shows, and how high each picture stands, in CSS pixels.</summary>
public sealed record Show(IReadOnlyList<WishedPicture> Pictures) : FromBrowser;

/// <param name="Source">Somebody's camera or screen.</param>
public sealed record WishedPicture(SeatId Seat, int Height, string Source = Wish.Camera);

/// <summary>The decoder lost its thread and needs a key frame of a track.</summary>
public sealed record AskForKey(int Track) : FromBrowser;

/// <summary>Answers a mark at once, so that the server knows how far behind this browser is.</summary>
public sealed record Echo(int Mark) : FromBrowser;

/// <summary>The messages to the browser.</summary>
[Union("type")]
public abstract record ToBrowser
{
    public byte[] ToUtf8() => JsonSerializer.SerializeToUtf8Bytes(this, CoreJson.Options);
}

/// <summary>The numbers of the tracks that were described, in their order.</summary>
public sealed record Numbered(IReadOnlyList<int> Tracks) : ToBrowser;

/// <summary>Whose track a number is, and what it carries; comes before the track's first frame.</summary>
public sealed record Introduced(int Track, SeatId Seat, TrackDescription What) : ToBrowser;

/// <summary>These tracks have ended; their numbers may be given anew.</summary>
public sealed record Ended(IReadOnlyList<int> Tracks) : ToBrowser;

/// <summary>Which of this browser's tracks anybody needs at all.</summary>
public sealed record Wanted(IReadOnlyList<int> Tracks) : ToBrowser;

public sealed record NeedKey(int Track) : ToBrowser;

/// <summary>Who speaks. How loud a voice is stands in its frames.</summary>
public sealed record Speaker(SeatId? Seat) : ToBrowser;

public sealed record Marked(int Mark) : ToBrowser;

/// <summary>The connection carries less than it might, so fewer or smaller pictures come; or all again.</summary>
public sealed record Carries(bool Slow) : ToBrowser;
