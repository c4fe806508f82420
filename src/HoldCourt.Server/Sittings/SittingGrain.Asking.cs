using System.Collections.Immutable;
using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Server.Sittings;

/// <summary>What is asked of a sitting without changing it.</summary>
internal sealed partial class SittingGrain
{
    private const int PageOfLedger = 200, PageOfChat = 100, BlockOfChat = 500, MostBlocksOfChat = 2, PageOfHistory = 40, PageOfGone = 100;

    public async Task<ForesightRow> Foresee(SeatId by, SeatCommand command) =>
        Foresight.Of(await Ready(command), command, Actor.Of(by), Now);

    public async Task<ReadingRow> Read(SeatId by, string line, ImmutableArray<NamedPreset> presets, string language)
    {
        if (!KnowsBooks(by)) return new ReadingRow(null, Misreading.NotUnderstood, null, [], null);
        var reading = Reader.Read(new Scope(_shown.AtPlaceOf(_shown.Seats[by]), by, Now, presets, language), line);
        return new ReadingRow(
            reading.Command, reading.Misreading, reading.About, reading.Completions, reading.Command is { } command
                ? await Foresee(by, command)
                : null);
    }

    public async Task<LedgerPage> Ledger(SeatId by, LedgerWish wish)
    {
        if (!KnowsBooks(by)) return new LedgerPage([], false);
        var found = await reader.Find(Id,
            new EntryWish(Math.Min(wish.Before ?? long.MaxValue, _shown.Sequence + 1), wish.Topics, wish.Person, wish.ByBench, wish.From,
            wish.To), PageOfLedger + 1);
        return new LedgerPage([.. found.Take(PageOfLedger).Reverse().Select(entry => Sentences.Of(_shown, entry))],
            found.Count > PageOfLedger);
    }

    public async Task<ChatPage> Chat(SeatId by, ChatWish wish) =>
        _shown.Seats.TryGet(by, out var seat) ? await ChatOf(_shown, seat, wish, MostBlocksOfChat) : new ChatPage([], null);

    /// <summary>
    /// From what the state holds, and beyond that from the store, block by block; so many at once, since somebody who may read little of
    /// it, or looks for what nobody wrote, would have all of it looked through each time.
    /// </summary>
    private async Task<ChatPage> ChatOf(Sitting sitting, Seat seat, ChatWish wish, int blocks)
    {
        var rows = new List<MessageRow>();
        var words = wish.Find?.Trim() ?? "";
        var first = sitting.Chat.Count - sitting.Chat.Newest.Count + 1;
        var next = Math.Min((long)sitting.Chat.Count, (wish.Before ?? int.MaxValue) - 1L);
        while (next >= 1 && rows.Count <= PageOfChat)
        {
            if (next < first && blocks-- == 0) break;
            var from = next >= first ? first : Math.Max(1, (int)next - BlockOfChat + 1);
            var block = next >= first
                ? sitting.Chat.Newest.Take((int)next - first + 1)
                : await reader.Messages(Id, from, (int)next, sitting.Sequence);
            foreach (var message in block.Reverse())
                if (sitting.MayKnow(seat, new Matter.Words(message)) && MessageRow.Of(sitting, message, seat) is var row && Fits(row))
                    rows.Add(row);
            next = from - 1;
        }
        return rows.Count > PageOfChat
            ? new ChatPage([.. rows.Take(PageOfChat).Reverse()], rows[PageOfChat - 1].Number)
            : new ChatPage([.. Enumerable.Reverse(rows)], next >= 1 ? (int)next + 1 : null);

        bool Fits(MessageRow row) => words.Length == 0
            || row.Text.Contains(words, StringComparison.CurrentCultureIgnoreCase)
            || row.Name?.Contains(words, StringComparison.CurrentCultureIgnoreCase) == true;
    }

    public async Task<ChatExport?> ExportChat(PersonKey person)
    {
        var sitting = _shown;
        if (sitting.Find(person) is not { } seat) return null;
        // Beside everything else: the sitting goes on meanwhile.
        return await heavy.Run(Lane.Slow, person.Value, async () => new ChatExport(
            sitting.Title, sitting.OpenedAt,
            [.. (await reader.Messages(Id, 1, sitting.Chat.Count, sitting.Sequence))
                .Where(message => message.Deleted == Deletion.None && sitting.MayKnow(seat, new Matter.Words(message)))
                .Select(message => MessageRow.Of(sitting, message, seat))]), isStranger: !SeatCookies.IsAccount(person));
    }

    public Task<bool> ReadsLedger(PersonKey person) => Task.FromResult(_shown.Find(person) is { } seat && KnowsBooks(seat.Id));

    public async Task<LedgerExport?> ExportLedger(PersonKey person)
    {
        var sitting = _shown;
        if (!await ReadsLedger(person)) return null;
        return await heavy.Run(Lane.Slow, person.Value, async () => new LedgerExport(sitting.Title,
            Sentences.Of(sitting, (await reader.Find(Id, new EntryWish(sitting.Sequence + 1, []), int.MaxValue)).Reverse())),
            isStranger: !SeatCookies.IsAccount(person));
    }

    /// <summary>An older message that a command is about; null when there is none to look up.</summary>
    private async Task<ChatMessage?> LookUp(Command command) =>
        _sitting.ToLookUp(command) is { } number && await reader.Messages(Id, number, number, long.MaxValue) is [var message]
            ? message
            : null;

    /// <summary>The state as it was shown, for asking about a command.</summary>
    private async Task<Sitting> Ready(Command command) => await LookUp(command) is { } message ? _shown.LookingAt(message) : _shown;

    public Task<GonePage> Gone(SeatId by, SeatId before)
    {
        if (!KnowsBooks(by) || !_shown.Seats.TryGet(before, out var from)) return Task.FromResult(new GonePage([], false));
        var viewpoint = Knowledge.ViewpointOf(_shown, _shown.Seats[by]);
        var found = Projection.Gone(_shown, from).Take(PageOfGone + 1).ToList();
        return Task.FromResult(new GonePage(
            [.. found.Take(PageOfGone).Select(seat => SeatRow.Of(_shown, seat, viewpoint)).OfType<SeatRow>()], found.Count > PageOfGone));
    }

    public async Task<PersonRow?> Person(SeatId by, SeatId of)
    {
        if (!KnowsBooks(by) || !_shown.Seats.TryGet(of, out _)) return null;
        var (device, since) = _devices.GetValueOrDefault(of);
        var history = await reader.Find(Id, new EntryWish(_shown.Sequence + 1, [], of), PageOfHistory);
        return new PersonRow(
            of, device, _connections.ContainsKey(of) ? since : null, _trouble.Slow.Contains(of),
            [.. history.Select(entry => Sentences.Of(_shown, entry))]);
    }

    private bool KnowsBooks(SeatId id) => _shown.Seats.TryGet(id, out var seat) && _shown.MayKnow(seat, Matter.Books);
}
