using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Orders;

/// <summary>What the command line understands of this topic.</summary>
internal static class OrderPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<SetOrder>("{order} for {audience}", "{order} dla {audience}", (_, a) => new SetOrder((Order)a[0], (Audience)a[1])),
        Say<SetOrder>("microphones by leave", "mikrofony za zgodą", (_, _) => new SetOrder(Order.Speak, Audience.Presenters)),
        Say<SetOrder>("microphones free", "mikrofony wolne", (_, _) => new SetOrder(Order.Speak, Audience.Everyone)),
        Say<Except>("let {people} {exception}", "pozwól {people} {exception}", (_, a) => new Except(Seats(a[0]), (Order)a[1], true)),
        Say<Except>(
            "keep {people} from {exception}", "zabroń {people} {exception}",
            (_, a) => new Except(Seats(a[0]), (Order)a[1], false)),
        Say<Except>(
            "no exception for {people} {exception}", "bez wyjątku {people} {exception}",
            (_, a) => new Except(Seats(a[0]), (Order)a[1], null)),
        Say<ExceptGroup>(
            "let group {group} {exception}", "pozwól grupie {group} {exception}",
            (_, a) => new ExceptGroup((string)a[0], (Order)a[1], true)),
        Say<ExceptGroup>(
            "keep group {group} from {exception}", "zabroń grupie {group} {exception}",
            (_, a) => new ExceptGroup((string)a[0], (Order)a[1], false)),
        Say<ExceptGroup>(
            "no exception for group {group} {exception}", "bez wyjątku dla grupy {group} {exception}",
            (_, a) => new ExceptGroup((string)a[0], (Order)a[1], null)),
        Say<TakePreset>(
            "preset {preset}", "zasady {preset}",
            (_, a) => a[0] is NamedPreset preset ? new TakePreset(preset.Name, preset.Door, preset.Orders) : null)
    ],
    [
        Choose("audience",
            ("everyone", "każdego", Audience.Everyone),
            ("presenters", "prezenterów", Audience.Presenters),
            ("the bench", "prezydium", Audience.Bench),
            ("bench", "tylko prezydium", Audience.Bench)),
        // What the panels say comes first, and is what is proposed.
        Choose("order",
            ("microphones", "mikrofony", Order.Speak),
            ("cameras", "kamery", Order.ShowCamera),
            ("own name", "własne imię", Order.Rename),
            ("names", "imiona", Order.Rename),
            ("list of people", "lista osób", Order.SeePeople),
            ("the list of people", "lista osób", Order.SeePeople),
            ("chat to all", "czat do wszystkich", Order.WriteToAll),
            ("writing to all", "czat do wszystkich", Order.WriteToAll),
            ("chat to the bench", "czat do prezydium", Order.WriteToBench),
            ("writing to the bench", "czat do prezydium", Order.WriteToBench),
            ("chat to one", "czat do jednej osoby", Order.WriteToOne),
            ("writing to one person", "czat do jednej osoby", Order.WriteToOne),
            ("reading the chat", "czytanie czatu", Order.SeeChat),
            ("the chat", "czytanie czatu", Order.SeeChat),
            ("reactions", "reakcje", Order.React),
            ("exhibits", "eksponaty", Order.Exhibit),
            ("marks", "zaznaczenia", Order.Mark),
            ("files", "pliki", Order.HandOut),
            ("recording on own machines", "nagrywanie u siebie", Order.Record)),
        Choose("exception",
            ("speak", "mówić", Order.Speak),
            ("show the camera", "pokazywać obraz z kamery", Order.ShowCamera),
            ("show a camera", "pokazywać kamerę", Order.ShowCamera),
            ("change the own name", "zmieniać własne imię", Order.Rename),
            ("change the name", "zmieniać imię", Order.Rename),
            ("write to everyone", "pisać do wszystkich", Order.WriteToAll),
            ("write to all", "pisać do wszystkich", Order.WriteToAll),
            ("write to the bench", "pisać do prezydium", Order.WriteToBench),
            ("write to one person", "pisać do jednej osoby", Order.WriteToOne),
            ("hand out files", "rozdawać pliki", Order.HandOut),
            ("record on their own machine", "nagrywać u siebie", Order.Record),
            ("show exhibits", "pokazywać eksponaty", Order.Exhibit),
            ("show", "pokazywać", Order.Exhibit),
            ("draw marks", "zaznaczać", Order.Mark),
            ("show reactions", "pokazywać reakcje", Order.React),
            ("react", "reagować", Order.React))
    ]);
}
