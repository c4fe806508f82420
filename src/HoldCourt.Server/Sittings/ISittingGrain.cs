using System.Collections.Immutable;
using HoldCourt.Server.Lending;

namespace HoldCourt.Server.Sittings;

/// <summary>The one writer of a sitting. Its key is the sitting's id.</summary>
public interface ISittingGrain : IGrainWithGuidKey
{
    /// <summary>Starts the sitting; answers with a refusal when it has been opened before.</summary>
    Task<Refusal?> Open(Open open);

    /// <summary>Somebody is at the door.</summary>
    Task<Arrival> Announce(Announce announce);

    /// <summary>A wish of somebody who holds a seat. The answer comes when what follows from it is on disk.</summary>
    /// <param name="connection">The connection it came by, which must be the seat's own; null for the server's simulated people.</param>
    /// <param name="wish">The wish's id: the same wish again is answered as it was, and not done twice.</param>
    Task<Refusal?> Do(SeatId by, SeatCommand command, string? connection = null, string? wish = null);

    /// <summary>A wish that comes by the web rather than by a connection.</summary>
    Task<Refusal?> DoFor(PersonKey person, SeatCommand command);

    /// <summary>Why a wish would be refused; null when it would be done.</summary>
    Task<Refusal?> WouldRefuse(PersonKey person, SeatCommand command);

    /// <summary>Puts a file on the shelf that a person has brought.</summary>
    /// <param name="shows">The bench shows it as soon as its pages are there.</param>
    Task<Arrival> Bring(PersonKey person, ExhibitKind kind, string title, Guid file, string secret, bool shows = false);

    /// <summary>The number of the exhibit whose pages a file is; null when there is none.</summary>
    Task<int?> NumberOf(Guid file);

    /// <summary>Of what a page may be fetched: by whoever knows the exhibit, those about the one that all see; by others, all.</summary>
    /// <returns>Null when the page may not be fetched, or is not there.</returns>
    Task<PageSource?> PagesFor(PersonKey person, int exhibit, int page);

    /// <summary>All that a file of an exhibit's pages is made of; null for whoever may not look at all of them.</summary>
    Task<ExportSource?> ExportFor(PersonKey person, int exhibit);

    /// <summary>All marks over an exhibit; null when it may not be known.</summary>
    Task<MarksRow?> MarksFor(PersonKey person, int exhibit);

    /// <summary>Draws, or takes marks away. The answer comes when it is on disk.</summary>
    /// <param name="connection">The connection it came by; null for the server's simulated people.</param>
    Task<Refusal?> Mark(SeatId by, int exhibit, MarkWish wish, string? connection);

    /// <summary>Something that is being drawn or pointed at; told to the others within a moment, and not kept.</summary>
    Task Stroke(SeatId by, StrokeWish stroke, string connection);

    /// <summary>The seat of somebody who is inside; null for others.</summary>
    Task<SeatId?> SeatOf(PersonKey person);

    /// <summary>A wish of the server itself, such as letting in its own simulated people.</summary>
    Task<Refusal?> DoAsHouse(Command command);

    /// <summary>A connection of a person opens. It takes the place of an older one of the same seat.</summary>
    /// <returns>The seat, whose view has been sent; null when the person has none here.</returns>
    /// <exception cref="InvalidOperationException">It could not be noted; the line must be taken up anew.</exception>
    Task<SeatId?> Connect(PersonKey person, string connection, string? device = null);

    Task Disconnect(SeatId seat, string connection);

    /// <summary>The account's sign-in has ended: its seat is left, and the lead goes to the first deputy, where there is one.</summary>
    Task Withdraw(SeatId seat, string connection);

    /// <summary>Entries of the adjourned sitting were changed where they are kept: what is in memory goes.</summary>
    Task Forget();

    /// <summary>Whether the seat is in the lobby or inside, and the connection its own.</summary>
    Task<bool> IsPresent(SeatId seat, string connection);

    /// <summary>What a wish would do, and let nothing happen.</summary>
    Task<ForesightRow> Foresee(SeatId by, SeatCommand command);

    /// <summary>What a line of the command line means.</summary>
    Task<ReadingRow> Read(SeatId by, string line, ImmutableArray<NamedPreset> presets, string language);

    /// <summary>Entries of the ledger, for the bench; empty for others.</summary>
    Task<LedgerPage> Ledger(SeatId by, LedgerWish wish);

    /// <summary>Messages that the seat may read.</summary>
    Task<ChatPage> Chat(SeatId by, ChatWish wish);

    /// <summary>All messages that a person may read, oldest first; null when the person has no seat here.</summary>
    Task<ChatExport?> ExportChat(PersonKey person);

    /// <summary>How a person was here, for what is kept of the sitting; whoever was put out was not.</summary>
    /// <param name="proof">In place of a person, the key of the line whose link they showed.</param>
    Task<Presence> WasInside(PersonKey? person, string? proof);

    /// <summary>People come for visits one at a time: what one says is not for the next.</summary>
    Task<bool> HasVisits();

    /// <summary>Whether a person is on the bench, and so may read the ledger.</summary>
    Task<bool> ReadsLedger(PersonKey person);

    /// <summary>Everything told in the ledger, oldest first; null for whoever is not on the bench.</summary>
    Task<LedgerExport?> ExportLedger(PersonKey person);

    /// <summary>The polls that are over, for the bench; null for everybody else.</summary>
    Task<PollExport?> ExportPolls(PersonKey person);

    /// <summary>
    /// The plan of rooms, or those that are open, with everybody by name; null where there are none, and for others than the bench.
    /// </summary>
    Task<RoomForm?> ExportRooms(PersonKey person);

    /// <summary>Who was in which room, and what rooms made, for the bench; null for everybody else.</summary>
    Task<RoomsExport?> ExportRounds(PersonKey person);

    /// <summary>People who have gone, the latest first, beyond those whom the view holds; empty for whoever is not on the bench.</summary>
    /// <param name="before">Only those who went before this one.</param>
    Task<GonePage> Gone(SeatId by, SeatId before);

    /// <summary>What somebody inside may do with a file; null for whoever is not inside.</summary>
    Task<BringerRow?> Bringer(PersonKey person);

    /// <summary>Hands out a file that this very person has sent.</summary>
    Task<Refusal?> HandOut(PersonKey person, GiveFile wish);

    /// <summary>What somebody gave, or has taken; null otherwise.</summary>
    Task<Handout?> HandoutFor(PersonKey person, int number);

    /// <summary>The number of the screen that this very person has open; null without one.</summary>
    Task<int?> ScreenOf(PersonKey person);

    /// <summary>Moves and presses on somebody else's screen, as far as it was lent at this moment. What is not is let go.</summary>
    Task Drive(SeatId by, int exhibit, ImmutableArray<DriveInput> inputs, string connection);

    /// <summary>One person's connection and history, for the bench.</summary>
    Task<PersonRow?> Person(SeatId by, SeatId of);

    /// <summary>The whole view for a connection that has missed something.</summary>
    Task<WholeView?> Whole(SeatId seat);

    /// <param name="holder">Who holds a claim on a seat, if anybody does.</param>
    /// <param name="comer">Who would be at the door.</param>
    /// <param name="proof">The line of the docket that the comer would prove.</param>
    /// <param name="owns">The comer's account is one of those whose session it is.</param>
    Task<DoorState> Door(PersonKey? holder, PersonKey? comer, string? proof = null, bool owns = false);
}

/// <param name="Shows">Why nothing may be put on the shelf; null when it may.</param>
/// <param name="HandsOut">Why nothing may be handed out; null when it may.</param>
public sealed record BringerRow(SeatId Seat, Refusal? Shows, Refusal? HandsOut, HandoutRules Rules);

public sealed record PageSource(Guid File, string Secret);

/// <param name="Name">As the file is called: letter and title.</param>
public sealed record ExportSource(string Name, Pages Pages, ImmutableArray<Mark> Marks);

/// <param name="Sequence">Of the last act in it.</param>
public sealed record MarksRow(int Exhibit, long Sequence, ImmutableArray<Mark> Marks);

/// <summary>What somebody just did to the marks of an exhibit.</summary>
/// <param name="Sequence">The one after that of the act before.</param>
public sealed record MarkActRow(int Exhibit, long Sequence, SeatId By, ImmutableArray<Mark> Put, ImmutableArray<int> Drop);

/// <summary>A piece of what is being drawn.</summary>
/// <param name="Stroke">Chosen by who draws, to tell one stroke from the next.</param>
/// <param name="Shape">Null for the pointer.</param>
/// <param name="Line">
/// The points since the last piece, the first as its place on the page; of shapes with two corners, both. Empty when the pointer has gone,
/// or the stroke was given up.
/// </param>
public sealed record StrokeWish(int Exhibit, int Page, int Stroke, MarkShape? Shape, MarkColour Colour, int Width, string Line)
{
    /// <summary>Longest piece, in characters: some hundred points.</summary>
    public const int Longest = 1_500;
}

public sealed record StrokeRow(
    SeatId By, int Exhibit, int Page, int Stroke, MarkShape? Shape, MarkColour Colour, int Width, string Line);

/// <summary>Either a seat, or why not.</summary>
public sealed record Arrival(SeatId? Seat, Refusal? Refusal);

/// <summary>What a connection starts from.</summary>
/// <param name="Now">By the server's clock, by which all moments are meant.</param>
/// <param name="Captions">The newest that may be read.</param>
/// <param name="Build">Which build answers: a page that was loaded from another is old.</param>
public sealed record Joined(
    MeRow Me, WholeView View, ChatPage Chat, ImmutableArray<CaptionRow> Captions, TroubleRow Trouble, Instant Now, string Build = "");

/// <summary>A line as it was understood, and what Enter would do.</summary>
/// <param name="Command">Null while there is trouble.</param>
public sealed record ReadingRow(SeatCommand? Command, Misreading? Misreading, string? About, ImmutableArray<string> Completions,
    ForesightRow? Foresight);

/// <param name="Before">Only entries before this sequence.</param>
/// <param name="Topics">Empty for all.</param>
/// <param name="Person">Only what this person did, or what was done to them.</param>
/// <param name="ByBench">Only what the bench did.</param>
public sealed record LedgerWish(long? Before, ImmutableArray<Topic> Topics, SeatId? Person, bool ByBench, Instant? From, Instant? To);

/// <param name="Rows">Oldest first.</param>
/// <param name="More">There are older ones that fit.</param>
public sealed record LedgerPage(ImmutableArray<LedgerRow> Rows, bool More);

/// <param name="Before">Only messages before this number.</param>
/// <param name="Find">Only messages in which these words stand, or whose sender has them in the name.</param>
public sealed record ChatWish(int? Before, string? Find)
{
    /// <summary>Longest text looked for, in UTF-16 units.</summary>
    public const int LongestFind = 200;
}

/// <param name="Rows">Oldest first; what fits among those that were looked through, which may be nothing.</param>
/// <param name="Older">The number before which the next page is asked for; null when there is nothing older.</param>
public sealed record ChatPage(ImmutableArray<MessageRow> Rows, int? Older);

public sealed record ChatExport(string Title, Instant OpenedAt, ImmutableArray<MessageRow> Rows);

public sealed record LedgerExport(string Title, ImmutableArray<LedgerRow> Rows);

/// <param name="More">There are others who went before.</param>
public sealed record GonePage(ImmutableArray<SeatRow> Rows, bool More);

/// <param name="Device">What the browser calls itself, in few words; null for those without a browser.</param>
/// <param name="Since">Since when the present connection is there.</param>
/// <param name="History">What this person did and what was done to them, newest first.</param>
public sealed record PersonRow(SeatId Seat, string? Device, Instant? Since, bool Slow, ImmutableArray<LedgerRow> History);

/// <summary>Whose connections carry less than they might. Beside the views and not stored; for the bench alone.</summary>
/// <param name="RoomFor">Minutes of recording for which the disk has room, in quarters of an hour; null for more than a day.</param>
/// <param name="StandsSince">Since when nothing of the recording that runs is written, since the disk is full.</param>
public sealed record TroubleRow(ImmutableArray<SeatId> Slow, int? RoomFor = null, Instant? StandsSince = null);

/// <summary>Reactions of the last moment.</summary>
/// <param name="Names">Of the first few whose names the reader may know.</param>
public sealed record SignRow(Sign Sign, int Count, ImmutableArray<string> Names);

/// <summary>How the visits are expected to go on. Beside the views and not stored, since it changes with the clock.</summary>
/// <param name="LateMinutes">How far behind the next promised slot the host runs.</param>
/// <param name="Starts">For those who wait; others than the bench get only their own.</param>
public sealed record OutlookRow(int LateMinutes, IReadOnlyList<SeatStart> Starts);

/// <param name="From">Four times out of five it begins between this and <paramref name="To"/>.</param>
public sealed record SeatStart(SeatId Seat, Instant From, Instant At, Instant To);

/// <summary>What somebody at the door may know.</summary>
/// <param name="IsKnown">The person has been at this door before.</param>
/// <param name="HoldsSeat">This browser holds a seat, whose person has not left or been turned away.</param>
/// <param name="ComesBack">The person is here, or was let in and has not been put out since: no code is asked again.</param>
/// <param name="OnRecord">Whether it is recorded.</param>
/// <param name="EntersAs">The role in which the person would walk in now; null when they would wait or be turned away.</param>
public sealed record DoorState(
    bool Over, string? HostName, DoorLock? Lock, bool IsKnown, bool HoldsSeat, bool ComesBack, bool IsSeated, bool Barred, bool Preparing,
    Role? EntersAs, OnRecord OnRecord);

/// <summary>Whether a session is being recorded, as it is said before anybody comes in.</summary>
public enum OnRecord { No, Told, Asked }

/// <summary>How somebody was in a sitting.</summary>
public enum Presence
{
    NeverCame,

    /// <summary>Waited and was not let in, or was put out.</summary>
    Outside,
    Inside,
    Bench
}
