using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Orders;

/// <summary>
/// Something about which "may this actor do this?" is asked. Each topic declares its own, in its <c>Capabilities.cs</c>, and says to
/// whom it is given; <see cref="Powers"/> alone answers.
/// </summary>
[JsonConverter(typeof(NamedConverter<Capability>))]
public sealed partial class Capability : INamed
{
    private Capability(string name, Holder given) => (Name, Given) = (JsonNamingPolicy.CamelCase.ConvertName(name), given);

    public string Name { get; }

    internal Holder Given { get; }

    /// <summary>The order that gives it; null when it goes by role alone.</summary>
    public Order? ByOrder { get; private init; }

    /// <summary>Whoever has a leave of this kind has it, whatever the orders say; null where there is none.</summary>
    internal Func<Seat, bool>? OrBy { get; private init; }

    /// <summary>What somebody is told to whom the order does not give it, or a role has no use for it.</summary>
    internal Refusal? Otherwise { get; private init; }

    /// <summary>It does not reach the host, unless it is the host's own.</summary>
    internal bool SparesTheHost { get; private init; }

    public override string ToString() => Name;

    /// <summary>The orders give it to an audience.</summary>
    private static Capability OfOrder(Order order, Refusal? otherwise = null, Func<Seat, bool>? orBy = null,
        [CallerMemberName] string name = "") =>
        new(name, Holder.ByOrder) { ByOrder = order, Otherwise = otherwise, OrBy = orBy };

    /// <summary>Everybody inside has it but the host, who has no use for it.</summary>
    private static Capability OfAllButTheHost(Refusal ofTheHost, [CallerMemberName] string name = "") =>
        new(name, Holder.AllButTheHost) { Otherwise = ofTheHost };

    private static Capability OfTheBench(bool sparesTheHost = false, [CallerMemberName] string name = "") =>
        new(name, Holder.Bench) { SparesTheHost = sparesTheHost };

    private static Capability OfTheHost([CallerMemberName] string name = "") => new(name, Holder.Host);

    /// <summary>To whom a capability is given.</summary>
    internal enum Holder { ByOrder, AllButTheHost, Bench, Host }
}
