using System.Collections.Immutable;

namespace HoldCourt.Core.People;

/// <summary>Opens one's own microphone.</summary>
public sealed record OpenMicrophone : SeatCommand;

public sealed record CloseMicrophone : SeatCommand;

/// <summary>Turns one's own camera on or off.</summary>
public sealed record TurnCamera(bool On) : SeatCommand;

/// <summary>Closes others' microphones, and ends their leave to speak.</summary>
public sealed record Mute(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

/// <summary>Closes every open microphone but one's own.</summary>
/// <param name="Presenters">Presenters, the bench, and whoever has the floor, too.</param>
public sealed record MuteAll(bool Presenters = false) : SeatCommand;

/// <summary>Opens the microphones of those who consented to it.</summary>
public sealed record Unmute(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

/// <summary>Asks people to open their microphones, which also gives them leave to.</summary>
public sealed record AskToUnmute(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

/// <param name="Consent">The bench may open this microphone from now on, during this sitting.</param>
public sealed record AnswerUnmute(bool Agree, bool Consent = false) : SeatCommand;

public sealed record CamerasOff(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats;

/// <param name="MayReturn">They may announce themselves again; otherwise they are turned away for this sitting.</param>
public sealed record Remove(ImmutableArray<SeatId> Seats, bool MayReturn) : SeatCommand, ISeats;

/// <summary>Makes people deputies, presenters or attendees.</summary>
public sealed record GiveRole(ImmutableArray<SeatId> Seats, Role Role) : SeatCommand, ISeats;

/// <summary>Makes somebody seated the host; the host so far becomes a deputy.</summary>
public sealed record HandOver(SeatId To) : SeatCommand;

public sealed record Rename(SeatId Seat, string Name) : SeatCommand;
