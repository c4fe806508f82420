using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Ledger;

/// <summary>
/// What is kept beside an entry so that it is found without being read. It follows from the entry and the state after it, and is in no
/// digest.
/// </summary>
/// <param name="By">The acting seat's number; 0 for the house.</param>
/// <param name="Topic">Null when the ledger has no sentence about it.</param>
/// <param name="About">Numbers of the seats it is about, each between commas; <see cref="Many"/> when they are many.</param>
/// <param name="IsOwn">Somebody's act on oneself alone.</param>
/// <param name="Message">The message that it wrote or changed.</param>
public sealed record Marks(Instant At, int By, Topic? Topic, string About, bool IsOwn, int? Message)
{
    /// <summary>Stands for more seats than are worth noting: such an entry is to be read.</summary>
    public const string Many = "*";

    private const int MostNoted = 32;

    public static Marks Of(Entry entry, Sitting after)
    {
        var (fact, about) = (entry.Fact, entry.Fact.About);
        return new Marks(
            entry.At, entry.By.Seat?.Number ?? 0, fact.StandsInLedger ? fact.Topic : null, TextOf(about), about.IsOnly(entry.By.Seat),
            fact.ChangedMessage ?? (fact.Bare() is Written ? after.Chat.Count : null));
    }

    /// <summary>How a seat stands in <see cref="About"/>.</summary>
    public static string Noted(SeatId seat) => string.Create(CultureInfo.InvariantCulture, $",{seat.Number},");

    private static string TextOf(ImmutableArray<SeatId> seats) =>
        seats is [] ? "" : seats.Length > MostNoted ? Many
            : $",{string.Join(',', seats.Select(seat => seat.Number.ToString(CultureInfo.InvariantCulture)))},";
}
