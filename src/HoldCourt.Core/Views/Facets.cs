using System.Collections.Immutable;
using System.Reflection;

namespace HoldCourt.Core.Views;

/// <summary>A part of the session's state as it is known from a viewpoint; each topic has its own. Those of
/// <see cref="SittingRow"/> are all there are.</summary>
public interface IFacet<TSelf> where TSelf : class, IFacet<TSelf>
{
    /// <summary>What may be known of it. It is asked of <see cref="Knowledge"/>.</summary>
    static abstract TSelf Of(Sitting sitting, Viewpoint from);

    /// <summary>Whether it is sure to be the same after a step, from wherever it is seen: nothing that it is made of is different. Whether
    /// what is not sure is the same is seen by comparing.</summary>
    static abstract bool IsSame(Step step);

    /// <summary>Whether rows may be different of seats that are the same: what this topic says of everybody is another.</summary>
    static virtual bool AltersRows(Step step) => false;

    /// <summary>Seats whose own row may be different after a step because of this topic, beside those that changed.</summary>
    /// <param name="all">Those that somebody looks from; only these count.</param>
    static virtual IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) => [];
}

/// <summary>From one state to a later one, looked at from one place.</summary>
public sealed class Step(Sitting before, Sitting after)
{
    public Sitting Before => before;
    public Sitting After => after;

    /// <summary>Seats that are not the same object.</summary>
    public ImmutableArray<(Seat? Before, Seat After)> Changed { get; private init; } = [.. after.Seats.ChangedSince(before.Seats)];

    /// <summary>Somebody came, went, or is thought to be somebody else.</summary>
    public bool Moved => field = field || Changed.Any(pair => pair.Before?.Place != pair.After.Place
        || pair.Before.Recognition != pair.After.Recognition || pair.Before.Room != pair.After.Room);

    /// <summary>Somebody's name is another.</summary>
    public bool Renamed => Changed.Any(pair => pair.Before is { } was && was.Name != pair.After.Name);

    /// <summary>The same step, looked at from a room.</summary>
    internal Step At(int? room) => room == after.Here ? this : new Step(before.At(room), after.At(room)) { Changed = Changed };
}

/// <summary>A facet without its type.</summary>
public abstract class Facet
{
    /// <summary>All there are, by the properties of <see cref="SittingRow"/>.</summary>
    public static ImmutableArray<Facet> All { get; } = [.. typeof(SittingRow).GetProperties(BindingFlags.Public | BindingFlags.Instance)
        .Select(property => (Facet)Activator.CreateInstance(typeof(Facet<>).MakeGenericType(property.PropertyType), property)!)];

    public abstract string Name { get; }

    /// <summary>Gives a row this facet.</summary>
    internal abstract void Put(SittingRow row, Sitting sitting, Viewpoint from);

    internal abstract bool IsSame(Step step);

    internal abstract bool AltersRows(Step step);

    /// <summary>Gives a row this facet if it is another one after the step.</summary>
    internal abstract void PutIfNew(ref SittingRow? row, Step step, Viewpoint from);

    public abstract IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all);
}

internal sealed class Facet<T>(PropertyInfo property) : Facet where T : class, IFacet<T>
{
    private readonly Action<SittingRow, T> _set = property.SetMethod!.CreateDelegate<Action<SittingRow, T>>();

    public override string Name => property.Name;

    internal override void Put(SittingRow row, Sitting sitting, Viewpoint from) => _set(row, T.Of(sitting, from));

    internal override bool IsSame(Step step) => T.IsSame(step);

    internal override bool AltersRows(Step step) => T.AltersRows(step);

    internal override void PutIfNew(ref SittingRow? row, Step step, Viewpoint from)
    {
        if (T.Of(step.After, from) is var now && !now.Equals(T.Of(step.Before, from))) _set(row ??= new SittingRow(), now);
    }

    public override IEnumerable<SeatId> Touches(Sitting before, Sitting after, IReadOnlyCollection<SeatId> all) =>
        T.Touches(before, after, all);
}
