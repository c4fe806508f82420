namespace HoldCourt.Store.Planning;

/// <summary>What somebody invited has answered.</summary>
public enum Answer { None, Comes, Maybe, ComesNot }

/// <summary>A person expected at a session, invited or not.</summary>
public sealed class DocketRecord
{
    public long Id { get; init; }
    public Guid SessionId { get; init; }
    public Session? Session { get; init; }

    /// <summary>Place in the list.</summary>
    public int Position { get; set; }

    public required string Name { get; set; }
    public string? Email { get; set; }
    public Role Role { get; set; }
    public string? Group { get; set; }

    /// <summary>Milliseconds since 1970, UTC.</summary>
    public long? SlotAt { get; set; }
    public int? Minutes { get; set; }

    /// <summary>128 random bits in base64url: whoever has them comes as this person, and may answer for them.</summary>
    public required string Token { get; set; }

    public long? InvitedAt { get; set; }
    public Answer Answer { get; set; }

    /// <summary>The slot of which the person has been reminded.</summary>
    public long? RemindedFor { get; set; }
}
