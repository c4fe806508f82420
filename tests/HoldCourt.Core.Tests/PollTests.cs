using System.Collections.Immutable;
using System.Text.Json;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>Questions to everybody: who may answer, who knows what came of it, and that it is counted right.</summary>
public class PollTests
{
    private const string Token = "00112233445566778899aabbccddeeff", Other = "ffeeddccbbaa99887766554433221100",
        Third = "0123456789abcdef0123456789abcdef";

    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _nia, _teodor;

    public PollTests()
    {
        _nia = _house.Arrives("Nia Okafor");
        _teodor = _house.Arrives("Teodor Quill");
    }

    private void Done(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal.ShouldBeNull(command.ToString());

    private Reason? Refused(SeatId by, SeatCommand command) => _house.Do(by, command).Refusal?.Reason;

    private Poll Now => _house.Sitting.Polls.Open!;

    private static Choice Words(string text) => new([], null, text);

    private static Choice Number(double number) => new([], number, null);

    [Fact]
    public void The_bench_asks_those_inside_answer_once_and_may_change_it_until_it_is_closed()
    {
        var form = PollForm.Of(PollKind.YesOrNo, "Shall we mend the weir?");
        Refused(_nia, new OpenPoll(form)).ShouldBe(Reason.OnlyBench);
        Done(House.Host, new OpenPoll(form));
        Refused(House.Host, new OpenPoll(form)).ShouldBe(Reason.PollIsOpen);
        Done(_nia, new Vote(1, Choice.Of(0)));
        Done(_nia, new Vote(1, Choice.Of(1)));
        _house.Do(_nia, new Vote(1, Choice.Of(1))).Facts.ShouldBeEmpty("it is so already");
        Done(_teodor, new Vote(1, Choice.Abstention));
        foreach (var wrong in new[] { Choice.Of(2), Choice.Of(-1), Choice.Of(0, 1), Words("yes"), Number(1) })
            Refused(House.Host, new Vote(1, wrong)).ShouldBe(Reason.NotUnderstood);
        Refused(House.Host, new Vote(2, Choice.Of(0))).ShouldBe(Reason.PollIsClosed, "another question than the one that is open");
        var late = _house.Arrives("Came Late");
        Refused(late, new Vote(1, Choice.Of(0))).ShouldBe(Reason.NotVoter, "who votes was fixed when it opened");
        Done(House.Host, new Remove([_teodor], MayReturn: true));
        Refused(_teodor, new Vote(1, Choice.Of(0))).ShouldBe(Reason.NotInside);
        Refused(House.Host, new ShowResult(1, true)).ShouldBe(Reason.PollNotCounted);
        Done(House.Host, new ClosePoll());
        Refused(_nia, new Vote(1, Choice.Of(0))).ShouldBe(Reason.PollIsClosed);
        var result = _house.Sitting.Polls.Asked[0].Result!;
        (result.Voters, result.Turnout, result.Abstained).ShouldBe((3, 2, 1));
        result.Bars.Select(bar => bar.Count).ShouldBe([0, 1]);
        result.First.ShouldBe([1]);
        Done(House.Host, new TakeBack());
        Done(_nia, new Vote(1, Choice.Of(0)));
        Now.Result!.First.ShouldBe([0]);
        Done(House.Host, new DropPoll());
        Refused(House.Host, new ShowResult(1, true)).ShouldBe(Reason.NoSuchPoll);
        _house.Sitting.Polls.Asked[0].Votes.ShouldBeEmpty();
    }

    [Fact]
    public void Who_may_vote_is_as_was_said_and_one_link_is_one_vote()
    {
        var house = House.Opened(DoorMode.Listed, null, new DocketLine("Jun Takeda", Group: "Upper Reach", Key: "line:1"),
            new DocketLine("Ansel Roope", Role.Presenter, Group: "Lower Reach", Key: "line:2"));
        SeatId Comes(string name, string browser, string proof) => house.Arrives(name, new PersonKey($"guest:{browser}"), proof);
        var jun = Comes("Jun Takeda", "a", "line:1");
        var again = Comes("Jun Takeda", "b", "line:1");
        house.Do(House.Host, new Admit([again], Role.Attendee));
        var ansel = Comes("Ansel Roope", "c", "line:2");
        var named = house.Admits("Jun Takedo");
        SeatId[] VotersOf(Electorate who)
        {
            if (house.Do(House.Host, new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Who = who })).Refusal is { } refusal)
            {
                refusal.Reason.ShouldBe(Reason.NobodyMayVote);
                return [];
            }
            var poll = house.Sitting.Polls.Open!;
            house.Do(House.Host, new DropPoll());
            return [.. poll.Voters.Select(number => new SeatId(number))];
        }
        VotersOf(Electorate.Everybody).ShouldBe([House.Host, jun, ansel, named], "whoever came twice by one link votes once");
        VotersOf(Electorate.Everybody with { Bench = false, Presenters = false }).ShouldBe([jun, named]);
        VotersOf(Electorate.Everybody with { Groups = ["upper reach"] }).ShouldBe([jun], "a typed name makes nobody one of a group");
        VotersOf(Electorate.Everybody with { Named = [ansel, named] }).ShouldBe([ansel, named]);
        VotersOf(Electorate.Everybody with { Groups = ["nowhere"] }).ShouldBeEmpty();
        VotersOf(new Electorate(false, false, false, [], [])).ShouldBeEmpty();
        var form = PollForm.Of(PollKind.YesOrNo) with { Late = true, Who = Electorate.Everybody with { Bench = false } };
        house.Do(House.Host, new OpenPoll(form));
        var third = Comes("Jun Takeda", "d", "line:1");
        house.Do(House.Host, new Admit([third], Role.Attendee));
        var late = house.Admits("Came Late");
        house.Sitting.Polls.Open!.Voters.ShouldBe([jun.Number, ansel.Number, named.Number, late.Number], ignoreOrder: true);
        house.Do(late, new Vote(house.Sitting.Polls.Open.Number, Choice.Of(0))).Refusal.ShouldBeNull();
    }

    [Fact]
    public void What_cannot_be_asked_or_answered_is_refused_in_words()
    {
        Reason? Asked(PollForm form) => Refused(House.Host, new OpenPoll(form));
        Asked(PollForm.Of(PollKind.One, "Which?")).ShouldBe(Reason.PollWithoutOptions);
        Asked(PollForm.Of(PollKind.One, "Which?", "only")).ShouldBe(Reason.PollWithoutOptions);
        Asked(PollForm.Of(PollKind.One, "Which?", "a", "  ")).ShouldBe(Reason.PollWithoutOptions);
        Asked(PollForm.Of(PollKind.Several, "Which?", "a", "A ")).ShouldBe(Reason.OptionTwice);
        Asked(PollForm.Of(PollKind.One, "Which?", [.. Enumerable.Range(0, 13).Select(n => $"{n}")])).ShouldBe(Reason.TooManyOptions);
        Asked(PollForm.Of(PollKind.Words, " \u0007 ")).ShouldBe(Reason.PollWithoutQuestion);
        Asked(PollForm.Of(PollKind.Words, new string('a', 401))).ShouldBe(Reason.WordsTooLong);
        Asked(PollForm.Of(PollKind.Scale, "How?") with { Low = 5, High = 5 }).ShouldBe(Reason.ScaleOutOfRange);
        Asked(PollForm.Of(PollKind.Scale, "How?") with { Low = 0, High = 1e9 }).ShouldBe(Reason.ScaleOutOfRange);
        Asked(PollForm.Of(PollKind.Scale, "How?") with { Low = double.NaN }).ShouldBe(Reason.NotUnderstood);
        Asked(PollForm.Of(PollKind.YesOrNo) with { Seconds = 1 }).ShouldBe(Reason.PollTimeOutOfRange);
        Asked(PollForm.Of(PollKind.YesOrNo) with { Options = default }).ShouldBe(Reason.NotUnderstood);
        Refused(House.Host, new ClosePoll()).ShouldBe(Reason.NoPollOpen);
        Refused(House.Host, new PreparePolls([.. Enumerable.Repeat(PollForm.Of(PollKind.YesOrNo), 51)])).ShouldBe(Reason.TooManyPolls);
        Done(House.Host, new OpenPoll(PollForm.Of(PollKind.Words, "What else?")));
        Refused(_nia, new Vote(1, Words(new string('a', 10_000)))).ShouldBe(Reason.AnswerTooLong);
        Refused(_nia, new Vote(1, Words("  "))).ShouldBe(Reason.AnswerEmpty);
        Done(_nia, new Vote(1, Words("The  weir")));
        Done(_teodor, new Vote(1, Words("the weir!")));
        Done(House.Host, new Vote(1, Words("—")));
        Now.Result!.Bars.Select(bar => (bar.Words, bar.Count)).ShouldBe([("The  weir", 2), ("—", 1)]);
        Done(House.Host, new ClosePoll());
        Done(House.Host, new OpenPoll(PollForm.Of(PollKind.Number, "How many?") with { Low = 0, High = 10 }));
        Refused(_nia, new Vote(2, Number(10.5))).ShouldBe(Reason.AnswerOutOfRange);
        Done(_nia, new Vote(2, Number(2.5)));
        Done(_teodor, new Vote(2, Number(4)));
        (Now.Result!.Spread!.Mean, Now.Result.Spread.Median).ShouldBe((3.25, 3.25));
        Done(House.Host, new ClosePoll());
        Done(House.Host, new OpenPoll(PollForm.Of(PollKind.Several, "Which?", "a", "b", "c") with { Most = 2 }));
        Refused(_nia, new Vote(3, Choice.Of(0, 1, 2))).ShouldBe(Reason.TooManyChosen);
        Done(_nia, new Vote(3, Choice.Of(2, 0)));
        Now.Result!.Bars.Select(bar => bar.Count).ShouldBe([1, 0, 1]);
        Now.Result.First.ShouldBe([0, 2], "a tie is told as one");
    }

    [Fact]
    public void A_vote_in_secret_is_changed_by_its_token_alone_and_counted_when_the_box_is_opened()
    {
        Done(House.Host, new OpenPoll(PollForm.Of(PollKind.YesOrNo, "Close the ford?") with { Secret = true, Quorum = 4, Seconds = 60 }));
        Refused(_nia, new Vote(1, Choice.Of(0))).ShouldBe(Reason.NotUnderstood);
        Refused(_nia, new Vote(1, Choice.Of(0), "short")).ShouldBe(Reason.NotUnderstood);
        Refused(_nia, new Vote(1, Choice.Of(0), Token) { IsTokenKnown = true }).ShouldBe(Reason.NotUnderstood, "it is another’s ballot");
        Done(_nia, new Vote(1, Choice.Of(0), Token));
        Refused(_nia, new Vote(1, Choice.Of(1), Other)).ShouldBe(Reason.VotedElsewhere);
        Done(_nia, new Vote(1, Choice.Of(1), Token) { IsTokenKnown = true });
        Done(_teodor, new Vote(1, Choice.Of(1), Other));
        Done(House.Host, new Vote(1, Choice.Of(0), Third));
        (Now.Votes.Count, Now.Result).ShouldBe((3, null));
        JsonSerializer.Deserialize<SeatCommand>(
            """{"do":"vote","poll":1,"choice":{"options":[0],"number":null,"text":null},"token":null,"isTokenKnown":true}""",
            CoreJson.Options).ShouldBeOfType<Vote>().IsTokenKnown.ShouldBeFalse("no browser says so");
        _house.Do(Actor.House, new EndPoll()).Facts.ShouldBeEmpty("its time is not over");
        _house.Do(Actor.House, new CountBox(1, [Choice.Of(0)])).Facts.ShouldBeEmpty("it is open");
        _house.Waits(TimeSpan.FromSeconds(60));
        _house.Do(Actor.House, new EndPoll()).Facts.ShouldHaveSingleItem();
        Done(House.Host, new Adjourn());
        _house.Do(Actor.House, new CountBox(1, [Choice.Of(1), Choice.Of(0), Choice.Of(1)])).Facts.ShouldHaveSingleItem();
        _house.Do(Actor.House, new CountBox(1, null)).Facts.ShouldBeEmpty("it is counted once");
        var poll = _house.Sitting.Polls.Asked[0];
        poll.Box!.Value.ShouldBe([Choice.Of(0), Choice.Of(1), Choice.Of(1)]);
        poll.Digest.ShouldBe(Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(
            "{\"options\":[0],\"number\":null,\"text\":null}\n{\"options\":[1],\"number\":null,\"text\":null}\n"
            + "{\"options\":[1],\"number\":null,\"text\":null}\n"))));
        poll.Result!.Quorate.ShouldBe(false);
        poll.Result.First.ShouldBe([1]);
    }

    [Theory]
    [InlineData(2)]
    [InlineData(4)]
    public void A_box_that_somebody_has_been_at_counts_for_nothing(int ballots)
    {
        Done(House.Host, new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Secret = true }));
        Done(_nia, new Vote(1, Choice.Of(0), Token));
        Done(_teodor, new Vote(1, Choice.Of(0), Other));
        Done(House.Host, new Vote(1, Choice.Of(0), Third));
        Done(House.Host, new ClosePoll());
        _house.Do(Actor.House, new CountBox(1, [.. Enumerable.Repeat(Choice.Of(0), ballots)]));
        (_house.Sitting.Polls.Asked[0].IsLost, _house.Sitting.Polls.Asked[0].Result).ShouldBe((true, null));
        Refused(House.Host, new ShowResult(1, true)).ShouldBe(Reason.BoxIsLost);
    }

    [Fact]
    public void What_could_be_guessed_is_not_asked_in_secret_and_not_counted()
    {
        var form = PollForm.Of(PollKind.YesOrNo) with { Secret = true };
        Refused(House.Host, new OpenPoll(form with { Who = Electorate.Everybody with { Named = [_nia] } }))
            .ShouldBe(Reason.TooFewForSecret);
        Refused(House.Host, new OpenPoll(form with { Who = Electorate.Everybody with { Bench = false } })).ShouldBe(Reason.TooFewForSecret);
        Done(House.Host, new PreparePolls([form with { Text = "To two", Who = Electorate.Everybody with { Bench = false } }]));
        Done(House.Host, new SetRunSheet([new Item(1, "Vote", Asks: "To two")]));
        Done(House.Host, new NextItem());
        _house.Sitting.Polls.Open.ShouldBeNull("nor by an item");
        Done(House.Host, new OpenPoll(form));
        Done(_nia, new Vote(1, Choice.Of(0), Token));
        Done(_teodor, new Vote(1, Choice.Of(0), Other));
        Done(House.Host, new ClosePoll());
        _house.Do(Actor.House, new CountBox(1, [Choice.Of(0), Choice.Of(0)]));
        var poll = _house.Sitting.Polls.Asked[0];
        (poll.HasTooFew, poll.Result, poll.Box).ShouldBe((true, null, null));
        _house.Entries.ShouldAllBe(entry => !(entry.Fact is BoxCounted));
    }

    [Fact]
    public void What_one_visitor_was_shown_is_not_for_the_next()
    {
        var slot = new Instant(1_770_000_000_000);
        var house = House.Opened(DoorMode.Attended, null, new DocketLine("Gwen Ashdown", Slot: slot, Minutes: 15),
            new DocketLine("Bartosz Wilk", Slot: slot + TimeSpan.FromMinutes(15), Minutes: 15));
        var gwen = house.Arrives("Gwen Ashdown");
        house.Arrives("Bartosz Wilk");
        ImmutableArray<PollRow> Seen(Viewer viewer) => Projection.Record(house.Sitting, viewer).Polls!.Over;
        house.Do(House.Host, new Next()).Refusal.ShouldBeNull();
        house.Do(House.Host, new OpenPoll(PollForm.Of(PollKind.Words, "Which field?"))).Refusal.ShouldBeNull();
        house.Do(gwen, new Vote(1, Words("By the mill"))).Refusal.ShouldBeNull();
        house.Do(House.Host, new ClosePoll());
        house.Do(House.Host, new ShowResult(1, true)).Refusal.ShouldBeNull();
        Seen(Viewer.Attendee).Length.ShouldBe(1);
        var before = house.Sitting;
        house.Do(House.Host, new Next()).Refusal.ShouldBeNull();
        (Seen(Viewer.Attendee).Length, Seen(Viewer.Bench).Length).ShouldBe((0, 1));
        new Transition(before, house.Sitting, [house.Entries[^1]]).From(Viewer.Attendee).Set!.Polls!.Over.ShouldBeEmpty();
    }

    [Fact]
    public void An_item_opens_its_question_and_going_back_calls_it_off()
    {
        Done(House.Host, new PreparePolls([PollForm.Of(PollKind.YesOrNo, "Mend the weir?")]));
        Done(House.Host, new SetRunSheet([new Item(1, "First"), new Item(2, "Priorities", Asks: "mend the weir?")]));
        Done(House.Host, new TurnToItem(2));
        Now.Form.Text.ShouldBe("Mend the weir?");
        Done(House.Host, new TakeBack());
        _house.Sitting.Polls.Open.ShouldBeNull();
        _house.Sitting.RunSheet.At.ShouldBeNull();
    }

    [Theory]
    [InlineData("en", "poll Shall we mend the weir? yes or no, 2 min, secret", PollKind.YesOrNo, 120, true, 0)]
    [InlineData("en", "poll A to E", PollKind.One, null, false, 5)]
    [InlineData("en", "poll Which: order of the weir / the ford / the path", PollKind.Preference, null, false, 3)]
    [InlineData("en", "poll How well? scale 0 to 10, late too", PollKind.Scale, null, false, 0)]
    [InlineData("pl", "głosowanie Czy naprawić jaz? tak czy nie, tajne", PollKind.YesOrNo, null, true, 0)]
    [InlineData("pl", "głosowanie Co najpierw? kilka z jaz / bród, najwyżej 1", PollKind.Several, null, false, 2)]
    public void A_question_is_asked_in_a_line(string language, string line, PollKind kind, int? seconds, bool secret, int options)
    {
        var read = Reader.Read(new Scope(_house.Sitting, House.Host, new Instant(0), [], language), line);
        var form = read.Command.ShouldBeOfType<OpenPoll>().Form;
        (form.Kind, form.Seconds, form.Secret, form.Options.Length).ShouldBe((kind, seconds, secret, options));
    }

    /// <summary>
    /// The capital of Tennessee, the usual worked example of voting theory: 42 % live at Memphis, 26 % at Nashville, 15 % at
    /// Chattanooga and 17 % at Knoxville, and each prefers what is near. Chattanooga leaves first, then Nashville; Knoxville wins with 58.
    /// </summary>
    [Fact]
    public void An_order_of_preference_is_counted_as_in_the_textbook()
    {
        ImmutableArray<ImmutableArray<int>> ballots =
        [
            .. Enumerable.Repeat<ImmutableArray<int>>([0, 1, 2, 3], 42), .. Enumerable.Repeat<ImmutableArray<int>>([1, 2, 3, 0], 26),
            .. Enumerable.Repeat<ImmutableArray<int>>([2, 3, 1, 0], 15), .. Enumerable.Repeat<ImmutableArray<int>>([3, 2, 1, 0], 17)
        ];
        var (winners, rounds) = InstantRunoff.Of(4, ballots);
        winners.ShouldBe([3]);
        rounds.Select(round => round.Counts.ToArray()).ShouldBeJson(
            [[42, 26, 15, 17], [42, 26, null, 32], [42, null, null, 58]]);
        rounds.Select(round => round.Out).ShouldBe([2, 1, null]);
    }

    private static class Ballots
    {
        public static Arbitrary<int[][]> Of() => Gen.Shuffle(Enumerable.Range(0, 5).ToArray())
            .Zip(Gen.Choose(1, 5), (order, length) => order.Take(length).ToArray()).ArrayOf(12).Where(all => all.Length > 0).ToArbitrary();
    }

    /// <summary>The oracle throws the dice at each tie, by all their sides: whoever can win in any way.</summary>
    [Theory]
    [InlineData(PollKind.YesOrNo, "1#", 0)]
    [InlineData(PollKind.TrueOrFalse, "2#", 1)]
    [InlineData(PollKind.One, "3#", 2)]
    [InlineData(PollKind.Several, "3*1#", 0, 2)]
    [InlineData(PollKind.Preference, "2*3*1#", 1, 2, 0)]
    public void By_telephone_options_are_chosen_by_their_numbers(PollKind kind, string keys, params int[] options)
    {
        var form = PollForm.Of(kind, "Which?", PollForm.TakesOptions(kind) ? ["weir", "ford", "bank"] : []);
        PollKeys.Read(form, keys).ShouldBe(Choice.Of([.. options]));
        PollKeys.Read(form, "#").ShouldBe(Choice.Abstention);
        foreach (var wrong in new[] { "", "1", "0#", "4#", "1*1#", "1**2#", "*#", "12345678901#", "1#2#", "a#", " 1#", "-1#" })
            PollKeys.Read(form, wrong).ShouldBeNull(wrong);
    }

    [Fact]
    public void By_telephone_numbers_have_a_star_for_their_point_and_words_cannot_be_given()
    {
        var number = PollForm.Of(PollKind.Number, "How deep?") with { Low = 0, High = 20 };
        PollKeys.Read(number, "12*5#").ShouldBe(Number(12.5));
        PollKeys.For(Number(12.5)).ShouldBe("12*5#");
        foreach (var wrong in new[] { "21#", "1*2*3#", "*#", "1,5#", "1e1#" }) PollKeys.Read(number, wrong).ShouldBeNull(wrong);
        var scale = PollForm.Of(PollKind.Scale, "How sure?");
        (PollKeys.Read(scale, "5#"), PollKeys.Read(scale, "6#"), PollKeys.Read(scale, "2*5#")).ShouldBe((Number(5), null, null));
        PollKeys.Read(PollForm.Of(PollKind.Words, "What?"), "1#").ShouldBeNull();
        PollKeys.For(Words("the weir")).ShouldBeNull();
        PollKeys.For(Choice.Of(1, 2, 0)).ShouldBe("2*3*1#");
    }

    [Property(Arbitrary = [typeof(Ballots)], MaxTest = 300)]
    public void Whoever_can_win_a_runoff_is_named_and_nobody_else(int[][] ballots)
    {
        static IEnumerable<int> CanWin(List<int> left, int[][] ballots)
        {
            var tops = ballots.Select(ballot => ballot.Where(left.Contains).Cast<int?>().FirstOrDefault()).OfType<int>().ToList();
            var votes = left.ToDictionary(one => one, one => tops.Count(top => top == one));
            var (most, least) = (votes.Values.Max(), votes.Values.Min());
            if (most * 2 > tops.Count || left.Count <= 2 || most == least) return left.Where(one => votes[one] == most);
            return left.Where(one => votes[one] == least)
                .SelectMany(one => CanWin([.. left.Where(other => other != one)], ballots)).Distinct();
        }
        var (winners, rounds) = InstantRunoff.Of(5, [.. ballots.Select(ballot => ballot.ToImmutableArray())]);
        winners.ShouldBe(CanWin([0, 1, 2, 3, 4], ballots).Order());
        rounds.ShouldAllBe(round => round.Counts.Sum(count => count ?? 0) + round.Exhausted == ballots.Length);
    }

    /// <summary>Votes at random moments of random people, in words that nobody else uses.</summary>
    [Property(MaxTest = 150)]
    public void What_was_chosen_in_secret_stands_nowhere_and_results_only_where_they_are_shown(int seed)
    {
        var random = new Random(seed);
        var house = House.Opened(DoorMode.Open);
        SeatId[] seats = [House.Host, .. Enumerable.Range(0, 4).Select(n => house.Arrives($"walker{n}"))];
        var cast = new Dictionary<SeatId, string>();
        var said = 0;
        for (var step = 0; step < 40; step++)
        {
            var by = seats[random.Next(seats.Length)];
            switch (random.Next(8))
            {
                case 0:
                    var form = PollForm.Of(PollKind.Words, "Say it") with { Secret = random.Next(3) > 0, Late = true };
                    if (house.Do(House.Host, new OpenPoll(form)).Refusal is null) cast.Clear();
                    break;
                case 1 when random.Next(3) == 0:
                    house.Do(House.Host, new ClosePoll());
                    break;
                case 2 when house.Sitting.Polls.Asked.LastOrDefault() is { WaitsForItsBox: true } shut:
                    house.Do(Actor.House, new CountBox(shut.Number, [.. cast.Values.Order().Select(Words)]));
                    break;
                case 3 when house.Sitting.Polls.Asked.Count > 0:
                    house.Do(House.Host, new ShowResult(house.Sitting.Polls.Asked.Count, random.Next(2) == 0));
                    break;
                case 4 when random.Next(3) == 0:
                    house.Do(House.Host, new TakeBack());
                    break;
                default:
                    if (house.Sitting.Polls.Open is not { } poll) break;
                    var words = $"unheard{said++}";
                    var token = $"{by.Number:x32}";
                    if (house.Do(by, new Vote(poll.Number, Words(words), token) { IsTokenKnown = cast.ContainsKey(by) }).Refusal is null)
                        cast[by] = words;
                    break;
            }
            Knows(house, seats);
        }
    }

    private static void Knows(House house, SeatId[] seats)
    {
        var entries = house.Entries.Select(entry => JsonSerializer.Serialize(entry, CoreJson.Options)).ToList();
        foreach (var poll in house.Sitting.Polls.Asked.Where(poll => poll.Form.Secret && poll.Box is null))
            entries.Where(entry => entry.Contains($"\"number\":{poll.Number},", StringComparison.Ordinal) && !entry.Contains("voteCast"))
                .ShouldAllBe(entry => !entry.Contains("unheard"), "a box that is shut");
        var named = house.Sitting.Polls.Asked.Where(poll => !poll.Form.Secret).SelectMany(poll => poll.Votes)
            .ToLookup(vote => new SeatId(vote.Key), vote => vote.Value!.Text!);
        foreach (var id in seats)
        {
            var seat = house.Sitting.Seats[id];
            var from = Knowledge.ViewpointOf(house.Sitting, seat);
            var view = Projection.Whole(house.Sitting, from, house.Entries);
            var seen = JsonSerializer.Serialize(view, CoreJson.Options)
                + JsonSerializer.Serialize(MeRow.Of(house.Sitting, seat), CoreJson.Options);
            var may = house.Sitting.Polls.Asked.Where(poll => poll is { IsDropped: false } && (poll.Shown || from.Viewer == Viewer.Bench))
                .SelectMany(poll => (poll.Box ?? [.. poll.Votes.Values.OfType<Choice>()]).Select(choice => choice.Text!))
                .Concat(named[id]).ToHashSet();
            foreach (System.Text.RegularExpressions.Match word in System.Text.RegularExpressions.Regex.Matches(seen, "unheard[0-9]+"))
                may.ShouldContain(word.Value, $"seen by {seat.Name}");
            if (from.Viewer != Viewer.Bench && view.Sitting.Polls is { } polls)
            {
                polls.Over.ShouldAllBe(poll => poll.Shown);
                polls.Open?.Turnout.ShouldBeNull();
                polls.Prepared.ShouldBeEmpty();
            }
        }
    }
}
