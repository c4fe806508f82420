namespace HoldCourt.Core.People;

/// <summary>Who leads when the host's connection is lost.</summary>
public static class Succession
{
    /// <summary>How long the host may be out of reach, in seconds.</summary>
    public const int Shortest = 30, Longest = 3_600;

    /// <summary>When a host who is out of reach loses the lead; null while nobody would take over.</summary>
    public static Instant? Due(Sitting sitting) =>
        sitting is { IsRunning: true, Host: { } host, Succession: { } seconds }
        && sitting.Seats[host] is { Connected: false, DroppedAt: { } dropped } && FirstDeputy(sitting) is not null
            ? dropped + TimeSpan.FromSeconds(seconds)
            : null;

    /// <summary>Who would lead next; null when no deputy is there.</summary>
    public static Seat? FirstDeputy(Sitting sitting) =>
        sitting.Seats.FirstOrDefault(seat => seat is { IsSeated: true, Role: Role.Deputy, Connected: true });
}
