namespace HoldCourt.Store.Planning;

/// <summary>Somebody the host invites again and again.</summary>
public sealed class Contact
{
    public long Id { get; init; }
    public required string OwnerId { get; init; }
    public required string Name { get; set; }
    public string? Email { get; set; }
    public string? Phone { get; set; }

    /// <summary>A JSON array of group names.</summary>
    public string Groups { get; set; } = "[]";
}
