namespace HoldCourt.Core.Tests;

public class LendingTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _nia, _teodor;

    public LendingTests()
    {
        _nia = _house.Arrives("Nia Okafor");
        _teodor = _house.Arrives("Teodor Quill");
        _house.Do(House.Host, new GiveRole([_teodor], Role.Presenter)).Refusal.ShouldBeNull();
        _house.Do(_teodor, new OpenScreen()).Refusal.ShouldBeNull();
        _house.Do(_teodor, new ShowExhibit(1)).Refusal.ShouldBeNull();
        _house.Do(Actor.House, new NoteAgent(1, true)).Refusal.ShouldBeNull();
    }

    private bool Drives(SeatId seat) => _house.Sitting.MayDrive(seat, 1);

    private void Lent()
    {
        _house.Do(_teodor, new LendControls(_nia)).Refusal.ShouldBeNull();
        Drives(_nia).ShouldBeFalse("not taken yet");
        _house.Do(_nia, new TakeControls()).Refusal.ShouldBeNull();
        Drives(_nia).ShouldBeTrue();
    }

    [Fact]
    public void Only_whoever_shares_lends_and_only_to_whom_it_was_lent_takes()
    {
        _house.Do(House.Host, new LendControls(_nia)).Refusal!.Reason.ShouldBe(Reason.NoScreenOpen);
        _house.Do(_teodor, new LendControls(_teodor)).Refusal!.Reason.ShouldBe(Reason.NobodySeated);
        _house.Do(_nia, new TakeControls()).Refusal!.Reason.ShouldBe(Reason.NothingLent);
        Lent();
        _house.Do(House.Host, new TakeControls()).Refusal!.Reason.ShouldBe(Reason.NothingLent);
        foreach (var other in new[] { House.Host, _teodor }) Drives(other).ShouldBeFalse();
        _house.Do(_nia, new EndLoan()).Refusal.ShouldBeNull("one may give back");
        Drives(_nia).ShouldBeFalse();
        Lent();
        _house.Do(_teodor, new EndLoan()).Refusal.ShouldBeNull();
        Lent();
        _house.Do(House.Host, new EndLoan()).Refusal.ShouldBeNull("the bench may end it");
        Lent();
        var ilse = _house.Arrives("Ilse Vantorre");
        _house.Do(ilse, new EndLoan()).Refusal.ShouldNotBeNull("and nobody else");
        // Lent to another, it is not the first one's any more.
        _house.Do(_teodor, new LendControls(ilse)).Refusal.ShouldBeNull();
        Drives(_nia).ShouldBeFalse();
    }

    public static TheoryData<SeatCommand, bool> Ends => new()
    {
        { new TakeDown(1), true }, { new CloseExhibit(1), true }, { new Remove([new SeatId(2)], true), true },
        { new SendToLobby([new SeatId(2)]), true }, { new SetOrder(Order.Exhibit, Audience.Bench), true },
        { new GiveRole([new SeatId(3)], Role.Attendee), true }, { new CallRecess("", 1, false), false }
    };

    [Theory]
    [MemberData(nameof(Ends))]
    public void Whatever_takes_the_screen_or_the_driver_away_ends_the_driving_at_once(SeatCommand command, bool forGood)
    {
        Lent();
        _house.Do(House.Host, command).Refusal.ShouldBeNull();
        Drives(_nia).ShouldBeFalse();
        (_house.Sitting.Shelf.Find(1)?.Loan is null).ShouldBe(forGood);
    }

    [Fact]
    public void Held_nothing_passes_and_without_its_agent_nothing_is_lent()
    {
        Lent();
        _house.Do(_teodor, new HoldScreen(true));
        Drives(_nia).ShouldBeFalse("the others do not see what would be done");
        _house.Do(_teodor, new HoldScreen(false));
        Drives(_nia).ShouldBeTrue();
        _house.Do(Actor.House, new NoteAgent(1, false));
        Drives(_nia).ShouldBeFalse();
        _house.Do(Actor.House, new NoteAgent(1, true));
        Drives(_nia).ShouldBeFalse("it is lent anew or not at all");
        _house.Do(Actor.House, new NoteAgent(1, false));
        _house.Do(_teodor, new LendControls(_nia)).Refusal!.Reason.ShouldBe(Reason.NoAgent);
    }
}
