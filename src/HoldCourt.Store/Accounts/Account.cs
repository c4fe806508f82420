using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Store.Accounts;

/// <summary>Somebody who hosts.</summary>
public sealed class Account : IdentityUser
{
    /// <summary>The name others see.</summary>
    public required string Name { get; set; }
}
