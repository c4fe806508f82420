namespace HoldCourt.Store.Planning;

/// <summary>A message as it went out, or would have.</summary>
public sealed class OutboxMessage
{
    public long Id { get; init; }
    public required string OwnerId { get; init; }
    public required string To { get; init; }
    public required string Subject { get; init; }

    /// <summary>The whole message by RFC 5322.</summary>
    public required byte[] Mime { get; init; }
    public long At { get; init; }

    /// <summary>What the mail server said against it; null when it went well, or nothing was to be delivered.</summary>
    public string? Trouble { get; set; }
}
