namespace HoldCourt.Core.Chat;

/// <summary>The messages of a sitting by their numbers.</summary>
public static class Messages
{
    public static ChatMessage? Message(this Sitting sitting, int number) =>
        number >= 1 && number <= sitting.Chat.Count ? sitting.Chat[number - 1] : null;

    /// <summary>What the bench may show or mark: not between two people alone, and not deleted.</summary>
    internal static ChatMessage? PublicMessage(this Sitting sitting, int number) =>
        sitting.Message(number) is { Deleted: Deletion.None, To.Reach: not Reach.One } message ? message : null;

    internal static Sitting WithMessage(this Sitting sitting, int number, Func<ChatMessage, ChatMessage> change) =>
        sitting with { Chat = sitting.Chat.SetItem(number - 1, change(sitting.Chat[number - 1])) };
}
