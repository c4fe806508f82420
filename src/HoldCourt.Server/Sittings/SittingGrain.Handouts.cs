namespace HoldCourt.Server.Sittings;

/// <summary>Files that are handed out, and what is kept with the session's papers.</summary>
internal sealed partial class SittingGrain
{
    public async Task<BringerRow?> Bringer(PersonKey person) => await SeatOf(person) is { } seat
        ? new BringerRow(seat, _shown.Forbids(Actor.Of(seat), Capability.Exhibit), _shown.Forbids(Actor.Of(seat), Capability.HandOut),
            _shown.Handouts.Rules)
        : null;

    public async Task<Refusal?> HandOut(PersonKey person, GiveFile wish) => await SeatOf(person) is { } seat
        ? await Commit(Actor.Of(seat), wish)
        : new Refusal(Reason.NotInside);

    public Task<Handout?> HandoutFor(PersonKey person, int number) => Task.FromResult(
        _shown.IsRunning && _shown.Find(person) is { IsSeated: true } seat && _shown.AtPlaceOf(seat).Handouts.Find(number) is { } handout
        && _shown.MayKnow(seat, new Matter.OfHandout(handout)) && (handout.By == seat.Id || handout.Taken.Contains(seat.Id))
            ? handout
            : null);

    /// <summary>What is being kept at this moment: two who keep the same at once keep it once.</summary>
    private readonly HashSet<SeatCommand> _keeping = [];

    /// <summary>What is kept lies among the papers before it is told; when it could not be told it goes again.</summary>
    private async Task<Refusal?> KeepAmongPapers(SeatId by, SeatCommand command, string? wish)
    {
        if (!_keeping.Add(command)) return new Refusal(Reason.NoChange);
        try { return await KeepNow(by, command, wish); }
        finally { _keeping.Remove(command); }
    }

    private async Task<Refusal?> KeepNow(SeatId by, SeatCommand command, string? wish)
    {
        var decision = SittingRules.Decide(_sitting, command, Actor.Of(by), Now);
        if (decision.Refusal is not null || decision.Facts is []) return decision.Refusal;
        var place = _sitting.AtPlaceOf(_sitting.Seats[by]);
        var (paper, refusal) = command switch
        {
            KeepHandout { Handout: var number } => await papers.Keep(Id, place.Handouts.Find(number)!),
            KeepExhibit { Exhibit: var number } =>
                await papers.Keep(Id, place.Shelf.Find(number)!, [.. (await LayerOf(number)).Shown.Marks]),
            _ => (null, new Refusal(Reason.NotUnderstood))
        };
        if (paper is not { } kept) return refusal;
        var not = await Commit(Actor.Of(by), command, wish);
        if (not is not null) await papers.Drop(kept);
        return not;
    }
}
