using System.Collections.Immutable;

namespace HoldCourt.Core.Tests;

/// <summary>A sitting played step by step through the public face of the core, with the entries it left.</summary>
internal sealed class House
{
    private Instant _now = new(1_770_000_000_000);

    public Sitting Sitting { get; private set; } = Sitting.Empty;
    public List<Entry> Entries { get; } = [];
    public static SeatId Host { get; } = new(1);

    public static House Opened(DoorMode door = DoorMode.Attended, StandingOrders? orders = null, params DocketLine[] docket)
    {
        var house = new House();
        house.Do(Actor.House, new Open("Assembly", new PersonKey("account:odalys"), new Door(door), orders
            ?? StandingOrders.Usual, [.. docket])).Refusal.ShouldBeNull();
        house.Arrives("Odalys", new PersonKey("account:odalys")).ShouldBe(Host);
        return house;
    }

    public Decision Do(Actor by, Command command)
    {
        _now += TimeSpan.FromSeconds(1);
        var decision = SittingRules.Decide(Sitting, command, by, _now);
        (var entries, Sitting) = SittingRules.Record(Sitting, decision.Facts, by, _now);
        Entries.AddRange(entries);
        return decision;
    }

    public void Takes(ImmutableArray<Fact> facts, Actor by)
    {
        (var entries, Sitting) = SittingRules.Record(Sitting, facts, by, _now);
        Entries.AddRange(entries);
    }

    public void Waits(TimeSpan span) => _now += span;

    public Decision Do(SeatId by, Command command) => Do(Actor.Of(by), command);

    public SeatId Arrives(string name, PersonKey? person = null, string? proof = null)
    {
        var key = person ?? new PersonKey($"guest:{name}");
        Do(Actor.House, new Announce(key, name, proof, Owns: key == Sitting.Owner)).Refusal.ShouldBeNull();
        // The page opens its line.
        Do(Actor.House, new Reconnect(Sitting.SeatOf[key]));
        return Sitting.SeatOf[key];
    }

    public SeatId Admits(string name, Role role = Role.Attendee)
    {
        var seat = Arrives(name);
        Do(Host, new Admit([seat], role)).Refusal.ShouldBeNull();
        return seat;
    }

    public Seat this[SeatId id] => Sitting.Seats[id];

    public static ImmutableArray<SeatId> Seats(params SeatId[] seats) => [.. seats];
}
