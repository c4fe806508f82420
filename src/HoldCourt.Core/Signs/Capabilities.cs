namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability React { get; } = OfOrder(Order.React, new Refusal(Reason.ReactionsOff, Remedy.AskBench));
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason ReactionsOff { get; } = New();
        public static Reason NoStates { get; } = New();
    }
}
