namespace HoldCourt.Core.Lending;

/// <summary>Somebody may drive a screen, or drives it.</summary>
/// <param name="ToName">Empty when it may not be known that they are here.</param>
public sealed record LoanRow(SeatId To, string ToName, bool Taken)
{
    /// <param name="knows">Whether somebody may be known.</param>
    internal static LoanRow? Of(Sitting sitting, Exhibit exhibit, Func<Seat, bool> knows) => exhibit.Loan is not { } loan
        ? null
        : new LoanRow(loan.To, knows(sitting.Seats[loan.To]) ? sitting.Seats[loan.To].Name : "", loan.Taken);
}
