using System.Collections.Immutable;
using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>What must never happen, whatever anybody wishes, judged without the rules that should prevent it.</summary>
public class IntruderTests
{
    private static House Opened(bool prepare, DoorMode door = DoorMode.Listed, Audience see = Audience.Everyone)
    {
        var house = new House();
        house.Do(Actor.House, new Open("Assembly", new PersonKey("account:odalys"), new Door(door),
            StandingOrders.Usual with { SeePeople = see },
            [new DocketLine("listed1", Key: "line:1"), new DocketLine("listed2", Role.Presenter, Key: "line:2"),
                new DocketLine("listed3", Role.Deputy, Key: "line:3")], prepare));
        house.Arrives("Odalys", new PersonKey("account:odalys"));
        for (var n = 1; n <= 3; n++) house.Arrives($"listed{n}", new PersonKey($"guest:key{n}"), n == 2 ? "line:2" : null);
        return house;
    }

    private static Actor By(PropertyTests.Step step) => step.By == 0 ? Actor.House : Actor.Of(new SeatId(step.By));

    [Property(Arbitrary = [typeof(PropertyTests.Wishes)], MaxTest = 600)]
    public void Nobody_is_seated_who_was_not_let_in_since_they_were_last_put_out(PropertyTests.Step[] steps, bool prepare) =>
        IsWatched(Opened(prepare), steps);

    /// <summary>The same among people with several keys and browsers, links that change hands, and names typed beside them.</summary>
    [Property(Arbitrary = [typeof(Comings)], MaxTest = 600)]
    public void Nobody_comes_back_by_another_link_or_browser(PropertyTests.Step[] steps, bool prepare)
    {
        var house = Opened(prepare);
        IsWatched(house, steps);

        // And whoever has a key that nobody else ever showed is kept out by nothing that others typed.
        var (key, line) = ("line:4", new DocketLine("listed4", Role.Presenter, Key: "line:4"));
        house.Do(House.Host, new Expect(line));
        house.Do(Actor.House, new Announce(new PersonKey("guest:typed"), line.Name));
        if (house.Sitting is not { Phase: Phase.InSession, Door: { Lock: null, Mode: DoorMode.Listed or DoorMode.Open } }) return;
        house.Sitting.Docket.Lines.Count(one => one.Key == key).ShouldBe(1);
        house[house.Arrives("Anybody", new PersonKey("guest:own"), key)].ShouldSatisfyAllConditions(
            seat => seat.IsSeated.ShouldBeTrue("the holder of a link walks in"), seat => seat.Role.ShouldBe(Role.Presenter));
        house[house.Sitting.SeatOf[new PersonKey("guest:typed")]].Match.ShouldNotBe(Match.Sure, "the name alone is in doubt");
    }

    private static void IsWatched(House house, PropertyTests.Step[] steps)
    {
        var porter = new Porter();
        foreach (var entry in house.Entries) porter.Read(entry, null);
        foreach (var step in steps)
        {
            var count = house.Entries.Count;
            house.Do(By(step), step.Command);
            foreach (var entry in house.Entries.Skip(count)) porter.Read(entry, step.Command);
            foreach (var seat in house.Sitting.Seats.Where(seat => seat.IsSeated))
                porter.IsIn(seat.Id).ShouldBeTrue($"{seat.Name} sits inside after {step}");
        }
    }

    /// <summary>Comings and goings alone, in few browsers with few keys, so that they meet often.</summary>
    public static class Comings
    {
        private static readonly Gen<PropertyTests.Step> _comes = Gen.Choose(1, 6)
            .Zip(Gen.Elements(null, "line:1", "line:2", "line:3"), (browser, key) => (browser, key))
            .Zip(Gen.Elements("listed1", "listed2", "listed3", "Somebody"), (by, name) =>
                new PropertyTests.Step(0, new Announce(new PersonKey($"guest:key{by.browser}"), name, by.key)));

        private static readonly Gen<PropertyTests.Step> _goes = Gen.Choose(2, 8).Select(seat => new PropertyTests.Step(seat, new Leave()));

        private static readonly Gen<(int Seat, int What)> _pair = Gen.Choose(2, 8).Zip(Gen.Choose(0, 12), (seat, what) => (seat, what));

        private static readonly Gen<PropertyTests.Step> _bench = _pair.Select(pair =>
        {
            ImmutableArray<SeatId> seat = [new SeatId(pair.Seat)];
            return new PropertyTests.Step(1, pair.What switch
            {
                0 or 1 => new Remove(seat, MayReturn: true),
                2 or 3 => new Remove(seat, MayReturn: false),
                4 => new Decline(seat),
                5 => new SendToLobby(seat),
                6 => new GiveRole(seat, Role.Attendee),
                7 => new GiveRole(seat, Role.Deputy),
                8 or 9 => new Admit(seat),
                10 => new AdmitSure(),
                11 => new SetDoor(pair.Seat % 2 == 0 ? DoorMode.Open : DoorMode.Listed, ByName: pair.Seat > 5),
                _ => new TakeBack()
            });
        });

        public static Arbitrary<PropertyTests.Step[]> Some() =>
            Gen.Frequency((6, _comes), (2, _goes), (4, _bench)).ArrayOf(40).ToArbitrary();
    }

    /// <summary>
    /// Keeps a list of who was let in, by reading what is written in the ledger and nothing else. Whoever ever showed a key that another
    /// showed, too, is the same person to the porter, over however many hands it went.
    /// </summary>
    private sealed class Porter
    {
        private readonly HashSet<SeatId> _seen = [], _forGood = [];
        private readonly Dictionary<SeatId, Role> _roles = [];
        private readonly List<(SeatId Seat, string Key)> _shown = [];
        private readonly Dictionary<SeatId, int> _in = [], _out = [], _lowered = [], _given = [];
        private readonly List<DocketLine> _docket = [];
        private Door _door = new(DoorMode.Attended);
        private bool _prepares;
        private int _clock;

        public bool IsIn(SeatId seat) => _in.ContainsKey(seat);

        public void Read(Entry entry, Command? wish) => Read(entry.Fact, entry.By, wish);

        private void Read(Fact fact, Actor by, Command? wish)
        {
            _clock++;
            switch (fact)
            {
                case TakenBack back: Read(back.Opposite, by, wish); break;
                case PresetTaken preset: foreach (var part in preset.Parts) Read(part, by, wish); break;
                case ItemTurned item: foreach (var part in item.Parts) Read(part, by, wish); break;
                case Opened opened: (_door, _prepares) = (opened.Door, opened.Prepare); _docket.AddRange(opened.Docket); break;
                case Begun: _prepares = false; break;
                case DoorSet set: _door = set.To; break;
                case Expected expected: _docket.Add(expected.Line); break;
                case Announced announced:
                    _seen.Add(announced.Seat);
                    _roles.TryAdd(announced.Seat, Role.Attendee);
                    Shows(announced.Seat, announced.Proof);
                    break;
                case Proved proved: Shows(proved.Seat, proved.Proof); break;
                case Entered entered: Enters(entered, wish); break;
                case Admitted admitted:
                    by.IsHouse.ShouldBeFalse("only the bench admits");
                    if (wish is AdmitSure or Begin or Next)
                        foreach (var seat in admitted.Seats)
                            OutsOf(seat, null).ShouldNotContain(other => _forGood.Contains(other), "removed for good, let in with all");
                    foreach (var (seat, role) in admitted.Seats.Zip(admitted.As)) Welcome(seat, role);
                    break;
                case VisitsTurned turned:
                    foreach (var seat in turned.Closed) PutOut(seat);
                    foreach (var (seat, role) in turned.Called.Zip(turned.As)) Welcome(seat, role);
                    break;
                case VisitsReturned returned:
                    foreach (var seat in returned.ToLobby) PutOut(seat);
                    foreach (var seat in returned.Back) Welcome(seat, _roles[seat]);
                    break;
                case Reseated reseated: foreach (var seat in reseated.Seats) Welcome(seat, _roles[seat]); break;
                case Declined declined: foreach (var seat in declined.Seats) PutOut(seat, Role.Attendee); break;
                case Removed removed:
                    foreach (var seat in removed.Seats) PutOut(seat, Role.Attendee);
                    if (!removed.MayReturn) _forGood.UnionWith(removed.Seats);
                    break;
                case SentToLobby sent: foreach (var seat in sent.Seats) PutOut(seat); break;
                case RolesGiven given: foreach (var change in given.Changes) Gives(change.Seat, change.To); break;
                case HandedOver over:
                    Gives(over.From, over.FromBecomes);
                    Gives(over.To, Role.Host);
                    break;
            }
        }

        private void Shows(SeatId seat, string? key)
        {
            if (key is not null) _shown.Add((seat, key));
        }

        /// <summary>The other seats of the same person: the list is read again and again until it names nobody new.</summary>
        private HashSet<SeatId> OthersOf(SeatId seat, string? key)
        {
            var (seats, keys) = (new HashSet<SeatId> { seat }, new HashSet<string>());
            if (key is not null) keys.Add(key);
            for (var count = -1; count != seats.Count + keys.Count;)
            {
                count = seats.Count + keys.Count;
                foreach (var (who, what) in _shown)
                    if (seats.Contains(who) || keys.Contains(what))
                    {
                        seats.Add(who);
                        keys.Add(what);
                    }
            }
            seats.Remove(seat);
            return seats;
        }

        /// <summary>Of those whoever is put out, and was so after this seat was last let in.</summary>
        private List<SeatId> OutsOf(SeatId seat, string? key) =>
            [.. OthersOf(seat, key).Where(other => _out.TryGetValue(other, out var at) && at > _in.GetValueOrDefault(seat, -1))];

        private void Enters(Entered entered, Command? wish)
        {
            var (seat, held) = (entered.Seat, _roles.GetValueOrDefault(entered.Seat, Role.Attendee));
            var (others, outs) = (OthersOf(seat, entered.Proof), OutsOf(seat, entered.Proof));
            _forGood.ShouldNotContain(seat, "removed for good");
            outs.Where(_forGood.Contains).ShouldBeEmpty($"{seat} was removed for good in another browser");
            var line = _docket.Find(one => one.Key is not null && one.Key == entered.Proof);
            if (others.Any(_out.ContainsKey)) line = null;
            else if (line is not null)
                line = line with { Role = others.Where(IsIn).Select(other => _roles[other]).Append(line.Role).Min() };
            Shows(seat, entered.Proof);
            var hasKey = wish is Announce { HostKey: true };
            // No wish: the owner, with whom the test begins.
            var isOwner = wish is null or Announce { Owns: true } && !_seen.Contains(seat);
            var cameBack = IsIn(seat) && outs is [] && (_door.Lock is null || held >= Role.Deputy);
            var byDoor = _door.Lock is null && !_out.ContainsKey(seat) && outs is [] && (_prepares
                ? _door.Mode != DoorMode.Attended && line?.Role >= Role.Presenter
                : _door.Mode == DoorMode.Open
                    || (_door.Mode == DoorMode.Listed
                    && (line is not null || (_door.ByName && _docket.Exists(one => one.Name == entered.Name)))));
            (hasKey || isOwner || cameBack || byDoor).ShouldBeTrue($"{entered} by {wish} at {_door}");
            if (hasKey || isOwner) Gives(seat, entered.As);
            else if (cameBack)
                entered.As.ShouldBe(held == Role.Host ? held : others.Where(other => IsIn(other) && WasLoweredSince(other, seat))
                    .Select(other => _roles[other]).Append(held).Min());
            else if (entered.As > Role.Attendee) entered.As.ShouldBe(line?.Role ?? Role.Attendee, "no role by a typed name");
            if (!cameBack) _given[seat] = _clock;
            Welcome(seat, cameBack && !hasKey && !isOwner || entered.As > held ? entered.As : held);
        }

        private bool WasLoweredSince(SeatId other, SeatId self) =>
            _lowered.TryGetValue(other, out var at) && at > _given.GetValueOrDefault(self, -1);

        private void Gives(SeatId seat, Role role)
        {
            _given[seat] = _clock;
            if (role < _roles.GetValueOrDefault(seat)) _lowered[seat] = _clock;
            else if (role > _roles.GetValueOrDefault(seat)) _lowered.Remove(seat);
            _roles[seat] = role;
        }

        private void Welcome(SeatId seat, Role role)
        {
            _seen.Add(seat);
            _out.Remove(seat);
            _forGood.Remove(seat);
            _in[seat] = _clock;
            _roles[seat] = role;
        }

        private void PutOut(SeatId seat, Role? becomes = null)
        {
            _in.Remove(seat);
            _out[seat] = _clock;
            if (becomes is { } role) _roles[seat] = role;
        }
    }

    [Property(Arbitrary = [typeof(PropertyTests.Wishes)], MaxTest = 300)]
    public void Whoever_admits_all_who_are_sure_makes_nobody_more_than_was_proved(PropertyTests.Step[] steps)
    {
        var house = Opened(false);
        foreach (var step in steps)
        {
            var before = house.Sitting;
            var decision = house.Do(By(step), step.Command);
            if (step.Command is not (AdmitSure or Begin or Next)) continue;
            foreach (var (seat, role) in decision.Facts.SelectMany(fact =>
                fact switch
                {
                    Admitted admitted => admitted.Seats.Zip(admitted.As),
                    VisitsTurned turned =>
                turned.Called.Zip(turned.As),
                    _ => []
                }))
                if (role > before.Seats[seat].Role)
                    before.Docket.Lines.ShouldContain(line => line.Key != null && line.Key == before.Seats[seat].Proof
                    && line.Role >= role);
        }
    }

    /// <summary>Lines as somebody types them who wants to be told names.</summary>
    private static readonly string[] _lines =
        ["", "m", "mute ", "mute w", "floor to ", "floor to l", "admit ", "admit w", "decline l", "item s", "item ", "go to item ",
        "remove ", "give ", "write to ", "rename w", "hand over to ", "take s", "keep file ", "hand out no longer "];

    private static readonly Command[] _wishes =
        [new Admit([new(1), new(2), new(3), new(4), new(5)]), new AdmitSure(), new MuteAll(true), new NextItem(), new Next(),
        new YieldFloor(), new Leave(), new RaiseHand(),
        new SetOrder(Order.SeePeople, Audience.Everyone), new Mute([new(2), new(3), new(4)]), new TakeBack()];

    [Property(Arbitrary = [typeof(PropertyTests.Wishes)], MaxTest = 150)]
    public void Nothing_that_is_answered_names_somebody_whom_the_asker_may_not_know(PropertyTests.Step[] steps, Audience see)
    {
        var house = Opened(false, DoorMode.Open, see);
        foreach (var seat in house.Sitting.Seats) house.Do(seat.Id, new TurnCamera(true));
        foreach (var step in steps) house.Do(By(step), step.Command);
        var sitting = house.Sitting;
        FilesAreKnownToGiverAndReceivers(house);
        foreach (var seat in sitting.Seats.Where(seat => !(seat.IsSeated && seat.Role >= Role.Deputy)))
        {
            var answers = string.Concat(
                Json(MeRow.Of(sitting, seat)),
                string.Concat(_lines.Select(line =>
                    Json(Reader.Read(new Scope(sitting, seat.Id, new Instant(1_770_000_900_000), []), line).Completions))),
                string.Concat(_wishes.Select(wish => Json(Foresight.Of(sitting, wish, Actor.Of(seat.Id), new Instant(1_770_000_900_000))))),
                string.Concat(sitting.Chat.Newest.Where(message => sitting.MayKnow(seat, new Matter.Words(message)))
                    .Select(message => Json(MessageRow.Of(sitting, message, seat)))));
            var hidden = sitting.Seats.Where(other => other.Id != seat.Id && IsHidden(sitting, seat, other)).ToList();
            var known = sitting.Seats.Except(hidden).Select(other => other.Name).ToHashSet();
            foreach (var other in hidden.Where(other => !known.Contains(other.Name) && !WroteTo(sitting, other, seat)
                && !sitting.Handouts.Out.Any(handout => handout.By == seat.Id && handout.To == other.Id)))
                answers.ShouldNotContain(other.Name, Case.Sensitive, $"{seat.Name} ({seat.Role}, {seat.Place})");
            answers.ShouldNotContain("secretitem");
            answers.ShouldNotContain("secretnote");
            foreach (var message in sitting.Chat.Newest.Where(message => message is { To.Reach: Reach.One } && message.From != seat.Id
                && message.To.Seat != seat.Id))
                sitting.MayKnow(seat, new Matter.Words(message)).ShouldBeFalse();

            var everybody = sitting.Seats.Select(other => new Wish(other.Id, 400));
            var stage = StageState.Unknown.With(StageChange.Whole(sitting));
            foreach (var shown in ForwardingPlan.Allot(everybody.Where(wish => stage.MayBeSeen(wish.Sender, seat.Id)),
                100_000_000).Keys.Select(key => key.Sender))
            {
                seat.IsSeated.ShouldBeTrue("nobody outside sees anybody");
                IsHidden(sitting, seat, sitting.Seats[shown]).ShouldBeFalse($"{seat.Name} sees {sitting.Seats[shown].Name}");
            }
        }
    }

    /// <summary>By what was written when it was given: the bench, too, knows nothing of what goes between two people.</summary>
    private static void FilesAreKnownToGiverAndReceivers(House house)
    {
        var given = house.Entries.Select(entry => entry.Fact).OfType<HandedOut>().Select(fact => fact.Handout).ToList();
        foreach (var seat in house.Sitting.Seats)
        {
            var answers = Json(MeRow.Of(house.Sitting, seat)) + string.Concat(_lines[^3..].Select(line =>
                Json(Reader.Read(new Scope(house.Sitting, seat.Id, new Instant(1_770_000_900_000), []), line).Completions)));
            foreach (var name in given.Select(handout => handout.Name).Distinct())
                if (!seat.IsSeated || given.TrueForAll(handout =>
                    handout.Name != name || (handout.By != seat.Id && handout.To is { } to && to != seat.Id)))
                    answers.ShouldNotContain(name, Case.Sensitive, $"{seat.Name} ({seat.Role}, {seat.Place})");
            foreach (var gone in given.Where(handout => house.Sitting.Seats[handout.By].Exit is Exit.Removed or Exit.RemovedForGood))
                house.Sitting.Handouts.Out.ShouldNotContain(handout => handout.By == gone.By, "files of somebody removed");
        }
    }

    private static string Json<T>(T value) => JsonSerializer.Serialize(value, CoreJson.Options);

    /// <summary>Names stay beside what people wrote to everyone, wherever
    /// people may know of each other, also when they have gone.</summary>
    private static bool WroteTo(Sitting sitting, Seat other, Seat seat) => sitting.Chat.Newest.Exists(message => message.From == other.Id
        && (message.To.Seat == seat.Id
        || (message.To.Reach == Reach.Everyone && (other.Role >= Role.Presenter || SeesPeople(sitting, seat)))))
        || sitting.Chat.Newest.Exists(message => message.From == seat.Id && message.To.Seat == other.Id);

    private static bool SeesPeople(Sitting sitting, Seat seat) =>
        sitting.Orders.SeePeople == Audience.Everyone || (sitting.Orders.SeePeople == Audience.Presenters && seat.Role == Role.Presenter);

    private static bool IsHidden(Sitting sitting, Seat seat, Seat other) =>
        !seat.IsSeated || !other.IsSeated
        || (other.Role == Role.Attendee && sitting.Turn?.Seat != other.Id && !sitting.Picture.Front.Contains(other.Id)
            && !Shows(sitting, other) && !SeesPeople(sitting, seat));

    /// <summary>Whoever shows something to all, or turns its pages, is there for all as whoever speaks is.</summary>
    private static bool Shows(Sitting sitting, Seat seat) => sitting.Shelf.Shown.Any(number => sitting.Shelf.Open.Any(one =>
        one.Number == number && (one.By == seat.Id || one.Pages?.Holder == seat.Id)));
}
