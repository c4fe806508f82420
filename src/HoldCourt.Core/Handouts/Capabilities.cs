namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability HandOut { get; } = OfOrder(Order.HandOut, new Refusal(Reason.HandingOutNotAllowed, Remedy.AskBench));

        /// <summary>Says what may be handed out, ends what others hand out, and keeps things with the session's papers.</summary>
        public static Capability KeepPapers { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason HandingOutNotAllowed { get; } = New();
        public static Reason HandoutTooLarge { get; } = New();
        public static Reason HandoutKindNotAllowed { get; } = New();
        public static Reason TooManyHandouts { get; } = New();
        public static Reason NoSuchHandout { get; } = New();
        public static Reason NotForPapers { get; } = New();
        public static Reason PapersFull { get; } = New();
        public static Reason TooLargeForPapers { get; } = New();
        public static Reason FileGone { get; } = New();
    }
}
