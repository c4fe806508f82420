using System.Collections.Immutable;
using Xunit.Abstractions;

namespace HoldCourt.Core.Tests;

public class DocketTests(ITestOutputHelper output)
{
    private static readonly Instant _noon = new(1_770_000_000_000);

    private static Recognition Recognize(string typed, params DocketLine[] docket) => Recognize([typed], docket)[0];

    private static ImmutableArray<Recognition> Recognize(string[] typed, DocketLine[] docket)
    {
        var list = new DocketList([.. docket]);
        return Recognizer.Judge(list, [.. typed.Select(name => Recognizer.Look(list, name, null, _noon))], new HashSet<int>());
    }

    private static DocketLine[] Lines(params string[] names) => [.. names.Select(name => new DocketLine(name))];

    [Theory]
    [InlineData("OKAFOR, nia", MatchReason.WordsInOtherOrder)]
    [InlineData("N. Okafor", MatchReason.Initial)]
    [InlineData("Nia Okafro", MatchReason.OneSlip)]
    [InlineData("Nia Okafor (phone)", MatchReason.SameName)]
    [InlineData("Dr. Nia Okafor", MatchReason.SameName)]
    [InlineData("Maryann Delacroix", MatchReason.JoinedWords)]
    [InlineData("Bill Soerensen", MatchReason.ShortForm)]
    [InlineData("William Soerensen", MatchReason.OtherSpelling)]
    [InlineData("Ｚｏｅ Angstrom", MatchReason.SameName)]
    [InlineData("siobhan obrien", MatchReason.SameName)]
    public void A_name_typed_otherwise_is_still_surely_recognized_and_the_reason_is_told(string typed, MatchReason reason)
    {
        var found = Recognize(typed,
            Lines("Nia Okafor", "Mary Ann Delacroix", "William Sørensen", "Zoë Ångström", "Siobhán O'Brien", "Jun Takeda",
            "Ilse Vantorre"));
        found.Match.ShouldBe(Match.Sure, string.Join(' ', found.Reasons));
        found.Reasons.ShouldContain(reason);
    }

    [Theory]
    [InlineData("iPad")]
    [InlineData("Galaxy S22")]
    [InlineData("Jun")]
    [InlineData("Okafor")]
    [InlineData("Chidi Okafor")]
    [InlineData("Nia Osei")]
    [InlineData("N.")]
    [InlineData("Somebody Else")]
    public void A_device_a_part_of_a_name_or_a_relative_is_never_sure(string typed) =>
        Recognize(typed, Lines("Nia Okafor", "Jun Takeda", "Ilse Vantorre", "Kwabena Osei")).Match.ShouldNotBe(Match.Sure);

    [Theory]
    [InlineData("Nia Okafor she/her")]
    [InlineData("Nia Okafor (they/them)")]
    [InlineData("Nia Okafor – Upper Reach")]
    [InlineData("Nia Okafor | Larkmoor Rivers Trust")]
    [InlineData("LRT - Nia Okafor")]
    [InlineData("Okafor, Nia (Lower Weir)")]
    public void Words_beside_the_name_do_not_count_against_it(string typed) =>
        Recognize(typed, Lines("Nia Okafor", "Jun Takeda", "Ilse Vantorre", "Kwabena Osei"))
            .ShouldSatisfyAllConditions(found => found.Match.ShouldBe(Match.Sure), found => found.Line.ShouldBe(0));

    [Theory]
    [InlineData("Ilse's iPad")]
    [InlineData("Ilses iPhone (2)")]
    [InlineData("iPad von Ilse")]
    [InlineData("Galaxy S22 (Ilse)")]
    public void Somebodys_device_is_a_hint_and_never_sure(string typed) =>
        Recognize(typed, Lines("Nia Okafor", "Jun Takeda", "Ilse Vantorre", "Kwabena Osei")).ShouldSatisfyAllConditions(
            found => found.Match.ShouldBe(Match.Likely), found =>
                found.Line.ShouldBe(2), found => found.Reasons.ShouldContain(MatchReason.DeviceName));

    [Theory]
    [InlineData("Daniel Rossi", "Daniela Rossi")]
    [InlineData("Andrea Hamm", "Andreas Hamm")]
    [InlineData("Rona Halvari", "Runa Halvari")]
    [InlineData("Tamisn Okonoj", "Tamsin Okonjo")]
    [InlineData("Teodora Quil", "Teodor Quill")]
    public void A_name_that_may_be_somebody_elses_or_has_two_slips_is_not_sure(string typed, string line) =>
        Recognize(typed, Lines(line, "Jun Takeda", "Ilse Vantorre")).Match.ShouldNotBe(Match.Sure);

    [Fact]
    public void Of_two_with_one_name_the_nearer_slot_is_told()
    {
        var found = Recognize("Jan Kos", new DocketLine("Jan Kos", Slot: _noon + TimeSpan.FromHours(3)),
            new DocketLine("Jan Kos", Slot: _noon + TimeSpan.FromMinutes(5)));
        found.ShouldSatisfyAllConditions(f => f.Match.ShouldBe(Match.Likely), f => f.Line.ShouldBe(1), f =>
            f.Reasons.ShouldContain(MatchReason.NearerSlot));
    }

    [Fact]
    public void Two_sisters_do_not_claim_one_line_and_who_fits_several_is_not_sure()
    {
        var docket = Lines("Gwen Ashdown", "Gwyn Ashdown", "Jan Kos", "Jan Kos");
        Recognize(["Gwyn Ashdown", "Gwen Ashdown"], docket).Select(found => (found.Match, found.Line))
            .ShouldBe([(Match.Sure, 1), (Match.Sure, 0)]);
        Recognize("G. Ashdown", docket)
            .ShouldSatisfyAllConditions(found => found.Match.ShouldBe(Match.Likely), found =>
            found.Reasons.ShouldContain(MatchReason.SeveralFit));
        Recognize("Jan Kos", docket).Match.ShouldBe(Match.Likely);
        Recognize(["Nia Okafor", "nia okafor"], Lines("Nia Okafor")).ShouldAllBe(found => found.Match == Match.Twice);
    }

    [Fact]
    public void A_personal_link_is_proof_whatever_is_typed_and_a_slot_nearby_makes_likelier()
    {
        var list = new DocketList([new DocketLine("Nia Okafor", Email: "nia@larkmoor.example.org"),
            new DocketLine("Bartosz Wilk", Slot: _noon), new DocketLine("Bartosz Wilke", Slot: _noon + TimeSpan.FromHours(5))]);
        Recognition Of(string name, string? email) =>
            Recognizer.Judge(list, [Recognizer.Look(list, name, email, _noon)], new HashSet<int>())[0];
        Of("Tablet", "NIA@larkmoor.example.org")
            .ShouldSatisfyAllConditions(found => found.Line.ShouldBe(0), found => found.Reasons.ShouldContain(MatchReason.PersonalLink));
        var near = Of("B. Wilk", null);
        near.Line.ShouldBe(1);
        near.Reasons.ShouldContain(MatchReason.SlotNear);
    }

    [Theory]
    [InlineData(11, 40)]
    [InlineData(12, 300)]
    [InlineData(13, 2_000)]
    [InlineData(22, 300)]
    [InlineData(23, 2_000)]
    public void Of_corrupted_names_the_sure_are_right_and_most_of_the_true_are_sure(int seed, int size)
    {
        var people = new NameCorruptions(seed);
        var (sure, right, truly, waiting) = (0, 0, 0, 0);
        for (var round = 0; waiting < 3_000; round++)
        {
            var lines = people.Docket(size);
            var list = new DocketList([.. lines]);
            var comers = lines.Select((line, at) => (Name: people.Typed(line.Name), Line: (int?)at))
                .Where((_, at) => (at + round) % 10 < 8).Take(400)
                .Concat(Enumerable.Range(0, Math.Min(size, 400) / 4)
                    .Select(_ => (Name: people.Stranger(lines), Line: (int?)null))).ToList();
            var found = Recognizer.Judge(list, [.. comers.Select(comer => Recognizer.Look(list, comer.Name, null, _noon))],
                new HashSet<int>());
            waiting += comers.Count;
            foreach (var (comer, recognition) in comers.Zip(found))
            {
                if (comer.Line is not null) truly++;
                if (recognition.Match != Match.Sure) continue;
                sure++;
                if (recognition.Line == comer.Line) right++;
                else output.WriteLine($"{comer.Name} taken for {lines[recognition.Line!.Value].Name} ({recognition.Confidence}; "
                    + $"{string.Join(' ', recognition.Reasons)})");
            }
        }
        output.WriteLine($"{size}: of {sure} sure {100.0 * right / sure:F2} % are right; of {truly} true {100.0 * right / truly:F1} % "
            + "are sure");
        (right / (double)sure).ShouldBeGreaterThanOrEqualTo(0.995);
        (right / (double)truly).ShouldBeGreaterThanOrEqualTo(0.85);
    }
}
