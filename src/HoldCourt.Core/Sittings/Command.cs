using System.Collections.Immutable;

namespace HoldCourt.Core.Sittings;

/// <summary>A wish. Each topic's folder holds its own.</summary>
public abstract record Command
{
    /// <summary>What follows from it: facts, or a refusal with reason and remedy. Changes nothing.</summary>
    /// <param name="sitting">Open and not over; <paramref name="by"/> has a seat in it, or is the house.</param>
    internal abstract Decision Decide(Sitting sitting, Actor by, Instant now);

    /// <summary>The seat in whose place it is decided, where the house wishes it; null for none.</summary>
    internal virtual SeatId? Where => null;

    /// <summary>It ends what the session has left undone, and so comes after its end, too.</summary>
    internal virtual bool IsForTheEnd => false;
}

/// <summary>A wish that a person in the sitting may send.</summary>
[Union("do")]
public abstract record SeatCommand : Command;

/// <summary>A wish that only the server itself has: somebody is at the door, a connection dropped. Never read from a browser.</summary>
[Union("house")]
public abstract record HouseCommand : Command;

/// <summary>A command about several seats at once.</summary>
public interface ISeats
{
    ImmutableArray<SeatId> Seats { get; }
}
