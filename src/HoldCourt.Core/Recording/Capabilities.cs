namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability Record { get; } = OfTheBench();

        /// <summary>Records on one's own machine.</summary>
        public static Capability RecordOwn { get; } =
            OfOrder(Order.Record, new Refusal(Reason.OwnRecordingNotAllowed, Remedy.AskBench));
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason NothingRecorded { get; } = New();
        public static Reason RecordingOver { get; } = New();
        public static Reason VisitsStayApart { get; } = New();
        public static Reason OwnRecordingNotAllowed { get; } = New();
        public static Reason TooManyRecordings { get; } = New();
    }
}
