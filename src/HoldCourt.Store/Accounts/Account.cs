using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Store.Accounts;

/// <summary>Somebody who hosts.</summary>
public sealed class Account : IdentityUser
{
    public const int LongestSettings = 16_000;

    /// <summary>The name others see.</summary>
    public required string Name { get; set; }

    /// <summary>Adds, suspends and removes hosts. There is always one who can sign in.</summary>
    public bool IsKeeper { get; set; }

    /// <summary>Milliseconds since 1970, UTC; null for whoever may sign in.</summary>
    public long? SuspendedAt { get; set; }

    /// <summary>The demo's: its password is known to all, so it is closed where other machines reach the server.</summary>
    public bool IsDemo { get; set; }

    public long CreatedAt { get; init; }

    /// <summary>What the page keeps for this person: keys, text size, theme, language. JSON; the server does not look into it.</summary>
    public string? Settings { get; set; }

    /// <summary>The language of messages to this person, as a subtag of BCP 47.</summary>
    public string Language { get; set; } = "en";
}

/// <summary>A browser in which an account is signed in. Without its record a cookie is worth nothing.</summary>
public sealed class SignInRecord
{
    /// <summary>128 random bits in base64url; the cookie holds it, encrypted.</summary>
    public required string Id { get; init; }
    public required string AccountId { get; init; }
    public long At { get; init; }
    public long SeenAt { get; set; }

    /// <summary>When the person last proved who they are, by password, code or passkey.</summary>
    public long ProvedAt { get; set; }

    /// <summary>What the browser calls itself, in few words.</summary>
    public string? Device { get; init; }
    public string Address { get; init; } = "";
}

/// <summary>A one-time code that was shown, so that it is not taken again, also after a restart.</summary>
public sealed class UsedCodeRecord
{
    public required string AccountId { get; init; }

    /// <summary>SHA-256 of account and code, in base64.</summary>
    public required string Digest { get; init; }

    /// <summary>Until when the code would be good; milliseconds since 1970, UTC.</summary>
    public long Until { get; init; }
}

/// <summary>Leave to make one account. The link's token is not kept, only its digest.</summary>
public sealed class HostInvitation
{
    public long Id { get; init; }
    public required string Email { get; init; }
    public string Name { get; init; } = "";

    /// <summary>SHA-256 of the token, in hexadecimal.</summary>
    public required string TokenHash { get; set; }
    public required string ById { get; init; }

    /// <summary>It went out by mail, so whoever has it reads that address.</summary>
    public bool ByMail { get; init; }
    public long At { get; set; }
    public long Until { get; set; }
    public long? UsedAt { get; set; }
}

/// <summary>Plans, opens and leads a session beside its owner.</summary>
public sealed class CoOwner
{
    public Guid SessionId { get; init; }
    public required string AccountId { get; init; }
    public long At { get; init; }
}
