using HoldCourt.Core.Admission;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Store.Planning;

public enum SessionKind
{
    Once,

    /// <summary>A link that never changes; every opening is a sitting of its own.</summary>
    Standing
}

/// <summary>What is planned. Each run of it is a sitting.</summary>
public sealed class Session
{
    public const int LongestTitle = 120;

    public Guid Id { get; init; } = Guid.NewGuid();
    public required string OwnerId { get; init; }
    public required string Title { get; set; }
    public string Description { get; set; } = "";
    public SessionKind Kind { get; init; }

    /// <summary>Milliseconds since 1970, UTC; null for standing sessions and for those opened at once.</summary>
    public long? StartsAt { get; set; }
    public int? Minutes { get; set; }

    /// <summary>128 random bits in base64url: whoever has them may come to the door.</summary>
    public required string Link { get; init; }
    public DoorMode Door { get; set; } = DoorMode.Attended;

    /// <summary>An OrderSheet as JSON.</summary>
    public required string Orders { get; set; }

    /// <summary>An array of DocketLine as JSON.</summary>
    public string Docket { get; set; } = "[]";

    /// <summary>Hashed; null when none is asked for.</summary>
    public string? PasscodeHash { get; set; }

    /// <summary>Name of the script of simulated people that come when it opens; null for none.</summary>
    public string? Extras { get; set; }

    public long CreatedAt { get; init; }
    public List<SittingRecord> Sittings { get; } = [];
}
