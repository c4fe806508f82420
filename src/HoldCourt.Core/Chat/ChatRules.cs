namespace HoldCourt.Core.Chat;

public static class ChatRules
{
    /// <summary>Longest message, in UTF-16 units after its ends are trimmed.</summary>
    public const int LongestMessage = 4_000;

    /// <summary>Most messages of one seat in ten seconds.</summary>
    public const int MostInTenSeconds = 10;

    /// <summary>Most changes of one message.</summary>
    public const int MostEdits = 20;

    /// <summary>Most messages of a sitting.</summary>
    public const int MostMessages = 50_000;

    private static readonly TimeSpan _tenSeconds = TimeSpan.FromSeconds(10);

    internal static Decision Decide(Sitting sitting, Write write, Actor by, Instant now)
    {
        if (by.Seat is not { } from || write.To is null || !Enum.IsDefined(write.To.Reach) || (write.To.Reach == Reach.One) != write.To.Seat.HasValue) return Decision.Refused(Reason.NotUnderstood);
        var capability = write.To.Reach switch { Reach.Everyone => Capability.WriteToAll, Reach.Bench => Capability.WriteToBench, _ => Capability.WriteToOne };
        if (sitting.Forbids(by, capability) is { } refusal) return refusal;
        if (write.To.Seat is { } to && (to == from || !sitting.Seats.TryGet(to, out var reader) || !reader.IsSeated || !sitting.MayKnow(sitting.Seats[from], new Matter.Person(reader))))
            return Decision.Refused(Reason.NobodySeated);
        if (RefusesText(write.Text) is { } bad) return bad;
        if (sitting.Chat.Count >= MostMessages) return Decision.Refused(Reason.TooMany);
        // What is between two people is no question to the sitting: nobody could mark it as answered.
        return IsFlood(sitting, from, now) ? Decision.Refused(Reason.TooFast, Remedy.TryAgain) : new Written(from, write.To, Bounds.Clean(write.Text), write.Question && write.To.Reach != Reach.One);
    }

    internal static Decision Decide(Sitting sitting, EditMessage edit, Actor by)
    {
        if (Find(sitting, edit.Message) is not { Deleted: Deletion.None } message || by.Seat != message.From) return Decision.Refused(Reason.NotYourMessage);
        if (!sitting.Seats[message.From].IsSeated) return Decision.Refused(Reason.NotInside);
        if (sitting.Forbids(by, CapabilityFor(message)) is { } refusal) return refusal;
        if (RefusesText(edit.Text) is { } bad) return bad;
        if (message.Edits >= MostEdits) return Decision.Refused(Reason.TooManyEdits);
        var text = Bounds.Clean(edit.Text);
        return text == message.Text ? Decision.Refused(Reason.NoChange) : new MessageEdited(message.Number, message.Text, text);
    }

    internal static Decision Decide(Sitting sitting, DeleteMessage delete, Actor by)
    {
        if (by.Seat is not { } id || Find(sitting, delete.Message) is not { Deleted: Deletion.None } message || !sitting.MayKnow(sitting.Seats[id], new Matter.Words(message))) return Decision.Refused(Reason.NotYourMessage);
        if (!sitting.Seats[id].IsSeated) return Decision.Refused(Reason.NotInside);
        if (message.From == id) return new MessageDeleted(message.Number, id, Deletion.BySender, message.Text);
        return sitting.Forbids(by, Capability.KeepChat) ?? (Decision)new MessageDeleted(message.Number, message.From, Deletion.ByBench, message.Text);
    }

    internal static Decision Decide(Sitting sitting, MarkQuestion mark, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepChat) is { } refusal) return refusal;
        if (!Enum.IsDefined(mark.To)) return Decision.Refused(Reason.NotUnderstood);
        if (Public(sitting, mark.Message) is not { } message) return Decision.Refused(Reason.NoSuchMessage);
        return message.Question == mark.To ? Decision.Refused(Reason.NoChange) : new QuestionMarked(message.Number, message.From, message.Question, mark.To);
    }

    internal static Decision Decide(Sitting sitting, PutUp put, Actor by)
    {
        if (sitting.Forbids(by, Capability.KeepChat) is { } refusal) return refusal;
        if (put.Message is { } number && Public(sitting, number) is null) return Decision.Refused(Reason.NoSuchMessage);
        return put.Message == sitting.PutUp ? Decision.Refused(Reason.NoChange) : new MessagePutUp(sitting.PutUp, put.Message);
    }

    internal static Fact? Opposite(Sitting sitting, MessageDeleted deleted) =>
        Find(sitting, deleted.Message)?.Deleted == deleted.By ? new MessageRestored(deleted.Message, deleted.Of, deleted.Text) : null;

    internal static Fact? Opposite(Sitting sitting, QuestionMarked marked) =>
        Public(sitting, marked.Message)?.Question == marked.To ? new QuestionMarked(marked.Message, marked.Of, marked.To, marked.From) : null;

    internal static Fact? Opposite(Sitting sitting, MessagePutUp put) =>
        sitting.PutUp == put.To ? new MessagePutUp(put.To, put.From is { } before && Public(sitting, before) is null ? null : put.From) : null;

    internal static Sitting Apply(Sitting sitting, Fact fact, Instant at) => fact switch
    {
        Written written => sitting with
        {
            Chat = sitting.Chat.Add(new ChatMessage(sitting.Chat.Count + 1, at, written.From, written.To, written.Text, written.Question ? Question.Asked : Question.None))
        },
        MessageEdited edited => Change(sitting, edited.Message, message => message with { Text = edited.To, Edited = true, Edits = message.Edits + 1 }),
        MessageDeleted deleted => Change(sitting, deleted.Message, message => message with { Text = "", Deleted = deleted.By }) with { PutUp = sitting.PutUp == deleted.Message ? null : sitting.PutUp },
        MessageRestored restored => Change(sitting, restored.Message, message => message with { Text = restored.Text, Deleted = Deletion.None }),
        QuestionMarked marked => Change(sitting, marked.Message, message => message with { Question = marked.To }),
        MessagePutUp put => sitting with { PutUp = put.To },
        _ => sitting
    };

    /// <summary>The message that a fact changed; null when it changed none, or made a new one.</summary>
    public static int? ChangedBy(Fact fact) => fact switch
    {
        MessageEdited edited => edited.Message,
        MessageDeleted deleted => deleted.Message,
        MessageRestored restored => restored.Message,
        QuestionMarked marked => marked.Message,
        TakenBack back => ChangedBy(back.Opposite),
        _ => null
    };

    public static ChatMessage? Find(Sitting sitting, int number) => number >= 1 && number <= sitting.Chat.Count ? sitting.Chat[number - 1] : null;

    /// <summary>What the bench may show or mark: not between two people alone, and not deleted.</summary>
    private static ChatMessage? Public(Sitting sitting, int number) =>
        Find(sitting, number) is { Deleted: Deletion.None, To.Reach: not Reach.One } message ? message : null;

    private static Capability CapabilityFor(ChatMessage message) => message.To.Reach switch
    {
        Reach.Everyone => Capability.WriteToAll,
        Reach.Bench => Capability.WriteToBench,
        _ => Capability.WriteToOne
    };

    private static Refusal? RefusesText(string? text) =>
        Bounds.Clean(text) is not { Length: > 0 } clean ? new Refusal(Reason.MessageEmpty)
        : clean.Length > LongestMessage ? new Refusal(Reason.MessageTooLong, Remedy.Shorten)
        : null;

    private static bool IsFlood(Sitting sitting, SeatId from, Instant now)
    {
        var count = 0;
        for (var at = sitting.Chat.Count - 1; at >= 0 && now - sitting.Chat[at].At < _tenSeconds; at--)
            if (sitting.Chat[at].From == from && ++count >= MostInTenSeconds) return true;
        return false;
    }

    private static Sitting Change(Sitting sitting, int number, Func<ChatMessage, ChatMessage> change) =>
        sitting with { Chat = sitting.Chat.SetItem(number - 1, change(sitting.Chat[number - 1])) };
}
