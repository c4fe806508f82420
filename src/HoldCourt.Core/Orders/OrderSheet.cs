namespace HoldCourt.Core.Orders;

/// <summary>Who may use a capability without asking.</summary>
public enum Audience { Everyone, Presenters, Bench }

/// <summary>
/// Who may do what now. <see cref="Audience.Presenters"/> includes the bench. Microphones open to presenters alone are
/// "by leave": attendees speak when the bench gives them leave.
/// </summary>
public sealed record OrderSheet(Audience Speak, Audience ShowCamera, Audience Rename, Audience SeePeople)
{
    public static OrderSheet Usual { get; } = new(Audience.Everyone, Audience.Everyone, Audience.Everyone, Audience.Everyone);

    public Audience this[Order order] => order switch
    {
        Order.Speak => Speak,
        Order.ShowCamera => ShowCamera,
        Order.Rename => Rename,
        _ => SeePeople
    };

    public OrderSheet With(Order order, Audience audience) => order switch
    {
        Order.Speak => this with { Speak = audience },
        Order.ShowCamera => this with { ShowCamera = audience },
        Order.Rename => this with { Rename = audience },
        _ => this with { SeePeople = audience }
    };
}

/// <summary>A capability that the orders give by role.</summary>
public enum Order { Speak, ShowCamera, Rename, SeePeople }
