namespace HoldCourt.Core.Tests;

public class ChatTests
{
    private static readonly Recipient _all = new(Reach.Everyone), _bench = new(Reach.Bench);

    private static (House House, SeatId Anna, SeatId Ben, SeatId Cleo) Three()
    {
        var house = House.Opened();
        return (house, house.Admits("Anna"), house.Admits("Ben"), house.Admits("Cleo", Role.Presenter));
    }

    private static SeatId[] Readers(House house, int message) =>
        [.. house.Sitting.Seats.Where(seat => house.Sitting.MayKnow(seat, new Matter.Words(house.Sitting.Chat.Newest[message - 1])))
            .Select(seat => seat.Id)];

    [Fact]
    public void A_message_reaches_those_it_is_written_to_and_nobody_else()
    {
        var (house, a, b, c) = Three();
        house.Do(a, new Write(_all, " Good morning ")).Refusal.ShouldBeNull();
        house.Do(a, new Write(_bench, "Can the next slide come?"));
        house.Do(a, new Write(new Recipient(Reach.One, b), "Are you here?", Question: true));
        house.Sitting.Chat.Newest[2].Question.ShouldBe(Question.None, "what is between two people is no question to the sitting");
        house.Sitting.Chat.Newest[0].Text.ShouldBe("Good morning");
        Readers(house, 1).ShouldBe([House.Host, a, b, c]);
        Readers(house, 2).ShouldBe([House.Host, a]);
        Readers(house, 3).ShouldBe([a, b]);

        house.Do(House.Host, new SetOrder(Order.SeeChat, Audience.Presenters));
        Readers(house, 1).ShouldBe([House.Host, a, c], "one's own words stay");
    }

    [Fact]
    public void A_visitor_does_not_read_what_was_written_during_the_visit_before()
    {
        var house = House.Opened(docket: [new DocketLine("Anna", Slot: new Instant(0)), new DocketLine("Ben", Slot: new Instant(1))]);
        var a = house.Admits("Anna");
        house.Do(a, new Write(_all, "About my well"));
        var b = house.Arrives("Ben");
        house.Do(House.Host, new Next()).Refusal.ShouldBeNull();
        house[b].IsSeated.ShouldBeTrue();
        Readers(house, 1).ShouldBe([House.Host, a]);
    }

    [Fact]
    public void The_orders_say_whom_attendees_may_write_to()
    {
        var (house, a, b, c) = Three();
        house.Do(House.Host, new SetOrder(Order.WriteToOne, Audience.Bench));
        house.Do(a, new Write(new Recipient(Reach.One, b), "x")).Refusal!.Reason.ShouldBe(Reason.WritingNotAllowed);
        house.Do(House.Host, new SetOrder(Order.WriteToAll, Audience.Presenters));
        house.Do(a, new Write(_all, "x")).Refusal!.Reason.ShouldBe(Reason.WritingNotAllowed);
        house.Do(c, new Write(_all, "x")).Refusal.ShouldBeNull();
        house.Do(a, new Write(_bench, "x")).Refusal.ShouldBeNull();
        house.Do(House.Host, new SetOrder(Order.SeePeople, Audience.Bench));
        house.Do(House.Host, new SetOrder(Order.WriteToOne, Audience.Everyone));
        house.Do(a, new Write(new Recipient(Reach.One, b), "x")).Refusal!.Reason.ShouldBe(Reason.NobodySeated,
            "the list is hidden, and so is Ben");
        house.Do(a, new Write(new Recipient(Reach.One, c), "x")).Refusal.ShouldBeNull("presenters are seen by all");
    }

    [Fact]
    public void Words_that_cannot_be_kept_are_refused_and_a_flood_is_stopped()
    {
        var (house, a, b, _) = Three();
        house.Do(a, new Write(_all, new string('x', 100_000))).Refusal!.ShouldBe(new Refusal(Reason.MessageTooLong, Remedy.Shorten));
        house.Do(a, new Write(_all, "  ")).Refusal!.Reason.ShouldBe(Reason.MessageEmpty);
        house.Do(a, new Write(new Recipient(Reach.One), "x")).Refusal!.Reason.ShouldBe(Reason.NotUnderstood);
        var at = house.Sitting.OpenedAt + TimeSpan.FromHours(1);
        var state = house.Sitting;
        var refused = 0;
        for (var n = 0; n < 1_000; n++)
        {
            var decision = SittingRules.Decide(state, new Write(_all, $"<b>{n}</b>"), Actor.Of(a), at + TimeSpan.FromMilliseconds(n));
            if (decision.Refusal?.Reason == Reason.TooFast) refused++;
            (_, state) = SittingRules.Record(state, decision.Facts, Actor.Of(a), at + TimeSpan.FromMilliseconds(n));
        }
        refused.ShouldBe(1_000 - Write.MostInTenSeconds);
        SittingRules.Decide(state, new Write(_all, "calm"), Actor.Of(b),
            at + TimeSpan.FromSeconds(1)).Refusal.ShouldBeNull("others are not slowed down");
        SittingRules.Decide(state, new Write(_all, "later"), Actor.Of(a), at + TimeSpan.FromSeconds(12)).Refusal.ShouldBeNull();
    }

    [Fact]
    public void Ones_own_words_can_be_changed_and_deleted_and_the_bench_removes_with_a_mark()
    {
        var (house, a, b, _) = Three();
        house.Do(a, new Write(_all, "Tuesdya", true));
        house.Do(b, new EditMessage(1, "x")).Refusal!.Reason.ShouldBe(Reason.NotYourMessage);
        house.Do(a, new EditMessage(1, "Tuesday")).Refusal.ShouldBeNull();
        house.Sitting.Chat.Newest[0]
            .ShouldSatisfyAllConditions(m => m.Text.ShouldBe("Tuesday"), m => m.Edited.ShouldBeTrue(), m =>
            m.Question.ShouldBe(Question.Asked));

        house.Do(House.Host, new PutUp(1)).Refusal.ShouldBeNull();
        house.Do(b, new DeleteMessage(1)).Refusal!.Reason.ShouldBe(Reason.OnlyBench);
        house.Do(House.Host, new DeleteMessage(1)).Refusal.ShouldBeNull();
        house.Sitting.Chat.Newest[0].ShouldSatisfyAllConditions(m => m.Text.ShouldBe(""), m => m.Deleted.ShouldBe(Deletion.ByBench));
        house.Sitting.PutUp.ShouldBeNull();
        house.Do(House.Host, new TakeBack());
        house.Sitting.Chat.Newest[0].Text.ShouldBe("Tuesday");
        house.Do(a, new DeleteMessage(1));
        house.Sitting.Chat.Newest[0].Deleted.ShouldBe(Deletion.BySender);
    }

    [Fact]
    public void What_two_people_write_to_each_other_is_beyond_the_bench()
    {
        var (house, a, b, _) = Three();
        house.Do(a, new Write(new Recipient(Reach.One, b), "between us"));
        house.Do(House.Host, new PutUp(1)).Refusal!.Reason.ShouldBe(Reason.NoSuchMessage);
        house.Do(House.Host, new DeleteMessage(1)).Refusal!.Reason.ShouldBe(Reason.NotYourMessage);
        house.Do(House.Host, new MarkQuestion(1, Question.Answered)).Refusal!.Reason.ShouldBe(Reason.NoSuchMessage);
        Sentences.Of(house.Sitting, house.Entries).ShouldNotContain(row => row.Topic == Topic.Chat);
    }

    /// <summary>The state holds the newest; what is older is looked up, and what somebody did to it is then held and kept.</summary>
    [Fact]
    public void An_old_message_can_be_acted_on_and_taken_back_when_it_was_looked_up()
    {
        var house = House.Opened();
        var (nia, jun) = (house.Admits("Nia"), house.Admits("Jun"));
        var kept = new Dictionary<int, ChatMessage>();
        for (var n = 1; n <= ChatLog.Depth + 20; n++)
        {
            house.Do(n % 2 == 0
                ? nia
                : jun, new Write(new Recipient(n == 4 ? Reach.Bench : Reach.Everyone), $"Message {n}")).Refusal.ShouldBeNull();
            kept[n] = house.Sitting.Message(n)!;
        }
        house.Sitting.Message(6).ShouldBeNull();
        house.Sitting.Chat.Newest.Count.ShouldBe(ChatLog.Depth);

        Decision Does(SeatId by, SeatCommand command)
        {
            var number = house.Sitting.ToLookUp((IOnMessage)command).ShouldNotBeNull();
            var decision = SittingRules.Decide(house.Sitting.LookingAt(kept[number]), command, Actor.Of(by),
                new Instant(1_770_900_000_000));
            house.Takes(decision.Facts, Actor.Of(by));
            return decision;
        }
        Does(jun, new EditMessage(6, "mine?")).Refusal!.Reason.ShouldBe(Reason.NotYourMessage);
        Does(jun, new DeleteMessage(4)).Refusal!.Reason.ShouldBe(Reason.NotYourMessage,
            "who may not read it may not know that it is there");
        Does(nia, new EditMessage(6, "I meant six")).Refusal.ShouldBeNull();
        house.Do(House.Host, new PutUp(6)).Refusal.ShouldBeNull("it is held from now on");
        Does(House.Host, new PutUp(8)).Refusal.ShouldBeNull();
        Projection.Record(house.Sitting, Viewer.Attendee).Chat!.PutUp!.Text.ShouldBe("Message 8");
        Does(House.Host, new DeleteMessage(7)).Refusal.ShouldBeNull();
        house.Do(House.Host, new TakeBack()).Refusal.ShouldBeNull();
        (house.Sitting.Message(7)!.Text, house.Sitting.Message(6)!.Text).ShouldBe(("Message 7", "I meant six"));
        // The entries alone tell the same.
        house.Entries.Aggregate(Sitting.Empty, SittingRules.Evolve).ShouldBeStateOf(house.Sitting);
        var told = house.Entries.Aggregate((ChatMessage?)null, (message, entry) =>
            Sentences.MessageOf(entry.Fact) == 6 || entry.Fact is Written { Text: "Message 6" }
                ? Messages.After(message, 6, entry)
                : message);
        told.ShouldBe(house.Sitting.Message(6));
    }
}
