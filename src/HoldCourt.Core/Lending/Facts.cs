using System.Collections.Immutable;

namespace HoldCourt.Core.Lending;

public sealed record AgentNoted(int Exhibit, SeatId By, bool There) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithScreen(Exhibit, screen => screen with { HasAgent = There });
    internal override ImmutableArray<SeatId> About => [By];
    internal override Topic Topic => Topic.Exhibits;
    internal override bool StandsInLedger => false;
}

public sealed record ControlsLent(int Exhibit, string Title, SeatId By, SeatId To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.WithScreen(Exhibit, screen => screen with { Loan = new Loan(To) });

    internal override ImmutableArray<SeatId> About => [To];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
}

public sealed record ControlsTaken(int Exhibit, string Title, SeatId By, SeatId To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithScreen(
        Exhibit, screen => screen.Loan?.To == To ? screen with { Loan = new Loan(To, Taken: true) } : screen);

    internal override ImmutableArray<SeatId> About => [To];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
}

public sealed record LoanEnded(int Exhibit, string Title, SeatId By, SeatId To) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.WithScreen(Exhibit, screen => screen with { Loan = null });

    /// <summary>What is not before all, or has no agent, is driven by nobody; nor by somebody who has gone.</summary>
    internal static Sitting Follow(Sitting sitting) => sitting.Shelf.Open
        .Where(exhibit => exhibit.Loan is { } loan
            && (!exhibit.HasAgent || !sitting.Shelf.IsShown(exhibit) || !sitting.IsHere(loan.To)))
        .Aggregate(sitting, (state, exhibit) => state.WithScreen(exhibit.Number, screen => screen with { Loan = null }));

    internal override string NameFor(Actor by) => by.IsHouse ? "loanStopped" : "loanEnded";
    internal override ImmutableArray<SeatId> About => [To];
    internal override Topic Topic => Topic.Exhibits;
    internal override string? Detail => Shelves.NameOf(Exhibit, Title);
}

internal static class Screens
{
    public static Sitting WithScreen(this Sitting sitting, int exhibit, Func<Exhibit, Exhibit> change) =>
        sitting.Shelf.Find(exhibit) is { } screen ? sitting with { Shelf = sitting.Shelf.With(change(screen)) } : sitting;
}
