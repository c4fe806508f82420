namespace HoldCourt.Core.Tests;

/// <summary>Names that hide, and names that are somebody else's.</summary>
public class NameTests
{
    [Theory]
    [InlineData("\u3164", "nameEmpty", "Hangul filler")]
    [InlineData("\u115F\u1160\uFFA0", "nameEmpty", "fillers")]
    [InlineData("\uFE0F\uFE0E", "nameEmpty", "variation selectors alone")]
    [InlineData("\U000E0101", "nameEmpty", "a variation selector of the supplement")]
    [InlineData("\u200D\u200C", "nameEmpty", "joiners alone")]
    [InlineData("\u2800\u2800", "nameEmpty", "Braille blanks")]
    [InlineData("\u0301\u0302", "nameEmpty", "marks without a letter")]
    [InlineData("N\u0300\u0301\u0302\u0303\u0304ia", "nameMarks", "a heap of marks")]
    [InlineData("Ni\u0316\u0316a", "nameMarks", "the same mark twice")]
    [InlineData("\uD800ia", "nameHidden", "half a character")]
    [InlineData("Odalys\u2066 (host)", "nameHidden", "an isolate")]
    public void What_shows_nothing_or_too_much_is_no_name(string name, string reason, string why)
    {
        var house = House.Opened();
        house.Do(Actor.House, new Announce(new PersonKey("guest:x"), name)).Refusal!.Reason.Name.ShouldBe(reason, why);
        var guest = house.Admits("Guest");
        house.Do(guest, new Rename(guest, name)).Refusal!.Reason.Name.ShouldBe(reason, why);
    }

    [Theory]
    [InlineData("Nia\u200D Okafor\u200C", "Nia Okafor")]
    [InlineData("Nia\uFE0F\u3164Okafor", "NiaOkafor")]
    [InlineData("Zoe\u0308", "Zoë")]
    [InlineData("می\u200Cخواهد", "می\u200Cخواهد")]
    [InlineData("ක්\u200Dර", "ක්\u200Dර")]
    [InlineData("Nguyễn Thị Ánh", "Nguyễn Thị Ánh")]
    public void A_name_keeps_what_is_seen_and_loses_what_is_not(string typed, string shown)
    {
        var house = House.Opened();
        house[house.Arrives(typed)].Name.ShouldBe(shown);
    }

    [Theory]
    [InlineData("Odalys Brandt")]
    [InlineData("ODALYS  BRANDT")]
    [InlineData("Оdаlуs Brаndt")]
    [InlineData("Ｏｄａｌｙｓ Ｂｒａｎｄｔ")]
    [InlineData("0dalys Brandt")]
    [InlineData("OdaIys Brandt")]
    [InlineData("Odalys\u200D Brandt")]
    [InlineData("𝐎𝐝𝐚𝐥𝐲𝐬 𝐁𝐫𝐚𝐧𝐝𝐭")]
    [InlineData("Odalys-Brandt.")]
    public void The_bench_is_warned_of_a_name_that_looks_like_the_hosts_also_when_it_is_taken_later(string name)
    {
        var house = new House();
        house.Do(Actor.House, new Open("Assembly", new PersonKey("account:odalys"), new Door(DoorMode.Open), StandingOrders.Usual, []));
        var early = house.Arrives(name);
        var later = house.Arrives("Somebody Else");
        var host = house.Arrives("Odalys Brandt", new PersonKey("account:odalys"));
        house[early].LooksLike.ShouldBe("Odalys Brandt", "the host came after");
        house[later].LooksLike.ShouldBeNull();
        house[host].LooksLike.ShouldBeNull();

        house.Do(later, new Rename(later, name)).Refusal.ShouldBeNull();
        SeatRow.Of(house.Sitting, house[later], Viewer.Bench)!.Note!.LooksLike.ShouldBe("Odalys Brandt");
        house.Do(host, new Rename(host, "O. B."));
        house[later].LooksLike.ShouldBeNull("nobody on the bench has that name any more");
    }

    [Theory]
    [InlineData("Odalys Brand")]
    [InlineData("Odalys Berndt")]
    [InlineData("Ödalys Brandt")]
    public void Names_that_a_reader_tells_apart_are_not_warned_of(string name) => Likeness.LooksLike(name, "Odalys Brandt").ShouldBeFalse();

    [Fact]
    public void Whoever_proves_to_be_the_deputy_looks_like_nobody_and_somebody_who_types_the_name_does()
    {
        var house = House.Opened(DoorMode.Attended, null, new DocketLine("Ilse Vantorre", Role.Deputy, Key: "line:1"));
        house[house.Arrives("Ilse Vantorre", new PersonKey("guest:a"))].LooksLike.ShouldBe("Ilse Vantorre");
        house[house.Arrives("Ilse Vantorre", new PersonKey("guest:b"), proof: "line:1")].LooksLike.ShouldBeNull();
    }
}
