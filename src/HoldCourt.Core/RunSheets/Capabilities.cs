namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability KeepRunSheet { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason ItemWithoutTitle { get; } = New();
        public static Reason NoRunSheet { get; } = New();
        public static Reason NoItemLeft { get; } = New();
        public static Reason NoSuchItem { get; } = New();
    }
}
