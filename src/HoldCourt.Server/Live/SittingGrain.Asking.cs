using System.Collections.Immutable;

namespace HoldCourt.Server.Live;

/// <summary>What is asked of a sitting without changing it.</summary>
internal sealed partial class SittingGrain
{
    private const int PageOfLedger = 200, PageOfChat = 100, PageOfHistory = 40, PageOfGone = 100;

    public Task<ForesightRow> Foresee(SeatId by, SeatCommand command) => Task.FromResult(Foresight.Of(_told, command, Actor.Of(by), Now));

    public Task<ReadingRow> Read(SeatId by, string line, ImmutableArray<NamedPreset> presets, string language)
    {
        if (!KnowsBooks(by)) return Task.FromResult(new ReadingRow(null, Trouble.NotUnderstood, null, [], null));
        var reading = Reader.Read(new Scope(_told, by, Now, presets, language), line);
        return Task.FromResult(new ReadingRow(
            reading.Command, reading.Trouble, reading.About, reading.Completions, reading.Command is { } command ? Foresight.Of(_told, command, Actor.Of(by), Now) : null));
    }

    public Task<LedgerPage> Ledger(SeatId by, LedgerWish wish)
    {
        if (!KnowsBooks(by)) return Task.FromResult(new LedgerPage([], false));
        var found = Newest(entry => (wish.Before is not { } before || entry.Sequence < before)
            && (wish.From is not { } from || entry.At >= from) && (wish.To is not { } to || entry.At <= to)
            && (wish.Person is not { } person || IsAbout(entry, person))
            && (!wish.ByBench || (entry.By.Seat is { } actor && !IsOnlyOwn(entry, actor)))
            && (wish.Topics is [] || wish.Topics.Contains(Sentences.TopicOf(entry.Fact)))).Take(PageOfLedger + 1).ToList();
        return Task.FromResult(new LedgerPage([.. found.Take(PageOfLedger).Reverse().Select(entry => Sentences.Of(_told, entry))], found.Count > PageOfLedger));
    }

    public Task<ChatPage> Chat(SeatId by, ChatWish wish) => Task.FromResult(_told.Seats.TryGet(by, out var seat) ? ChatOf(seat, wish) : new ChatPage([], false));

    private ChatPage ChatOf(Seat seat, ChatWish wish)
    {
        var rows = new List<MessageRow>();
        var words = wish.Find?.Trim() ?? "";
        for (var at = Math.Min(_told.Chat.Count, (wish.Before ?? int.MaxValue) - 1) - 1; at >= 0 && rows.Count <= PageOfChat; at--)
        {
            var message = _told.Chat[at];
            if (_told.MayKnow(seat, new Matter.Words(message)) && MessageRow.Of(_told, message, seat) is var row && Fits(row)) rows.Add(row);
        }
        return new ChatPage([.. rows.Take(PageOfChat).Reverse()], rows.Count > PageOfChat);

        bool Fits(MessageRow row) => words.Length == 0
            || row.Text.Contains(words, StringComparison.CurrentCultureIgnoreCase) || row.Name?.Contains(words, StringComparison.CurrentCultureIgnoreCase) == true;
    }

    public Task<ChatExport?> ExportChat(PersonKey person) => Task.FromResult(_told.Find(person) is { } seat
        ? new ChatExport(_told.Title, _told.OpenedAt, [.. _told.Chat.Where(message => message.Deleted == Deletion.None && _told.MayKnow(seat, new Matter.Words(message))).Select(message => MessageRow.Of(_told, message, seat))])
        : null);

    public Task<LedgerExport?> ExportLedger(PersonKey person) => Task.FromResult(_told.Find(person) is { } seat && KnowsBooks(seat.Id)
        ? new LedgerExport(_told.Title, Sentences.Of(_told, Known()))
        : null);

    public Task<GonePage> Gone(SeatId by, SeatId before)
    {
        if (!KnowsBooks(by) || !_told.Seats.TryGet(before, out var from)) return Task.FromResult(new GonePage([], false));
        var viewpoint = Knowledge.ViewpointOf(_told, _told.Seats[by]);
        var found = Projection.Gone(_told, from).Take(PageOfGone + 1).ToList();
        return Task.FromResult(new GonePage(
            [.. found.Take(PageOfGone).Select(seat => SeatRow.Of(_told, seat, viewpoint)).OfType<SeatRow>()], found.Count > PageOfGone));
    }

    public Task<PersonRow?> Person(SeatId by, SeatId of)
    {
        if (!KnowsBooks(by) || !_told.Seats.TryGet(of, out _)) return Task.FromResult<PersonRow?>(null);
        var (device, since) = _devices.GetValueOrDefault(of);
        return Task.FromResult<PersonRow?>(new PersonRow(
            of, device, _connections.ContainsKey(of) ? since : null, _trouble.Slow.Contains(of),
            [.. Newest(entry => IsAbout(entry, of)).Take(PageOfHistory).Select(entry => Sentences.Of(_told, entry))]));
    }

    private bool KnowsBooks(SeatId id) => _told.Seats.TryGet(id, out var seat) && _told.MayKnow(seat, Matter.Books);

    /// <summary>The entries that are told and fit, newest first.</summary>
    private IEnumerable<Entry> Newest(Func<Entry, bool> fits)
    {
        for (var at = _entries.Count - 1; at >= 0; at--)
            if (_entries[at] is var entry && entry.Sequence <= _told.Sequence && Sentences.IsTold(entry.Fact) && fits(entry)) yield return entry;
    }

    private IEnumerable<Entry> Known() => _entries.Where(entry => entry.Sequence <= _told.Sequence);

    private static bool IsAbout(Entry entry, SeatId person) => entry.By.Seat == person || Sentences.SeatsOf(entry.Fact).Contains(person);

    private static bool IsOnlyOwn(Entry entry, SeatId actor) => Sentences.SeatsOf(entry.Fact) is [var only] && only == actor;
}
