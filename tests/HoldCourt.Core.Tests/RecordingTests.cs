using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>What is recorded, of whom, and who says so.</summary>
public class RecordingTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _nia, _teodor;

    public RecordingTests()
    {
        _nia = _house.Arrives("Nia Okafor");
        _teodor = _house.Arrives("Teodor Quill");
    }

    private void Done(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal.ShouldBeNull();

    private Reason? Refused(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal?.Reason;

    private bool IsIn(SeatId seat) => _house.Sitting.IsRecorded(_house[seat]);

    [Fact]
    public void Only_the_bench_records_and_only_while_the_session_is_on()
    {
        foreach (var command in new SeatCommand[]
            { new StartRecording(), new PauseRecording(), new ResumeRecording(), new StopRecording(),
                new SetRecordingRules(RecordingRules.Usual with { Names = false }) })
            Refused(_nia, command).ShouldBe(Reason.OnlyBench);
        Refused(House.Host, new ResumeRecording()).ShouldBe(Reason.NothingRecorded);
        Done(House.Host, new CallRecess("Tea"));
        Refused(House.Host, new StartRecording()).ShouldBe(Reason.NotInSession);
        Done(House.Host, new Resume());
        Done(House.Host, new StartRecording());
        _house.Do(House.Host, new StartRecording()).ShouldBe(Decision.AlreadySo, "two who begin at once begin one");
        IsIn(_nia).ShouldBeTrue();
        Done(House.Host, new Adjourn());
        _house.Sitting.Recorder!.Phase.ShouldBe(RecordingPhase.Stopped);
        _house.Sitting.Recorder.RunsSince.ShouldBeNull();
    }

    [Fact]
    public void One_recording_has_its_pauses_its_recess_and_even_a_stop_that_was_taken_back()
    {
        Done(House.Host, new StartRecording());
        _house.Waits(TimeSpan.FromSeconds(9));
        Done(House.Host, new PauseRecording());
        IsIn(_nia).ShouldBeFalse();
        _house.Waits(TimeSpan.FromMinutes(30));
        Done(House.Host, new ResumeRecording());
        _house.Waits(TimeSpan.FromSeconds(4));
        Done(House.Host, new CallRecess("Tea"));
        IsIn(House.Host).ShouldBeFalse("what the bench says in a recess stays with it");
        _house.Waits(TimeSpan.FromMinutes(15));
        Done(House.Host, new Resume());
        _house.Waits(TimeSpan.FromSeconds(2));
        Done(House.Host, new StopRecording());
        _house.Waits(TimeSpan.FromSeconds(50));
        Done(House.Host, new TakeBack());
        IsIn(_nia).ShouldBeTrue();
        _house.Waits(TimeSpan.FromSeconds(5));
        Done(House.Host, new StopRecording());
        var recorder = _house.Sitting.Recorder!;
        recorder.Number.ShouldBe(1);
        recorder.Recorded.ShouldBe(TimeSpan.FromSeconds(10 + 5 + 3 + 6));
        recorder.Stretches.Length.ShouldBe(4);
    }

    [Fact]
    public void Where_consent_is_asked_nobody_is_in_it_before_they_agreed()
    {
        Done(House.Host, new SetRecordingRules(RecordingRules.Usual with { AsksConsent = true }));
        Done(House.Host, new StartRecording());
        IsIn(House.Host).ShouldBeTrue("whoever begins it agrees");
        IsIn(_nia).ShouldBeFalse();
        Done(_nia, new AnswerRecording(RecordingAnswer.Agreed));
        Done(_teodor, new AnswerRecording(RecordingAnswer.Unrecorded));
        (IsIn(_nia), IsIn(_teodor)).ShouldBe((true, false));
        var late = _house.Arrives("Ilse Vantorre");
        IsIn(late).ShouldBeFalse("who comes later is asked, too");
        Done(House.Host, new SetRecordingRules(RecordingRules.Usual));
        (IsIn(late), IsIn(_teodor)).ShouldBe((true, false), "a no is a no under any rule");
        // Consent to one is none to the next.
        Done(House.Host, new StopRecording());
        Done(House.Host, new SetRecordingRules(RecordingRules.Usual with { AsksConsent = true, Watchers = Watchers.Invited }));
        Done(House.Host, new StartRecording());
        (IsIn(_nia), IsIn(_teodor), IsIn(House.Host)).ShouldBe((false, false, true));
    }

    [Fact]
    public void Who_takes_consent_back_is_out_from_then_on_or_of_the_whole()
    {
        Done(_nia, new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true));
        Erased().ShouldBeEmpty("there was nothing yet");
        Done(_nia, new AnswerRecording(RecordingAnswer.Agreed));
        Done(House.Host, new StartRecording());
        Done(_nia, new AnswerRecording(RecordingAnswer.Unrecorded));
        IsIn(_nia).ShouldBeFalse();
        Erased().ShouldBeEmpty();
        Done(_nia, new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true));
        Erased().ShouldBe([(_nia, 1)]);

        IEnumerable<(SeatId, int)> Erased() =>
            _house.Entries.Select(entry => entry.Fact).OfType<RecordingAnswered>().Where(fact => fact.Erased is not null)
                .Select(fact => (fact.Seat, fact.Erased!.Value));
    }

    [Fact]
    public void A_visit_is_for_the_bench_alone()
    {
        var house = House.Opened(DoorMode.Attended, null,
            new DocketLine("Nia Okafor", Slot: new Instant(1_770_000_600_000), Minutes: 10));
        foreach (var wide in new[] { Watchers.Present, Watchers.Invited })
            house.Do(House.Host, new SetRecordingRules(RecordingRules.Usual with { Watchers = wide })).Refusal!.Reason
                .ShouldBe(Reason.VisitsStayApart);
    }

    [Fact]
    public void The_plan_and_its_items_begin_and_pause_it_and_what_is_missing_is_said()
    {
        var house = new House();
        house.Do(Actor.House, new Open(
            "Assembly", new PersonKey("account:odalys"), new Door(DoorMode.Open), StandingOrders.Usual, [], Prepare: true,
            Items: [new Item(1, "Opening"), new Item(2, "In confidence", Records: false), new Item(3, "Votes", Records: true)],
            Recording: RecordingRules.Usual with { ByPlan = true }));
        house.Arrives("Odalys", new PersonKey("account:odalys"));
        RecordByPlan.IsDue(house.Sitting).ShouldBeFalse("not before the session begins");
        house.Do(House.Host, new Begin()).Refusal.ShouldBeNull();
        Missing().ShouldBeTrue();
        RecordByPlan.IsDue(house.Sitting).ShouldBeTrue();
        house.Do(Actor.House, new RecordByPlan());
        Missing().ShouldBeFalse();
        house.Do(House.Host, new NextItem());
        house.Sitting.IsRecorded().ShouldBeTrue();
        house.Do(House.Host, new NextItem());
        (house.Sitting.IsRecorded(), Missing()).ShouldBe((false, false));
        house.Do(House.Host, new TakeBack()).Refusal.ShouldBeNull();
        house.Sitting.IsRecorded().ShouldBeTrue("taken back with the item");
        house.Do(House.Host, new NextItem());
        house.Do(House.Host, new NextItem());
        (house.Sitting.IsRecorded(), house.Sitting.Recorder!.Number).ShouldBe((true, 1));
        house.Do(House.Host, new PauseRecording());
        Missing().ShouldBeTrue();
        house.Do(House.Host, new StopRecording());
        RecordByPlan.IsDue(house.Sitting).ShouldBeFalse("whoever stops it wants it so");

        bool Missing() => Projection.Record(house.Sitting, Viewer.Bench).Recording!.Missing;
    }

    [Fact]
    public void A_gap_is_no_time_of_the_recording()
    {
        Done(House.Host, new StartRecording());
        _house.Waits(TimeSpan.FromSeconds(9));
        var last = _house.Sitting.Recorder!.Since + TimeSpan.FromSeconds(7);
        _house.Do(Actor.House, new NoteRecordingGap(last)).Refusal.ShouldBeNull();
        _house.Sitting.Recorder!.Recorded.ShouldBe(TimeSpan.FromSeconds(7));
        IsIn(_nia).ShouldBeTrue("it goes on");
        // Clocks that jump back make no time of it.
        _house.Do(Actor.House, new NoteRecordingGap(new Instant(0))).Refusal.ShouldBeNull();
        _house.Sitting.Recorder!.Recorded.ShouldBe(TimeSpan.FromSeconds(7));
    }

    /// <summary>Whether a camera is in it goes by what an attendee sees, whatever the bench sees.</summary>
    [Fact]
    public void Whom_the_orders_hide_is_seen_in_no_recording()
    {
        Done(House.Host, new StartRecording());
        Done(_nia, new TurnCamera(true));
        State().IsCameraRecorded(_nia).ShouldBeTrue();
        Done(House.Host, new SetOrder(Order.SeePeople, Audience.Bench));
        State().IsCameraRecorded(_nia).ShouldBeFalse();
        State().MayBeSeen(_nia, House.Host).ShouldBeTrue();
        Done(House.Host, new SetOrder(Order.SeePeople, Audience.Everyone));
        State().IsCameraRecorded(_nia).ShouldBeTrue();
        Done(_nia, new AnswerRecording(RecordingAnswer.Unrecorded));
        State().IsCameraRecorded(_nia).ShouldBeFalse();

        StageState State() => StageState.Unknown.With(StageChange.Whole(_house.Sitting));
    }

    [Fact]
    public void A_score_tells_who_and_what_was_before_all_and_nothing_of_whoever_is_left_out()
    {
        Done(House.Host, new StartRecording());
        Done(_nia, new TurnCamera(true));
        Done(House.Host, new GiveFloor(_nia));
        Done(House.Host, new PauseRecording());
        Done(House.Host, new OpenSheet("Weir"));
        Done(House.Host, new ShowExhibit(1));
        Done(House.Host, new ResumeRecording());
        Done(_teodor, new TurnCamera(true));
        Done(_teodor, new AnswerRecording(RecordingAnswer.Unrecorded));
        Done(_nia, new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true));
        Done(House.Host, new StopRecording());
        var score = Score.Of(_house.Entries, 1);
        Timeline.Of(score.Stretches).Length.ShouldBe(_house.Sitting.Recorder!.Recorded);
        score.Scenes.SelectMany(scene => scene.People).ShouldNotContain(person => person.Seat == _nia, "of the whole");
        score.Scenes.ShouldAllBe(scene => scene.Floor == null);
        score.Chapters.Select(chapter => chapter.Kind).ShouldBe([ChapterKind.Begin, ChapterKind.Part]);
        score.Scenes[0].People.Select(person => person.Seat).ShouldBe([House.Host, _teodor]);
        score.Scenes[^1].People.Select(person => person.Seat).ShouldBe([House.Host]);
        score.Scenes[^1].Shown.Select(exhibit => exhibit.Title).ShouldBe(["Weir"]);
        score.Consents.Select(consent => (consent.Seat, consent.Answer, consent.Erased)).ShouldBe([
            (House.Host, RecordingAnswer.Agreed, false), (_teodor, RecordingAnswer.Unrecorded, false),
            (_nia, RecordingAnswer.Unrecorded, true)]);
        // What became of her does not change what others see of theirs.
        Score.Of(_house.Entries.SkipLast(2).ToList(), 1).Scenes.ShouldContain(scene => scene.Floor == _nia);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(9)]
    [InlineData(40)]
    public void In_every_framing_pictures_stand_apart_within_the_picture_and_who_speaks_is_there(int count)
    {
        ImmutableArray<ScenePerson> people =
            [.. Enumerable.Range(1, count).Select(n => new ScenePerson(new SeatId(n), $"Person {n}", n != 3, n == 3))];
        foreach (var framing in Enum.GetValues<Framing>())
            foreach (var shown in new[] { 0, 1, 2 })
            {
                var scene = new Scene(new Instant(0), framing, true, true, people, null,
                    [.. Enumerable.Range(1, shown).Select(n => new SceneExhibit(n, ExhibitKind.Sheet, "", House.Host, null))], null);
                SeatId? speaker = count >= 3 ? new SeatId(3) : null;
                var placed = Placing.Of(scene, speaker, framing, 1280, 720);
                foreach (var (one, at) in placed.Select((one, at) => (one, at)))
                {
                    (one.Area.X, one.Area.Y).ShouldSatisfyAllConditions(place => place.X.ShouldBeInRange(0, 1280 - one.Area.Wide),
                        place => place.Y.ShouldBeInRange(0, 720 - one.Area.High));
                    new[] { one.Area.X, one.Area.Y, one.Area.Wide, one.Area.High }.ShouldAllBe(length => length % 2 == 0);
                    placed.Skip(at + 1).ShouldAllBe(other => !one.Area.Overlaps(other.Area));
                }
                if (framing == Framing.Sound || count == 0) continue;
                placed.Count(one => one.Exhibit is not null).ShouldBe(shown);
                placed.ShouldContain(one => one.Seat == (speaker ?? new SeatId(1)), $"{framing} {shown}");
            }
    }

    [Fact]
    public void Only_whom_the_orders_let_records_on_their_own_machine_and_everybody_is_told_until_it_ends()
    {
        string?[] Told(Viewer viewer) => [.. Projection.Record(_house.Sitting, viewer).Recording!.Own.Select(one => one.Name)];
        Refused(_nia, new BeginOwnRecording()).ShouldBe(Reason.OwnRecordingNotAllowed);
        Done(House.Host, new BeginOwnRecording());
        _house[House.Host].RecordingAnswer.ShouldBe(RecordingAnswer.Agreed);
        foreach (var viewer in Enum.GetValues<Viewer>())
            Told(viewer).ShouldBe([viewer == Viewer.Outside ? null : "Odalys"], $"{viewer}");
        Done(House.Host, new SetOrder(Order.Record, Audience.Everyone));
        Done(_nia, new BeginOwnRecording());
        _house.Do(_nia, new BeginOwnRecording()).ShouldBe(Decision.AlreadySo);
        Done(House.Host, new SetOrder(Order.SeePeople, Audience.Bench));
        Told(Viewer.Attendee).ShouldBe(["Odalys", null], "that somebody does is told, also where nobody knows who is here");
        // What was given is taken, and who is put out records no more, whatever they say.
        Done(House.Host, new SetOrder(Order.Record, Audience.Bench));
        Told(Viewer.Bench).ShouldBe(["Odalys"]);
        Done(House.Host, new Except([_teodor], Order.Record, true));
        Done(_teodor, new BeginOwnRecording());
        Done(House.Host, new Remove([_teodor], MayReturn: true));
        Told(Viewer.Bench).ShouldBe(["Odalys"]);
        Refused(_teodor, new BeginOwnRecording()).ShouldBe(Reason.NotInside);
        Done(House.Host, new EndOwnRecording());
        Told(Viewer.Bench).ShouldBeEmpty();
        _house.Sitting.Recorder.ShouldBeNull("nothing of it is kept here");
    }

    public enum Act { Start, Pause, GoOn, Stop, Recess, Resume, Agree, Refuse, Ask, Tell, Leave, Come, Next, Wait, Gap, TakeBack }

    public static class Acts
    {
        public static Arbitrary<ImmutableArray<(Act Act, int By)>> Some() => Gen.Choose(0, Enum.GetValues<Act>().Length - 1)
            .Zip(Gen.Choose(0, 2), (act, by) => ((Act)act, by)).ListOf(40).Select(acts => acts.ToImmutableArray()).ToArbitrary();
    }

    /// <summary>
    /// Against an oracle that reads the entries alone: what each person said last, and the seconds at which the recording ran, one by one.
    /// </summary>
    [Property(Arbitrary = [typeof(Acts)], MaxTest = 300)]
    public void Nobody_is_recorded_who_said_no_or_was_not_asked(ImmutableArray<(Act Act, int By)> acts)
    {
        var house = House.Opened(DoorMode.Open);
        SeatId[] seats = [House.Host, house.Arrives("Nia"), house.Arrives("Teodor")];
        var stage = StageState.Unknown.With(StageChange.Whole(house.Sitting));
        foreach (var (act, by) in acts)
        {
            var before = house.Sitting;
            Do(house, act, seats[by]);
            // What the relay is told step by step is what it would be told at once.
            if (StageChange.Of(before, house.Sitting) is { } change) stage = stage.With(change);
            var facts = house.Entries.Select(entry => entry.Fact).ToList();
            var runs = Runs(house.Entries) && house.Sitting.Phase == Phase.InSession;
            house.Sitting.IsRecorded().ShouldBe(runs);
            var asks = Flat(facts).OfType<RecordingRulesSet>().LastOrDefault()?.To.AsksConsent == true;
            foreach (var seat in seats)
            {
                var said = Said(facts, seat);
                var may = runs && house[seat].IsSeated && said != RecordingAnswer.Unrecorded && (!asks || said == RecordingAnswer.Agreed);
                house.Sitting.IsRecorded(house[seat]).ShouldBe(may);
                if (!may) (stage.IsVoiceRecorded(seat) || stage.IsCameraRecorded(seat) || stage.IsScreenRecorded(seat)).ShouldBeFalse();
            }
        }
        if (house.Sitting.Recorder is not { } recorder) return;
        // Each second, asked by replaying.
        var (state, seconds, last) = (Sitting.Empty, TimeSpan.Zero, new Instant(0));
        foreach (var entry in house.Entries)
        {
            if (state.Recorder?.Number == recorder.Number && state.IsRecorded())
                seconds += (entry.Fact is RecordingInterrupted gap ? gap.From : entry.At) - last;
            state = SittingRules.Evolve(state, entry);
            last = entry.At;
        }
        recorder.TimelineAt(last).Length.ShouldBe(seconds);
    }

    private static IEnumerable<Fact> Flat(IEnumerable<Fact> facts) =>
        facts.SelectMany(fact => fact is TakenBack { Opposite: var opposite } ? [opposite] : (Fact[])[fact]);

    private static RecordingAnswer? Said(IEnumerable<Fact> facts, SeatId seat)
    {
        RecordingAnswer? said = null;
        var asks = false;
        foreach (var fact in Flat(facts))
            switch (fact)
            {
                case RecordingRulesSet set: asks = set.To.AsksConsent; break;
                case RecordingStarted { Number: > 1 } when asks && said == RecordingAnswer.Agreed: said = null; break;
                case RecordingAnswered answered when answered.Seat == seat: said = answered.To; break;
            }
        return said;
    }

    private static bool Runs(IEnumerable<Entry> entries) =>
        Flat(entries.Select(entry => entry.Fact)).LastOrDefault(fact => fact is RecordingStarted or RecordingResumed or RecordingPaused
            or RecordingStopped) is RecordingStarted or RecordingResumed;

    private static void Do(House house, Act act, SeatId by)
    {
        Command command = act switch
        {
            Act.Start => new StartRecording(),
            Act.Pause => new PauseRecording(),
            Act.GoOn => new ResumeRecording(),
            Act.Stop => new StopRecording(),
            Act.Recess => new CallRecess("Tea"),
            Act.Resume => new Resume(),
            Act.Agree => new AnswerRecording(RecordingAnswer.Agreed),
            Act.Refuse => new AnswerRecording(RecordingAnswer.Unrecorded, Whole: by.Number == 2),
            Act.Ask => new SetRecordingRules(house.Sitting.RecordingRules with { AsksConsent = true }),
            Act.Tell => new SetRecordingRules(house.Sitting.RecordingRules with { AsksConsent = false }),
            Act.Leave => new Leave(),
            Act.Gap => new NoteRecordingGap(house.Entries[^1].At + TimeSpan.FromMilliseconds(-500)),
            Act.Come => new Announce(house[by].Person, house[by].Name),
            Act.Next => new OpenMicrophone(),
            Act.TakeBack => new TakeBack(),
            _ => new TurnCamera(true)
        };
        house.Do(command is HouseCommand ? Actor.House : Actor.Of(by), command);
    }
}
