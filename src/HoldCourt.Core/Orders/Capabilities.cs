namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability SetOrders { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason OnlyHost { get; } = New();
        public static Reason OnlyBench { get; } = New();

        /// <summary>What is asked for reaches everybody but the host.</summary>
        public static Reason HostIsOutOfReach { get; } = New();
        public static Reason TakenFromYou { get; } = New();
        public static Reason NoExceptions { get; } = New();
        public static Reason BenchNotExcepted { get; } = New();
        public static Reason NoSuchGroup { get; } = New();
    }
}
