namespace HoldCourt.Core.Admission;

/// <summary>How people come in.</summary>
public enum DoorMode
{
    /// <summary>All walk in.</summary>
    Open,

    /// <summary>People on the docket walk in, others wait.</summary>
    Listed,

    /// <summary>All wait until the bench admits them.</summary>
    Attended
}

/// <param name="Mode">What holds when the door is not locked; it survives locking.</param>
/// <param name="Lock">Set while the door is locked.</param>
public sealed record Door(DoorMode Mode, DoorLock? Lock = null);

/// <param name="Words">What late people read.</param>
/// <param name="LateWait">Late people wait in the lobby; otherwise they are turned away.</param>
public sealed record DoorLock(string Words, bool LateWait);
