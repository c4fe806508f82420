namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        /// <summary>Says who captions, and whether a machine does.</summary>
        public static Capability RunCaptions { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason NotCaptioner { get; } = New();
        public static Reason NotYourCaptions { get; } = New();
        public static Reason TooManyCaptioners { get; } = New();
        public static Reason CaptionEmpty { get; } = New();
        public static Reason CaptionTooLong { get; } = New();
        public static Reason NoSuchCaption { get; } = New();

        /// <summary>The server has nothing that turns speech into words.</summary>
        public static Reason NoRecogniser { get; } = New();
    }
}
