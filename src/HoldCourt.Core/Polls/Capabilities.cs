namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        /// <summary>Asks questions, and shows what came of them.</summary>
        public static Capability RunPolls { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason PollIsOpen { get; } = New();
        public static Reason PollIsClosed { get; } = New();
        public static Reason NoPollOpen { get; } = New();
        public static Reason NoSuchPoll { get; } = New();
        public static Reason PollNotCounted { get; } = New();
        public static Reason TooManyPolls { get; } = New();
        public static Reason PollWithoutQuestion { get; } = New();
        public static Reason PollWithoutOptions { get; } = New();
        public static Reason TooManyOptions { get; } = New();
        public static Reason OptionTwice { get; } = New();
        public static Reason ScaleOutOfRange { get; } = New();
        public static Reason PollTimeOutOfRange { get; } = New();
        public static Reason NobodyMayVote { get; } = New();
        public static Reason TooFewForSecret { get; } = New();
        public static Reason NotVoter { get; } = New();

        /// <summary>In a secret poll only the browser that voted can change the vote.</summary>
        public static Reason VotedElsewhere { get; } = New();
        public static Reason AnswerEmpty { get; } = New();
        public static Reason AnswerTooLong { get; } = New();
        public static Reason AnswerOutOfRange { get; } = New();
        public static Reason TooManyChosen { get; } = New();

        /// <summary>The key of a secret poll's box is gone.</summary>
        public static Reason BoxIsLost { get; } = New();
    }
}
