using System.Collections.Immutable;

namespace HoldCourt.Core.Sittings;

/// <summary>In rising order of powers.</summary>
public enum Role { Attendee, Presenter, Deputy, Host }

public enum Place { Lobby, Seated, Gone }

/// <summary>Whether somebody may be inside.</summary>
public enum Admittance
{
    /// <summary>Nobody and nothing has let this person in yet.</summary>
    None,

    /// <summary>Was let in, and comes back without being asked again.</summary>
    Granted,

    /// <summary>Was put out: declined, removed, sent to the lobby, or the visit is over. Only the bench lets in again.</summary>
    Withdrawn
}

/// <summary>How somebody came to be gone.</summary>
public enum Exit { Left, Declined, Removed, RemovedForGood, VisitOver }

/// <summary>What somebody had open when they left the hall for a room.</summary>
public sealed record LeftOpen(bool Microphone, bool Camera);

/// <summary>
/// One person's place in a sitting. It outlives a dropped connection: <see cref="Connected"/> changes, nothing else does.
/// </summary>
public sealed record Seat
{
    public required SeatId Id { get; init; }
    public required PersonKey Person { get; init; }
    public required string Name { get; init; }
    public required Role Role { get; init; }
    public required Place Place { get; init; }

    /// <summary>Since when the seat is in its place.</summary>
    public required Instant Since { get; init; }

    public Admittance Admittance { get; init; }

    /// <summary>When this person was last let in; null when they never were, or were put out since.</summary>
    public Instant? LetInAt { get; init; }

    /// <summary>When they were put out; null when they never were, or were let in since.</summary>
    public Instant? PutOutAt { get; init; }

    /// <summary>When the bench last gave or took a role; null when it never did.</summary>
    public Instant? RoleSince { get; init; }

    /// <summary>When the bench took a role; null when it never did, or gave a higher one since.</summary>
    public Instant? LoweredAt { get; init; }

    /// <summary>Set exactly while <see cref="Place"/> is <see cref="Place.Gone"/>.</summary>
    public Exit? Exit { get; init; }

    /// <summary>The bench's words to somebody declined.</summary>
    public string? Words { get; init; }

    public bool Connected { get; init; }
    public Instant? DroppedAt { get; init; }
    public bool MicrophoneOpen { get; init; }
    public bool CameraOn { get; init; }

    /// <summary>The bench waits for this person's answer to "Ask to unmute".</summary>
    public bool Asked { get; init; }

    /// <summary>May speak although microphones are by leave.</summary>
    public bool HasLeave { get; init; }

    /// <summary>Agreed, for this sitting, that the bench may open the microphone.</summary>
    public bool Consents { get; init; }

    /// <summary>Whether this person wants to be in recordings of the sitting; null before anything was said.</summary>
    public RecordingAnswer? RecordingAnswer { get; init; }

    /// <summary>Since when the hand is up; null while it is not.</summary>
    public Instant? HandSince { get; init; }

    /// <summary>How long this person has had the floor so far, a turn that is on left out.</summary>
    public TimeSpan FloorTime { get; init; }

    /// <summary>How long this person's voice has been heard in this sitting, pauses of a breath counted in.</summary>
    public TimeSpan TalkTime { get; init; }

    /// <summary>What this person may do whatever the orders say, in the order of their names.</summary>
    public ImmutableArray<Order> Given { get; init; } = [];

    /// <summary>What this person may not do whatever the orders say.</summary>
    public ImmutableArray<Order> Taken { get; init; } = [];

    /// <summary>Since when this person has been asking for leave to show something; null while not.</summary>
    public Instant? WantsToShow { get; init; }

    /// <summary>May show one exhibit, until it is taken down, whatever the orders say.</summary>
    public bool ShowsOnce { get; init; }

    /// <summary>How it goes, in one word; null when nothing was said.</summary>
    public State? State { get; init; }

    /// <summary>The newest poll in which this person has voted; null before any.</summary>
    public int? VotedIn { get; init; }

    /// <summary>The room that this person is in; null in the hall, and for whoever is not inside.</summary>
    public int? Room { get; init; }

    /// <summary>Of the bench: is in a room to listen, and is neither heard nor seen there but as a name.</summary>
    public bool Listens { get; init; }

    /// <summary>What was open in the hall; set exactly while <see cref="Room"/> is.</summary>
    public LeftOpen? InHall { get; init; }

    /// <summary>Takes part by telephone: a voice without a screen.</summary>
    public bool ByPhone { get; init; }

    /// <summary>What a personal link or an account proves: the key of a line of the docket; null otherwise.</summary>
    public string? Proof { get; init; }

    /// <summary>Keys that were shown before the present one: another link does not shake off what was taken with the first.</summary>
    public ImmutableArray<string> EarlierProofs { get; init; } = [];

    /// <summary>The line that this person surely was when the bench chose to let them in; null when it was in doubt, when all
    /// who are expected were let in at once, and when they walked in.</summary>
    public int? VouchedFor { get; init; }

    /// <summary>Somebody on the bench, or who is expected to be, whose name is shown like this one's; null when nobody's is.</summary>
    public string? LooksLike { get; init; }

    /// <summary>Who this is thought to be. It stays as it was when somebody comes in.</summary>
    public Recognition Recognition { get; init; } = Recognition.NoDocket;

    public Match Match => Recognition.Match;

    /// <summary>Has powers of the bench whenever seated.</summary>
    public bool OnBench => Role >= Role.Deputy;
    public bool IsSeated => Place == Place.Seated;

    /// <summary>True when given, false when taken, null when the order itself holds for the seat.</summary>
    public bool? ExceptionFrom(Order order) => Given.Contains(order) ? true : Taken.Contains(order) ? false : null;

    /// <summary>The link of a line was shown; null when this time none was, and that stands for nothing.</summary>
    internal Seat Showing(string? proof) => this with
    {
        Proof = proof,
        EarlierProofs = Proof is { } was && was != proof && !EarlierProofs.Contains(was)
            ? EarlierProofs.Add(was)
            : EarlierProofs
    };

    internal Seat Excepted(Order order, bool? may) => this with
    {
        Given = Sorted(Given, order, may == true),
        Taken = Sorted(Taken, order, may == false)
    };

    private static ImmutableArray<Order> Sorted(ImmutableArray<Order> orders, Order order, bool holds) =>
        orders.Contains(order) == holds ? orders : holds ? [.. orders.Append(order).Order()] : orders.Remove(order);
}
