using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace HoldCourt.Core.Polls;

/// <summary>What leaves the box of a secret poll when it is counted.</summary>
public static class SecretBox
{
    /// <summary>The ballots in an order that follows from what they say, and so from nothing else.</summary>
    public static ImmutableArray<Choice> InOrder(IEnumerable<Choice> ballots) => [.. ballots.OrderBy(TextOf, StringComparer.Ordinal)];

    /// <summary>SHA-256 (FIPS 180-4) over the ballots' JSON, each on a line that ends with a line feed; in upper-case
    /// hexadecimal.</summary>
    public static string DigestOf(ImmutableArray<Choice> ballots) =>
        Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(string.Concat(ballots.Select(ballot => TextOf(ballot) + "\n")))));

    private static string TextOf(Choice ballot) => JsonSerializer.Serialize(ballot, CoreJson.Options);
}
