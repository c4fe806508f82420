namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability SetPicture { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason TooManyInFront { get; } = New();
    }
}
