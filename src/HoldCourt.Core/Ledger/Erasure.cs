using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace HoldCourt.Core.Ledger;

/// <summary>What is to be taken out of a sitting's entries.</summary>
/// <param name="Names">Names of one person, as they stand in the entries.</param>
/// <param name="Addresses">E-mail addresses of the same person.</param>
/// <param name="Alias">What stands in the place of a name.</param>
/// <param name="AllWords">The words of everybody's messages go, and nothing else.</param>
public sealed record Erasing(ImmutableArray<string> Names, ImmutableArray<string> Addresses, string Alias, bool AllWords = false)
{
    /// <summary>The words of all messages, as when chats are kept for a time only.</summary>
    public static Erasing Words { get; } = new([], [], "", AllWords: true);
}

/// <summary>
/// Takes a person, or the words of a chat, out of entries that stay in their chain. An entry keeps its place and its digest, so
/// that the digests after it hold, and every digest that somebody wrote down; its JSON is another one from then on, sealed
/// by <see cref="Chain.Seal"/>. What was erased can be read from nowhere, since a digest does not give back its text.
/// </summary>
public static class Erasure
{
    /// <summary>Stands in the place of words.</summary>
    public const string Gone = "—";

    /// <summary>Shorter ones would be found inside other words.</summary>
    public const int ShortestName = 2;

    /// <returns>The entries that are different now, with their seals; empty where nothing of the person was found.</returns>
    /// <exception cref="JsonException">An entry cannot be read.</exception>
    public static IReadOnlyList<KeptEntry> Of(IReadOnlyList<KeptEntry> entries, Erasing what) => Of(entries, what, out _);

    /// <inheritdoc cref="Of(IReadOnlyList{KeptEntry}, Erasing)"/>
    /// <param name="seats">The seats that the person ever held.</param>
    public static IReadOnlyList<KeptEntry> Of(IReadOnlyList<KeptEntry> entries, Erasing what, out HashSet<int> seats)
    {
        seats = [];
        var keys = new Dictionary<string, string>(StringComparer.Ordinal);
        var entriesJson = entries.Select(entry => JsonNode.Parse(entry.Json)!).ToList();
        var names = what.Names.Where(name => name.Trim().Length >= ShortestName).Select(name => name.Trim()).ToList();
        var words = names.Concat(what.Addresses).OrderByDescending(word => word.Length).Select(Regex.Escape).ToList();
        var pattern = words.Count == 0
            ? null
            : new Regex($@"(?<![\p{{L}}\p{{N}}])(?:{string.Join('|', words)})(?![\p{{L}}\p{{N}}])",
            RegexOptions.IgnoreCase | RegexOptions.CultureInvariant, TimeSpan.FromSeconds(5));
        foreach (var json in entriesJson) Find(json, names, seats, keys);
        var authors = new List<int>();
        var changed = new List<KeptEntry>();
        foreach (var (kept, json) in entries.Zip(entriesJson))
        {
            Erase(json, new Scope(what, pattern, seats, keys, authors));
            var text = json.ToJsonString(_asWritten);
            if (text != JsonNode.Parse(kept.Json)!.ToJsonString(_asWritten)) changed.Add(Chain.Seal(kept, text));
        }
        return changed;
    }

    private static readonly JsonSerializerOptions _asWritten = new(CoreJson.Options) { MaxDepth = 64 };

    private sealed record Scope(Erasing What, Regex? Pattern, HashSet<int> Seats, Dictionary<string, string> Keys, List<int> Authors);

    /// <summary>The seats that somebody of these names ever held, and the keys by which their browsers are known.</summary>
    private static void Find(JsonNode? node, List<string> names, HashSet<int> seats, Dictionary<string, string> keys)
    {
        switch (node)
        {
            case JsonObject one:
                if (one["seat"] is JsonValue seat && IsNamed(Text(one, "name"), names))
                {
                    seats.Add(Number(seat));
                    if (KeyOf(one["person"]) is { } key) keys.TryAdd(key, $"erased:{keys.Count + 1}");
                }
                if (Text(one, Discriminator) == "renamed" && one["seat"] is JsonValue renamed
                    && (IsNamed(Text(one, "from"), names) || IsNamed(Text(one, "to"), names))) seats.Add(Number(renamed));
                foreach (var (_, part) in one) Find(part, names, seats, keys);
                break;
            case JsonArray list:
                foreach (var part in list) Find(part, names, seats, keys);
                break;
        }
    }

    private static bool IsNamed(string? text, List<string> names) =>
        text is not null && names.Contains(text, StringComparer.OrdinalIgnoreCase);

    private static void Erase(JsonNode? node, Scope scope)
    {
        switch (node)
        {
            case JsonObject one:
                EraseWords(one, scope);
                EraseOwnNames(one, scope);
                EraseBrought(one, scope);
                foreach (var (name, part) in one.ToList())
                {
                    if (part is JsonValue value && value.TryGetValue<string>(out var text))
                    {
                        var clean = Clean(text, scope);
                        if (clean != text) one[name] = clean;
                    }
                    else Erase(part, scope);
                }
                break;
            case JsonArray list:
                for (var at = 0; at < list.Count; at++)
                {
                    if (list[at] is JsonValue value && value.TryGetValue<string>(out var text))
                    {
                        var clean = Clean(text, scope);
                        if (clean != text) list[at] = clean;
                    }
                    else Erase(list[at], scope);
                }
                break;
        }
    }

    private static string Clean(string text, Scope scope) =>
        scope.Keys.TryGetValue(text, out var key) ? key : scope.Pattern?.Replace(text, scope.What.Alias) ?? text;

    private static void EraseWords(JsonObject fact, Scope scope)
    {
        bool IsOf(int seat) => scope.What.AllWords || scope.Seats.Contains(seat);
        void Blank(params string[] parts)
        {
            foreach (var part in parts)
                if (Text(fact, part) is { Length: > 0 }) fact[part] = Gone;
        }
        if (fact["old"] is JsonObject old && IsOf(Number(old["from"]!)) && Text(old, "text") is { Length: > 0 }) old["text"] = Gone;
        switch (Text(fact, Discriminator))
        {
            case "written":
                scope.Authors.Add(Number(fact["from"]!));
                if (IsOf(scope.Authors[^1])) Blank("text");
                break;
            case "messageEdited" when Number(fact["message"]!) is var number && number >= 1 && number <= scope.Authors.Count
                && IsOf(scope.Authors[number - 1]):
                Blank("from", "to");
                break;
            case "captioned" or "captionCorrected" when fact["speaker"] is JsonValue speaker
                ? IsOf(Number(speaker)) : scope.What.AllWords:
                Blank("text", "from", "to");
                break;
            case "voteCast" when scope.Seats.Contains(Number(fact["seat"]!)) && fact["choice"] is JsonObject choice
                && Text(choice, "text") is { Length: > 0 }:
                choice["text"] = Gone;
                break;
            case "messageDeleted" or "messageRestored" when IsOf(Number(fact["of"]!)):
                Blank("text");
                break;
        }
    }

    /// <summary>Whatever else the person was called in this seat; somebody else of that name keeps it.</summary>
    private static void EraseOwnNames(JsonObject one, Scope scope)
    {
        if (one["model"] is JsonValue model && scope.Seats.Contains(Number(model))) one["looksLike"] = scope.What.Alias;
        if (one["seat"] is not JsonValue value || !value.TryGetValue<int>(out var seat) || !scope.Seats.Contains(seat)) return;
        foreach (var part in Text(one, Discriminator) == "renamed" ? _sides : _name)
            if (Text(one, part) is { Length: > 0 }) one[part] = scope.What.Alias;
    }

    /// <summary>What files and exhibits were called that the person brought.</summary>
    private static void EraseBrought(JsonObject one, Scope scope)
    {
        if (one["by"] is not JsonValue value || !value.TryGetValue<int>(out var by) || !scope.Seats.Contains(by)) return;
        foreach (var part in _called)
            if (Text(one, part) is { Length: > 0 }) one[part] = Gone;
    }

    private static readonly string[] _called = ["title", "name"];

    private static readonly string[] _name = ["name"], _sides = ["from", "to"];

    private const string Discriminator = "what";

    private static string? Text(JsonObject one, string part) =>
        one[part] is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    private static int Number(JsonNode node) => node.GetValue<int>();

    private static string? KeyOf(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;
}
