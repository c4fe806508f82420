namespace HoldCourt.Store.Planning;

/// <summary>Where a message is on its way.</summary>
public enum MailState
{
    /// <summary>It stays here: no mail server is named.</summary>
    Kept,

    /// <summary>It waits for the mail server, or for the next try.</summary>
    Waiting,

    /// <summary>The mail server took it.</summary>
    Sent,

    /// <summary>The mail server refused it for good, or did not take it for two days.</summary>
    GivenUp
}

/// <summary>A message, kept before anything is sent.</summary>
public sealed class OutboxMessage
{
    public long Id { get; init; }

    /// <summary>Whose message it is; null for the house's own.</summary>
    public string? OwnerId { get; set; }

    /// <summary>The session it is about; its co-owners read it, too.</summary>
    public Guid? SessionId { get; init; }
    public required string To { get; init; }
    public required string Subject { get; init; }

    /// <summary>The whole message by RFC 5322, its Message-ID included; empty once a message with a secret has gone out.</summary>
    public required byte[] Mime { get; set; }

    /// <summary>It holds a link that opens an account: the text is not kept longer than it is needed.</summary>
    public bool IsSecret { get; init; }
    public long At { get; init; }
    public MailState State { get; set; }
    public int Tries { get; set; }

    /// <summary>When it is tried next; milliseconds since 1970, UTC.</summary>
    public long NextAt { get; set; }
    public long? SentAt { get; set; }

    /// <summary>What the mail server answered last; null before the first try.</summary>
    public string? Answer { get; set; }
}
