using System.Collections.Immutable;

namespace HoldCourt.Core.People;

/// <summary>Opens one's own microphone.</summary>
public sealed record OpenMicrophone : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Speak) is { } refusal) return refusal;
        return by.Seat is { } id && !sitting.Seats[id].MicrophoneOpen ? new MicrophonesOpened([id], []) : Decision.AlreadySo;
    }
}

public sealed record CloseMicrophone : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        by.Seat is { } id && sitting.Seats[id].MicrophoneOpen ? new Muted([id], []) : Decision.AlreadySo;
}

/// <summary>Turns one's own camera on or off.</summary>
public sealed record TurnCamera(bool On) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id) return Decision.Refused(Reason.NotInside);
        if (sitting.Seats[id].CameraOn == On) return Decision.AlreadySo;
        if (On && sitting.Forbids(by, Capability.ShowCamera) is { } refusal) return refusal;
        return new CamerasTurned([id], On);
    }
}

/// <summary>Closes others' microphones, and ends their leave to speak.</summary>
public sealed record Mute(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.MuteOthers) is { } refusal) return refusal;
        var seats = sitting.Those(Seats, seat => seat.IsSeated);
        return seats is [] ? Decision.Refused(Reason.NobodySeated) : Muted.Of(sitting, seats);
    }
}

/// <summary>Closes every open microphone but one's own.</summary>
/// <param name="Presenters">Presenters, the bench, and whoever has the floor, too.</param>
public sealed record MuteAll(bool Presenters = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Forbids(by, Capability.MuteOthers)
        ?? Muted.Of(sitting, [.. sitting.Seats.Where(seat => sitting.IsHere(seat) && by.Seat != seat.Id && IsMeant(sitting, seat))
            .Select(seat => seat.Id)]);

    private bool IsMeant(Sitting sitting, Seat seat) => Presenters || (!Powers.PresentsOrLeads(seat) && sitting.Turn?.Seat != seat.Id);
}

/// <summary>Opens the microphones of those who consented to it.</summary>
public sealed record Unmute(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.MuteOthers) is { } refusal) return refusal;
        var here = sitting.Those(Seats, seat => seat.IsSeated);
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var muted = sitting.Those(here, seat => !seat.MicrophoneOpen);
        if (muted is []) return Decision.AlreadySo;
        var consenting = sitting.Those(muted, seat => seat.Consents);
        return consenting is []
            ? Decision.Refused(Reason.NobodyConsents)
            : new MicrophonesOpened(consenting, sitting.Those(consenting, seat => !sitting.MaySpeak(seat)));
    }
}

/// <summary>Asks people to open their microphones, which also gives them leave to.</summary>
public sealed record AskToUnmute(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.MuteOthers) is { } refusal) return refusal;
        var here = sitting.Those(Seats, seat => seat.IsSeated);
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var seats = sitting.Those(here, seat => seat is { MicrophoneOpen: false, Asked: false });
        return seats is [] ? Decision.AlreadySo : new AskedToUnmute(seats);
    }
}

/// <param name="Consent">The bench may open this microphone from now on, during this sitting.</param>
public sealed record AnswerUnmute(bool Agree, bool Consent = false) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id || !sitting.Seats[id].Asked) return Decision.Refused(Reason.NotAsked);
        if (!Agree) return new UnmuteAnswered(id, false, sitting.Seats[id].Consents);
        return sitting.Forbids(by, Capability.Speak) is { } refusal
            ? refusal
            : new UnmuteAnswered(id, true, Consent || sitting.Seats[id].Consents);
    }
}

public sealed record CamerasOff(ImmutableArray<SeatId> Seats) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.TurnCamerasOff) is { } refusal) return refusal;
        var here = sitting.Those(Seats, seat => seat.IsSeated);
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var seats = sitting.Those(here, seat => seat.CameraOn);
        return seats is [] ? Decision.AlreadySo : new CamerasTurned(seats, false);
    }
}

/// <param name="MayReturn">They may announce themselves again; otherwise they are turned away for this sitting.</param>
public sealed record Remove(ImmutableArray<SeatId> Seats, bool MayReturn) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.Remove) is { } refusal) return refusal;
        var here = sitting.Those(Seats, seat => seat.Place != Place.Gone && by.Seat != seat.Id);
        var seats = sitting.Those(here, seat => sitting.Forbids(by, Capability.Remove, seat) is null);
        return seats is []
            ? Decision.Refused(here is [] ? Reason.NobodySeated : Reason.HostIsOutOfReach)
            : new Removed(seats, [.. seats.Select(id => sitting.Seats[id].Role)], MayReturn);
    }
}

/// <summary>Makes people deputies, presenters or attendees.</summary>
public sealed record GiveRole(ImmutableArray<SeatId> Seats, Role Role) : SeatCommand, ISeats
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.GiveRoles) is { } refusal) return refusal;
        if (Role == Role.Host) return Decision.Refused(Reason.RoleNotGiven, Remedy.HandOverFirst);
        var here = sitting.Those(Seats, seat => seat.Place != Place.Gone && seat.Role != Role);
        if (here is []) return Decision.Refused(Reason.NoChange);
        var seats = sitting.Those(here, seat => seat.Role != Role.Host);
        return seats is []
            ? Decision.Refused(Reason.HostIsOutOfReach, Remedy.HandOverFirst)
            : new RolesGiven([.. seats.Select(id => new RoleChange(id, sitting.Seats[id].Role, Role))]);
    }
}

/// <summary>Makes somebody seated the host; the host so far becomes a deputy.</summary>
public sealed record HandOver(SeatId To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.HandOver) is { } refusal) return refusal;
        if (sitting.Host is not { } host || To == host || !sitting.Seats.TryGet(To, out var seat) || !seat.IsSeated)
            return Decision.Refused(Reason.NotADeputyOrSeated, Remedy.ChooseAnother);
        return seat.Connected
            ? new HandedOver(host, To, seat.Role, Role.Deputy)
            : Decision.Refused(Reason.OutOfReach, Remedy.ChooseAnother);
    }
}

public sealed record Rename(SeatId Seat, string Name) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (!sitting.Seats.TryGet(Seat, out var seat)) return Decision.Refused(Reason.NoSuchSeat);
        var capability = by.Seat == Seat ? Capability.RenameSelf : Capability.RenameOthers;
        if (sitting.Forbids(by, capability, seat) is { } refusal) return refusal;
        if (PersonName.Refuses(Name) is { } bad) return bad;
        var name = PersonName.Tidy(Name);
        return name == seat.Name ? Decision.Refused(Reason.NoChange) : new Renamed(seat.Id, seat.Name, name);
    }
}
