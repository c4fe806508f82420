namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability TakeBack { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason NothingToTakeBack { get; } = New();
        public static Reason ChangedSince { get; } = New();
    }
}
