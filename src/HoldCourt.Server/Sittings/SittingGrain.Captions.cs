using System.Collections.Immutable;

namespace HoldCourt.Server.Sittings;

/// <summary>What is said, in words.</summary>
internal sealed partial class SittingGrain
{
    /// <summary>How many lines somebody gets who comes in, or comes back.</summary>
    private const int CaptionsAtFirst = 10;

    private ImmutableArray<CaptionRow> CaptionsFor(Seat seat) =>
        [.. _shown.Captions.Newest.Where(line => _shown.MayKnow(seat, new Matter.Caption(line))).TakeLast(CaptionsAtFirst)
            .Select(line => CaptionRow.Of(_shown, line, seat))];

    private Task TellCaptions(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (ReferenceEquals(before.Captions.Newest, after.Captions.Newest)) return Task.CompletedTask;
        var corrected = news.Select(entry => entry.Fact.Bare()).OfType<CaptionCorrected>().Select(fact => fact.Line);
        var lines = Enumerable.Range(before.Captions.Count + 1, after.Captions.Count - before.Captions.Count).Union(corrected).Order()
            .Select(after.Captions.Find).OfType<CaptionLine>().ToList();
        return lines is [] ? Task.CompletedTask : broadcast.TellCaptions(Id, after, lines, _connections);
    }
}
