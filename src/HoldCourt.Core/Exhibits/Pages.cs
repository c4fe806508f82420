using System.Buffers.Binary;
using System.Buffers.Text;
using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Exhibits;

/// <summary>Why no pages could be made of a file.</summary>
public enum PageFlaw
{
    /// <summary>It is broken, or is not what its name says.</summary>
    Broken,

    /// <summary>It opens only with a password.</summary>
    Locked,
    TooManyPages,

    /// <summary>Its pages or its picture are larger than can be made.</summary>
    TooLarge,
    TookTooLong,

    /// <summary>What it would take to make pages of this kind of file is not installed at this server.</summary>
    NoConverter,

    /// <summary>The server could not keep or make them.</summary>
    ServerFailed
}

/// <summary>How a page stands before everybody's eyes.</summary>
/// <param name="Scale">1 is whole; up to <see cref="Largest"/>.</param>
/// <param name="X">What stands in the middle, 0 (left) to 1 of the page's width as it is turned.</param>
/// <param name="Y">0 (top) to 1 of its height.</param>
/// <param name="Turn">Clockwise, in degrees: 0, 90, 180 or 270.</param>
public sealed record PageView(double Scale, double X, double Y, int Turn)
{
    public const double Largest = 8;

    public static PageView Whole { get; } = new(1, 0.5, 0.5, 0);

    [JsonIgnore]
    internal bool IsMeaningful => Scale is >= 1 and <= Largest && X is >= 0 and <= 1 && Y is >= 0 and <= 1 && Turn is 0 or 90 or 180 or 270;
}

/// <summary>A font that a document names and does not bring along, and the one in its place.</summary>
public sealed record StandIn(string Font, string For)
{
    /// <summary>So many are named.</summary>
    public const int Most = 5;
}

/// <summary>What is printed on a sheet's pages.</summary>
public enum Ruling { Plain, Ruled, Squared }

/// <summary>The pages of an exhibit, and how they stand.</summary>
/// <param name="File">Under which the server keeps the file; null for a sheet.</param>
/// <param name="Secret">
/// From which the key of each page is made. Pages are sent sealed, so that one can be fetched ahead and is not seen before it is turned
/// to. Empty for a sheet.
/// </param>
/// <param name="Count">0 while they are being made.</param>
/// <param name="At">The page that all see, 1 or more.</param>
/// <param name="Opens">Opens the page that all see; empty for a sheet.</param>
/// <param name="Holder">To whom the paging was handed; null while it is with whoever brought it.</param>
/// <param name="FreeLook">Each may page alone.</param>
public sealed record Pages(
    string? File, string Secret, int Count, int At, string Opens, PageView View, SeatId? Holder = null, bool FreeLook = false,
    PageFlaw? Flaw = null, Ruling Ruling = Ruling.Plain, ImmutableArray<StandIn>? StandIns = null)
{
    /// <summary>Most pages of a document, and of a sheet.</summary>
    public const int Most = 2_000, MostOfSheet = 50;

    /// <summary>Bytes of a secret.</summary>
    public const int SecretSize = 32;

    internal static Pages OfFile(string file, string secret) =>
        new Pages(file, secret, 0, 1, "", PageView.Whole).TurnedTo(1);

    internal static Pages OfSheet(Ruling ruling) => new(null, "", 1, 1, "", PageView.Whole, Ruling: ruling);

    [JsonIgnore]
    public bool AreThere => Count > 0;

    internal Pages TurnedTo(int page) =>
        this with { At = page, Opens = KeyOf(Secret, page), View = PageView.Whole with { Turn = View.Turn } };

    /// <summary>The key of 128 bits that opens a page: the beginning of HMAC-SHA256 (RFC 2104) of its number.</summary>
    /// <param name="secret">In base64url; empty for none.</param>
    public static string KeyOf(string secret, int page)
    {
        if (secret.Length == 0) return "";
        Span<byte> number = stackalloc byte[4], key = stackalloc byte[32];
        BinaryPrimitives.WriteInt32BigEndian(number, page);
        HMACSHA256.HashData(Base64Url.DecodeFromChars(secret), number, key);
        return Base64Url.EncodeToString(key[..16]);
    }
}

/// <summary>Who turns the pages of what.</summary>
internal static class Paging
{
    /// <summary>The one person who turns its pages now; null when nobody of them is here, and so the bench does.</summary>
    public static SeatId? HolderOf(this Sitting sitting, Exhibit exhibit) =>
        exhibit.Pages?.Holder is { } holder && sitting.IsHere(holder) ? holder : sitting.IsHere(exhibit.By) ? exhibit.By : null;

    /// <summary>Where nobody has the paging the bench has it; among the few in a room, all who may show something there.</summary>
    public static bool Turns(this Sitting sitting, Actor by, Exhibit exhibit) => sitting.HolderOf(exhibit) is { } holder
        ? by.Seat == holder
        : sitting.Forbids(by, Capability.KeepExhibits) is null
            || (sitting.Here is not null && sitting.Forbids(by, Capability.Exhibit) is null);

    /// <summary>What has pages and may be known; the first one shown when none is named.</summary>
    public static Exhibit? WithPages(this Sitting sitting, Actor by, int? number) =>
        (number is { } wanted
            ? sitting.Shelf.Find(wanted)
            : sitting.Shelf.Shown.Select(sitting.Shelf.Find).FirstOrDefault(exhibit => exhibit?.Pages is not null))
        is { Pages: not null } found && sitting.KnowsOf(by, found) ? found : null;
}
