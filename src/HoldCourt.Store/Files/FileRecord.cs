namespace HoldCourt.Store.Files;

/// <summary>A file that somebody brought into a sitting. Its bytes lie in the data folder, under the same id.</summary>
public sealed class FileRecord
{
    public Guid Id { get; init; }
    public Guid SittingId { get; init; }

    /// <summary>Number of the seat that brought it.</summary>
    public int Seat { get; init; }
    public required string Name { get; init; }

    /// <summary>How large it is to become, in bytes.</summary>
    public long Size { get; init; }

    /// <summary>Judged by its first bytes, once all has come; null before.</summary>
    public string? ContentType { get; set; }
    public long AddedAt { get; init; }
}
