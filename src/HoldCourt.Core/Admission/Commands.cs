using System.Collections.Immutable;

namespace HoldCourt.Core.Admission;

/// <summary>Starts the sitting. Refused when it has already been opened.</summary>
/// <param name="Prepare">The bench comes in first, and opens to the others later.</param>
/// <param name="EndsAt">When it is planned to end.</param>
/// <param name="Items">The run sheet.</param>
public sealed record Open(string Title, PersonKey Owner, Door Door, OrderSheet Orders, ImmutableArray<DocketLine> Docket, bool Prepare = false, Instant? EndsAt = null, ImmutableArray<Item>? Items = null)
    : HouseCommand;

/// <summary>
/// Somebody is at the door: enters, waits in the lobby, gets back the seat held before, or is turned away in the bench's words.
/// </summary>
/// <param name="Proof">What a personal link or an account proves: the key of a line of the docket; null otherwise.</param>
/// <param name="HostKey">The person showed the host key, and joins the bench.</param>
/// <param name="Owns">The person's account is one of those whose session it is, as the plan stands now.</param>
public sealed record Announce(PersonKey Person, string Name, string? Proof = null, bool HostKey = false, bool ByPhone = false, bool Owns = false) : HouseCommand;

/// <summary>The last connection of these seats is gone.</summary>
public sealed record Drop(ImmutableArray<SeatId> Seats) : HouseCommand, ISeats;

/// <summary>A connection of this seat is there again.</summary>
public sealed record Reconnect(SeatId Seat) : HouseCommand;

/// <summary>Lets waiting people in. Refused when none of them waits any more.</summary>
public sealed record Admit(ImmutableArray<SeatId> Seats, Role As = Role.Attendee) : SeatCommand, ISeats;

/// <summary>Lets in everybody who waits and surely is somebody expected, each in the role the docket says.</summary>
public sealed record AdmitSure : SeatCommand;

/// <summary>Turns waiting people away, with words they will read.</summary>
public sealed record Decline(ImmutableArray<SeatId> Seats, string? Words = null) : SeatCommand, ISeats;

/// <summary>Puts people out to wait. They keep their role.</summary>
public sealed record SendToLobby(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

/// <param name="ByName">See <see cref="Door"/>.</param>
public sealed record SetDoor(DoorMode Mode, bool ByName = false) : SeatCommand;

/// <summary>Nobody else enters.</summary>
public sealed record LockDoor(string Words, bool LateWait) : SeatCommand;

public sealed record UnlockDoor : SeatCommand;

/// <summary>Goes out of one's own will. A host names who leads from then on, unless nobody else is seated.</summary>
public sealed record Leave(SeatId? Successor = null) : SeatCommand;

/// <summary>Ends the preparation: the session is open to everybody.</summary>
public sealed record Begin : SeatCommand;

/// <summary>A one-way message to everybody who waits.</summary>
public sealed record SendNotice(string Words) : SeatCommand;

/// <summary>Ends the sitting for everybody.</summary>
public sealed record Adjourn : SeatCommand;
