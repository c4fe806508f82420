using System.Text.Json.Serialization;

namespace HoldCourt.Core.Orders;

/// <summary>Who may use a capability without asking.</summary>
public enum Audience { Everyone, Presenters, Bench }

/// <summary>A capability that the orders give by role.</summary>
public enum Order
{
    Speak, ShowCamera, Rename, SeePeople, WriteToAll, WriteToBench, WriteToOne, SeeChat, React, Exhibit, Mark, HandOut, Record
}

/// <summary>
/// Who may do what now. <see cref="Audience.Presenters"/> includes the bench. Microphones open to presenters alone are
/// "by leave": attendees speak when the bench gives them leave.
/// </summary>
public sealed record StandingOrders(
    Audience Speak, Audience ShowCamera, Audience Rename, Audience SeePeople,
    Audience WriteToAll = Audience.Everyone, Audience WriteToBench = Audience.Everyone, Audience WriteToOne = Audience.Everyone,
    Audience SeeChat = Audience.Everyone, Audience React = Audience.Everyone, Audience Exhibit = Audience.Presenters,
    Audience Mark = Audience.Presenters, Audience HandOut = Audience.Presenters,
    Audience Record = Audience.Bench) : IFacet<StandingOrders>
{
    static StandingOrders IFacet<StandingOrders>.Of(Sitting sitting, Viewpoint from) =>
        sitting.MayKnow(from, Matter.Inside) ? sitting.Orders : Usual;

    static bool IFacet<StandingOrders>.IsSame(Step step) => step.Before.Orders == step.After.Orders;

    static bool IFacet<StandingOrders>.AltersRows(Step step) => step.Before.Orders != step.After.Orders;

    static IEnumerable<SeatId> IFacet<StandingOrders>.Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        before.Orders != after.Orders ? all : [];

    public static StandingOrders Usual { get; } = new(Audience.Everyone, Audience.Everyone, Audience.Everyone, Audience.Everyone);

    public Audience this[Order order] => order switch
    {
        Order.Speak => Speak,
        Order.ShowCamera => ShowCamera,
        Order.Rename => Rename,
        Order.SeePeople => SeePeople,
        Order.WriteToAll => WriteToAll,
        Order.WriteToBench => WriteToBench,
        Order.WriteToOne => WriteToOne,
        Order.SeeChat => SeeChat,
        Order.React => React,
        Order.Exhibit => Exhibit,
        Order.Mark => Mark,
        Order.HandOut => HandOut,
        _ => Record
    };

    public StandingOrders With(Order order, Audience audience) => order switch
    {
        Order.Speak => this with { Speak = audience },
        Order.ShowCamera => this with { ShowCamera = audience },
        Order.Rename => this with { Rename = audience },
        Order.SeePeople => this with { SeePeople = audience },
        Order.WriteToAll => this with { WriteToAll = audience },
        Order.WriteToBench => this with { WriteToBench = audience },
        Order.WriteToOne => this with { WriteToOne = audience },
        Order.SeeChat => this with { SeeChat = audience },
        Order.React => this with { React = audience },
        Order.Exhibit => this with { Exhibit = audience },
        Order.Mark => this with { Mark = audience },
        Order.HandOut => this with { HandOut = audience },
        _ => this with { Record = audience }
    };

    /// <summary>Every audience is one that exists.</summary>
    [JsonIgnore]
    public bool IsMeaningful => Enum.GetValues<Order>().All(order => Enum.IsDefined(this[order]));

    /// <summary>
    /// Single seats can be excepted from it. What people see of each other and of the chat goes by the kind of viewer,
    /// so that it is made once for all of a kind.
    /// </summary>
    public static bool TakesExceptions(Order order) => order is not (Order.SeePeople or Order.SeeChat);
}
