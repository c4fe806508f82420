using System.Collections.Immutable;
using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>What must hold after any sequence of wishes by anybody.</summary>
public class PropertyTests
{
    private const int People = 7;

    public sealed record Step(int By, Command Command);

    public static class Wishes
    {
        private static Gen<T> Any<T>() where T : struct, Enum => Gen.Elements(Enum.GetValues<T>());
        private static readonly Gen<bool> _coin = Gen.Elements(true, false);
        private static readonly Gen<SeatId> _seat = Gen.Choose(1, People).Select(number => new SeatId(number));
        private static readonly Gen<ImmutableArray<SeatId>> _seats = _seat.ArrayOf(2).Select(seats => seats.ToImmutableArray());

        /// <summary>People come, and come again: with a name of the docket or another, with a
        /// personal link or without, now and then with the host key, or as a co-owner.</summary>
        private static readonly Gen<Step> _arrival = Gen.Choose(1, People)
            .Zip(Gen.Elements(null, null, null, "line:1", "line:2", "line:3"), (n, proof) => (n, proof))
            .Zip(Gen.Frequency((13, Gen.Constant((false, false))), (1, Gen.Constant((true, false))), (1, Gen.Constant((false, true)))),
                (comer, shows) =>
                new Step(0, new Announce(new PersonKey($"guest:key{comer.n}"), comer.n < 4
                    ? $"listed{comer.n}"
                    : $"walker{comer.n}", comer.proof, HostKey: shows.Item1, Owns: shows.Item2)));

        private static readonly Gen<int> _message = Gen.Choose(1, 6);
        private static readonly Gen<StandingOrders> _sheet = Any<Order>()
            .Zip(Any<Audience>(), (order, audience) => StandingOrders.Usual.With(order, audience));

        private static readonly Gen<Command> _wish = Gen.Frequency(
            (3, _seats.Zip(Any<Role>(), (seats, role) => (Command)new Admit(seats, role))),
            (1, Gen.Constant((Command)new AdmitSure())),
            (1, _seats.Select(seats => (Command)new Decline(seats, "secretwords"))),
            (1, _seats.Select(seats => (Command)new SendToLobby(seats))),
            (2, Any<DoorMode>().Zip(_coin, (mode, byName) => (Command)new SetDoor(mode, byName))),
            (1, _coin.Select(wait => (Command)new LockDoor("lockwords", wait))),
            (1, Gen.Constant((Command)new UnlockDoor())),
            (1, _seat.Zip(_coin, (seat, named) => (Command)new Leave(named ? seat : null))),
            (4, Gen.Constant((Command)new OpenMicrophone())),
            (1, Gen.Constant((Command)new CloseMicrophone())),
            (4, _coin.Select(on => (Command)new TurnCamera(on))),
            (2, _seats.Select(seats => (Command)new Mute(seats))),
            (1, _coin.Select(all => (Command)new MuteAll(all))),
            (1, _seats.Select(seats => (Command)new Unmute(seats))),
            (2, _seats.Select(seats => (Command)new AskToUnmute(seats))),
            (3, _coin.Zip(_coin, (agree, consent) => (Command)new AnswerUnmute(agree, consent))),
            (1, _seats.Select(seats => (Command)new CamerasOff(seats))),
            (1, _seats.Zip(_coin, (seats, back) => (Command)new Remove(seats, back))),
            (2, _seats.Zip(Any<Role>(), (seats, role) => (Command)new GiveRole(seats, role))),
            (1, _seat.Select(seat => (Command)new HandOver(seat))),
            (1, _seat.Zip(Gen.Choose(1, 3), (seat, n) => (Command)new Rename(seat, $"renamed{n}"))),
            (2, Any<Order>().Zip(Any<Audience>(), (order, to) => (Command)new SetOrder(order, to))),
            (2, Gen.Constant((Command)new Next())),
            (1, Gen.Constant((Command)new Begin())),
            (1, Gen.Constant((Command)new SendNotice("to all who wait"))),
            (1, Gen.Choose(1, People)
                .Select(n => (Command)new Expect(new DocketLine($"walker{n}", Group: "secretgroup",
                Slot: new Instant(1_770_000_300_000))))),
            (3, Gen.Constant((Command)new RaiseHand())),
            (1, Gen.Constant((Command)new LowerHand())),
            (1, _seats.Select(seats => (Command)new LowerHands(seats))),
            (4, _seat.Zip(_coin, (seat, named) => (Command)new GiveFloor(named ? seat : null, 10))),
            (1, Gen.Constant((Command)new TakeFloor())),
            (1, Gen.Constant((Command)new YieldFloor())),
            (1, Any<FloorOrder>().Zip(_coin, (order, ends) => (Command)new SetFloor(new FloorRule(order, 10, ends)))),
            (2, _sheet.Zip(Any<DoorMode>(), (sheet, door) => (Command)new TakePreset("preset", door, sheet))),
            (3, _seats.Zip(Any<Order>(), (seats, order) => (seats, order))
                .Zip(Gen.Elements(true, false, (bool?)null), (pair, may) => (Command)new Except(pair.seats, pair.order, may))),
            (2, Gen.Elements("upper", "secretgroup", "nowhere").Zip(Any<Order>(), (group, order) => (group, order))
                .Zip(Gen.Elements(true, false, (bool?)null), (pair, may) => (Command)new ExceptGroup(pair.group, pair.order, may))),
            (1, Any<State>().Zip(_coin, (state, on) => (Command)new SetState(on ? state : null))),
            (1, Gen.Constant((Command)new ClearStates())),
            (1, Any<Sign>().Select(sign => (Command)new React(sign))),
            (4, Any<Reach>().Zip(_seat, (reach, seat) =>
                (Command)new Write(new Recipient(reach, reach == Reach.One ? seat : null), reach == Reach.One
                ? "betweentwo"
                : $"{reach}words"))),
            (1, _message.Select(message => (Command)new EditMessage(message, "edited"))),
            (2, _message.Select(message => (Command)new DeleteMessage(message))),
            (1, _message.Zip(Any<Question>(), (message, question) => (Command)new MarkQuestion(message, question))),
            (1, _message.Zip(_coin, (message, on) => (Command)new PutUp(on ? message : null))),
            (1, Any<Arrangement>().Zip(_coin, (arrangement, on) => (Command)new SetArrangement(on ? arrangement : null))),
            (2, _seats.Select(seats => (Command)new PutInFront(seats))),
            (4, Gen.Constant((Command)new OpenScreen("secretscreen"))),
            (3, Gen.Choose(1, 5).Zip(_coin, (exhibit, beside) => (Command)new ShowExhibit(exhibit, beside))),
            (1, Gen.Choose(1, 5).Select(exhibit => (Command)new TakeDown(exhibit > 4 ? null : exhibit))),
            (1, Gen.Choose(1, 5).Select(exhibit => (Command)new CloseExhibit(exhibit))),
            (3, Any<Ruling>().Select(ruling => (Command)new OpenSheet("secretsheet", ruling))),
            (2, Gen.Constant((Command)new AddPage())),
            (3, Gen.Choose(0, 3).Zip(Gen.Choose(1, 5), (page, exhibit) => (Command)new TurnPage(page, exhibit > 3 ? null : exhibit))),
            (2, Gen.Choose(0, 3).Select(turn => (Command)new LookAt(new PageView(1 + turn, 0.5, 0.5, turn * 90)))),
            (3, _seat.Zip(_coin, (seat, named) => (Command)new HandPaging(named ? seat : null))),
            (1, _coin.Select(on => (Command)new SetFreeLook(on))),
            (2, _coin.Select(on => (Command)new AskToShow(on))),
            (2, _seats.Zip(_coin, (seats, may) => (Command)new LetShowOnce(seats, may))),
            (2, _coin.Select(on => (Command)new HoldScreen(on))),
            (2, _seat.Select(seat => (Command)new LendControls(seat))),
            (4, Gen.Constant((Command)new TakeControls())),
            (1, Gen.Constant((Command)new EndLoan())),
            (3, Gen.Choose(1, 4).Select(handout => (Command)new TakeFile(handout))),
            (1, Gen.Choose(1, 4).Select(handout => (Command)new RefuseFile(handout))),
            (1, Gen.Choose(1, 4).Select(handout => (Command)new EndHandout(handout))),
            (1, Gen.Choose(1, 4).Select(handout => (Command)new KeepHandout(handout))),
            (1, Gen.Choose(1, 4).Select(exhibit => (Command)new KeepExhibit(exhibit))),
            (1, _coin.Zip(_coin, (pictures, others) => (Command)new SetHandoutRules(new HandoutRules(1, true, pictures, others)))),
            (1, _coin.Select(ends => (Command)new CallRecess("", 1, ends))),
            (2, Gen.Constant((Command)new Resume())),
            (1, Gen.Choose(1, 9).Select(minutes => (Command)new Extend(minutes))),
            (1, Gen.Elements(30, 60, (int?)null).Select(seconds => (Command)new SetSuccession(seconds))),
            (1, _sheet.Zip(Any<Arrangement>(), (sheet, picture) =>
                (Command)new SetRunSheet([new Item(1, "one", 1, "walker3", sheet, picture, "secretnote"), new Item(2, "secretitem"),
                new Item(3, "three", Orders: StandingOrders.Usual)]))),
            (3, Gen.Constant((Command)new NextItem())),
            (1, Gen.Choose(1, 3).Select(item => (Command)new TurnToItem(item))),
            (1, Gen.Constant((Command)new EndItem())),
            (1, Gen.Choose(1, 60).Select(of => (Command)new TakeBack(of))),
            (4, Gen.Constant((Command)new TakeBack())));

        private static readonly Gen<Step> _step = Gen.Frequency(
            (2, _arrival),
            (1, _seats.Select(seats => new Step(0, new Drop(seats)))),
            (1, _seat.Select(seat => new Step(0, new Reconnect(seat)))),
            (2, _seat.Zip(Gen.Choose(1, 4), (seat, n) =>
                new Step(seat.Number, new BringFile(ExhibitKind.Document, "secretfile", $"file{n}", "c2VjcmV0")))),
            (4, Gen.Choose(1, 5).Zip(Gen.Frequency((4, Gen.Constant(true)), (1, Gen.Constant(false))), (exhibit, there) =>
                new Step(0, new NoteAgent(exhibit, there)))),
            (1, Gen.Choose(1, 5).Select(exhibit => new Step(0, new StopLoan(exhibit)))),
            (3, _seat.Zip(_seat, (by, to) => (by, to)).Zip(Any<FileSort>(), (pair, sort) => new Step(pair.by.Number, new GiveFile(
                $"given{pair.to.Number}", pair.to.Number > 5 ? "secrethandout" : $"secretfor{pair.to.Number}",
                pair.by.Number * 300_000L, sort, pair.to.Number > 5 ? null : pair.to)))),
            (3, Gen.Choose(1, 4).Zip(Gen.Choose(0, 3), (n, count) =>
                new Step(0, new NotePages($"file{n}", count, count == 0 ? PageFlaw.Broken : null)))),
            (1, Gen.Elements<Command>(new EndTurn(), new EndRecess(), new Succeed()).Select(command => new Step(0, command))),
            (1, _seats.Select(seats => new Step(0, new CountTalk(seats, [.. seats.Select(seat => seat.Number * 100L)])))),
            (5, _wish.Select(wish => new Step(1, wish))),
            (6, Gen.Choose(1, People + 1).Zip(_wish, (by, wish) => new Step(by, wish))));

        /// <summary>What seldom comes about by itself: the host's screen is shown, lent, and driven; whatever its number is.</summary>
        private static readonly Gen<Step[]> _lending = _seat.Select(driver => (Step[])
        [
            new(1, new OpenScreen("secretscreen")),
            .. Enumerable.Range(1, 4).SelectMany(exhibit => new Step[]
                { new(1, new ShowExhibit(exhibit, exhibit > 1)), new(0, new NoteAgent(exhibit, true)) }),
            new(1, new LendControls(driver)), new(driver.Number, new TakeControls())
        ]);

        private static readonly Gen<Step[]> _scene = Gen.Frequency((40, _step.Select(step => new[] { step })), (1, _lending));

        public static Arbitrary<Step[]> Steps() =>
            _scene.ArrayOf(60).Select(scenes => scenes.SelectMany(scene => scene).Take(90).ToArray()).ToArbitrary();
    }

    private static House Opened()
    {
        var house = House.Opened(DoorMode.Listed, null, new DocketLine("listed1", Group: "upper", Key: "line:1"),
            new DocketLine("listed2", Role.Presenter, Key: "line:2"), new DocketLine("listed3", Role.Deputy, Key: "line:3"));
        for (var n = 1; n <= 3; n++) house.Arrives($"listed{n}", new PersonKey($"guest:key{n}"), $"line:{n}");
        return house;
    }

    private static Actor By(Step step) => step.By == 0 ? Actor.House : Actor.Of(new SeatId(step.By));

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 400)]
    public void Nobody_ever_does_what_the_orders_forbid_at_that_moment(Step[] steps)
    {
        var house = Opened();
        foreach (var step in steps)
        {
            var before = house.Sitting;
            var decision = house.Do(By(step), step.Command);
            foreach (var fact in decision.Facts) MayBeDone(before, step, fact);
            foreach (var seat in house.Sitting.Seats) IsWithinTheOrders(house.Sitting, seat);
            DrivesWhatWasLent(house);
            house.Sitting.Seats.Where(seat => seat.Role == Role.Host).Select(seat => seat.Id).ShouldBe([house.Sitting.Host!.Value]);
        }
    }

    /// <summary>The rules once more, told as a table rather than as the product computes them.</summary>
    private static void MayBeDone(Sitting before, Step step, Fact fact)
    {
        if (step.By == 0) return;
        var by = before.Seats[new SeatId(step.By)];
        if (fact is Left) return;
        if (fact is Muted { Seats: [var self], Leaves: [] } && self == by.Id) return;
        if (fact is CamerasTurned { On: false, Seats: [var own] } && own == by.Id) return;
        if (fact is UnmuteAnswered { Agreed: false }) return;
        if (fact is FloorTurned { To: null, From: { } yielded } && yielded.Seat == by.Id) return;
        if (fact is HandsLowered { Seats: [var lowering] } && lowering == by.Id) return;
        by.Place.ShouldBe(Place.Seated, $"{fact} by somebody outside");
        if (fact is Written written)
            WasWithinTheOrders(before, by,
            written.To.Reach switch { Reach.Everyone => Order.WriteToAll, Reach.Bench => Order.WriteToBench, _ => Order.WriteToOne });
        // A screen is opened and shown by whoever brings it, whoever else may ask for it.
        if (fact is ExhibitOpened { Exhibit.By: var opener }) opener.ShouldBe(by.Id);
        if (fact is ExhibitsShown shown && shown.To.Except(shown.From).Any()
            && before.Shelf.Find(shown.Exhibit)!.Kind == ExhibitKind.Screen) shown.By.ShouldBe(by.Id);
        if (fact is ScreenHeld { By: var holder }) holder.ShouldBe(by.Id);
        if (fact is ExhibitOpened || (fact is ExhibitsShown showing && showing.To.Except(showing.From).Any()))
            WasWithinTheOrders(before, by, Order.Exhibit);
        if (fact is HandedOut { Handout: var given })
        {
            given.By.ShouldBe(by.Id);
            WasWithinTheOrders(before, by, Order.HandOut);
            given.Size.ShouldBeLessThanOrEqualTo(before.Handouts.Rules.LargestMegabytes * 1_000_000L);
            (given.Sort switch
            {
                FileSort.Document => before.Handouts.Rules.Documents,
                FileSort.Picture => before.Handouts.Rules.Pictures,
                _ => before.Handouts.Rules.Others
            }).ShouldBeTrue($"{given.Sort} was handed out");
        }
        if (fact is FileTaken { Seat: var taker }) taker.ShouldBe(by.Id);
        if (fact is ControlsLent { By: var lender }) lender.ShouldBe(by.Id);
        if (fact is ControlsTaken { To: var driver }) driver.ShouldBe(by.Id);
        if (fact is HandoutKept { Name: var name }) name.ShouldBe("secrethandout", "what is for one person is not kept for all");
        // Pages are turned by one person alone: to whom it was handed, or else who brought it; by the bench when neither is here.
        if ((fact switch { PageTurned one => one.Exhibit, PageLookedAt one => one.Exhibit, SheetGrew one => one.Exhibit, _ => 0 })
            is > 0 and var paged)
        {
            var exhibit = before.Shelf.Open.Single(one => one.Number == paged);
            var turners = new[] { exhibit.Pages!.Holder, exhibit.By }.OfType<SeatId>().Where(id => before.Seats[id].Place == Place.Seated)
                .Take(1).ToList();
            if (turners is [var only]) by.Id.ShouldBe(only, $"{fact} by somebody who has not the paging");
            else (by.Role >= Role.Deputy).ShouldBeTrue($"{fact} by {by.Role}");
            if (!before.Shelf.Shown.Contains(paged))
                (by.Id == exhibit.By || by.Role >= Role.Deputy).ShouldBeTrue("an unseen page was turned");
        }
        var personal = fact is PageTurned or PageLookedAt or SheetGrew or WishedToShow
            || (fact is PagingHanded handed
                && (handed.By == by.Id || (before.Shelf.Find(handed.Exhibit)!.Pages!.Holder ?? handed.By) == by.Id))
            || fact is ControlsLent or ControlsTaken || (fact is LoanEnded loan && (loan.By == by.Id || loan.To == by.Id))
            || fact is HandedOut or FileTaken || (fact is HandoutEnded { Handout.By: var giver } && giver == by.Id)
            || (fact is FreeLookSet { By: var opened } && opened == by.Id)
            || (fact is ExhibitsShown { By: var bringing } seen && seen.To.Contains(seen.Exhibit) && bringing == by.Id)
            || fact is ExhibitOpened or ScreenHeld or UnmuteAnswered or HandRaised or StateSet or Written or MessageEdited
            or MessageDeleted { By: Deletion.BySender }
            || (fact is MicrophonesOpened { Seats: [var me], Leaves: [] } && me == by.Id)
            || (fact is CamerasTurned { Seats: [var it] } && it == by.Id)
            || (fact is Renamed renamed && renamed.Seat == by.Id)
            || (fact is ExhibitClosed { Exhibit.By: var bringer } && bringer == by.Id)
            || (fact is ExhibitsShown { By: var brought } shelved && brought == by.Id
                && shelved.From.Except(shelved.To).All(number => shelved.To.Length > 0 || before.Shelf.Find(number)!.By == by.Id));
        if (!personal) (by.Role >= Role.Deputy).ShouldBeTrue($"{fact} by {by.Role}");
        if (fact is HandedOver or Adjourned) by.Role.ShouldBe(Role.Host);
        if (by.Role != Role.Host) (fact is Removed removed && removed.Seats.Contains(before.Host!.Value)).ShouldBeFalse();
    }

    /// <summary>By what stands in the ledger: lent by its owner to this one last, taken after that, and not ended since.</summary>
    private static void DrivesWhatWasLent(House house)
    {
        foreach (var screen in house.Sitting.Shelf.Open)
            foreach (var seat in house.Sitting.Seats.Where(seat => house.Sitting.MayDrive(seat.Id, screen.Number)))
            {
                (screen.Kind, screen.Held, seat.Place).ShouldBe((ExhibitKind.Screen, false, Place.Seated));
                house.Sitting.Shelf.Shown.ShouldContain(screen.Number);
                var last = house.Entries.Select(entry => entry.Fact).Last(fact => fact switch
                {
                    ControlsLent lent => lent.Exhibit == screen.Number,
                    ControlsTaken taken => taken.Exhibit == screen.Number,
                    LoanEnded ended => ended.Exhibit == screen.Number,
                    _ => false
                });
                last.ShouldBeOfType<ControlsTaken>().To.ShouldBe(seat.Id);
                seat.Id.ShouldNotBe(screen.By);
            }
    }

    private static void WasWithinTheOrders(Sitting before, Seat by, Order order) =>
        Within(before, by, order).ShouldBeTrue($"{by} did {order} under {before.Orders}");

    private static bool Within(Sitting sitting, Seat seat, Order order)
    {
        if (seat.Role >= Role.Deputy) return true;
        if (order == Order.Exhibit && seat.ShowsOnce) return true;
        if (seat.Taken.Contains(order)) return false;
        // Who is of which group is held by a property of its own.
        if (sitting.GroupRules.Any(rule => rule.Order == order && rule.May)) return true;
        return seat.Given.Contains(order) || sitting.Orders[order] == Audience.Everyone
            || (sitting.Orders[order] == Audience.Presenters && seat.Role == Role.Presenter);
    }

    private static void IsWithinTheOrders(Sitting sitting, Seat seat)
    {
        if (seat.MicrophoneOpen)
            (seat.IsSeated && (Within(sitting, seat, Order.Speak) || seat.HasLeave)).ShouldBeTrue($"{seat} speaks under {sitting.Orders}");
        if (seat.CameraOn) (seat.IsSeated && Within(sitting, seat, Order.ShowCamera)).ShouldBeTrue($"{seat} shows under {sitting.Orders}");
        if (seat.HandSince is not null) (seat.IsSeated && sitting.Turn?.Seat != seat.Id).ShouldBeTrue($"{seat} has a hand up");
        if (sitting.Turn?.Seat == seat.Id) seat.IsSeated.ShouldBeTrue($"{seat} has the floor");
        var screens = sitting.Shelf.Open.Where(exhibit => exhibit.By == seat.Id && exhibit.Kind == ExhibitKind.Screen).ToList();
        foreach (var exhibit in sitting.Shelf.Open.Where(exhibit => exhibit.By == seat.Id && sitting.Shelf.Shown.Contains(exhibit.Number)))
            (exhibit.Backed || seat.Exit == Exit.Left || (seat.IsSeated && Within(sitting, seat, Order.Exhibit)))
                .ShouldBeTrue($"{exhibit} is shown under {sitting.Orders}");
        if (seat.ShowsOnce || seat.WantsToShow is not null) seat.IsSeated.ShouldBeTrue($"{seat} has leave to show");
        if (screens is not [])
        {
            screens.Count.ShouldBe(1, $"{seat} has two screens open");
            (seat.IsSeated && Within(sitting, seat, Order.Exhibit)).ShouldBeTrue($"{seat} has a screen open under {sitting.Orders}");
        }
        sitting.Shelf.Shown.Length.ShouldBeLessThanOrEqualTo(2);
        sitting.Shelf.Shown.ShouldBeUnique();
        sitting.Shelf.Shown.ShouldBeSubsetOf(sitting.Shelf.Open.Select(exhibit => exhibit.Number));
        sitting.Picture.Front.All(front => sitting.Seats[front].IsSeated).ShouldBeTrue("somebody in front is not here");
        (sitting.Phase == Phase.Recess).ShouldBe(sitting.Recess is not null);
        seat.Given.Intersect(seat.Taken).ShouldBeEmpty();
        if (sitting.IsRunning)
            ForwardingPlan.MayBeHeard(sitting, seat).ShouldBe(seat.MicrophoneOpen && (sitting.Phase != Phase.Recess || seat.OnBench));
        (seat.Exit is null).ShouldBe(seat.Place != Place.Gone);
    }

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 200)]
    public void Evolving_over_the_stored_entries_gives_the_very_state_that_was_live(Step[] steps)
    {
        var house = Opened();
        foreach (var step in steps) house.Do(By(step), step.Command);

        var digest = Chain.Start;
        var kept = house.Entries.ConvertAll(entry => { var link = Chain.Link(digest, entry); digest = link.Digest; return link; });

        kept.Aggregate(Sitting.Empty, (state, entry) => SittingRules.Evolve(state, entry.Read())).ShouldBeStateOf(house.Sitting);
        Chain.FirstBreak(kept).ShouldBeNull();
        // So does evolving from a snapshot on, taken anywhere.
        for (var at = 0; at < kept.Count; at += 17)
        {
            var snapshot = Snapshot.Write(kept.Take(at)
                .Aggregate(Sitting.Empty, (state, entry) => SittingRules.Evolve(state, entry.Read())));
            kept.Skip(at).Aggregate(Snapshot.Read(snapshot), (state, entry) => SittingRules.Evolve(state, entry.Read()))
                .ShouldBeStateOf(house.Sitting);
        }
    }

    /// <summary>What was judged stands in the entries: names that are others
    /// now, and so any other way of judging, change nothing of it.</summary>
    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 100)]
    public void Who_was_recognized_and_the_visits_stay_however_names_would_be_judged_later(Step[] steps)
    {
        var house = House.Opened(
            DoorMode.Listed, null, new DocketLine("listed1", Key: "line:1", Slot: new Instant(1_770_000_000_000)),
            new DocketLine("walker4"), new DocketLine("Odalis", Role.Deputy));
        foreach (var step in steps) house.Do(By(step), step.Command);
        var later = house.Entries.Select(entry => JsonSerializer.Deserialize<Entry>(
            System.Text.RegularExpressions.Regex.Replace(JsonSerializer.Serialize(entry, CoreJson.Options),
                "\"(listed|walker|renamed|Odal)([^\"]+)\"", "\"Somebody $2\""), CoreJson.Options)!)
            .Aggregate(Sitting.Empty, SittingRules.Evolve);
        later.Seats.Select(seat => (seat.Id, seat.Recognition)).ShouldBe(house.Sitting.Seats.Select(seat => (seat.Id, seat.Recognition)));
        later.Seats.Where(seat => seat.LooksLike is not null).Select(seat => seat.Id)
            .ShouldBe(house.Sitting.Seats.Where(seat => seat.LooksLike is not null).Select(seat => seat.Id));
        later.Visits.ShouldBe(house.Sitting.Visits);
    }

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 200)]
    public void A_view_kept_up_by_differences_is_the_whole_view_and_holds_only_what_the_viewer_may_know(Step[] steps)
    {
        var house = Opened();
        var viewers = Enum.GetValues<Viewer>();
        var kept = viewers.ToDictionary(viewer => viewer, viewer => Projection.Whole(house.Sitting, viewer, []));
        foreach (var step in steps)
        {
            var (before, count) = (house.Sitting, house.Entries.Count);
            house.Do(By(step), step.Command);
            foreach (var viewer in viewers)
            {
                var change = new Transition(before, house.Sitting, [.. house.Entries.Skip(count)]).From(viewer);
                kept[viewer] = Apply(kept[viewer], change);
                var whole = Projection.Whole(house.Sitting, viewer, []);
                kept[viewer].Sitting.ShouldBeJson(whole.Sitting);
                kept[viewer].Seats.ShouldBeJson(whole.Seats);
                KnowsNoMoreThanAllowed(house.Sitting, viewer,
                    JsonSerializer.Serialize(change, CoreJson.Options) + JsonSerializer.Serialize(whole, CoreJson.Options));
            }
        }
    }

    private static WholeView Apply(WholeView view, ViewChange change) => view with
    {
        Sitting = view.Sitting.With(change.Set),
        Seats = [.. view.Seats.ToDictionary(row => row.Id).With(change).Values.OrderBy(row => row.Id)]
    };

    private static void KnowsNoMoreThanAllowed(Sitting sitting, Viewer viewer, string json)
    {
        json.ShouldNotContain("guest:key");
        json.ShouldNotContain("account:");
        json.ShouldNotContain("betweentwo");
        json.ShouldNotContain("secretfor");
        if (viewer == Viewer.Bench) return;
        json.ShouldNotContain("secretwords");
        json.ShouldNotContain("secrethandout");
        json.ShouldNotContain("lockwords");
        json.ShouldNotContain("\"match\"");
        json.ShouldNotContain("secretgroup");
        json.ShouldNotContain("secretnote");
        if (viewer == Viewer.Outside) json.ShouldNotContain("Everyonewords");
        // What is not shown is not known to those who did not bring it; pages that were not turned to stay sealed.
        foreach (var (kind, title) in new[]
            { (ExhibitKind.Screen, "secretscreen"), (ExhibitKind.Sheet, "secretsheet"), (ExhibitKind.Document, "secretfile") })
            if (viewer == Viewer.Outside || !sitting.Shelf.Shown.Any(number => sitting.Shelf.Find(number)!.Kind == kind))
                json.ShouldNotContain(title);
        if (!sitting.Shelf.Shown.Any(number => sitting.Shelf.Find(number)!.Pages?.FreeLook == true)) json.ShouldNotContain("c2VjcmV0");
        var hidden = sitting.Seats.Where(seat => viewer switch
        {
            Viewer.Outside => seat.Id != sitting.Host,
            _ when !seat.IsSeated => true,
            _ when seat.Id == sitting.Turn?.Seat || sitting.Picture.Front.Contains(seat.Id) => false,
            _ when sitting.Shelf.Shown.Any(number => sitting.Shelf.Open.Any(one => one.Number == number
                && (one.By == seat.Id || one.Pages?.Holder == seat.Id))) => false,
            Viewer.Presenter => sitting.Orders.SeePeople == Audience.Bench && seat.Role == Role.Attendee,
            _ => sitting.Orders.SeePeople != Audience.Everyone && seat.Role == Role.Attendee
        });
        var shown = sitting.Seats.Except(hidden).Select(seat => seat.Name).ToHashSet();
        // Whose words are shown to all is named, also when they have gone, where people may know of each other.
        if (sitting.PutUp is { } number && viewer != Viewer.Outside && sitting.Seats[sitting.Chat.Newest[number - 1].From] is var writer
            && (writer.Role != Role.Attendee || sitting.Orders.SeePeople == Audience.Everyone
                || (viewer == Viewer.Presenter && sitting.Orders.SeePeople == Audience.Presenters))) shown.Add(writer.Name);
        foreach (var seat in hidden.Where(seat => !shown.Contains(seat.Name) && seat.Id != sitting.Host))
            json.ShouldNotContain($"\"{seat.Name}\"");
    }

    [Property(MaxTest = 100)]
    public void The_check_finds_the_first_altered_missing_or_reordered_entry(PositiveInt where, int kind)
    {
        var house = Opened();
        for (var n = 0; n < 12; n++) house.Do(House.Host, n % 2 == 0 ? new OpenMicrophone() : new CloseMicrophone());
        var digest = Chain.Start;
        var kept = house.Entries.ConvertAll(entry => { var link = Chain.Link(digest, entry); digest = link.Digest; return link; });
        var at = where.Get % (kept.Count - 1);
        switch (Math.Abs(kind % 3))
        {
            case 0: kept[at] = kept[at] with { Json = kept[at].Json.Replace("\"at\":1", "\"at\":2", StringComparison.Ordinal) }; break;
            case 1: kept.RemoveAt(at); break;
            default: (kept[at], kept[at + 1]) = (kept[at + 1], kept[at]); break;
        }
        Chain.FirstBreak(kept).ShouldBe(at + 1);
    }
}

internal static class Comparisons
{
    /// <summary>Equal in every field; moments in a place aside from others' do count.</summary>
    public static void ShouldBeStateOf(this Sitting actual, Sitting expected)
    {
        actual.SeatOf.Count.ShouldBe(expected.SeatOf.Count);
        foreach (var (person, seat) in expected.SeatOf) actual.SeatOf[person].ShouldBe(seat);
        var none = System.Collections.Immutable.ImmutableDictionary<PersonKey, SeatId>.Empty;
        (actual with { SeatOf = none }).ShouldBeJson(expected with { SeatOf = none });
    }
}
