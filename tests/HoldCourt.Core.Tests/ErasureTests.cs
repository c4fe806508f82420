using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>Somebody is taken out of ledgers that go on to verify and to tell the same story of everybody else.</summary>
public class ErasureTests
{
    private static List<KeptEntry> Kept(IEnumerable<Entry> entries)
    {
        var (digest, kept) = (Chain.Start, new List<KeptEntry>());
        foreach (var entry in entries)
        {
            kept.Add(Chain.Link(digest, entry));
            digest = kept[^1].Digest;
        }
        return kept;
    }

    private static List<KeptEntry> Erased(List<KeptEntry> kept, Erasing what)
    {
        var changed = Erasure.Of(kept, what).ToDictionary(entry => entry.Sequence);
        return kept.ConvertAll(entry => changed.GetValueOrDefault(entry.Sequence, entry));
    }

    [Property(Arbitrary = [typeof(PropertyTests.Wishes)], MaxTest = 200)]
    public void Whatever_happened_nothing_tells_of_the_erased_and_the_chain_holds(PropertyTests.Step[] steps)
    {
        var house = House.Opened(DoorMode.Listed, null, new DocketLine("listed1", Email: "listed1@example.org", Key: "line:1"),
            new DocketLine("listed2", Role.Presenter, Key: "line:2"));
        for (var n = 1; n <= 3; n++) house.Arrives($"listed{n}", new PersonKey($"guest:key{n}"), n < 3 ? $"line:{n}" : null);
        foreach (var step in steps) house.Do(step.By == 0 ? Actor.House : Actor.Of(new SeatId(step.By)), step.Command);
        var kept = Kept(house.Entries);
        var after = Erased(kept, new Erasing(["LISTED1"], ["listed1@example.org"], "Erased person"));

        Chain.FirstBreak(after).ShouldBeNull();
        after.Select(entry => Convert.ToHexString(entry.Digest)).ShouldBe(kept.Select(entry => Convert.ToHexString(entry.Digest)));
        foreach (var entry in after)
        {
            entry.Json.Contains("listed1", StringComparison.OrdinalIgnoreCase).ShouldBeFalse(entry.Json);
            entry.Json.ShouldNotContain("guest:key1\"");
        }
        // The story of everybody else is the same.
        var (was, now) = (kept.Select(entry => entry.Read()).Aggregate(Sitting.Empty, SittingRules.Evolve),
            after.Select(entry => entry.Read()).Aggregate(Sitting.Empty, SittingRules.Evolve));
        var theirs = house.Entries.Select(entry => entry.Fact)
            .Select(fact => fact switch
            {
                Entered { Name: "listed1" } entered => entered.Seat,
                Announced { Name: "listed1" } announced =>
            announced.Seat,
                _ => (SeatId?)null
            }).OfType<SeatId>().ToHashSet();
        now.Seats.Select(seat => (seat.Id, seat.Place, seat.Role)).ShouldBe(was.Seats.Select(seat => (seat.Id, seat.Place, seat.Role)));
        foreach (var (before, seat) in was.Seats.Zip(now.Seats))
            seat.Name.ShouldBe(theirs.Contains(seat.Id) || before.Name == "listed1" ? "Erased person" : before.Name);
        foreach (var (before, message) in was.Chat.Newest.Zip(now.Chat.Newest))
            message.Text.ShouldBe(theirs.Contains(before.From) && before.Text.Length > 0 ? Erasure.Gone : before.Text);
        // Once more changes nothing, and a changed seal is found.
        Erasure.Of(after, new Erasing(["listed1"], [], "Erased person")).ShouldBeEmpty();
        if (after.FindIndex(entry => entry.Seal is not null) is var at and >= 0)
            Chain.FirstBreak(after.Select((entry, n) =>
                n == at ? entry with
                {
                    Json = entry.Json.Replace("Erased person", "Somebody", StringComparison.Ordinal)
                .Replace(Erasure.Gone, "words", StringComparison.Ordinal)
                } : entry)).ShouldBe(at + 1);
    }

    [Fact]
    public void A_name_inside_another_word_is_not_the_persons_and_words_of_all_can_go_alone()
    {
        var house = House.Opened();
        var nia = house.Admits("Nia");
        var other = house.Admits("Niamh");
        house.Do(nia, new Write(new Recipient(Reach.Everyone), "I am here"));
        house.Do(other, new Write(new Recipient(Reach.Everyone), "Nia, NIA and Niamh (nia)."));
        house.Do(other, new EditMessage(2, "Nia?"));
        house.Do(other, new DeleteMessage(2));
        var kept = Kept(house.Entries);
        var texts = Erased(kept, new Erasing(["Nia"], [], "Erased person")).Select(entry => entry.Read().Fact).OfType<Written>()
            .Select(written => written.Text);
        texts.ShouldBe([Erasure.Gone, "Erased person, Erased person and Niamh (Erased person)."]);
        var words = Erased(kept, Erasing.Words);
        Chain.FirstBreak(words).ShouldBeNull();
        string.Concat(words.Select(entry => entry.Json))
            .ShouldSatisfyAllConditions(all => all.ShouldNotContain("I am here"), all => all.ShouldNotContain("Nia?"), all =>
            all.ShouldContain("\"Nia\""));
    }

    [Fact]
    public void What_was_written_down_of_somebodys_speech_goes_with_them_or_with_all_words_of_the_chat()
    {
        var house = House.Opened(DoorMode.Open);
        var nia = house.Arrives("Nia Okafor");
        var jun = house.Arrives("Jun Takeda");
        house.Do(House.Host, new NameCaptioner(jun));
        house.Do(jun, new WriteCaption("I live by the mill.", nia));
        house.Do(jun, new WriteCaption("I live by the weir.", jun));
        house.Do(jun, new WriteCaption("Somebody laughed.", null));
        house.Do(jun, new CorrectCaption(1, "I live by the old mill."));
        var kept = Kept(house.Entries);
        static IEnumerable<string> Said(IEnumerable<KeptEntry> entries) => entries.Select(entry => entry.Read().Fact)
            .SelectMany(fact => fact switch
            {
                Captioned one => [one.Text],
                CaptionCorrected one => new[] { one.From, one.To },
                _ => []
            });
        Said(kept).Count().ShouldBe(5);
        var without = Erased(kept, new Erasing(["Nia Okafor"], [], "Erased person"));
        Said(without).ShouldBe([Erasure.Gone, "I live by the weir.", "Somebody laughed.", Erasure.Gone, Erasure.Gone]);
        Chain.FirstBreak(without).ShouldBeNull();
        Said(Erased(kept, Erasing.Words)).ShouldAllBe(text => text == Erasure.Gone);
    }

    [Fact]
    public void What_somebody_answered_in_words_goes_with_them_and_how_they_voted_is_nobodys_any_more()
    {
        var house = House.Opened(DoorMode.Open);
        var nia = house.Arrives("Nia Okafor");
        house.Do(House.Host, new OpenPoll(PollForm.Of(PollKind.Words, "Where do you live?")));
        house.Do(nia, new Vote(1, new Choice([], null, "By the mill")));
        house.Do(House.Host, new Vote(1, new Choice([], null, "By the weir")));
        house.Do(House.Host, new ClosePoll());
        var without = Erased(Kept(house.Entries), new Erasing(["Nia Okafor"], [], "Erased person"));
        without.Select(entry => entry.Read().Fact).OfType<VoteCast>().Select(vote => vote.Choice.Text)
            .ShouldBe([Erasure.Gone, "By the weir"]);
        string.Concat(without.Select(entry => entry.Json)).ShouldNotContain("Okafor");
        Chain.FirstBreak(without).ShouldBeNull();
    }
}
