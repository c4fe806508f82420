using System.Collections.Immutable;
using HoldCourt.Server.Live;
using HoldCourt.Server.Security;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Server.Chat;

/// <summary>What a browser is told of the chat.</summary>
public interface IChatClient
{
    /// <summary>New messages, and changed ones.</summary>
    Task Messages(IReadOnlyList<MessageRow> rows);
}

/// <summary>What is asked of the chat of a sitting.</summary>
internal interface ISittingChat : IGrainExtension
{
    /// <summary>Messages that the seat may read.</summary>
    Task<ChatPage> Read(SeatId by, ChatWish wish);

    /// <summary>All messages that a person may read, oldest first; null when the person has no seat here.</summary>
    Task<ChatExport?> Export(PersonKey person);
}

/// <param name="Before">Only messages before this number.</param>
/// <param name="Find">Only messages in which these words stand, or whose sender has them in the name.</param>
public sealed record ChatWish(int? Before, string? Find)
{
    /// <summary>Longest text looked for, in UTF-16 units.</summary>
    public const int LongestFind = 200;
}

/// <param name="Rows">Oldest first; what fits among those that were looked through, which may be nothing.</param>
/// <param name="Older">The number before which the next page is asked for; null when there is nothing older.</param>
public sealed record ChatPage(ImmutableArray<MessageRow> Rows, int? Older);

public sealed record ChatExport(string Title, Instant OpenedAt, ImmutableArray<MessageRow> Rows);

/// <summary>Messages: those that the state does not hold any more are looked up in the entries.</summary>
internal sealed class ChatWork : TopicWork, ISittingChat
{
    private const int PageOfChat = 100, BlockOfChat = 500, MostBlocksOfChat = 2;

    private readonly EntryReader _reader;
    private readonly Broadcast _broadcast;
    private readonly HeavyWork _heavy;

    public ChatWork(EntryReader reader, Broadcast broadcast, HeavyWork heavy)
    {
        (_reader, _broadcast, _heavy) = (reader, broadcast, heavy);
        Recall<IOnMessage>(LookUp);
    }

    public override string Name => "chat";

    /// <summary>The older message that a wish is about.</summary>
    private async Task<Func<Sitting, Sitting>?> LookUp(IOnMessage wish) =>
        Inside.Latest.ToLookUp(wish) is { } number
        && await _reader.Messages(Inside.Id, number, number, long.MaxValue) is [var message]
            ? sitting => sitting.LookingAt(message)
            : null;

    /// <summary>Without a look into the store, for which everybody would wait.</summary>
    public override Joined Welcome(Seat seat, Joined joined) =>
        joined with { Chat = ChatOf(Inside.Shown, seat, new ChatWish(null, null), blocks: 0).Result };

    public override Task Tell(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        var messages = Enumerable.Range(before.Chat.Count + 1, after.Chat.Count - before.Chat.Count)
            .Union(news.Select(entry => Sentences.MessageOf(entry.Fact)).OfType<int>()).Order().Select(number => after.Message(number))
            .OfType<ChatMessage>().ToList();
        return messages is []
            ? Task.CompletedTask
            : _broadcast.TellReaders(Inside.Id, after, Inside.Lines, (line, rows) => line.Messages(rows), new Kept<ChatMessage, MessageRow>(
                messages, message => new Matter.Words(message), (message, from) => MessageRow.Of(after, message, from),
                (message, seat) => MessageRow.Of(after, message, seat)));
    }

    public async Task<ChatPage> Read(SeatId by, ChatWish wish) =>
        Inside.Shown.Seats.TryGet(by, out var seat) ? await ChatOf(Inside.Shown, seat, wish, MostBlocksOfChat) : new ChatPage([], null);

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
                : await _reader.Messages(Inside.Id, from, (int)next, sitting.Sequence);
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

    public async Task<ChatExport?> Export(PersonKey person)
    {
        var sitting = Inside.Shown;
        if (sitting.Find(person) is not { } seat) return null;
        // Beside everything else: the sitting goes on meanwhile.
        return await _heavy.Run(Lane.Slow, person.Value, async () => new ChatExport(
            sitting.Title, sitting.OpenedAt,
            [.. (await _reader.Messages(Inside.Id, 1, sitting.Chat.Count, sitting.Sequence))
                .Where(message => message.Deleted == Deletion.None && sitting.MayKnow(seat, new Matter.Words(message)))
                .Select(message => MessageRow.Of(sitting, message, seat))]), isStranger: !SeatCookies.IsAccount(person));
    }
}
