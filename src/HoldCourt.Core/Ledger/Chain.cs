using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace HoldCourt.Core.Ledger;

/// <summary>An entry as it is kept: its JSON, and the digest that ties it to all before it.</summary>
/// <param name="Json">The entry as written by <see cref="CoreJson"/>; the bytes that were digested.</param>
/// <param name="Digest">SHA-256 (FIPS 180-4) over the previous digest and the UTF-8 of <paramref name="Json"/>.</param>
/// <param name="Seal">
/// Null while the JSON is what was digested. Otherwise something of it was erased since, and this is a SHA-256 over the digest and
/// the JSON that stands there now.
/// </param>
/// <param name="Marks">What is kept beside it to find it by; null where only the chain is looked at.</param>
public sealed record KeptEntry(long Sequence, string Json, byte[] Digest, byte[]? Seal = null, Marks? Marks = null)
{
    /// <exception cref="JsonException">The text is no entry.</exception>
    public Entry Read() => JsonSerializer.Deserialize<Entry>(Json, CoreJson.Options) ?? throw new JsonException("The entry is null.");

    /// <summary>Null when the text is no entry, as when it was altered where it is kept; the check of the chain names it.</summary>
    public Entry? TryRead()
    {
        try { return Read(); }
        catch (Exception e) when (e is JsonException or NotSupportedException) { return null; }
    }
}

/// <summary>The chain of digests over a sitting's entries.</summary>
public static class Chain
{
    /// <summary>What stands before the first entry: 32 zero bytes.</summary>
    public static byte[] Start { get; } = new byte[SHA256.HashSizeInBytes];

    /// <param name="marks">To find it by.</param>
    public static KeptEntry Link(byte[] previous, Entry entry, Marks? marks = null)
    {
        var json = JsonSerializer.Serialize(entry, CoreJson.Options);
        return new KeptEntry(entry.Sequence, json, DigestOf(previous, json), Marks: marks);
    }

    /// <summary>The first sequence at which the chain is altered, reordered or has a gap; null when it is whole.</summary>
    public static long? FirstBreak(IEnumerable<KeptEntry> entries)
    {
        var previous = Start;
        var expected = 1L;
        foreach (var entry in entries)
        {
            if (entry.Sequence != expected || !SequenceWithin(entry) || !IsWhole(previous, entry)) return expected;
            previous = entry.Digest;
            expected++;
        }
        return null;
    }

    /// <summary>The entry with other JSON in its place: its digest stays, and with it all that follow.</summary>
    public static KeptEntry Seal(KeptEntry entry, string json) => entry with { Json = json, Seal = SealOf(entry.Digest, json) };

    private static byte[] SealOf(byte[] digest, string json) => DigestOf(digest, "erased:" + json);

    private static bool IsWhole(byte[] previous, KeptEntry entry) => entry.Seal is { } seal
        ? SealOf(entry.Digest, entry.Json).AsSpan().SequenceEqual(seal)
        : DigestOf(previous, entry.Json).AsSpan().SequenceEqual(entry.Digest);

    private static bool SequenceWithin(KeptEntry kept) => kept.TryRead()?.Sequence == kept.Sequence;

    private static byte[] DigestOf(byte[] previous, string json)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(previous);
        hash.AppendData(Encoding.UTF8.GetBytes(json));
        return hash.GetHashAndReset();
    }
}
