using System.Collections.Immutable;
using HoldCourt.Server.Live;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Captions;

/// <summary>What a browser is told of what is said.</summary>
public interface ICaptionClient
{
    /// <summary>New lines of what is said, and corrected ones.</summary>
    Task Captions(IReadOnlyList<CaptionRow> rows);
}

/// <summary>What is said, in words.</summary>
internal sealed class CaptionWork : TopicWork
{
    /// <summary>How many lines somebody gets who comes in, or comes back.</summary>
    private const int AtFirst = 10;

    private readonly Broadcast _broadcast;

    public CaptionWork(SpeechToText speech, Broadcast broadcast)
    {
        _broadcast = broadcast;
        Before<CaptionByMachine>((by, wish, _) => Task.FromResult(new Prepared(wish,
            by.Seat is not null && wish.On && !speech.IsThere(Inside.Id) ? new Refusal(Reason.NoRecogniser) : null)));
    }

    public override string Name => "captions";

    public override Joined Welcome(Seat seat, Joined joined)
    {
        var sitting = Inside.Shown;
        return joined with
        {
            Captions = [.. sitting.Captions.Newest.Where(line => sitting.MayKnow(seat, new Matter.Caption(line))).TakeLast(AtFirst)
                .Select(line => CaptionRow.Of(sitting, line, seat))]
        };
    }

    public override Task Tell(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        if (ReferenceEquals(before.Captions.Newest, after.Captions.Newest)) return Task.CompletedTask;
        var corrected = news.Select(entry => entry.Fact.Bare()).OfType<CaptionCorrected>().Select(fact => fact.Line);
        var lines = Enumerable.Range(before.Captions.Count + 1, after.Captions.Count - before.Captions.Count).Union(corrected).Order()
            .Select(after.Captions.Find).OfType<CaptionLine>().ToList();
        return lines is []
            ? Task.CompletedTask
            : _broadcast.TellReaders(Inside.Id, after, Inside.Lines, (line, rows) => line.Captions(rows), new Kept<CaptionLine, CaptionRow>(
                lines, one => new Matter.Caption(one), (one, from) => CaptionRow.Of(after, one, from),
                (one, seat) => CaptionRow.Of(after, one, seat)));
    }
}
