using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>Takes from an entry what a sentence about it needs. The words stand
/// in the message catalogue under <see cref="LedgerRow.What"/>.</summary>
public static class Sentences
{
    /// <summary>How many names a row carries; the count tells the rest.</summary>
    private const int MostNames = 3;

    /// <summary>The rows of those entries that are told: what people write stands in the chat, and who was heard is a count.</summary>
    public static ImmutableArray<LedgerRow> Of(Sitting sitting, IEnumerable<Entry> entries) =>
        [.. entries.Where(entry => entry.Fact.StandsInLedger).Select(entry => Of(sitting, entry))];

    public static bool StandsInLedger(Fact fact) => fact.StandsInLedger;

    /// <summary>The seats that a fact is about.</summary>
    public static ImmutableArray<SeatId> SeatsOf(Fact fact) => fact.About;

    /// <summary>The message that a fact changed; null when it changed none, or made a new one.</summary>
    public static int? MessageOf(Fact fact) => fact.ChangedMessage;

    public static LedgerRow Of(Sitting sitting, Entry entry)
    {
        var fact = entry.Fact;
        var seats = fact.About;
        return new LedgerRow(
            Sequence: entry.Sequence,
            At: entry.At,
            What: fact.NameFor(entry.By),
            Count: seats.Length,
            Names: [.. seats.Take(MostNames).Select(seat => NameOf(sitting, seat))],
            Topic: fact.Topic,
            By: entry.By.Seat is { } by ? NameOf(sitting, by) : null,
            Detail: fact.Detail,
            Undone: fact is TakenBack back ? Of(sitting, entry with { Fact = back.Opposite }) : null,
            Room: fact is InRoom { Room: var room } ? RoomNames.Of(sitting, room) : null);
    }

    private static string NameOf(Sitting sitting, SeatId id) => sitting.Seats.TryGet(id, out var seat) ? seat.Name : "";
}
