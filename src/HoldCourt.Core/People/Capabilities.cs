namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability Speak { get; } =
            OfOrder(Order.Speak, new Refusal(Reason.MicrophonesByLeave, Remedy.WaitForLeave), orBy: seat => seat.HasLeave);
        public static Capability ShowCamera { get; } = OfOrder(Order.ShowCamera, new Refusal(Reason.CameraNotAllowed, Remedy.AskBench));
        public static Capability RenameSelf { get; } = OfOrder(Order.Rename, new Refusal(Reason.RenameNotAllowed, Remedy.AskBench));
        public static Capability SeePeople { get; } = OfOrder(Order.SeePeople);
        public static Capability MuteOthers { get; } = OfTheBench();
        public static Capability TurnCamerasOff { get; } = OfTheBench();
        public static Capability Remove { get; } = OfTheBench(sparesTheHost: true);
        public static Capability GiveRoles { get; } = OfTheBench(sparesTheHost: true);
        public static Capability RenameOthers { get; } = OfTheBench(sparesTheHost: true);
        public static Capability HandOver { get; } = OfTheHost();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason MicrophonesByLeave { get; } = New();
        public static Reason CameraNotAllowed { get; } = New();
        public static Reason RenameNotAllowed { get; } = New();

        /// <summary>Nobody of those asked for agreed that the bench opens their microphone.</summary>
        public static Reason NobodyConsents { get; } = New();
        public static Reason NotAsked { get; } = New();
        public static Reason NameEmpty { get; } = New();
        public static Reason NameTooLong { get; } = New();
        public static Reason NameHidden { get; } = New();
        public static Reason NameMarks { get; } = New();
        public static Reason NotADeputyOrSeated { get; } = New();
        public static Reason RoleNotGiven { get; } = New();
    }
}
