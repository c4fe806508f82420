using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Chat;

/// <summary>What the command line understands of this topic.</summary>
internal static class ChatPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<Write>(
            "write to all : {text}", "napisz do wszystkich : {text}",
            (_, a) => new Write(new Recipient(Reach.Everyone), (string)a[0])),
        Say<Write>(
            "write to the bench : {text}", "napisz do prezydium : {text}",
            (_, a) => new Write(new Recipient(Reach.Bench), (string)a[0])),
        Say<Write>(
            "write to {person} : {text}", "napisz do {person} : {text}",
            (_, a) => new Write(new Recipient(Reach.One, (SeatId)a[0]), (string)a[1])),
        Say<Write>("question : {text}", "pytanie : {text}", (_, a) => new Write(new Recipient(Reach.Everyone), (string)a[0], true)),
        Say<EditMessage>(
            "message {number} should say {text}", "wiadomość {number} ma brzmieć {text}",
            (_, a) => new EditMessage((int)a[0], (string)a[1])),
        Say<DeleteMessage>("delete message {number}", "skasuj wiadomość {number}", (_, a) => new DeleteMessage((int)a[0])),
        Say<MarkQuestion>(
            "message {number} is {question}", "wiadomość {number} to {question}",
            (_, a) => new MarkQuestion((int)a[0], (Question)a[1])),
        Say<PutUp>("put up message {number}", "pokaż wiadomość {number}", (_, a) => new PutUp((int)a[0])),
        Say<PutUp>("put up nothing", "zdejmij wiadomość", (_, _) => new PutUp(null))
    ],
    [
        Choose("question",
            ("a question", "pytanie", Question.Asked),
            ("answered", "pytanie z odpowiedzią", Question.Answered),
            ("no question", "nie pytanie", Question.None))
    ]);
}
