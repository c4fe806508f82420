using System.Collections.Immutable;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

/// <summary>
/// One of a set of names that the topics fill together: a type of which each topic declares a part, with a static property for
/// each of its own. In JSON and in the message catalogue it is its name.
/// </summary>
public interface INamed
{
    string Name { get; }
}

/// <summary>The set of names of a type.</summary>
public static class Named
{
    public static ImmutableArray<T> All<T>() where T : INamed => Set<T>.All;

    /// <summary>The one of that name; null, or one without a name, when there is none.</summary>
    public static T? Find<T>(string? name) where T : INamed =>
        name is not null && Set<T>.ByName.TryGetValue(name, out var found) ? found : default;

    private static class Set<T> where T : INamed
    {
        public static readonly ImmutableArray<T> All =
        [
            .. typeof(T).GetProperties(BindingFlags.Public | BindingFlags.Static).Where(property => property.PropertyType == typeof(T))
                .Select(property => (T)property.GetValue(null)!)
        ];

        public static readonly Dictionary<string, T> ByName = All.ToDictionary(one => one.Name);
    }
}

internal sealed class NamedConverter<T> : JsonConverter<T> where T : INamed
{
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Named.Find<T>(reader.GetString()) is { Name: not null } found ? found : throw new JsonException($"No such {typeof(T).Name}.");

    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteStringValue(value.Name);
}
