namespace HoldCourt.Store.Files;

/// <summary>What somebody did to the marks of an exhibit. These are never changed.</summary>
public sealed class MarkRecord
{
    public Guid SittingId { get; init; }
    public int Exhibit { get; init; }
    public long Sequence { get; init; }
    public required string Json { get; init; }
}
