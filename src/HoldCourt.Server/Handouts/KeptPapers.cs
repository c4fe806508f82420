using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Handouts;

/// <summary>What is kept among the session's papers while a sitting runs.</summary>
internal sealed class KeptPapers(PaperKeeping papers)
{
    /// <summary>What is being kept at this moment: two who keep the same at once keep it once.</summary>
    private readonly HashSet<SeatCommand> _keeping = [];

    /// <summary>What is kept lies among the papers before it is told; when it could not be told it goes again.</summary>
    /// <param name="keep">Given the place of whoever wishes it.</param>
    public async Task<Prepared> Keep(ISittingInside inside, Actor by, SeatCommand wish,
        Func<PaperKeeping, Sitting, Task<(long? Paper, Refusal? Refusal)>> keep)
    {
        if (!_keeping.Add(wish)) return new Prepared(wish, new Refusal(Reason.NoChange));
        long? kept = null;
        try
        {
            var decision = SittingRules.Decide(inside.Latest, wish, by, inside.Now);
            if (decision.Refusal is not null || decision.Facts is [] || by.Seat is not { } seat)
                return new Prepared(wish, decision.Refusal, Over);
            (kept, var refusal) = await keep(papers, inside.Latest.AtPlaceOf(inside.Latest.Seats[seat]));
            return new Prepared(wish, refusal, Over);
        }
        catch
        {
            _keeping.Remove(wish);
            throw;
        }

        async Task Over(bool done)
        {
            _keeping.Remove(wish);
            if (!done && kept is { } paper) await papers.Drop(paper);
        }
    }
}
