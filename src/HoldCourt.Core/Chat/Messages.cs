namespace HoldCourt.Core.Chat;

/// <summary>A command about a message, which may have to be looked up first.</summary>
public interface IOnMessage
{
    /// <summary>Its number; null when it is about none after all.</summary>
    int? Message { get; }
}

/// <summary>The messages of a sitting by their numbers.</summary>
public static class Messages
{
    public static ChatMessage? Message(this Sitting sitting, int number) => sitting.Chat.Find(number);

    /// <summary>The message that a command is about and that must be looked
    /// up in the entries before it is decided; null when none must.</summary>
    public static int? ToLookUp(this Sitting sitting, IOnMessage command) =>
        command.Message is { } number && sitting.Chat.MustLookUp(number) ? number : null;

    /// <summary>The sitting for deciding one command about an older message.</summary>
    public static Sitting LookingAt(this Sitting sitting, ChatMessage message) =>
        sitting with { Chat = sitting.Chat with { LookedUp = message } };

    /// <summary>What becomes of a message by an entry about it; null before it was written.</summary>
    public static ChatMessage? After(ChatMessage? message, int number, Entry entry) =>
        entry.Fact.Bare() is Written written
            ? written.ToMessage(number, entry.At, (entry.Fact as InRoom)?.Room)
            : message is null ? null : entry.Fact.Changed(message);

    /// <summary>What the bench may show or mark: not between two people alone, and not deleted.</summary>
    internal static ChatMessage? PublicMessage(this Sitting sitting, int number) =>
        sitting.Message(number) is { Deleted: Deletion.None, To.Reach: not Reach.One } message && message.Room == sitting.Here
            ? message
            : null;

    /// <param name="carried">The message, where it is older than those that the state holds.</param>
    internal static Sitting With(this Sitting sitting, int number, ChatMessage? carried, Fact fact) =>
        sitting with { Chat = sitting.Chat.Change(number, carried, sitting.PutUp, fact.Changed) };
}
