using System.Collections.Immutable;
using System.Runtime.CompilerServices;

namespace HoldCourt.Core.Docket;

/// <summary>Keeps up who everybody at the door is thought to be.</summary>
internal static class Judging
{
    /// <summary>Which lines somebody may be, looked up once for each docket and seat.</summary>
    private static readonly ConditionalWeakTable<DocketList, ConditionalWeakTable<string, Looked>> _looked = [];

    private sealed record Looked(string? Proof, Waiting Waiting);

    /// <summary>Who somebody would be thought to be, if they were at the door now.</summary>
    public static Recognition Foresee(Sitting sitting, string name, string? proof, Instant now, SeatId? self = null)
    {
        var others = sitting.Seats.Where(seat => seat.Place == Place.Lobby && seat.Id != self).Select(seat => LookOf(sitting, seat));
        return Recognizer.Judge(sitting.Docket, [.. others, Recognizer.Look(sitting.Docket, name, proof, now)], Taken(sitting, self),
            ProvedInside(sitting, self))[^1];
    }

    /// <summary>After an entry: judges anew all who wait when anything that
    /// matters has changed; null when all stay who they were.</summary>
    /// <param name="keysFirst">False for entries of before keys outweighed names.</param>
    public static Recognized? Note(Sitting before, Sitting after, bool keysFirst)
    {
        var anew = !ReferenceEquals(before.Docket, after.Docket);
        if (!anew && ReferenceEquals(before.Seats, after.Seats)) return null;
        var (walkedIn, matters, proves) = (new List<SeatId>(), anew, false);
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            matters |= was is null || was.Name != now.Name || was.Proof != now.Proof || was.Place != now.Place;
            if (was?.Place != now.Place && now.IsSeated && was is null or { Place: Place.Gone }) walkedIn.Add(now.Id);
            proves |= now is { IsSeated: true, Proof: not null } && (was?.Place != now.Place || was.Proof != now.Proof);
        }
        if (!matters) return null;
        var judged = after.Seats.Where(seat => seat.Place == Place.Lobby).Select(seat => seat.Id)
            .Union(walkedIn.Where(id => after.Seats[id].IsSeated)).Select(id => after.Seats[id]).ToList();
        var found = judged.Count == 0 ? [] : Recognizer.Judge(after.Docket, judged.ConvertAll(seat => LookOf(after, seat)),
            Taken(after, null, walkedIn), keysFirst ? ProvedInside(after, null, walkedIn) : null);
        ImmutableArray<Recognized.Person> changed =
            [.. judged.Zip(found).Concat(proves && keysFirst ? InDoubt(after, walkedIn) : [])
                .Where(pair => pair.First.Recognition != pair.Second)
                .Select(pair => new Recognized.Person(pair.First.Id, pair.Second))];
        return changed is [] ? null : new Recognized(changed);
    }

    /// <summary>Those inside who were taken for a line by a name they typed, and somebody inside has shown its key.</summary>
    private static IEnumerable<(Seat First, Recognition Second)> InDoubt(Sitting sitting, List<SeatId> judged)
    {
        var proved = ProvedInside(sitting, null);
        foreach (var seat in sitting.Seats)
            if (seat is { IsSeated: true, Recognition: { Match: Match.Sure or Match.Likely, Line: { } line } known }
                && proved.Contains(line) && !judged.Contains(seat.Id)
                && !Persons.KeysOf(seat).Any(key => sitting.Docket.Matcher.ProvedBy(key).Contains(line)))
                yield return (seat, known with { Match = Match.Twice, Reasons = known.Reasons.Add(MatchReason.ClaimedTwice) });
    }

    /// <summary>A name that did not change is the very string it was, so that it need not be looked up again.</summary>
    private static Waiting LookOf(Sitting sitting, Seat seat)
    {
        var names = _looked.GetOrCreateValue(sitting.Docket);
        if (!names.TryGetValue(seat.Name, out var known) || known.Proof != seat.Proof)
            names.AddOrUpdate(seat.Name,
                known = new Looked(seat.Proof, Recognizer.Look(sitting.Docket, seat.Name, seat.Proof, seat.Since)));
        return known.Waiting with { At = seat.Since };
    }

    private static HashSet<int> Taken(Sitting sitting, SeatId? self, List<SeatId>? except = null) =>
        [.. sitting.Seats.Where(seat => seat.IsSeated && seat.Id != self && except?.Contains(seat.Id) != true)
            .Select(seat => seat.Recognition.Line).OfType<int>()];

    /// <summary>Lines of which somebody inside has shown the key.</summary>
    private static HashSet<int> ProvedInside(Sitting sitting, SeatId? self, List<SeatId>? except = null) =>
    [
        .. sitting.Seats.Where(seat => seat.IsSeated && seat.Id != self && except?.Contains(seat.Id) != true)
            .SelectMany(Persons.KeysOf).SelectMany(sitting.Docket.Matcher.ProvedBy)
    ];
}
