using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Admission;

/// <summary>What is asked of the door of a sitting.</summary>
internal interface ISittingDoor : IGrainExtension
{
    /// <param name="holder">Who holds a claim on a seat, if anybody does.</param>
    /// <param name="comer">Who would be at the door.</param>
    /// <param name="proof">The line of the docket that the comer would prove.</param>
    /// <param name="owns">The comer's account is one of those whose session it is.</param>
    Task<DoorState> Door(PersonKey? holder, PersonKey? comer, string? proof = null, bool owns = false);
}

/// <summary>What somebody at the door may know.</summary>
/// <param name="IsKnown">The person has been at this door before.</param>
/// <param name="HoldsSeat">This browser holds a seat, whose person has not left or been turned away.</param>
/// <param name="ComesBack">The person is here, or was let in and has not been put out since: no code is asked again.</param>
/// <param name="OnRecord">Whether it is recorded.</param>
/// <param name="EntersAs">The role in which the person would walk in now; null when they would wait or be turned away.</param>
public sealed record DoorState(
    bool Over, string? HostName, DoorLock? Lock, bool IsKnown, bool HoldsSeat, bool ComesBack, bool IsSeated, bool Barred, bool Preparing,
    Role? EntersAs, OnRecord OnRecord);

/// <summary>Says how the door stands.</summary>
internal sealed class DoorWork : TopicWork, ISittingDoor
{
    public override string Name => "door";

    public Task<DoorState> Door(PersonKey? holder, PersonKey? comer, string? proof = null, bool owns = false)
    {
        Seat? Of(PersonKey? person) => person is { } key ? Inside.Shown.Find(key) : null;
        var (held, seat) = (Of(holder), Of(comer) ?? Of(holder));
        return Task.FromResult(new DoorState(
            Over: Inside.Shown.Phase == Phase.Adjourned, HostName: Inside.Shown.Host is { } host ? Inside.Shown.Seats[host].Name : null,
            Lock: Inside.Shown.Door.Lock, IsKnown: seat is not null, HoldsSeat: held is { Place: not Place.Gone },
            ComesBack: seat is { Place: not Place.Gone } or { Admittance: Admittance.Granted }, IsSeated: held is { IsSeated: true },
            Barred: seat is { Exit: Exit.RemovedForGood }, Preparing: Inside.Shown.Phase == Phase.Prepare,
            EntersAs: seat is { IsSeated: true } ? seat.Role : EntersAs(comer, proof, owns), OnRecord: OnRecords.Of(Inside.Shown)));
    }

    /// <summary>Asks the rules what would happen, and lets nothing happen.</summary>
    private Role? EntersAs(PersonKey? comer, string? proof, bool owns) =>
        SittingRules.Decide(Inside.Shown, new Announce(comer ?? new PersonKey(""), "Somebody", proof, Owns: owns), Actor.House, Inside.Now)
            is { Facts: [Entered entered] } ? entered.As : null;
}
