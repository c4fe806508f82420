namespace HoldCourt.Core.Admission;

/// <summary>The door. Those who are not on the bench know only whether it is locked.</summary>
/// <param name="Notice">The newest notice to those who wait.</param>
public sealed record DoorFacet(DoorMode? Mode, bool ByName, DoorLock? Lock, bool Locked, Notice? Notice)
    : IFacet<DoorFacet>
{
    public static DoorFacet Of(Sitting sitting, Viewpoint from)
    {
        var notice = sitting.MayKnow(from, Matter.Notices) && sitting.Notices is [.., var newest] ? newest : null;
        var (door, locked) = (sitting.Door, sitting.Door.Lock is not null);
        return sitting.MayKnow(from, Matter.Books)
            ? new DoorFacet(door.Mode, door.ByName, door.Lock, locked, notice)
            : new DoorFacet(null, false, null, locked, notice);
    }

    public static bool IsSame(Step step) => step.Before.Door == step.After.Door && ReferenceEquals(step.Before.Notices, step.After.Notices);
}

/// <summary>How many are where; 0 for those who may not know.</summary>
public sealed record CountsFacet(int Inside, int Waiting, int Gone) : IFacet<CountsFacet>
{
    public static CountsFacet Of(Sitting sitting, Viewpoint from)
    {
        if (!sitting.MayKnow(from, Matter.Attendance)) return new CountsFacet(0, 0, 0);
        Span<int> counts = stackalloc int[3];
        foreach (var seat in sitting.Seats) counts[(int)seat.Place]++;
        var books = sitting.MayKnow(from, Matter.Books);
        return new CountsFacet(counts[(int)Place.Seated], books ? counts[(int)Place.Lobby] : 0, books ? counts[(int)Place.Gone] : 0);
    }

    public static bool IsSame(Step step) => !step.Moved;
}
