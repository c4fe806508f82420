using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace HoldCourt.Core.Sittings;

/// <summary>The one way in which commands, entries and views are written as JSON: on the wire, on disk, and for digests.</summary>
public static class CoreJson
{
    public static JsonSerializerOptions Options { get; } = Configure(new JsonSerializerOptions());

    /// <summary>An enumeration's value as it is written in JSON and named in the message catalogue.</summary>
    public static string NameOf(Enum value) => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());

    /// <summary>How a member of a union is told from the others.</summary>
    public static string NameOf(Type type) => JsonNamingPolicy.CamelCase.ConvertName(type.Name);

    public static JsonSerializerOptions Configure(JsonSerializerOptions options)
    {
        options.PropertyNamingPolicy = JsonNamingPolicy.CamelCase;
        options.AllowOutOfOrderMetadataProperties = true;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = true;
        options.MaxDepth = 16;
        options.Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping;
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { FillUnion } };
        return options;
    }

    /// <summary>The members of a union, by name; empty for what is none.</summary>
    public static IReadOnlyList<Type> MembersOf(Type union) => !union.IsDefined(typeof(UnionAttribute), false)
        ? []
        : [.. union.Assembly.GetTypes().Where(type => type.IsSubclassOf(union) && !type.IsAbstract)
            .OrderBy(NameOf, StringComparer.Ordinal)];

    /// <summary>What stands in JSON beside a member's own properties and says which one it is.</summary>
    public static string? DiscriminatorOf(Type union) =>
        ((UnionAttribute?)Attribute.GetCustomAttribute(union, typeof(UnionAttribute), inherit: false))?.Discriminator;

    private static void FillUnion(JsonTypeInfo type)
    {
        if (DiscriminatorOf(type.Type) is not { } discriminator) return;
        type.PolymorphismOptions = new JsonPolymorphismOptions { TypeDiscriminatorPropertyName = discriminator };
        foreach (var member in MembersOf(type.Type)) type.PolymorphismOptions.DerivedTypes.Add(new JsonDerivedType(member, NameOf(member)));
    }
}

/// <summary>All types that derive from it are one union in JSON, each under its own name.</summary>
[AttributeUsage(AttributeTargets.Class, Inherited = false)]
public sealed class UnionAttribute(string discriminator) : Attribute
{
    public string Discriminator => discriminator;
}
