using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Chat;

/// <summary>
/// The messages of a sitting, as far as the state holds them: the newest, and older ones on which somebody acted. All others are read
/// from the entries when somebody asks for them.
/// </summary>
public sealed record ChatLog
{
    /// <summary>How many of the newest are held.</summary>
    public const int Depth = 500;

    /// <summary>How many older ones are held on which somebody acted.</summary>
    public const int MostOlder = 100;

    public static ChatLog Empty { get; } = new();

    /// <summary>How many were ever written, deleted ones included; a message's number is its place from 1.</summary>
    public int Count { get; init; }

    /// <summary>The last ones, oldest first.</summary>
    public ImmutableList<ChatMessage> Newest { get; init; } = [];

    /// <summary>In the order in which somebody acted on them.</summary>
    public ImmutableList<ChatMessage> Older { get; init; } = [];

    /// <summary>An older one that was looked up for the wish at hand. It belongs to no state.</summary>
    [JsonIgnore]
    public ChatMessage? LookedUp { get; init; }

    /// <summary>The message of that number as it is now; null when there is none, or it is not held.</summary>
    public ChatMessage? Find(int number) =>
        number > Count - Newest.Count && number <= Count ? Newest[number - (Count - Newest.Count) - 1]
        : Older.Find(message => message.Number == number) ?? (LookedUp?.Number == number ? LookedUp : null);

    /// <summary>There is such a message, and it has to be looked up.</summary>
    public bool MustLookUp(int number) => number >= 1 && number <= Count && Find(number) is null;

    /// <summary>The message that was looked up, when it is this one: a fact about it carries it along.</summary>
    internal ChatMessage? Carried(int number) => LookedUp?.Number == number ? LookedUp : null;

    /// <param name="kept">The one that is put up, which is held as long as it is.</param>
    internal ChatLog Add(ChatMessage message, int? kept)
    {
        var log = this with { Count = Count + 1, Newest = Newest.Add(message), LookedUp = null };
        if (log.Newest.Count <= Depth) return log;
        var left = log.Newest[0];
        log = log with { Newest = log.Newest.RemoveAt(0) };
        return left.Number == kept ? log.Hold(left, kept) : log;
    }

    internal ChatLog Change(int number, ChatMessage? carried, int? kept, Func<ChatMessage, ChatMessage> change)
    {
        var holds = carried is null || Older.Exists(message => message.Number == carried.Number) ? this : Hold(carried, kept);
        var log = holds with { LookedUp = null };
        var at = number - (Count - Newest.Count) - 1;
        if (at >= 0 && at < Newest.Count) return log with { Newest = Newest.SetItem(at, change(Newest[at])) };
        var older = log.Older.FindIndex(message => message.Number == number);
        return older < 0 ? log : log with { Older = log.Older.RemoveAt(older).Add(change(log.Older[older])) };
    }

    private ChatLog Hold(ChatMessage message, int? kept)
    {
        var older = Older.Add(message);
        if (older.Count > MostOlder) older = older.RemoveAt(older[0].Number == kept ? 1 : 0);
        return this with { Older = older };
    }
}
