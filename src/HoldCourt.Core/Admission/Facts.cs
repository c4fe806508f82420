using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

public sealed record Opened(string Title, PersonKey Owner, Door Door, OrderSheet Orders, ImmutableArray<DocketLine> Docket, bool Prepare = false, Instant? EndsAt = null, ImmutableArray<Item>? Items = null)
    : Fact;

/// <summary>Waits in the lobby, newly or again.</summary>
public sealed record Announced(SeatId Seat, PersonKey Person, string Name, string? Proof = null, bool ByPhone = false) : Fact;

/// <summary>Walked in without waiting, newly or again.</summary>
/// <param name="On">Why this person could; null in entries of before it was noted.</param>
public sealed record Entered(SeatId Seat, PersonKey Person, string Name, Role As, string? Proof = null, bool ByPhone = false, Ground? On = null) : Fact;

/// <summary>Showed a personal link while holding a seat already.</summary>
public sealed record Proved(SeatId Seat, string Proof) : Fact;

/// <summary>Let in from the lobby.</summary>
/// <param name="As">The role of each, in the order of <paramref name="Seats"/>.</param>
public sealed record Admitted(ImmutableArray<SeatId> Seats, ImmutableArray<Role> As) : Fact;

/// <param name="Roles">The role each had, in the order of <paramref name="Seats"/>; null in entries of before it was noted.</param>
public sealed record Declined(ImmutableArray<SeatId> Seats, string? Words, ImmutableArray<Role>? Roles = null) : Fact;

/// <param name="Roles">On the way back from a decline: the role each has again.</param>
public sealed record SentToLobby(ImmutableArray<SeatId> Seats, ImmutableArray<Role>? Roles = null) : Fact;

/// <summary>Back inside with the role they had.</summary>
public sealed record Reseated(ImmutableArray<SeatId> Seats) : Fact;

public sealed record DoorSet(Door From, Door To) : Fact;
public sealed record Left(SeatId Seat) : Fact;
public sealed record Dropped(ImmutableArray<SeatId> Seats) : Fact;

/// <param name="First">The page of somebody who has just been announced opened its line.</param>
public sealed record Reconnected(SeatId Seat, bool First = false) : Fact;
public sealed record Adjourned : Fact;
public sealed record Begun : Fact;
public sealed record NoticeSent(string Words) : Fact;
