namespace HoldCourt.Core.Lending;

/// <summary>The small program beside a shared screen has come, or gone.</summary>
public sealed record NoteAgent(int Exhibit, bool There) : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Shelf.Find(Exhibit) is not { Kind: ExhibitKind.Screen } screen) return Decision.Refused(Reason.NoSuchExhibit);
        return screen.HasAgent == There ? Decision.AlreadySo : new AgentNoted(screen.Number, screen.By, There);
    }
}

/// <summary>Whoever sits at the lent screen has moved or pressed something, or the agent's own key: nobody drives it any more.</summary>
public sealed record StopLoan(int Exhibit) : HouseCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now) =>
        sitting.Shelf.Find(Exhibit) is { Loan: { } loan } screen
            ? new LoanEnded(screen.Number, screen.Title, screen.By, loan.To)
            : Decision.Refused(Reason.NothingLent);
}

/// <summary>Lets somebody drive one's own screen, as soon as they take the controls. Nobody lends what is another's.</summary>
public sealed record LendControls(SeatId To) : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat || sitting.Shelf.ScreenOf(seat) is not { } screen) return Decision.Refused(Reason.NoScreenOpen);
        if (!sitting.Shelf.IsShown(screen)) return Decision.Refused(Reason.LendingUnseen);
        if (!screen.HasAgent) return Decision.Refused(Reason.NoAgent);
        if (To == seat || !sitting.Seats.TryGet(To, out var driver) || !sitting.IsHere(driver)
            || !sitting.MayKnow(sitting.Seats[seat], new Matter.Person(driver))) return Decision.Refused(Reason.NobodySeated);
        return screen.Loan?.To == To
            ? Decision.AlreadySo
            : new ControlsLent(screen.Number, screen.Title, seat, To);
    }
}

/// <summary>Takes the controls that were lent to oneself.</summary>
public sealed record TakeControls : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } seat
            || sitting.Shelf.Open.FirstOrDefault(exhibit => exhibit.Loan?.To == seat) is not { Loan: { } loan } screen)
            return Decision.Refused(Reason.NothingLent);
        return loan.Taken ? Decision.AlreadySo : new ControlsTaken(screen.Number, screen.Title, screen.By, seat);
    }
}

/// <summary>
/// The controls are lent no longer. Whoever lent them may say so at any moment, whoever drives may give them back, and the bench may end
/// it.
/// </summary>
public sealed record EndLoan : SeatCommand
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        var lent = sitting.Shelf.Open.Where(exhibit => exhibit.Loan is not null).ToList();
        if (lent is []) return Decision.Refused(Reason.NothingLent);
        var keeps = sitting.Forbids(by, Capability.KeepExhibits);
        var own = lent.Find(exhibit => exhibit.By == by.Seat || exhibit.Loan!.To == by.Seat);
        if ((own ?? (keeps is null ? lent[0] : null)) is not { } screen) return keeps!;
        return new LoanEnded(screen.Number, screen.Title, screen.By, screen.Loan!.To);
    }
}
