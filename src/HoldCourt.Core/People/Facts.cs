using System.Collections.Immutable;

namespace HoldCourt.Core.People;

/// <summary>These microphones were open and are closed.</summary>
/// <param name="Leaves">Those of them, or others, whose leave to speak ended with it.</param>
public sealed record Muted(ImmutableArray<SeatId> Seats, ImmutableArray<SeatId> Leaves) : Fact;

/// <param name="Leaves">On the way back from a mute: those whose leave to speak is given again.</param>
public sealed record MicrophonesOpened(ImmutableArray<SeatId> Seats, ImmutableArray<SeatId> Leaves) : Fact;
public sealed record AskedToUnmute(ImmutableArray<SeatId> Seats) : Fact;
public sealed record UnmuteAnswered(SeatId Seat, bool Agreed, bool Consents) : Fact;
public sealed record CamerasTurned(ImmutableArray<SeatId> Seats, bool On) : Fact;

/// <param name="Roles">The role each had, in the order of <paramref name="Seats"/>.</param>
public sealed record Removed(ImmutableArray<SeatId> Seats, ImmutableArray<Role> Roles, bool MayReturn) : Fact;

public sealed record RoleChange(SeatId Seat, Role From, Role To);
public sealed record RolesGiven(ImmutableArray<RoleChange> Changes) : Fact;
/// <param name="ToWas">The role of the new host before.</param>
/// <param name="FromBecomes">The role of the old host from now on.</param>
public sealed record HandedOver(SeatId From, SeatId To, Role ToWas, Role FromBecomes) : Fact;
public sealed record Renamed(SeatId Seat, string From, string To) : Fact;
