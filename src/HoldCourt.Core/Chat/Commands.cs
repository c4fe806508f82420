namespace HoldCourt.Core.Chat;

public sealed record Write(Recipient To, string Text, bool Question = false) : SeatCommand
{
    /// <summary>Most messages of one seat in ten seconds.</summary>
    public const int MostInTenSeconds = 10;

    /// <summary>Most messages of a sitting.</summary>
    public const int MostMessages = 50_000;

    private static readonly TimeSpan _tenSeconds = TimeSpan.FromSeconds(10);

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } from || To is not { IsMeaningful: true }) return Decision.Refused(Reason.NotUnderstood);
        if (sitting.Forbids(by, To.ToWrite) is { } refusal) return refusal;
        if (To.Seat is { } to && !Reaches(sitting, from, to)) return Decision.Refused(Reason.NobodySeated);
        if (ChatMessage.RefusesText(Text) is { } bad) return bad;
        if (sitting.Chat.Count >= MostMessages) return Decision.Refused(Reason.TooMany);
        if (IsFlood(sitting, from, now)) return Decision.Refused(Reason.TooFast, Remedy.TryAgain);
        // What is between two people is no question to the sitting: nobody could mark it as answered.
        return new Written(from, To, Bounds.Clean(Text), Question && To.Reach != Reach.One);
    }

    private static bool Reaches(Sitting sitting, SeatId from, SeatId to) =>
        to != from && sitting.Seats.TryGet(to, out var reader) && (sitting.IsHere(reader)
                || (reader.IsSeated && (Powers.SitsOnBench(reader) || Powers.SitsOnBench(sitting.Seats[from]))))
            && sitting.MayKnow(sitting.Seats[from], new Matter.Person(reader));

    private static bool IsFlood(Sitting sitting, SeatId from, Instant now)
    {
        var count = 0;
        var newest = sitting.Chat.Newest;
        for (var at = newest.Count - 1; at >= 0 && now - newest[at].At < _tenSeconds; at--)
            if (newest[at].From == from && ++count >= MostInTenSeconds) return true;
        return false;
    }
}

/// <summary>Changes the words of one's own message.</summary>
public sealed record EditMessage(int Message, string Text) : SeatCommand, IOnMessage
{
    /// <summary>Most changes of one message.</summary>
    public const int MostEdits = 20;

    int? IOnMessage.Message => Message;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Message(Message) is not { Deleted: Deletion.None } message || by.Seat != message.From)
            return Decision.Refused(Reason.NotYourMessage);
        if (!sitting.Seats[message.From].IsSeated) return Decision.Refused(Reason.NotInside);
        if (sitting.Forbids(by, message.To.ToWrite) is { } refusal) return refusal;
        if (ChatMessage.RefusesText(Text) is { } bad) return bad;
        if (message.Edits >= MostEdits) return Decision.Refused(Reason.TooManyEdits);
        var text = Bounds.Clean(Text);
        return text == message.Text
            ? Decision.Refused(Reason.NoChange)
            : new MessageEdited(message.Number, message.Text, text, sitting.Chat.Carried(message.Number));
    }
}

/// <summary>Deletes one's own message; the bench removes anybody's that it sees.</summary>
public sealed record DeleteMessage(int Message) : SeatCommand, IOnMessage
{
    int? IOnMessage.Message => Message;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (by.Seat is not { } id || sitting.Message(Message) is not { Deleted: Deletion.None } message
            || !sitting.MayKnow(sitting.Seats[id], new Matter.Words(message))) return Decision.Refused(Reason.NotYourMessage);
        if (!sitting.Seats[id].IsSeated) return Decision.Refused(Reason.NotInside);
        var carried = sitting.Chat.Carried(message.Number);
        if (message.From == id) return new MessageDeleted(message.Number, id, Deletion.BySender, message.Text, carried);
        return sitting.Forbids(by, Capability.KeepChat)
            ?? (Decision)new MessageDeleted(message.Number, message.From, Deletion.ByBench, message.Text, carried);
    }
}

public sealed record MarkQuestion(int Message, Question To) : SeatCommand, IOnMessage
{
    int? IOnMessage.Message => Message;

    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepChat) is { } refusal) return refusal;
        if (!Enum.IsDefined(To)) return Decision.Refused(Reason.NotUnderstood);
        if (sitting.PublicMessage(Message) is not { } message) return Decision.Refused(Reason.NoSuchMessage);
        return message.Question == To
            ? Decision.Refused(Reason.NoChange)
            : new QuestionMarked(message.Number, message.From, message.Question, To, sitting.Chat.Carried(message.Number));
    }
}

/// <summary>Shows a message to all beside the picture; null takes it away.</summary>
public sealed record PutUp(int? Message) : SeatCommand, IOnMessage
{
    internal override Decision Decide(Sitting sitting, Actor by, Instant now)
    {
        if (sitting.Forbids(by, Capability.KeepChat) is { } refusal) return refusal;
        if (Message is { } number && sitting.PublicMessage(number) is null) return Decision.Refused(Reason.NoSuchMessage);
        return Message == sitting.PutUp
            ? Decision.Refused(Reason.NoChange)
            : new MessagePutUp(sitting.PutUp, Message, Message is { } up ? sitting.Chat.Carried(up) : null);
    }
}
