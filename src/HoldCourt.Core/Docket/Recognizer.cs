using System.Collections.Immutable;

namespace HoldCourt.Core.Docket;

/// <summary>Somebody who waits, as the recognizer looks at them.</summary>
/// <param name="Candidates">From the docket's matcher.</param>
/// <param name="At">When they were announced.</param>
/// <param name="IsProved">Has shown the key of the lines that are candidates.</param>
public readonly record struct Waiting(ImmutableArray<Candidate> Candidates, Instant At, bool IsDevice, bool IsProved);

/// <summary>Judges everybody who waits at once, so that two people do not claim one line.</summary>
public static class Recognizer
{
    /// <summary>From here on a match is sure, when nothing else comes near.</summary>
    private const double SureFrom = 0.88;
    private const double LikelyFrom = 0.55;

    /// <summary>More than all that names can weigh.</summary>
    private const double Proof = 10;

    /// <summary>By how much the best line must be ahead of the next to be sure.</summary>
    private const double Clearly = 0.07;

    /// <summary>The same for a name that agrees in full.</summary>
    private const double ClearlyWhole = 0.02;

    /// <summary>A slot this near makes the match likelier, one that far away less.</summary>
    private static readonly TimeSpan _near = TimeSpan.FromMinutes(30), _far = TimeSpan.FromHours(3);

    /// <summary>Looks up which lines somebody may be.</summary>
    /// <param name="proof">Known for certain; null otherwise.</param>
    public static Waiting Look(DocketList docket, string name, string? proof, Instant at)
    {
        var typed = NameWords.Of(name);
        var candidates = docket.Lines is [] ? [] : docket.Matcher.CandidatesFor(typed, proof);
        var isProved = candidates is [var first, ..] && first.Reasons.Contains(MatchReason.PersonalLink);
        return new(candidates, at, proof is null && typed.IsDevice, isProved);
    }

    /// <param name="inside">Lines that are taken by people inside.</param>
    /// <param name="provedInside">Those of which somebody inside has shown the key: a name that was typed is no proof, and does not
    /// keep out who has one. Null for entries of before that was so: then keys and names weigh alike.</param>
    /// <returns>One for each who waits, in their order.</returns>
    public static ImmutableArray<Recognition> Judge(DocketList docket, IReadOnlyList<Waiting> waiting, IReadOnlySet<int> inside,
        IReadOnlySet<int>? provedInside = null)
    {
        if (docket.Lines is []) return [.. waiting.Select(person => person.IsDevice ? _device : Recognition.NoDocket)];
        var odds = waiting.Select(person =>
            person.Candidates.Select(candidate => (candidate.Line, Confidence: Shifted(candidate, docket.Lines[candidate.Line], person.At)))
            .ToList()).ToList();
        // Who has the key has the line, whoever typed its name.
        var chosen = Assignment.Best([.. waiting.Zip(odds, (person, lines) => (IReadOnlyList<(int, double)>)
            (provedInside is not null && person.IsProved ? lines.ConvertAll(line => (line.Line, line.Confidence + Proof)) : lines))]);
        var claims = odds.SelectMany((lines, person) => lines.Select(line => (line.Line, person, line.Confidence)))
            .ToLookup(claim => claim.Line);
        var judged = ImmutableArray.CreateBuilder<Recognition>(waiting.Count);
        for (var person = 0; person < waiting.Count; person++)
            judged.Add(Judge(docket, waiting, person, odds, chosen, waiting[person].IsProved ? provedInside ?? inside : inside,
                provedInside is not null, claims));
        return judged.MoveToImmutable();
    }

    private static Recognition Judge(
        DocketList docket, IReadOnlyList<Waiting> waiting, int self, List<List<(int Line, double Confidence)>> allOdds, int?[] allChosen,
        IReadOnlySet<int> inside, bool keysFirst,
        ILookup<int, (int Line, int Person, double Confidence)> claims)
    {
        var (person, odds, chosen) = (waiting[self], allOdds[self], allChosen[self]);
        if (person.IsDevice) return _device;
        // Without a line of their own they may still be somebody's double.
        var best = chosen ?? (odds.Count > 0 ? odds.MaxBy(line => line.Confidence).Line : null);
        if (best is not { } line) return Recognition.None;
        var confidence = odds.Find(pair => pair.Line == line).Confidence;
        if (confidence < LikelyFrom) return Recognition.None;
        var candidate = person.Candidates.First(option => option.Line == line);
        var reasons = candidate.Reasons;
        if (docket.Lines[line].Slot is { } slot && !person.IsProved)
        {
            var apart = (slot - person.At).Duration();
            if (apart <= _near) reasons = reasons.Add(MatchReason.SlotNear);
            else if (apart >= _far) reasons = reasons.Add(MatchReason.SlotFar);
        }
        Recognition As(Match match, MatchReason? more = null) =>
            new(match, line, Math.Round(confidence, 3), more is { } reason ? reasons.Add(reason) : reasons);

        if (inside.Contains(line)) return As(Match.Twice, MatchReason.AlreadyInside);
        var clearly = confidence > 0.995 ? ClearlyWhole : Clearly;
        var rival = claims[line].Where(claim => claim.Person != self && (!keysFirst || waiting[claim.Person].IsProved || !person.IsProved)
                && !IsBetterOff(claim.Person, line, claim.Confidence))
            .Select(claim => claim.Confidence).DefaultIfEmpty().Max();
        if (chosen is null || rival >= confidence - clearly) return As(Match.Twice, MatchReason.ClaimedTwice);
        var second = odds.Where(pair => pair.Line != line && !inside.Contains(pair.Line)).Select(pair => pair.Confidence)
            .DefaultIfEmpty().Max();
        if (person.IsProved) return As(Match.Sure);
        if (second > confidence - clearly)
            return As(Match.Likely, IsNearest(docket, person, line, odds, confidence - clearly)
            ? MatchReason.NearerSlot
            : MatchReason.SeveralFit);
        return As(confidence >= SureFrom ? Match.Sure : Match.Likely);

        // Whoever has a line of their own that fits better does not claim this one.
        bool IsBetterOff(int other, int claimed, double claim) =>
            allChosen[other] is { } theirs && theirs != claimed
                && allOdds[other].Find(pair => pair.Line == theirs).Confidence > claim + ClearlyWhole;
    }

    /// <summary>Of several lines that fit, this one's slot is now and the
    /// others' are at least as far off again as a visit is early.</summary>
    private static bool IsNearest(DocketList docket, Waiting person, int line, List<(int Line, double Confidence)> odds, double from)
    {
        TimeSpan? Apart(int at) => docket.Lines[at].Slot is { } slot ? (slot - person.At).Duration() : null;
        return Apart(line) is { } own && own <= _near
            && odds.TrueForAll(pair => pair.Line == line || pair.Confidence <= from
            || (Apart(pair.Line) is { } other && other >= own + _near));
    }

    private static double Shifted(Candidate candidate, DocketLine line, Instant at)
    {
        if (line.Slot is not { } slot) return candidate.Score;
        var apart = (slot - at).Duration();
        // Of lines with the very same name the one whose slot is nearer is meant, as far as anybody knows.
        if (candidate.Score >= 1) return candidate.Score - (Math.Min(apart.TotalHours, 24) * 0.0001);
        var factor = apart <= _near ? 1.3 : apart >= _far ? 0.6 : 1;
        return candidate.Score * factor / ((candidate.Score * factor) + 1 - candidate.Score);
    }

    private static readonly Recognition _device = new(Match.Unknown, null, 0, [MatchReason.DeviceName]);
}
