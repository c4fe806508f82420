using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>What is said, in words: who writes it, who reads it, and what of it stands in a film.</summary>
public class CaptionTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _nia, _teodor;

    public CaptionTests()
    {
        _nia = _house.Arrives("Nia Okafor");
        _teodor = _house.Arrives("Teodor Quill");
    }

    private void Done(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal.ShouldBeNull();

    private Reason? Refused(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal?.Reason;

    private string[] Lines() => [.. _house.Sitting.Captions.Newest.Select(line => line.Text)];

    [Fact]
    public void Whom_the_bench_names_writes_and_nobody_else_does()
    {
        Refused(_nia, new NameCaptioner(_nia)).ShouldBe(Reason.OnlyBench);
        Refused(_nia, new CaptionByMachine(true)).ShouldBe(Reason.OnlyBench);
        Refused(_nia, new WriteCaption("Good morning.")).ShouldBe(Reason.NotCaptioner);
        Refused(House.Host, new WriteCaption("Good morning.")).ShouldBe(Reason.NotCaptioner, "the bench, too, is named first");
        Done(House.Host, new NameCaptioner(_nia));
        Done(_nia, new WriteCaption(" Good\nmorning. ", House.Host, 3_000));
        Refused(_nia, new WriteCaption("   ")).ShouldBe(Reason.CaptionEmpty);
        Refused(_nia, new WriteCaption(new string('a', 301))).ShouldBe(Reason.CaptionTooLong);
        Refused(_nia, new WriteCaption("a", null, -1)).ShouldBe(Reason.NotUnderstood);
        Refused(_nia, new WriteCaption("a", null, int.MaxValue)).ShouldBe(Reason.NotUnderstood);
        var line = _house.Sitting.Captions.Newest.ShouldHaveSingleItem();
        (line.Text, line.Speaker, line.At - line.Heard).ShouldBe(("Good morning.", House.Host, TimeSpan.FromSeconds(3)));
        Done(_nia, new WriteCaption("Somebody whom nobody knows.", new SeatId(99)));
        _house.Sitting.Captions.Newest[^1].Speaker.ShouldBeNull("the words are kept all the same");
        Done(House.Host, new TakeBack());
        Refused(_nia, new WriteCaption("And on.")).ShouldBe(Reason.NotCaptioner);
    }

    [Fact]
    public void They_take_turns_and_the_next_one_writes_when_one_has_gone()
    {
        Done(House.Host, new NameCaptioner(_nia));
        Done(House.Host, new NameCaptioner(_teodor));
        Refused(_teodor, new WriteCaption("Me too.")).ShouldBe(Reason.NotYourCaptions);
        Done(_teodor, new TakeCaptionTurn());
        Done(_teodor, new WriteCaption("My turn."));
        Refused(_nia, new WriteCaption("Mine.")).ShouldBe(Reason.NotYourCaptions);
        Done(_teodor, new Leave());
        Done(_nia, new WriteCaption("I go on."));
        Refused(_teodor, new WriteCaption("From outside.")).ShouldBe(Reason.NotInside);
        _house.Arrives("Teodor Quill").ShouldBe(_teodor);
        Refused(_nia, new WriteCaption("Again?")).ShouldBe(Reason.NotYourCaptions, "who only left has the turn again");
        Done(House.Host, new Remove([_teodor], MayReturn: true));
        Done(_nia, new WriteCaption("Alone."));
        _house.Arrives("Teodor Quill").ShouldBe(_teodor);
        Done(House.Host, new Admit([_teodor], Role.Attendee));
        Refused(_teodor, new TakeCaptionTurn()).ShouldBe(Reason.NotCaptioner, "who was put out is named anew or not at all");
        Lines().ShouldBe(["My turn.", "I go on.", "Alone."]);
    }

    [Fact]
    public void What_is_wrong_is_put_right_by_its_writer_or_the_bench()
    {
        Done(House.Host, new NameCaptioner(_nia));
        Done(House.Host, new NameCaptioner(_teodor));
        Done(House.Host, new CaptionByMachine(true));
        _house.Do(Actor.House, new HearCaption(_teodor, "the weir is clothed", 900));
        _house.Sitting.Captions.Newest[^1].IsDraft.ShouldBeTrue();
        Done(_nia, new WriteCaption("Thank yu."));
        Refused(_teodor, new CorrectCaption(2, "Thank you.")).ShouldBe(Reason.NoSuchCaption, "it is another captioner's");
        Done(_teodor, new CorrectCaption(1, "The weir is closed."));
        Done(_nia, new CorrectCaption(2, "Thank you."));
        Refused(_nia, new CorrectCaption(3, "Nothing.")).ShouldBe(Reason.NoSuchCaption);
        Refused(_nia, new CorrectCaption(int.MinValue, "Nothing.")).ShouldBe(Reason.NoSuchCaption);
        Done(House.Host, new CorrectCaption(2, ""));
        Lines().ShouldBe(["The weir is closed.", ""]);
        _house.Sitting.Captions.Newest.ShouldAllBe(line => !line.IsDraft || line.By != null);
        for (var n = 0; n < WriteCaption.MostInTenSeconds; n++) _house.Do(Actor.House, new HearCaption(_teodor, $"word {n}", 0));
        _house.Sitting.Captions.Count.ShouldBeLessThanOrEqualTo(2 + WriteCaption.MostInTenSeconds);
    }

    [Fact]
    public void A_machine_writes_down_nobody_who_does_not_want_it()
    {
        Done(_teodor, new AnswerRecording(RecordingAnswer.Unrecorded));
        foreach (var on in new[] { false, true })
        {
            if (on) Done(House.Host, new CaptionByMachine(true));
            _house.Do(Actor.House, new HearCaption(_teodor, "not me", 0)).Facts.ShouldBeEmpty();
            _house.Do(Actor.House, new HearCaption(_nia, "me", 0)).Facts.Length.ShouldBe(on ? 1 : 0);
        }
        Done(House.Host, new CallRecess("Tea"));
        _house.Do(Actor.House, new HearCaption(House.Host, "among ourselves", 0)).Facts.ShouldBeEmpty();
    }

    [Fact]
    public void What_one_visitor_said_is_not_read_by_the_next()
    {
        var house = House.Opened(
            docket: [new DocketLine("Gwen Ashdown", Slot: new Instant(0)), new DocketLine("Bartosz Wilk", Slot: new Instant(1))]);
        var (first, second) = (house.Admits("Gwen Ashdown"), house.Arrives("Bartosz Wilk"));
        house.Do(House.Host, new NameCaptioner(House.Host)).Refusal.ShouldBeNull();
        house.Do(House.Host, new WriteCaption("My rent is late.", first)).Refusal.ShouldBeNull();
        var line = house.Sitting.Captions.Newest[^1];
        bool Reads(SeatId seat) => house.Sitting.MayKnow(house[seat], new Matter.Caption(line));
        Reads(first).ShouldBeTrue();
        Reads(second).ShouldBeFalse("who waits reads nothing");
        house.Do(House.Host, new SendToLobby([first])).Refusal.ShouldBeNull();
        house.Do(House.Host, new Admit([second], Role.Attendee)).Refusal.ShouldBeNull();
        Reads(second).ShouldBeFalse();
        Reads(first).ShouldBeFalse("nor does who is outside again");
        house.Do(House.Host, new WriteCaption("One moment.", House.Host, 20_000)).Refusal.ShouldBeNull();
        line = house.Sitting.Captions.Newest[^1];
        Reads(second).ShouldBeFalse("it was said before they came in");
        Reads(House.Host).ShouldBeTrue();
        // Nor can the next one find out what it said by correcting it, also where they write captions.
        house.Do(House.Host, new NameCaptioner(second)).Refusal.ShouldBeNull();
        house.Do(House.Host, new CaptionByMachine(true)).Refusal.ShouldBeNull();
        house.Do(Actor.House, new HearCaption(second, "of my own", 0)).Facts.Length.ShouldBe(1);
        foreach (var guess in new[] { "My rent is late.", "Something else." })
            house.Do(second, new CorrectCaption(1, guess)).Refusal!.Reason.ShouldBe(Reason.NoSuchCaption);
        house.Do(second, new CorrectCaption(3, "Of my own.")).Refusal.ShouldBeNull();
    }

    [Property(MaxTest = 300)]
    public Property A_film_has_each_line_that_was_said_in_it_once_and_in_order()
    {
        var gen = from starts in Gen.ArrayOf(Gen.Choose(0, 120_000), 30)
                  from gap in Gen.Choose(20_000, 60_000)
                  from cut in Gen.Choose(0, 60_000)
                  from length in Gen.Choose(0, 40_000)
                  from out1 in Gen.Choose(1, 30)
                  select (starts, gap, cut, length, out1);
        return Prop.ForAll(gen.ToArbitrary(), one =>
        {
            var begin = new Instant(1_000_000);
            Stretch[] stretches = [new(begin, begin + TimeSpan.FromMilliseconds(one.gap)),
                new(begin + TimeSpan.FromMilliseconds(one.gap + 10_000), begin + TimeSpan.FromMilliseconds(130_000))];
            var lines = one.starts.Order().Select((at, n) => new SpokenLine(
                n + 1, begin + TimeSpan.FromMilliseconds(at), null, "", $"<{n + 1}>", false)).ToImmutableArray();
            var timeline = Timeline.Of(stretches)
                .Without([new Passage(TimeSpan.FromMilliseconds(one.cut), TimeSpan.FromMilliseconds(one.cut + one.length))]);
            var cues = Transcript.Of(new Score("", [.. stretches], [], [], [], lines), timeline,
                new Dictionary<int, string> { [one.out1] = "" });
            for (var n = 0; n < cues.Length; n++)
            {
                cues[n].To.ShouldBeGreaterThan(cues[n].From);
                cues[n].To.ShouldBeLessThanOrEqualTo(timeline.Length);
                if (n > 0) cues[n].From.ShouldBeGreaterThanOrEqualTo(cues[n - 1].To);
            }
            // By the clock alone: neither in the pause nor in the cut, which is told in the recording's own time.
            bool IsIn(int at) => (at < one.gap ? at : at >= one.gap + 10_000 ? at - 10_000 : -1) is var own and >= 0
                && !(own >= one.cut && own < one.cut + one.length);
            var all = string.Concat(cues.Select(cue => cue.Text));
            foreach (var line in lines)
                (all.Split(line.Text).Length - 1).ShouldBe(
                    IsIn((int)(line.Heard - begin).TotalMilliseconds) && line.Number != one.out1 ? 1 : 0, line.Text);
        });
    }

    [Property(MaxTest = 150)]
    public Property No_word_of_whoever_was_not_recorded_stands_in_a_transcript()
    {
        var gen = Gen.ListOf(Gen.Choose(0, 9).Zip(Gen.Choose(0, 2)), 60);
        return Prop.ForAll(gen.ToArbitrary(), steps =>
        {
            var house = House.Opened(DoorMode.Open);
            SeatId[] people = [House.Host, house.Arrives("Nia Okafor"), house.Arrives("Teodor Quill")];
            house.Do(House.Host, new NameCaptioner(House.Host));
            // What an onlooker would note, without asking any rule.
            var (recording, begun, refuses, open, may, count) =
                (false, false, new HashSet<SeatId>(), new HashSet<SeatId>(), new List<string>(), 0);
            foreach (var (act, who) in steps)
            {
                var seat = people[who];
                switch (act)
                {
                    case 0:
                        house.Do(House.Host, new StartRecording()).Refusal.ShouldBeNull();
                        // Whoever begins it agrees by that.
                        if (!begun) refuses.Remove(House.Host);
                        (recording, begun) = (true, true);
                        break;
                    case 1: if (house.Do(House.Host, new PauseRecording()).Refusal is null) recording = false; break;
                    case 2: if (house.Do(seat, new AnswerRecording(RecordingAnswer.Unrecorded)).Refusal is null) refuses.Add(seat); break;
                    case 3: if (house.Do(seat, new AnswerRecording(RecordingAnswer.Agreed)).Refusal is null) refuses.Remove(seat); break;
                    case 4: if (house.Do(seat, new OpenMicrophone()).Refusal is null) open.Add(seat); break;
                    case 5: house.Do(seat, new CloseMicrophone()); open.Remove(seat); break;
                    default:
                        var (named, text) = (act < 9, $"<{++count}>");
                        house.Do(House.Host, new WriteCaption(text, named ? seat : null)).Refusal.ShouldBeNull();
                        if (recording && (named ? !refuses.Contains(seat) : !open.Overlaps(refuses))) may.Add(text);
                        house.Waits(TimeSpan.FromSeconds(2));
                        break;
                }
            }
            var score = Score.Of(house.Entries, 1);
            score.Lines.Select(line => line.Text).ShouldBeSubsetOf(may);
            if (!house.Entries.Any(entry => entry.Fact is RecordingAnswered))
                score.Lines.Select(line => line.Text).ShouldBe(may, "and nothing is lost");
        });
    }
}
