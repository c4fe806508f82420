namespace HoldCourt.Core.Sittings;

public readonly partial record struct Reason
{
    public static Reason NobodyNext { get; } = New();
}
