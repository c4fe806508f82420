using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Chat;

public sealed record Written(SeatId From, Recipient To, string Text, bool Question) : Fact
{
    internal ChatMessage ToMessage(int number, Instant at, int? room) =>
        new(number, at, From, To, Text, Question ? Core.Chat.Question.Asked : Core.Chat.Question.None, Room: room);

    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting with { Chat = sitting.Chat.Add(ToMessage(sitting.Chat.Count + 1, at, sitting.Here), sitting.PutUp) };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Chat;

    /// <summary>What people write stands in the chat.</summary>
    internal override bool StandsInLedger => false;
}

/// <param name="Old">The message as it was, where it is older than those that the state holds.</param>
public sealed record MessageEdited(
    int Message, string From, string To,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ChatMessage? Old = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Message, Old, this);
    internal override ChatMessage Changed(ChatMessage message) => message with { Text = To, Edited = true, Edits = message.Edits + 1 };
    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Chat;
    internal override bool StandsInLedger => false;
    internal override int? ChangedMessage => Message;
}

/// <param name="Text">What it said.</param>
/// <param name="Old">The message as it was, where it is older than those that the state holds.</param>
public sealed record MessageDeleted(
    int Message, SeatId Of, Deletion By, string Text,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ChatMessage? Old = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        sitting.With(Message, Old, this) with { PutUp = sitting.PutUp == Message ? null : sitting.PutUp };

    internal override ChatMessage Changed(ChatMessage message) => message with { Text = "", Deleted = By };
    internal override ImmutableArray<SeatId> About => [Of];
    internal override Topic Topic => Topic.Chat;
    internal override bool StandsInLedger => By != Deletion.BySender;
    internal override int? ChangedMessage => Message;
    internal override bool IsTakeable(SeatId by) => By == Deletion.ByBench;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.Message(Message)?.Deleted == By ? new MessageRestored(Message, Of, Text) : null;
}

/// <summary>On the way back: the message is there again.</summary>
public sealed record MessageRestored(int Message, SeatId Of, string Text) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Message, null, this);
    internal override ChatMessage Changed(ChatMessage message) => message with { Text = Text, Deleted = Deletion.None };
    internal override ImmutableArray<SeatId> About => [Of];
    internal override Topic Topic => Topic.Chat;
    internal override int? ChangedMessage => Message;
}

/// <param name="Old">The message as it was, where it is older than those that the state holds.</param>
public sealed record QuestionMarked(
    int Message, SeatId Of, Question From, Question To,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ChatMessage? Old = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) => sitting.With(Message, Old, this);
    internal override ChatMessage Changed(ChatMessage message) => message with { Question = To };
    internal override ImmutableArray<SeatId> About => [Of];
    internal override Topic Topic => Topic.Chat;

    internal override string NameFor(Actor by) => To switch
    {
        Question.Asked => "questionMarked",
        Question.Answered => "questionAnswered",
        _ => "questionUnmarked"
    };

    internal override int? ChangedMessage => Message;
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) =>
        sitting.PublicMessage(Message)?.Question == To ? new QuestionMarked(Message, Of, To, From) : null;
}

/// <param name="Old">The message to put up, where it is older than those that the state holds.</param>
public sealed record MessagePutUp(
    int? From, int? To,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ChatMessage? Old = null) : Fact
{
    internal override Sitting Apply(Sitting sitting, Instant at) =>
        (Old is null ? sitting : (sitting with { PutUp = To }).With(Old.Number, Old, this)) with { PutUp = To };

    internal override ImmutableArray<SeatId> About => [];
    internal override Topic Topic => Topic.Chat;
    internal override string NameFor(Actor by) => To is null ? "messageTakenDown" : base.NameFor(by);
    internal override bool IsTakeable(SeatId by) => true;

    internal override Fact? OppositeIn(Sitting sitting) => sitting.PutUp == To
        ? new MessagePutUp(To, From is { } before && sitting.PublicMessage(before) is null ? null : From)
        : null;
}
