using System.Collections.Immutable;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace HoldCourt.Core.Views;

/// <summary>Rows that became alike in some fields, and those fields. So
/// one raised hand, and a mute of everybody, are a few bytes.</summary>
/// <param name="To">Fields of <see cref="SeatRow"/> with what they are now; those of its note stand in a <c>note</c> of their own.</param>
public sealed record AlteredRows(ImmutableArray<SeatId> Seats, [property: FieldsOf(typeof(SeatRow))] JsonObject To);

/// <summary>The object holds some of the fields of a type.</summary>
[AttributeUsage(AttributeTargets.Property)]
public sealed class FieldsOfAttribute(Type type) : Attribute
{
    public Type Type => type;
}

/// <summary>Finds the fields in which rows differ, and puts together the rows that changed in the same way.</summary>
internal sealed class Alterations
{
    /// <summary>Few kinds of change come at once; where there are more they are told one by one.</summary>
    private const int MostKinds = 8;

    private const string NoteName = "note";

    private static readonly ImmutableArray<Field> _fields =
    [
        .. FieldsOf<SeatRow>(row => row, inNote: false).Where(field => field.Name is not ("id" or NoteName)),
        .. FieldsOf<BenchNote>(row => row.Note!, inNote: true)
    ];

    /// <summary>Stands for the note as a whole, where it appears or vanishes.</summary>
    private static readonly ulong _wholeNote = 1UL << _fields.Length;

    private readonly List<(ulong Mask, SeatRow Row, List<SeatId> Seats)> _kinds = [];

    /// <param name="was">The same seat's row before; not equal to <paramref name="now"/>.</param>
    public void Add(SeatRow was, SeatRow now)
    {
        var mask = Differing(was, now);
        if (mask == 0) return;
        var kind = _kinds.Count <= MostKinds ? _kinds.Find(known => known.Mask == mask && Differing(known.Row, now, mask) == 0) : default;
        if (kind.Seats is null) _kinds.Add(kind = (mask, now, []));
        kind.Seats.Add(now.Id);
    }

    public ImmutableArray<AlteredRows>? Done() =>
        _kinds.Count == 0 ? null : [.. _kinds.Select(kind => new AlteredRows([.. kind.Seats], ObjectOf(kind.Row, kind.Mask)))];

    /// <summary>A bit for each field that is different, of those in <paramref name="among"/>.</summary>
    private static ulong Differing(SeatRow was, SeatRow now, ulong among = ulong.MaxValue)
    {
        var mask = 0UL;
        var notes = was.Note is not null && now.Note is not null;
        for (var at = 0; at < _fields.Length; at++)
            if ((among & (1UL << at)) != 0 && (notes || !_fields[at].InNote) && _fields[at].Differs(was, now)) mask |= 1UL << at;
        if ((among & _wholeNote) != 0 && !notes && was.Note != now.Note) mask |= _wholeNote;
        return mask;
    }

    private static JsonObject ObjectOf(SeatRow row, ulong mask)
    {
        var (whole, note) = (new JsonObject(), new JsonObject());
        for (var at = 0; at < _fields.Length; at++)
            if ((mask & (1UL << at)) != 0) (_fields[at].InNote ? note : whole)[_fields[at].Name] = _fields[at].ValueOf(row);
        if ((mask & _wholeNote) != 0) whole[NoteName] = JsonSerializer.SerializeToNode(row.Note, CoreJson.Options);
        else if (note.Count > 0) whole[NoteName] = note;
        return whole;
    }

    private static IEnumerable<Field> FieldsOf<TOwner>(Func<SeatRow, TOwner> owner, bool inNote) =>
        typeof(TOwner).GetProperties(BindingFlags.Public | BindingFlags.Instance).Select(property => (Field)Activator.CreateInstance(
            typeof(Field<,>).MakeGenericType(typeof(TOwner), property.PropertyType), property, owner, inNote)!);

    private abstract class Field(string name, bool inNote)
    {
        public string Name => JsonNamingPolicy.CamelCase.ConvertName(name);
        public bool InNote => inNote;
        public abstract bool Differs(SeatRow one, SeatRow other);
        public abstract JsonNode? ValueOf(SeatRow row);
    }

    private sealed class Field<TOwner, T>(PropertyInfo property, Func<SeatRow, TOwner> owner, bool inNote) : Field(property.Name, inNote)
    {
        private readonly Func<TOwner, T> _get = property.GetMethod!.CreateDelegate<Func<TOwner, T>>();

        public override bool Differs(SeatRow one, SeatRow other) =>
            !EqualityComparer<T>.Default.Equals(_get(owner(one)), _get(owner(other)));
        public override JsonNode? ValueOf(SeatRow row) => JsonSerializer.SerializeToNode(_get(owner(row)), CoreJson.Options);
    }
}
