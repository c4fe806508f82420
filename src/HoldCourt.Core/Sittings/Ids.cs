using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

/// <summary>A moment, in milliseconds since 1970-01-01T00:00Z. Core has no clock; moments come in from outside.</summary>
[JsonConverter(typeof(Converter))]
public readonly record struct Instant(long Milliseconds) : IComparable<Instant>
{
    public int CompareTo(Instant other) => Milliseconds.CompareTo(other.Milliseconds);
    public static TimeSpan operator -(Instant later, Instant earlier) =>
        TimeSpan.FromMilliseconds(later.Milliseconds - earlier.Milliseconds);
    public static Instant operator +(Instant from, TimeSpan span) => new(from.Milliseconds + (long)span.TotalMilliseconds);
    public static bool operator <(Instant a, Instant b) => a.Milliseconds < b.Milliseconds;
    public static bool operator >(Instant a, Instant b) => a.Milliseconds > b.Milliseconds;
    public static bool operator <=(Instant a, Instant b) => a.Milliseconds <= b.Milliseconds;
    public static bool operator >=(Instant a, Instant b) => a.Milliseconds >= b.Milliseconds;

    private sealed class Converter : JsonConverter<Instant>
    {
        public override Instant Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetInt64());
        public override void Write(Utf8JsonWriter writer, Instant value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Milliseconds);
    }
}

/// <summary>A seat's number in its sitting: 1, 2, 3 … in the order of first announcement.</summary>
[JsonConverter(typeof(Converter))]
public readonly record struct SeatId(int Number) : IComparable<SeatId>
{
    public int CompareTo(SeatId other) => Number.CompareTo(other.Number);

    private sealed class Converter : JsonConverter<SeatId>
    {
        public override SeatId Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetInt32());
        public override void Write(Utf8JsonWriter writer, SeatId value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Number);
    }
}

/// <summary>
/// Who a person is across connections and seats: an account ("account:…"), or a browser that holds a signed guest
/// cookie ("guest:…"). Never shown to anybody.
/// </summary>
[JsonConverter(typeof(Converter))]
public readonly record struct PersonKey(string Value)
{
    private sealed class Converter : JsonConverter<PersonKey>
    {
        public override PersonKey Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            new(reader.GetString() ?? "");
        public override void Write(Utf8JsonWriter writer, PersonKey value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Value);
    }
}

/// <summary>Who acts: a seat, or the house, which is the server itself (arrivals, dropped connections).</summary>
[JsonConverter(typeof(Converter))]
public readonly record struct Actor
{
    private readonly int _number;
    private Actor(int number) => _number = number;

    public static Actor House => default;
    public static Actor Of(SeatId seat) => new(seat.Number);

    public bool IsHouse => _number == 0;
    public SeatId? Seat => _number == 0 ? null : new SeatId(_number);

    private sealed class Converter : JsonConverter<Actor>
    {
        public override Actor Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetInt32());
        public override void Write(Utf8JsonWriter writer, Actor value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value._number);
    }
}

internal static class SeatIds
{
    /// <summary>They are one, and it is this.</summary>
    public static bool IsOnly(this ImmutableArray<SeatId> seats, SeatId? one) => seats is [var only] && only == one;
}
