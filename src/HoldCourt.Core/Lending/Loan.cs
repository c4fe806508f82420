namespace HoldCourt.Core.Lending;

/// <summary>The controls of a screen are lent.</summary>
/// <param name="To">Who may drive it.</param>
/// <param name="Taken">They have taken the controls, and drive.</param>
public sealed record Loan(SeatId To, bool Taken = false);

/// <summary>What is asked about lent controls.</summary>
public static class Loans
{
    /// <summary>
    /// Whether somebody may drive a screen at this moment: it was lent to them, they took it, all see it, it is not held, and neither
    /// rests. It is asked anew at each movement.
    /// </summary>
    public static bool MayDrive(this Sitting sitting, SeatId seat, int exhibit) =>
        sitting.IsRunning && sitting.Seats.TryGet(seat, out var driver) && sitting.AtPlaceOf(driver).MayDriveHere(seat, exhibit);

    private static bool MayDriveHere(this Sitting sitting, SeatId seat, int exhibit) =>
        sitting.Shelf.Find(exhibit) is { HasAgent: true, Held: false, Loan: { Taken: true } loan } screen
        && loan.To == seat && sitting.Shelf.IsShown(screen) && sitting.IsHere(seat) && sitting.IsHere(screen.By)
        && !sitting.Rests(sitting.Seats[seat]) && !sitting.Rests(sitting.Seats[screen.By]);

    /// <summary>Who drives a screen at this moment; null while nobody does.</summary>
    public static SeatId? DriverOf(this Sitting sitting, int exhibit) =>
        sitting.AtExhibit(exhibit).Shelf.Find(exhibit)?.Loan is { } loan && sitting.MayDrive(loan.To, exhibit) ? loan.To : null;
}
