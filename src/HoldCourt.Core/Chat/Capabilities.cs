namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability WriteToAll { get; } = OfOrder(Order.WriteToAll, new Refusal(Reason.WritingNotAllowed, Remedy.AskBench));
        public static Capability WriteToBench { get; } =
            OfOrder(Order.WriteToBench, new Refusal(Reason.WritingNotAllowed, Remedy.AskBench));
        public static Capability WriteToOne { get; } = OfOrder(Order.WriteToOne, new Refusal(Reason.WritingNotAllowed, Remedy.AskBench));
        public static Capability SeeChat { get; } = OfOrder(Order.SeeChat, new Refusal(Reason.ChatHidden, Remedy.AskBench));

        /// <summary>Removes messages, marks questions, and puts messages up.</summary>
        public static Capability KeepChat { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason WritingNotAllowed { get; } = New();
        public static Reason ChatHidden { get; } = New();
        public static Reason MessageEmpty { get; } = New();
        public static Reason MessageTooLong { get; } = New();
        public static Reason TooFast { get; } = New();
        public static Reason TooManyEdits { get; } = New();
        public static Reason NotYourMessage { get; } = New();
        public static Reason NoSuchMessage { get; } = New();
    }
}
