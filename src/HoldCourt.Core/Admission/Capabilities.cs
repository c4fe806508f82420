namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        /// <summary>Admits, declines, sends to the lobby, and sets the door.</summary>
        public static Capability KeepDoor { get; } = OfTheBench(sparesTheHost: true);
        public static Capability Adjourn { get; } = OfTheHost();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason DoorLocked { get; } = New();
        public static Reason Barred { get; } = New();
        public static Reason SittingFull { get; } = New();
        public static Reason NobodyWaits { get; } = New();
        public static Reason NoticeEmpty { get; } = New();

        /// <summary>A host goes only when somebody else leads.</summary>
        public static Reason HostMustHandOver { get; } = New();
    }
}
