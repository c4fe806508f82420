using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

/// <summary>
/// The state as text, so that a long sitting is not evolved from its first entry each time. It is a help and no truth: the entries are
/// that, and a snapshot that another build of the core wrote is not read.
/// </summary>
public static class Snapshot
{
    private static readonly JsonSerializerOptions _json = new(CoreJson.Options) { MaxDepth = 64, Converters = { new RollConverter() } };

    /// <summary>Tells the core's builds apart; what differs in it may differ in the state.</summary>
    public static string Form { get; } = typeof(Sitting).Module.ModuleVersionId.ToString("N");

    public static string Write(Sitting sitting) =>
        JsonSerializer.Serialize(sitting with { SeatOf = ImmutableDictionary<PersonKey, SeatId>.Empty }, _json);

    /// <exception cref="JsonException">The text is no state.</exception>
    public static Sitting Read(string text)
    {
        var sitting = JsonSerializer.Deserialize<Sitting>(text, _json) ?? throw new JsonException("The state is null.");
        return sitting with { SeatOf = sitting.Seats.ToImmutableDictionary(seat => seat.Person, seat => seat.Id) };
    }

    private sealed class RollConverter : JsonConverter<Roll>
    {
        public override Roll Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            Roll.Of(JsonSerializer.Deserialize<ImmutableArray<Seat>>(ref reader, options));

        public override void Write(Utf8JsonWriter writer, Roll value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, value.ToImmutableArray(), options);
    }
}
