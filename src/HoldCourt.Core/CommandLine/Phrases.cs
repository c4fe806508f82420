using System.Collections.Concurrent;
using System.Collections.Immutable;

namespace HoldCourt.Core.CommandLine;

/// <summary>A sentence and the command it stands for.</summary>
/// <param name="Pattern">Words, and slots in braces.</param>
/// <param name="Of">The command's type.</param>
/// <param name="Make">The command of the slots' values, in their order; null when they make none.</param>
public sealed record Phrase(string Pattern, Type Of, Func<Scope, ImmutableArray<object>, SeatCommand?> Make, string Language = "en")
{
    internal ImmutableArray<(string? Word, Slot? Slot)> Parts { get; } =
        [.. Pattern.Split(' ').Select(part => part[0] == '{' ? ((string?)null, (Slot?)Phrases.SlotOf(part[1..^1], Language)) : (part, null))];
}

/// <summary>The sentences of the command line. Every command of the core has one.</summary>
public static class Phrases
{
    internal static Slot SlotOf(string name, string language) => name switch
    {
        "people" => new People(),
        "comers" => new People(OfThoseWhoWait: true),
        "person" => new OnePerson(),
        "length" => new Length(),
        "number" => new WholeNumber(),
        "item" => new AnItem(),
        "preset" => new APreset(),
        "role" => Words(language, ("attendee", Role.Attendee), ("attendees", Role.Attendee), ("presenter", Role.Presenter), ("presenters", Role.Presenter), ("deputy", Role.Deputy), ("deputies", Role.Deputy)),
        "door" => Words(language, ("open", DoorMode.Open), ("listed", DoorMode.Listed), ("attended", DoorMode.Attended)),
        "audience" => Words(language, ("everyone", Audience.Everyone), ("presenters", Audience.Presenters), ("the bench", Audience.Bench), ("bench", Audience.Bench)),
        // What the panels say comes first, and is what is proposed.
        "order" => Words(
            language, ("microphones", Order.Speak), ("cameras", Order.ShowCamera), ("own name", Order.Rename), ("names", Order.Rename), ("list of people", Order.SeePeople),
            ("the list of people", Order.SeePeople), ("chat to all", Order.WriteToAll), ("writing to all", Order.WriteToAll), ("chat to the bench", Order.WriteToBench),
            ("writing to the bench", Order.WriteToBench), ("chat to one", Order.WriteToOne), ("writing to one person", Order.WriteToOne),
            ("reading the chat", Order.SeeChat), ("the chat", Order.SeeChat), ("reactions", Order.React)),
        "exception" => Words(
            language, ("speak", Order.Speak), ("show the camera", Order.ShowCamera), ("show a camera", Order.ShowCamera), ("change the own name", Order.Rename),
            ("change the name", Order.Rename), ("write to everyone", Order.WriteToAll), ("write to all", Order.WriteToAll), ("write to the bench", Order.WriteToBench),
            ("write to one person", Order.WriteToOne), ("show reactions", Order.React), ("react", Order.React)),
        "state" => Words(language, ("following", State.Following), ("lost you", State.LostYou), ("cannot hear", State.CannotHear), ("done", State.Done), ("back soon", State.BackSoon)),
        "sign" => Words(language, ("agreed", Sign.Agreed), ("thanks", Sign.Thanks), ("applause", Sign.Applause), ("laughing", Sign.Laughing)),
        "arrangement" => Words(language, ("even", Arrangement.Even), ("lead", Arrangement.Lead), ("pair", Arrangement.Pair)),
        "question" => Words(language, ("a question", Question.Asked), ("answered", Question.Answered), ("no question", Question.None)),
        "text" => new FreeText(),
        _ => throw new ArgumentOutOfRangeException(nameof(name), name, "No such slot.")
    };

    private static OneOf Words(string language, params ImmutableArray<(string, object)> choices) => new(language, choices);

    public static ImmutableArray<Phrase> All { get; } =
    [
        Say<AdmitSure>("admit sure", (_, _) => new AdmitSure()),
        Say<Admit>("admit {comers}", (_, a) => new Admit(Seats(a[0]))),
        Say<Admit>("admit {comers} as {role}", (_, a) => new Admit(Seats(a[0]), (Role)a[1])),
        Say<Decline>("decline {comers}", (_, a) => new Decline(Seats(a[0]))),
        Say<Decline>("decline {comers} : {text}", (_, a) => new Decline(Seats(a[0]), (string)a[1])),
        Say<SendToLobby>("lobby {people}", (_, a) => new SendToLobby(Seats(a[0]))),
        Say<SendToLobby>("send {people} to the lobby", (_, a) => new SendToLobby(Seats(a[0]))),
        Say<Next>("next", (_, _) => new Next()),
        Say<SetDoor>("door {door}", (_, a) => new SetDoor((DoorMode)a[0])),
        Say<SetDoor>("door listed by name", (_, _) => new SetDoor(DoorMode.Listed, ByName: true)),
        Say<LockDoor>("lock", (_, _) => new LockDoor("", false)),
        Say<LockDoor>("lock late people wait", (_, _) => new LockDoor("", true)),
        Say<LockDoor>("lock : {text}", (_, a) => new LockDoor((string)a[0], false)),
        Say<UnlockDoor>("unlock", (_, _) => new UnlockDoor()),
        Say<SendNotice>("notice {text}", (_, a) => new SendNotice((string)a[0])),
        Say<Expect>("expect {text}", (_, a) => DocketText.Read((string)a[0]) is [{ Trouble: null } line] ? new Expect(new DocketLine(line.Name, line.Role, line.Email, line.Group)) : null),
        Say<Begin>("open the session", (_, _) => new Begin()),
        Say<MuteAll>("mute all", (_, _) => new MuteAll(true)),
        Say<MuteAll>("mute everyone", (_, _) => new MuteAll(true)),
        Say<MuteAll>("mute all but presenters", (_, _) => new MuteAll()),
        Say<CloseMicrophone>("mute me", (_, _) => new CloseMicrophone()),
        Say<Mute>("mute {people}", (_, a) => new Mute(Seats(a[0]))),
        Say<OpenMicrophone>("unmute me", (_, _) => new OpenMicrophone()),
        Say<Unmute>("unmute {people}", (_, a) => new Unmute(Seats(a[0]))),
        Say<AskToUnmute>("ask {people} to unmute", (_, a) => new AskToUnmute(Seats(a[0]))),
        Say<AnswerUnmute>("open my microphone as asked", (_, _) => new AnswerUnmute(true)),
        Say<AnswerUnmute>("keep my microphone closed", (_, _) => new AnswerUnmute(false)),
        Say<TurnCamera>("camera on", (_, _) => new TurnCamera(true)),
        Say<TurnCamera>("camera off", (_, _) => new TurnCamera(false)),
        Say<CamerasOff>("cameras off {people}", (_, a) => new CamerasOff(Seats(a[0]))),
        Say<Remove>("remove {people}", (_, a) => new Remove(Seats(a[0]), true)),
        Say<Remove>("remove {people} for good", (_, a) => new Remove(Seats(a[0]), false)),
        Say<GiveRole>("make {people} {role}", (_, a) => new GiveRole(Seats(a[0]), (Role)a[1])),
        Say<HandOver>("hand over to {person}", (_, a) => new HandOver((SeatId)a[0])),
        Say<Rename>("rename {person} to {text}", (_, a) => new Rename((SeatId)a[0], (string)a[1])),
        Say<SetOrder>("{order} for {audience}", (_, a) => new SetOrder((Order)a[0], (Audience)a[1])),
        Say<SetOrder>("microphones by leave", (_, _) => new SetOrder(Order.Speak, Audience.Presenters)),
        Say<SetOrder>("microphones free", (_, _) => new SetOrder(Order.Speak, Audience.Everyone)),
        Say<Except>("let {people} {exception}", (_, a) => new Except(Seats(a[0]), (Order)a[1], true)),
        Say<Except>("keep {people} from {exception}", (_, a) => new Except(Seats(a[0]), (Order)a[1], false)),
        Say<Except>("no exception for {people} {exception}", (_, a) => new Except(Seats(a[0]), (Order)a[1], null)),
        Say<TakePreset>("preset {preset}", (_, a) => a[0] is NamedPreset preset ? new TakePreset(preset.Name, preset.Door, preset.Orders) : null),
        Say<GiveFloor>("floor to the next", (_, _) => new GiveFloor()),
        Say<GiveFloor>("floor to {person}", (_, a) => new GiveFloor((SeatId)a[0])),
        Say<GiveFloor>("floor to {person} for {length}", (_, a) => new GiveFloor((SeatId)a[0], Seconds(a[1]))),
        Say<GiveFloor>("give the floor to {person}", (_, a) => new GiveFloor((SeatId)a[0])),
        Say<TakeFloor>("take the floor back", (_, _) => new TakeFloor()),
        Say<YieldFloor>("yield", (_, _) => new YieldFloor()),
        Say<RaiseHand>("raise my hand", (_, _) => new RaiseHand()),
        Say<LowerHand>("lower my hand", (_, _) => new LowerHand()),
        Say<LowerHands>("lower {people}", (_, a) => new LowerHands(Seats(a[0]))),
        Say<SetFloor>("floor fair", (s, _) => new SetFloor(s.Sitting.Floor with { Order = FloorOrder.Fair })),
        Say<SetFloor>("floor by hand", (s, _) => new SetFloor(s.Sitting.Floor with { Order = FloorOrder.ByHand })),
        Say<SetFloor>("turns of {length}", (s, a) => new SetFloor(s.Sitting.Floor with { Seconds = Seconds(a[0]) })),
        Say<SetFloor>("turns without limit", (s, _) => new SetFloor(s.Sitting.Floor with { Seconds = null, EndsItself = false })),
        Say<SetFloor>("turns end by themselves", (s, _) => new SetFloor(s.Sitting.Floor with { EndsItself = true })),
        Say<SetState>("i am {state}", (_, a) => new SetState((State)a[0])),
        Say<SetState>("state {state}", (_, a) => new SetState((State)a[0])),
        Say<SetState>("no state", (_, _) => new SetState(null)),
        Say<ClearStates>("clear states", (_, _) => new ClearStates()),
        Say<React>("react {sign}", (_, a) => new React((Sign)a[0])),
        Say<Write>("write to all : {text}", (_, a) => new Write(new Recipient(Reach.Everyone), (string)a[0])),
        Say<Write>("write to the bench : {text}", (_, a) => new Write(new Recipient(Reach.Bench), (string)a[0])),
        Say<Write>("write to {person} : {text}", (_, a) => new Write(new Recipient(Reach.One, (SeatId)a[0]), (string)a[1])),
        Say<Write>("question : {text}", (_, a) => new Write(new Recipient(Reach.Everyone), (string)a[0], true)),
        Say<EditMessage>("message {number} should say {text}", (_, a) => new EditMessage((int)a[0], (string)a[1])),
        Say<DeleteMessage>("delete message {number}", (_, a) => new DeleteMessage((int)a[0])),
        Say<MarkQuestion>("message {number} is {question}", (_, a) => new MarkQuestion((int)a[0], (Question)a[1])),
        Say<PutUp>("put up message {number}", (_, a) => new PutUp((int)a[0])),
        Say<PutUp>("put up nothing", (_, _) => new PutUp(null)),
        Say<SetArrangement>("picture {arrangement}", (_, a) => new SetArrangement((Arrangement)a[0])),
        Say<SetArrangement>("picture free", (_, _) => new SetArrangement(null)),
        Say<PutInFront>("front {people}", (_, a) => new PutInFront(Seats(a[0]))),
        Say<PutInFront>("front nobody", (_, _) => new PutInFront([])),
        Say<CallRecess>("recess", (_, _) => new CallRecess("")),
        Say<CallRecess>("recess of {length}", (_, a) => new CallRecess("", Minutes(a[0]))),
        Say<CallRecess>("recess of {length} : {text}", (_, a) => new CallRecess((string)a[1], Minutes(a[0]))),
        Say<Resume>("resume", (_, _) => new Resume()),
        Say<SetEnd>("end in {length}", (s, a) => new SetEnd(s.Now + (TimeSpan)a[0])),
        Say<SetEnd>("end open", (_, _) => new SetEnd(null)),
        Say<Extend>("extend by {length}", (_, a) => new Extend(Minutes(a[0]))),
        Say<SetSuccession>("a deputy leads after {length}", (_, a) => new SetSuccession(Seconds(a[0]))),
        Say<SetSuccession>("nobody takes over", (_, _) => new SetSuccession(null)),
        Say<NextItem>("next item", (_, _) => new NextItem()),
        Say<TurnToItem>("item {item}", (_, a) => new TurnToItem((int)a[0])),
        Say<EndItem>("end item", (_, _) => new EndItem()),
        Say<SetRunSheet>("add item {text} of {length}", (s, a) => Added(s, (string)a[0], Minutes(a[1]))),
        Say<SetRunSheet>("add item {text}", (s, a) => Added(s, (string)a[0], null)),
        Say<SetRunSheet>("drop item {item}", (s, a) => new SetRunSheet(s.Sitting.RunSheet.Items.RemoveAll(item => item.Id == (int)a[0]))),
        Say<TakeBack>("take back", (_, _) => new TakeBack()),
        Say<TakeBack>("take back entry {number}", (_, a) => new TakeBack((int)a[0])),
        Say<Leave>("leave", (_, _) => new Leave()),
        Say<Leave>("leave and hand over to {person}", (_, a) => new Leave((SeatId)a[0])),
        Say<Adjourn>("adjourn", (_, _) => new Adjourn())
    ];

    /// <summary>The same sentences in another language.</summary>
    public static ImmutableArray<Phrase> In(string language) => _translated.GetOrAdd(language, static tag =>
        Tongue.Of(tag) is { IsEnglish: false } tongue ? [.. All.Select(phrase => new Phrase(tongue.Says(phrase.Pattern), phrase.Of, phrase.Make, tag))] : All);

    private static readonly ConcurrentDictionary<string, ImmutableArray<Phrase>> _translated = new();

    private static Phrase Say<T>(string pattern, Func<Scope, ImmutableArray<object>, SeatCommand?> make) where T : SeatCommand => new(pattern, typeof(T), make);

    private static ImmutableArray<SeatId> Seats(object value) => (ImmutableArray<SeatId>)value;
    private static int Seconds(object value) => (int)((TimeSpan)value).TotalSeconds;
    private static int Minutes(object value) => Math.Max(1, (int)Math.Round(((TimeSpan)value).TotalMinutes));

    private static SetRunSheet Added(Scope scope, string title, int? minutes)
    {
        var items = scope.Sitting.RunSheet.Items;
        return new SetRunSheet(items.Add(new Item(items is [] ? 1 : items.Max(item => item.Id) + 1, title, minutes)));
    }
}
