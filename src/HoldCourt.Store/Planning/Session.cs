using HoldCourt.Store.Accounts;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Store.Planning;

public enum SessionKind
{
    Once,

    /// <summary>A link that never changes; every opening is a sitting of its own.</summary>
    Standing,

    /// <summary>Comes again by a rule of RFC 5545.</summary>
    Recurring
}

/// <summary>What is planned. Each run of it is a sitting.</summary>
public sealed class Session
{
    public const int LongestTitle = 120;

    public Guid Id { get; init; } = Guid.NewGuid();
    public required string OwnerId { get; set; }
    public required string Title { get; set; }
    public string Description { get; set; } = "";
    public SessionKind Kind { get; set; }

    /// <summary>Milliseconds since 1970, UTC, of the first or only time; null for standing sessions and for those opened at once.</summary>
    public long? StartsAt { get; set; }

    /// <summary>Planned length; null when open-ended.</summary>
    public int? Minutes { get; set; }

    /// <summary>IANA name of the zone in which the times were planned.</summary>
    public string Zone { get; set; } = "Etc/UTC";

    /// <summary>An RRULE of RFC 5545, without its name; null unless recurring.</summary>
    public string? Rule { get; set; }

    /// <summary>A JSON array of the local dates, "2027-04-05", on which a recurring session does not take place.</summary>
    public string Exceptions { get; set; } = "[]";

    /// <summary>Invited people may come to the door before it is opened, and wait there.</summary>
    public bool EarlyEntry { get; set; } = true;

    /// <summary>Recording starts with the session. Kept for when there are recordings.</summary>
    public bool RecordsItself { get; set; }

    public long? CancelledAt { get; set; }

    /// <summary>SEQUENCE of RFC 5545: how often those invited have been told of a change.</summary>
    public int Revision { get; set; }

    /// <summary>The start of the occurrence for which reminders went out last.</summary>
    public long? RemindedFor { get; set; }

    /// <summary>128 random bits in base64url: whoever has them may come to the door.</summary>
    public required string Link { get; set; }
    public DoorMode Door { get; set; } = DoorMode.Attended;

    /// <summary>At a listed door a typed name lets in, too.</summary>
    public bool DoorByName { get; set; }

    /// <summary>An StandingOrders as JSON.</summary>
    public required string Orders { get; set; }

    /// <summary>The items of the run sheet as JSON.</summary>
    public string RunSheet { get; set; } = "[]";

    /// <summary>The questions that are prepared as JSON.</summary>
    public string Polls { get; set; } = "[]";

    /// <summary>How rooms are wished, as JSON; null when they are not.</summary>
    public string? Rooms { get; set; }

    /// <summary>The language of its messages, as a subtag of BCP 47.</summary>
    public string Language { get; set; } = "en";

    public List<DocketRecord> Docket { get; } = [];

    /// <summary>Hashed; null when none is asked for.</summary>
    public string? PasscodeHash { get; set; }

    /// <summary>Hashed; whoever types this key at the door joins the bench. Null when there is none.</summary>
    public string? HostKeyHash { get; set; }

    /// <summary>Name of the script of simulated people that come when it opens; null for none.</summary>
    public string? Extras { get; set; }

    public long CreatedAt { get; init; }
    public List<SittingRecord> Sittings { get; } = [];
    public List<CoOwner> CoOwners { get; } = [];

    /// <summary>Whether this account plans, opens and leads it.</summary>
    public static System.Linq.Expressions.Expression<Func<Session, bool>> IsOf(string account) =>
        session => session.OwnerId == account || session.CoOwners.Any(owner => owner.AccountId == account);
}
