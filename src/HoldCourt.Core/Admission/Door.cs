namespace HoldCourt.Core.Admission;

/// <summary>How people come in.</summary>
public enum DoorMode
{
    /// <summary>All walk in.</summary>
    Open,

    /// <summary>Whoever proves to be on the docket walks in, others wait.</summary>
    Listed,

    /// <summary>All wait until the bench admits them.</summary>
    Attended
}

/// <param name="Mode">What holds when the door is not locked; it survives locking.</param>
/// <param name="Lock">Set while the door is locked.</param>
/// <param name="ByName">At a listed door a typed name that surely is a
/// line's lets in, too, as an attendee. Anybody can type a name.</param>
public sealed record Door(DoorMode Mode, DoorLock? Lock = null, bool ByName = false);

/// <param name="Words">What late people read.</param>
/// <param name="LateWait">Late people wait in the lobby; otherwise they are turned away.</param>
public sealed record DoorLock(string Words, bool LateWait)
{
    /// <summary>Longest message of the bench to somebody at the door, in UTF-16 units.</summary>
    public const int LongestWords = 500;
}
