using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>The kinds of people who see a sitting differently.</summary>
public enum Viewer
{
    /// <summary>Host and deputies.</summary>
    Bench,
    Presenter,
    Attendee,

    /// <summary>In the lobby, or gone.</summary>
    Outside
}

/// <summary>
/// From where a sitting is seen: all who share one see the same, and get it in one message. <see cref="Knowledge.ViewpointOf"/> alone
/// says whose is which.
/// </summary>
public readonly record struct Viewpoint(Viewer Viewer)
{
    /// <summary>All that anybody may have.</summary>
    public static ImmutableArray<Viewpoint> All { get; } = [.. Enum.GetValues<Viewer>().Select(viewer => new Viewpoint(viewer))];

    public static implicit operator Viewpoint(Viewer viewer) => new(viewer);
}
