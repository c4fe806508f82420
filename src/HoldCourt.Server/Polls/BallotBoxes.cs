using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using HoldCourt.Store;
using HoldCourt.Store.Polls;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Polls;

/// <summary>
/// The boxes of secret polls. A ballot is enciphered (AES-256 in Galois/Counter Mode, NIST SP 800-38D) under the box's key, padded so
/// that all ballots of a poll are of one size.
/// </summary>
internal sealed class BallotBoxes(IDbContextFactory<CourtDb> databases, BoxKeys keys)
{
    private const int NonceSize = 12, TagSize = 16, LengthSize = 2;

    /// <summary>In bytes: the longest ballot of each kind fits, as escaped as JSON can be.</summary>
    private const int RoomOfWords = 2_048, RoomOfOthers = 256;

    /// <summary>Under what a ballot lies.</summary>
    public static string KeyOf(string token) => Convert.ToHexString(SHA256.HashData(Encoding.ASCII.GetBytes(token)));

    /// <summary>Keys of the ballots that lie there.</summary>
    public async Task<HashSet<string>> KeysOf(Guid sitting, int poll)
    {
        await using var db = await databases.CreateDbContextAsync();
        var all = await db.Ballots.AsNoTracking().Where(ballot => ballot.SittingId == sitting && ballot.Poll == poll)
            .Select(ballot => ballot.Key).ToListAsync();
        return [.. all.Select(Convert.ToHexString)];
    }

    /// <summary>A box into which ballots go, with its key on disk; null when it has ballots already and its key is gone.</summary>
    /// <exception cref="IOException">The disk is full or broken.</exception>
    public byte[]? KeyFor(Guid sitting, Poll poll) =>
        keys.Find(sitting, poll.Number) ?? (poll.Votes.IsEmpty ? keys.Make(sitting, poll.Number) : null);

    public static BallotRecord Seal(byte[] key, Guid sitting, Poll poll, string token, Choice choice)
    {
        var room = new byte[LengthSize + (poll.Form.Kind == PollKind.Words ? RoomOfWords : RoomOfOthers)];
        var text = JsonSerializer.SerializeToUtf8Bytes(choice, CoreJson.Options);
        BinaryPrimitives.WriteUInt16BigEndian(room, (ushort)text.Length);
        text.CopyTo(room, LengthSize);
        var shut = new byte[NonceSize + room.Length + TagSize];
        RandomNumberGenerator.Fill(shut.AsSpan(0, NonceSize));
        using var cipher = new AesGcm(key, TagSize);
        cipher.Encrypt(
            shut.AsSpan(0, NonceSize), room, shut.AsSpan(NonceSize, room.Length), shut.AsSpan(NonceSize + room.Length),
            BoundTo(sitting, poll.Number));
        return new BallotRecord
        {
            SittingId = sitting,
            Poll = poll.Number,
            Key = Convert.FromHexString(KeyOf(token)),
            Sealed = shut
        };
    }

    /// <summary>All that lies in a box; null when its key is gone, or a ballot was not made with it.</summary>
    public async Task<ImmutableArray<Choice>?> Open(Guid sitting, int poll)
    {
        await using var db = await databases.CreateDbContextAsync();
        var all = await db.Ballots.AsNoTracking().Where(ballot => ballot.SittingId == sitting && ballot.Poll == poll)
            .Select(ballot => ballot.Sealed).ToListAsync();
        if (all.Count == 0) return [];
        if (keys.Find(sitting, poll) is not { } key) return null;
        try
        {
            using var cipher = new AesGcm(key, TagSize);
            return [.. all.Select(one => Opened(cipher, one, BoundTo(sitting, poll)))];
        }
        catch (Exception e) when (e is CryptographicException or JsonException or ArgumentException)
        {
            return null;
        }
    }

    /// <summary>What is counted or called off is gone for good: first the key, so that nothing can be read
    /// even if this is cut off.</summary>
    public async Task Destroy(Guid sitting, int poll)
    {
        keys.Destroy(sitting, poll);
        await using var db = await databases.CreateDbContextAsync();
        await db.Ballots.Where(ballot => ballot.SittingId == sitting && ballot.Poll == poll).ExecuteDeleteAsync();
    }

    private static Choice Opened(AesGcm cipher, byte[] shut, byte[] bound)
    {
        var room = new byte[shut.Length - NonceSize - TagSize];
        cipher.Decrypt(shut.AsSpan(0, NonceSize), shut.AsSpan(NonceSize, room.Length), shut.AsSpan(NonceSize + room.Length), room, bound);
        var length = BinaryPrimitives.ReadUInt16BigEndian(room);
        return JsonSerializer.Deserialize<Choice>(room.AsSpan(LengthSize, length), CoreJson.Options)
            ?? throw new JsonException("No ballot.");
    }

    /// <summary>A ballot of one box is none of another.</summary>
    private static byte[] BoundTo(Guid sitting, int poll)
    {
        var bound = new byte[20];
        sitting.TryWriteBytes(bound);
        BinaryPrimitives.WriteInt32BigEndian(bound.AsSpan(16), poll);
        return bound;
    }
}
