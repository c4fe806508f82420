namespace HoldCourt.Core.Chat;

/// <summary>A message as somebody who may read it sees it.</summary>
/// <param name="Name">Of the sender; null where people may not know who else is here.</param>
/// <param name="ToName">Set when it was written to one person.</param>
/// <param name="Room">The room where it was written, by its name or place; null for the hall.</param>
public sealed record MessageRow(
    int Number, Instant At, SeatId From, string? Name, Role Role, Recipient To, string? ToName, string Text, Question Question, bool Edited,
    Deletion Deleted, string? Room)
{
    /// <summary>For a viewpoint from which all may read it; names are those of now.</summary>
    public static MessageRow Of(Sitting sitting, ChatMessage message, Viewpoint from) =>
        Of(sitting, message, sitting.MayKnow(from, new Matter.Writer(message)));

    /// <summary>For somebody who may read it.</summary>
    public static MessageRow Of(Sitting sitting, ChatMessage message, Seat reader) =>
        Of(sitting, message, sitting.MayKnow(reader, new Matter.Writer(message)));

    private static MessageRow Of(Sitting sitting, ChatMessage message, bool named)
    {
        var from = sitting.Seats[message.From];
        return new MessageRow(
            Number: message.Number,
            At: message.At,
            From: message.From,
            Name: named ? from.Name : null,
            Role: from.Role,
            To: message.To,
            ToName: message.To.Seat is { } to ? sitting.Seats[to].Name : null,
            Text: message.Text,
            Question: message.Question,
            Edited: message.Edited,
            Deleted: message.Deleted,
            Room: message.Room is { } room ? RoomNames.Of(sitting, room) : null);
    }
}

/// <param name="PutUp">The message that is shown to all inside.</param>
public sealed record ChatFacet(MessageRow? PutUp) : IFacet<ChatFacet>
{
    public static ChatFacet Of(Sitting sitting, Viewpoint from) =>
        new(sitting.MayKnow(from, Matter.Inside) && sitting.PutUp is { } number
            && sitting.Message(number) is { Deleted: Deletion.None } message
            ? MessageRow.Of(sitting, message, from)
            : null);

    public static bool IsSame(Step step) => step.Before.PutUp is null && step.After.PutUp is null;
}
