namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability KeepTime { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason NotInSession { get; } = New();
        public static Reason EndOutOfRange { get; } = New();
    }
}
