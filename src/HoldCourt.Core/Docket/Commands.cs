using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>Puts one more person on the docket while the sitting runs, such as somebody invited just now.</summary>
public sealed record Expect(DocketLine Line) : SeatCommand
{
    /// <summary>Longest e-mail address (RFC 5321), longest name of a group, in UTF-16 units, and longest visit.</summary>
    private const int LongestAddress = 254, LongestGroup = 80, LongestMinutes = 1_440;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (PersonName.Refuses(Line.Name) is { } badName) return badName;
        if (Line is { Email.Length: > LongestAddress } or { Group.Length: > LongestGroup } or { Key.Length: > LongestAddress })
            return Decision.Refused(Reason.TooLong, Remedy.Shorten);
        if (Line.Minutes is < 1 or > LongestMinutes) return Decision.Refused(Reason.MinutesOutOfRange);
        if (Line.Role == Role.Host) return Decision.Refused(Reason.RoleNotGiven, Remedy.HandOverFirst);
        if (sitting.Docket.Lines.Length >= DocketList.MostLines) return Decision.Refused(Reason.TooMany);
        return new Expected(Line with { Name = PersonName.Tidy(Line.Name) });
    }
}

/// <summary>Closes the visit that is on, and calls the next person by slot
/// and arrival. Only people who surely are expected are called.</summary>
public sealed record Next : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        ImmutableArray<SeatId> closed = [.. sitting.Seats.Where(seat => IsOver(sitting, seat)).Select(seat => seat.Id)];
        return Visits.NextOf(sitting) is { } next
            ? new VisitsTurned(closed, [next.Id], [Threshold.RoleOf(sitting, next)])
            : closed is [] ? Decision.Refused(Reason.NobodyNext) : new VisitsTurned(closed, [], []);
    }

    /// <summary>Whoever stands on the docket without a slot is there for the whole session.</summary>
    private static bool IsOver(Sitting sitting, Seat seat) =>
        seat is { IsSeated: true, Role: Role.Attendee } && (seat.Recognition.Line is null || sitting.SlotOf(seat) is not null);
}
