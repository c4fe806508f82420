using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

public sealed record Opened(string Title, PersonKey Owner, Door Door, OrderSheet Orders, ImmutableArray<DocketLine> Docket, bool Prepare = false, Instant? EndsAt = null, ImmutableArray<Item>? Items = null)
    : Fact;

/// <summary>Waits in the lobby, newly or again.</summary>
public sealed record Announced(SeatId Seat, PersonKey Person, string Name, string? Proof = null, bool ByPhone = false) : Fact;

/// <summary>Walked in without waiting, newly or again.</summary>
public sealed record Entered(SeatId Seat, PersonKey Person, string Name, Role As, string? Proof = null, bool ByPhone = false) : Fact;

/// <summary>Let in from the lobby.</summary>
/// <param name="As">The role of each, in the order of <paramref name="Seats"/>.</param>
public sealed record Admitted(ImmutableArray<SeatId> Seats, ImmutableArray<Role> As) : Fact;

public sealed record Declined(ImmutableArray<SeatId> Seats, string? Words) : Fact;
public sealed record SentToLobby(ImmutableArray<SeatId> Seats) : Fact;

/// <summary>Back inside with the role they had.</summary>
public sealed record Reseated(ImmutableArray<SeatId> Seats) : Fact;

public sealed record DoorSet(Door From, Door To) : Fact;
public sealed record Left(SeatId Seat) : Fact;
public sealed record Dropped(ImmutableArray<SeatId> Seats) : Fact;
public sealed record Reconnected(SeatId Seat) : Fact;
public sealed record Adjourned : Fact;
public sealed record Begun : Fact;
public sealed record NoticeSent(string Words) : Fact;
