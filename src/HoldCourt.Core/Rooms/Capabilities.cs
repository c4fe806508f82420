namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        /// <summary>Plans rooms, opens and closes them, visits them, and moves people.</summary>
        public static Capability RunRooms { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason NoRoomsPlanned { get; } = New();
        public static Reason TooManyRooms { get; } = New();
        public static Reason RoomNameTooLong { get; } = New();
        public static Reason RoomNameTwice { get; } = New();
        public static Reason RoomTaskTooLong { get; } = New();
        public static Reason RoomMinutesOutOfRange { get; } = New();

        /// <summary>Somebody else has changed the plan since it was looked at.</summary>
        public static Reason PlanChangedSince { get; } = New();
        public static Reason RoomsAreOpen { get; } = New();
        public static Reason NoRoomsOpen { get; } = New();
        public static Reason NoSuchRoom { get; } = New();

        /// <summary>Where people come for visits one at a time there are no rooms.</summary>
        public static Reason NoRoomsWithVisits { get; } = New();
        public static Reason NobodyForRooms { get; } = New();
        public static Reason GoingBackNotAllowed { get; } = New();
        public static Reason ListeningNotAllowed { get; } = New();
        public static Reason NotInRoom { get; } = New();
        public static Reason RoomNotYours { get; } = New();
        public static Reason ClosingOutOfRange { get; } = New();
        public static Reason SpeakWhileListening { get; } = New();
    }
}
