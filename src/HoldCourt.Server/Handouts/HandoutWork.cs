using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Handouts;

/// <summary>What is asked of the files that are handed out in a sitting.</summary>
internal interface ISittingHandouts : IGrainExtension
{
    /// <summary>What somebody inside may do with a file; null for whoever is not inside.</summary>
    Task<BringerRow?> Bringer(PersonKey person);

    /// <summary>Hands out a file that this very person has sent.</summary>
    Task<Refusal?> HandOut(PersonKey person, GiveFile wish);

    /// <summary>What somebody gave, or has taken; null otherwise.</summary>
    Task<Handout?> HandoutFor(PersonKey person, int number);
}

/// <param name="Shows">Why nothing may be put on the shelf; null when it may.</param>
/// <param name="HandsOut">Why nothing may be handed out; null when it may.</param>
public sealed record BringerRow(SeatId Seat, Refusal? Shows, Refusal? HandsOut, HandoutRules Rules);

/// <summary>Files that are handed out, and what of them is kept with the session's papers.</summary>
internal sealed class HandoutWork : TopicWork, ISittingHandouts
{
    public HandoutWork(KeptPapers papers) =>
        Before<KeepHandout>((by, wish, _) => papers.Keep(Inside, by, wish, (kept, place) =>
            kept.Keep(Inside.Id, place.Handouts.Find(wish.Handout)!)));

    public override string Name => "handouts";

    public Task<BringerRow?> Bringer(PersonKey person)
    {
        var sitting = Inside.Shown;
        return Task.FromResult(sitting.SeatInside(person) is { Id: var seat }
            ? new BringerRow(seat, sitting.Forbids(Actor.Of(seat), Capability.Exhibit), sitting.Forbids(Actor.Of(seat), Capability.HandOut),
                sitting.Handouts.Rules)
            : null);
    }

    public async Task<Refusal?> HandOut(PersonKey person, GiveFile wish) => Inside.Shown.SeatInside(person) is { Id: var seat }
        ? await Inside.Wish(Actor.Of(seat), wish)
        : new Refusal(Reason.NotInside);

    public Task<Handout?> HandoutFor(PersonKey person, int number)
    {
        var sitting = Inside.Shown;
        return Task.FromResult(
            sitting.SeatInside(person) is { } seat && sitting.AtPlaceOf(seat).Handouts.Find(number) is { } handout
            && sitting.MayKnow(seat, new Matter.OfHandout(handout)) && (handout.By == seat.Id || handout.Taken.Contains(seat.Id))
                ? handout
                : null);
    }
}
