namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability RaiseHand { get; } = OfAllButTheHost(new Refusal(Reason.HostNeedsNoHand));
        public static Capability KeepFloor { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason HostNeedsNoHand { get; } = New();
        public static Reason NoHands { get; } = New();
        public static Reason NobodyOnFloor { get; } = New();
    }
}
