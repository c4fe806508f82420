namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability Mark { get; } = OfOrder(Order.Mark, new Refusal(Reason.MarksNotAllowed, Remedy.AskBench));
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason MarksNotAllowed { get; } = New();
        public static Reason NoSuchMark { get; } = New();
        public static Reason NotYourMark { get; } = New();
        public static Reason TooManyMarks { get; } = New();
        public static Reason MarkTooLong { get; } = New();
        public static Reason NothingToUndo { get; } = New();
        public static Reason NothingToRedo { get; } = New();
    }
}
