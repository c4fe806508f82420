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
/// <param name="Room">The room from which it is seen; null for the hall, and for those outside.</param>
public readonly record struct Viewpoint(Viewer Viewer, int? Room = null)
{
    /// <summary>Those of the hall, and of outside.</summary>
    public static ImmutableArray<Viewpoint> OfTheHall { get; } = [.. Enum.GetValues<Viewer>().Select(viewer => new Viewpoint(viewer))];

    /// <summary>All that anybody in a sitting has at a time, those of the hall whether anybody has them or not.</summary>
    public static IReadOnlyList<Viewpoint> In(Sitting sitting) => sitting.Rooms.Open is [] ? OfTheHall :
    [
        .. OfTheHall,
        .. sitting.Seats.Where(seat => seat.Room is not null).Select(seat => Knowledge.ViewpointOf(sitting, seat)).Distinct()
    ];

    /// <summary>Those of people who are in one place.</summary>
    public static IEnumerable<Viewpoint> Inside(int? room) =>
        OfTheHall.Where(viewpoint => viewpoint.Viewer != Viewer.Outside).Select(viewpoint => viewpoint with { Room = room });

    public static implicit operator Viewpoint(Viewer viewer) => new(viewer);
}
