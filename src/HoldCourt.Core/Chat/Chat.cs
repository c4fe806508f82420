namespace HoldCourt.Core.Chat;

/// <summary>Whom a message reaches.</summary>
public enum Reach { Everyone, Bench, One }

/// <param name="Seat">Set exactly when <paramref name="Reach"/> is <see cref="Reach.One"/>.</param>
public sealed record Recipient(Reach Reach, SeatId? Seat = null);

public enum Question { None, Asked, Answered }

public enum Deletion { None, BySender, ByBench }

/// <param name="Number">1, 2, 3 … in each sitting.</param>
/// <param name="Text">Empty once it is deleted.</param>
public sealed record ChatMessage(
    int Number, Instant At, SeatId From, Recipient To, string Text, Question Question = Question.None, bool Edited = false, Deletion Deleted = Deletion.None, int Edits = 0);

public sealed record Write(Recipient To, string Text, bool Question = false) : SeatCommand;

/// <summary>Changes the words of one's own message.</summary>
public sealed record EditMessage(int Message, string Text) : SeatCommand;

/// <summary>Deletes one's own message; the bench removes anybody's that it sees.</summary>
public sealed record DeleteMessage(int Message) : SeatCommand;

public sealed record MarkQuestion(int Message, Question To) : SeatCommand;

/// <summary>Shows a message to all beside the picture; null takes it away.</summary>
public sealed record PutUp(int? Message) : SeatCommand;

public sealed record Written(SeatId From, Recipient To, string Text, bool Question) : Fact;
public sealed record MessageEdited(int Message, string From, string To) : Fact;

/// <param name="Text">What it said.</param>
public sealed record MessageDeleted(int Message, SeatId Of, Deletion By, string Text) : Fact;

/// <summary>On the way back: the message is there again.</summary>
public sealed record MessageRestored(int Message, SeatId Of, string Text) : Fact;
public sealed record QuestionMarked(int Message, SeatId Of, Question From, Question To) : Fact;
public sealed record MessagePutUp(int? From, int? To) : Fact;
