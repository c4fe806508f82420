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
        return Recognizer.Judge(sitting.Docket, [.. others, Recognizer.Look(sitting.Docket, name, proof, now)], Taken(sitting, self))[^1];
    }

    /// <summary>After an entry: judges anew all who wait when anything that
    /// matters has changed; null when all stay who they were.</summary>
    public static Recognized? Note(Sitting before, Sitting after)
    {
        var anew = !ReferenceEquals(before.Docket, after.Docket);
        if (!anew && ReferenceEquals(before.Seats, after.Seats)) return null;
        var (walkedIn, matters) = (new List<SeatId>(), anew);
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            matters |= was is null || was.Name != now.Name || was.Proof != now.Proof || was.Place != now.Place;
            if (was?.Place != now.Place && now.IsSeated && was is null or { Place: Place.Gone }) walkedIn.Add(now.Id);
        }
        if (!matters) return null;
        var judged = after.Seats.Where(seat => seat.Place == Place.Lobby).Select(seat => seat.Id)
            .Union(walkedIn.Where(id => after.Seats[id].IsSeated)).Select(id => after.Seats[id]).ToList();
        if (judged.Count == 0) return null;
        var found = Recognizer.Judge(after.Docket, judged.ConvertAll(seat => LookOf(after, seat)), Taken(after, null, walkedIn));
        ImmutableArray<Recognized.Person> changed =
            [.. judged.Zip(found).Where(pair => pair.First.Recognition != pair.Second)
                .Select(pair => new Recognized.Person(pair.First.Id, pair.Second))];
        return changed is [] ? null : new Recognized(changed);
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
}
