using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>Groups of the docket that are excepted from the orders.</summary>
public class GroupTests
{
    private static readonly DocketLine[] _docket =
    [
        new("Nia Okafor", Group: "Upper Kell", Key: "line:nia"), new("Ben Sorel", Group: "Upper Kell"),
        new("Jun Takeda", Group: "Lower Kell", Key: "line:jun"), new("Zofia Lis")
    ];

    private House _house = House.Opened(DoorMode.Open, null, _docket);

    private bool MayShow(SeatId seat) => _house.Sitting.Forbids(Actor.Of(seat), Capability.Exhibit) is null;

    private void Does(Command command) => _house.Do(House.Host, command).Refusal.ShouldBeNull();

    [Fact]
    public void A_group_is_let_and_kept_and_those_who_come_later_are_of_it_too()
    {
        var nia = _house.Arrives("Nia Okafor", proof: "line:nia");
        Does(new ExceptGroup("upper kell", Order.Exhibit, true));
        var jun = _house.Arrives("Jun Takeda", proof: "line:jun");
        (MayShow(nia), MayShow(jun)).ShouldBe((true, false));
        Does(new SetDoor(DoorMode.Attended));
        MayShow(_house.Admits("Ben Sorel")).ShouldBeTrue("the bench let him in as that line");

        // A single person's exception goes before the group's.
        Does(new Except([nia], Order.Exhibit, false));
        MayShow(nia).ShouldBeFalse();
        Does(new Except([nia], Order.Exhibit, null));

        // What is taken ends what stands, and comes back as it was.
        _house.Do(nia, new OpenScreen()).Refusal.ShouldBeNull();
        Does(new SetOrder(Order.Exhibit, Audience.Everyone));
        Does(new ExceptGroup("Upper Kell", Order.Exhibit, false));
        _house.Do(nia, new OpenScreen()).Refusal!.Reason.ShouldBe(Reason.TakenFromYou);
        _house.Sitting.Shelf.Open.ShouldBeEmpty();
        Does(new TakeBack());
        (MayShow(nia), MayShow(jun)).ShouldBe((true, true));
        Does(new SetOrder(Order.Exhibit, Audience.Presenters));
        (MayShow(nia), MayShow(jun)).ShouldBe((true, false));
    }

    [Fact]
    public void Microphones_that_a_group_loses_are_closed_and_given_back_by_taking_back()
    {
        var (nia, jun) = (_house.Arrives("Nia Okafor", proof: "line:nia"), _house.Arrives("Jun Takeda", proof: "line:jun"));
        foreach (var seat in new[] { nia, jun }) _house.Do(seat, new OpenMicrophone()).Refusal.ShouldBeNull();
        var seen = Foresight.Of(_house.Sitting, new ExceptGroup("Upper Kell", Order.Speak, false), Actor.Of(House.Host), new Instant(0));
        seen.Shifts.ShouldContain(shift =>
            shift.Capability == Capability.Speak && !shift.Gains && string.Concat(shift.Names) == "Nia Okafor");
        Does(new ExceptGroup("Upper Kell", Order.Speak, false));
        (_house[nia].MicrophoneOpen, _house[jun].MicrophoneOpen).ShouldBe((false, true));
        Does(new TakeBack());
        (_house[nia].MicrophoneOpen, _house[jun].MicrophoneOpen).ShouldBe((true, true));
    }

    [Fact]
    public void What_cannot_be_is_refused()
    {
        var nia = _house.Arrives("Nia Okafor", proof: "line:nia");
        Reason Why(SeatId by, string group, Order order, bool? may) =>
            _house.Do(by, new ExceptGroup(group, order, may)).Refusal!.Reason;
        Why(nia, "Upper Kell", Order.Exhibit, true).ShouldBe(Reason.OnlyBench);
        Why(House.Host, "Nobody’s", Order.Exhibit, true).ShouldBe(Reason.NoSuchGroup);
        Why(House.Host, "Upper Kell", Order.SeePeople, true).ShouldBe(Reason.NoExceptions);
        Why(House.Host, "Upper Kell", Order.Exhibit, null).ShouldBe(Reason.NoChange);
    }

    [Fact]
    public void Another_link_does_not_shake_off_what_was_taken_with_the_first()
    {
        var first = _house.Arrives("Nia Okafor", proof: "line:nia");
        _house.Do(House.Host, new Except([first], Order.Exhibit, false)).Refusal.ShouldBeNull();
        _house.Do(Actor.House, new Announce(_house[first].Person, "Nia Okafor", "line:jun")).Refusal.ShouldBeNull();
        var second = _house.Arrives("Nia", proof: "line:nia");
        _house[second].Taken.ShouldBe([Order.Exhibit]);
    }

    public static class Comings
    {
        private static readonly Gen<string> _name = Gen.Elements("Nia Okafor", "Ben Sorel", "Jun Takeda", "Walker");
        private static readonly Gen<SeatId> _seat = Gen.Choose(1, 6).Select(n => new SeatId(n));

        public static Arbitrary<Command[]> Steps() => Gen.Frequency(
            (5, Gen.Choose(1, 5).Zip(_name, (n, name) => (n, name)).Zip(Gen.Elements(null, null, "line:nia", "line:jun"),
                (who, proof) => (Command)new Announce(new PersonKey($"guest:{who.n}"), who.name, proof))),
            (2, Gen.Elements(DoorMode.Open, DoorMode.Listed, DoorMode.Attended).Zip(Gen.Elements(true, false),
                (mode, byName) => (Command)new SetDoor(mode, byName && mode == DoorMode.Listed))),
            (3, _seat.Select(seat => (Command)new Admit([seat]))),
            (1, Gen.Constant((Command)new AdmitSure())),
            (1, _seat.Select(seat => (Command)new SendToLobby([seat]))),
            (1, _seat.Select(seat => (Command)new Remove([seat], true))),
            (1, _seat.Zip(_name, (seat, name) => (Command)new Rename(seat, name))),
            (1, _seat.Select(seat => (Command)new Except([seat], Order.Exhibit, false))))
            .ArrayOf(25).ToArbitrary();
    }

    /// <summary>
    /// By the ledger alone: who has a group's right has shown its line's key, or was chosen by the bench and let in under its very name;
    /// and nobody to whom it was refused comes by it in another browser.
    /// </summary>
    [Property(Arbitrary = [typeof(Comings)], MaxTest = 500)]
    public void Nobody_comes_into_a_group_by_a_name_they_typed(Command[] steps)
    {
        _house = House.Opened(DoorMode.Open, null, _docket);
        Does(new ExceptGroup("Upper Kell", Order.Exhibit, true));
        var letIn = new Dictionary<SeatId, string>();
        foreach (var step in steps)
        {
            var by = step is Announce ? Actor.House : Actor.Of(House.Host);
            var names = _house.Sitting.Seats.ToDictionary(seat => seat.Id, seat => seat.Name);
            foreach (var fact in _house.Do(by, step).Facts)
                if (fact is Admitted admitted)
                    foreach (var seat in admitted.Seats) letIn[seat] = step is Admit ? names[seat] : "";
            foreach (var seat in _house.Sitting.Seats.Where(seat => seat is { IsSeated: true, Role: Role.Attendee } && MayShow(seat.Id)))
            {
                var shown = Shown(seat.Id);
                (shown.Contains("line:nia") || letIn.GetValueOrDefault(seat.Id) is "Nia Okafor" or "Ben Sorel").ShouldBeTrue($"{seat}");
                var came = _house.Entries.FindLastIndex(entry => entry.Fact is Entered one && one.Seat == seat.Id);
                if (shown.LastOrDefault() is { } key)
                    RefusedBefore(came).Where(other => Shown(other, came).LastOrDefault() == key)
                        .ShouldBeEmpty($"{seat} has what was taken");
            }
        }
    }

    private List<string> Shown(SeatId seat, int before = int.MaxValue) => [.. _house.Entries.Take(before).Select(entry => entry.Fact switch
    {
        Announced one when one.Seat == seat => one.Proof,
        Entered one when one.Seat == seat => one.Proof,
        Proved one when one.Seat == seat => one.Proof,
        _ => null
    }).OfType<string>()];

    /// <summary>To whom it was refused, once and for all here.</summary>
    private HashSet<SeatId> RefusedBefore(int came)
    {
        var refused = new HashSet<SeatId>();
        foreach (var entry in _house.Entries.Take(came))
            if (entry.Fact is Excepted { Order: Order.Exhibit } one)
                refused.UnionWith(one.Changes.Select(change => change.Seat));
        return refused;
    }
}
