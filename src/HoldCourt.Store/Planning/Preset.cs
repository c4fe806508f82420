namespace HoldCourt.Store.Planning;

/// <summary>Orders and a door under a name, to be used again.</summary>
public sealed class Preset
{
    public long Id { get; init; }
    public required string OwnerId { get; init; }
    public required string Name { get; set; }

    /// <summary>An StandingOrders as JSON.</summary>
    public required string Orders { get; set; }
    public DoorMode Door { get; set; }
}
