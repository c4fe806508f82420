namespace HoldCourt.Core.Sittings;

public readonly partial record struct Reason
{
    public static Reason NoAgent { get; } = New();
    public static Reason LendingUnseen { get; } = New();
    public static Reason NothingLent { get; } = New();
}
