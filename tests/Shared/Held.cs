using System.Text.Json;
using System.Text.Json.Nodes;

namespace HoldCourt.Tests;

/// <summary>Brings what a page holds up to date with a change, as the page does it: by the JSON alone.</summary>
internal static class Held
{
    public static SittingRow With(this SittingRow held, SittingRow? set) => Merged(held, Object(set), _facet);

    public static Dictionary<SeatId, SeatRow> With(this IReadOnlyDictionary<SeatId, SeatRow> held, ViewChange change)
    {
        var rows = new Dictionary<SeatId, SeatRow>(held);
        foreach (var id in change.Drop ?? []) rows.Remove(id);
        foreach (var row in change.Put ?? []) rows.Add(row.Id, row);
        foreach (var altered in change.Altered ?? [])
            foreach (var id in altered.Seats) rows[id] = Merged(rows[id], altered.To, _note);
        return rows;
    }

    private static readonly string[] _facet = [], _note = ["note"];

    /// <param name="within">Objects of which only some fields may be given.</param>
    private static T Merged<T>(T held, JsonObject fields, string[] within)
    {
        var whole = Object(held);
        foreach (var (name, value) in fields)
        {
            if (within.Contains(name) && value is JsonObject some && whole[name] is JsonObject inner)
                foreach (var (field, now) in some) inner[field] = now?.DeepClone();
            else whole[name] = value?.DeepClone();
        }
        return whole.Deserialize<T>(CoreJson.Options)!;
    }

    private static JsonObject Object<T>(T value) =>
        value is null ? [] : JsonSerializer.SerializeToNode(value, CoreJson.Options)!.AsObject();
}

internal static class Alike
{
    public static void ShouldBeJson<T>(this T actual, T expected, string? of = null) =>
        JsonSerializer.Serialize(actual, CoreJson.Options).ShouldBe(JsonSerializer.Serialize(expected, CoreJson.Options), of);
}
