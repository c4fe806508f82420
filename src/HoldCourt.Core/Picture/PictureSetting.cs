using System.Collections.Immutable;

namespace HoldCourt.Core.Picture;

/// <summary>
/// How people stand in the picture: all equal, one large, or two large side by side; and what is shown, beside them. In the last one
/// what is shown is as large as it can be, and all people are small.
/// </summary>
public enum Arrangement { Even, Lead, Pair, Exhibit }

/// <summary>What the bench has set for everybody's picture.</summary>
/// <param name="Arrangement">Null leaves it to each reader.</param>
/// <param name="Front">Those who stand first and large for all, at most <see cref="MostInFront"/>.</param>
public sealed record PictureSetting(Arrangement? Arrangement, ImmutableArray<SeatId> Front)
{
    public const int MostInFront = 4;

    public static PictureSetting Free { get; } = new(null, []);

    public bool Is(PictureSetting other) => Arrangement == other.Arrangement && Front.SequenceEqual(other.Front);
}
