using System.Collections.Immutable;
using HoldCourt.Server.Media;
using HoldCourt.Server.Security;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Server.Ledger;

/// <summary>What is asked of the ledger of a sitting, and of the people in it.</summary>
internal interface ISittingLedger : IGrainExtension
{
    /// <summary>Entries of the ledger, for the bench; empty for others.</summary>
    Task<LedgerPage> Read(SeatId by, LedgerWish wish);

    /// <summary>Whether a person is on the bench, and so may read the ledger.</summary>
    Task<bool> IsReadBy(PersonKey person);

    /// <summary>Everything told in the ledger, oldest first; null for whoever is not on the bench.</summary>
    Task<LedgerExport?> Export(PersonKey person);

    /// <summary>People who have gone, the latest first, beyond those whom the view holds; empty for whoever is not on the bench.</summary>
    /// <param name="before">Only those who went before this one.</param>
    Task<GonePage> Gone(SeatId by, SeatId before);

    /// <summary>One person's connection and history, for the bench.</summary>
    Task<PersonRow?> Person(SeatId by, SeatId of);
}

/// <param name="Before">Only entries before this sequence.</param>
/// <param name="Topics">Empty for all.</param>
/// <param name="Person">Only what this person did, or what was done to them.</param>
/// <param name="ByBench">Only what the bench did.</param>
public sealed record LedgerWish(long? Before, ImmutableArray<Topic> Topics, SeatId? Person, bool ByBench, Instant? From, Instant? To);

/// <param name="Rows">Oldest first.</param>
/// <param name="More">There are older ones that fit.</param>
public sealed record LedgerPage(ImmutableArray<LedgerRow> Rows, bool More);

public sealed record LedgerExport(string Title, ImmutableArray<LedgerRow> Rows);

/// <param name="More">There are others who went before.</param>
public sealed record GonePage(ImmutableArray<SeatRow> Rows, bool More);

/// <param name="Device">What the browser calls itself, in few words; null for those without a browser.</param>
/// <param name="Since">Since when the present connection is there.</param>
/// <param name="History">What this person did and what was done to them, newest first.</param>
public sealed record PersonRow(SeatId Seat, string? Device, Instant? Since, bool Slow, ImmutableArray<LedgerRow> History);

/// <summary>Reads the ledger for the bench.</summary>
internal sealed class LedgerWork(EntryReader reader, HeavyWork heavy, Trouble trouble) : TopicWork, ISittingLedger
{
    private const int PageOfLedger = 200, PageOfHistory = 40, PageOfGone = 100;

    public override string Name => "ledger";

    private Sitting Shown => Inside.Shown;

    public async Task<LedgerPage> Read(SeatId by, LedgerWish wish)
    {
        if (!Shown.KnowsBooks(by)) return new LedgerPage([], false);
        var found = await reader.Find(Inside.Id,
            new EntryWish(Math.Min(wish.Before ?? long.MaxValue, Shown.Sequence + 1), wish.Topics, wish.Person, wish.ByBench, wish.From,
            wish.To), PageOfLedger + 1);
        return new LedgerPage([.. found.Take(PageOfLedger).Reverse().Select(entry => Sentences.Of(Shown, entry))],
            found.Count > PageOfLedger);
    }

    public Task<bool> IsReadBy(PersonKey person) => Task.FromResult(Shown.KnowsBooks(person));

    public async Task<LedgerExport?> Export(PersonKey person)
    {
        var sitting = Shown;
        if (!sitting.KnowsBooks(person)) return null;
        return await heavy.Run(Lane.Slow, person.Value, async () => new LedgerExport(sitting.Title,
            Sentences.Of(sitting, (await reader.Find(Inside.Id, new EntryWish(sitting.Sequence + 1, []), int.MaxValue)).Reverse())),
            isStranger: !SeatCookies.IsAccount(person));
    }

    public Task<GonePage> Gone(SeatId by, SeatId before)
    {
        if (!Shown.KnowsBooks(by) || !Shown.Seats.TryGet(before, out var from)) return Task.FromResult(new GonePage([], false));
        var viewpoint = Knowledge.ViewpointOf(Shown, Shown.Seats[by]);
        var found = Projection.Gone(Shown, from).Take(PageOfGone + 1).ToList();
        return Task.FromResult(new GonePage(
            [.. found.Take(PageOfGone).Select(seat => SeatRow.Of(Shown, seat, viewpoint)).OfType<SeatRow>()], found.Count > PageOfGone));
    }

    public async Task<PersonRow?> Person(SeatId by, SeatId of)
    {
        if (!Shown.KnowsBooks(by) || !Shown.Seats.TryGet(of, out _)) return null;
        var (device, since) = Inside.DeviceOf(of);
        var history = await reader.Find(Inside.Id, new EntryWish(Shown.Sequence + 1, [], of), PageOfHistory);
        return new PersonRow(
            of, device, Inside.Lines.ContainsKey(of) ? since : null, trouble.Now.Slow.Contains(of),
            [.. history.Select(entry => Sentences.Of(Shown, entry))]);
    }
}
