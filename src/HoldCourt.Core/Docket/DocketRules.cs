namespace HoldCourt.Core.Docket;

/// <summary>Puts one more person on the docket while the sitting runs, such as somebody invited just now.</summary>
public sealed record Expect(DocketLine Line) : SeatCommand;

public sealed record Expected(DocketLine Line) : Fact;

/// <summary>Keeps up who everybody at the door is thought to be, and whose visit is on.</summary>
internal static class DocketRules
{
    /// <summary>Longest docket of one sitting.</summary>
    public const int MostLines = 5_000;

    /// <summary>Longest e-mail address (RFC 5321), longest name of a group, in UTF-16 units, and longest visit.</summary>
    private const int LongestAddress = 254, LongestGroup = 80, LongestMinutes = 1_440;

    public static Decision Decide(Sitting sitting, Expect expect, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepDoor) is { } refusal) return refusal;
        if (PersonName.Refuses(expect.Line.Name) is { } badName) return badName;
        if (expect.Line is { Email.Length: > LongestAddress } or { Group.Length: > LongestGroup } or { Key.Length: > LongestAddress }) return Decision.Refused(Reason.TooLong, Remedy.Shorten);
        if (expect.Line.Minutes is < 1 or > LongestMinutes) return Decision.Refused(Reason.MinutesOutOfRange);
        if (expect.Line.Role == Role.Host) return Decision.Refused(Reason.RoleNotGiven, Remedy.HandOverFirst);
        if (sitting.Docket.Lines.Length >= MostLines) return Decision.Refused(Reason.TooMany);
        return new Expected(expect.Line with { Name = PersonName.Tidy(expect.Line.Name) });
    }

    /// <summary>Who somebody would be thought to be, if they were at the door now.</summary>
    public static Recognition Foresee(Sitting sitting, string name, string? proof, Instant now, SeatId? self = null)
    {
        var others = sitting.Seats.Where(seat => seat.Place == Place.Lobby && seat.Id != self).Select(LookOf);
        return Recognizer.Judge(sitting.Docket, [.. others, Recognizer.Look(sitting.Docket, name, proof, now)], Taken(sitting, self))[^1];
    }

    /// <summary>After each entry: looks at new names, and judges anew all who wait when anything that matters has changed.</summary>
    public static Sitting Renew(Sitting before, Sitting after)
    {
        var anew = !ReferenceEquals(before.Docket, after.Docket);
        var (looks, walkedIn, moved) = (new List<SeatId>(), new List<SeatId>(), anew);
        if (anew) looks.AddRange(after.Seats.Select(seat => seat.Id));
        else if (ReferenceEquals(before.Seats, after.Seats)) return after;
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            if (!anew && (was is null || was.Name != now.Name || was.Proof != now.Proof)) looks.Add(now.Id);
            if (was?.Place == now.Place) continue;
            moved = true;
            if (now.IsSeated && was is null or { Place: Place.Gone }) walkedIn.Add(now.Id);
        }
        if (looks.Count == 0 && !moved) return after;
        foreach (var id in looks)
        {
            var seat = after.Seats[id];
            var look = Recognizer.Look(after.Docket, seat.Name, seat.Proof, seat.Since);
            after = after.With(id, held => held with { Candidates = look.Candidates, IsDevice = look.IsDevice });
        }
        var judged = after.Seats.Where(seat => seat.Place == Place.Lobby).Select(seat => seat.Id).Union(walkedIn.Where(id => after.Seats[id].IsSeated)).ToList();
        if (judged.Count == 0) return after;
        var found = Recognizer.Judge(after.Docket, [.. judged.Select(id => LookOf(after.Seats[id]))], Taken(after, null, walkedIn));
        foreach (var (id, recognition) in judged.Zip(found))
            if (after.Seats[id].Recognition != recognition) after = after.With(id, seat => seat with { Recognition = recognition });
        return after;
    }

    private static Waiting LookOf(Seat seat) => new(seat.Candidates, seat.Since, seat.IsDevice);

    private static HashSet<int> Taken(Sitting sitting, SeatId? self, List<SeatId>? except = null) =>
        [.. sitting.Seats.Where(seat => seat.IsSeated && seat.Id != self && except?.Contains(seat.Id) != true).Select(seat => seat.Recognition.Line).OfType<int>()];

    public static Sitting Apply(Sitting sitting, Expected expected) => sitting with { Docket = sitting.Docket.With(expected.Line) };
}
