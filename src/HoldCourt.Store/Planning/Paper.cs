namespace HoldCourt.Store.Planning;

/// <summary>A file that belongs to a session.</summary>
public sealed class Paper
{
    public long Id { get; init; }
    public Guid SessionId { get; init; }
    public required string Name { get; init; }
    public required string ContentType { get; init; }
    public required byte[] Content { get; init; }

    /// <summary>In bytes.</summary>
    public int Size { get; init; }
    public long AddedAt { get; init; }
}
