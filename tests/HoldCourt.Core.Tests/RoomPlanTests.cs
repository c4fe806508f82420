using System.Collections.Immutable;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

/// <summary>Who goes into which room: even, as wished, and with the fewest who meet again.</summary>
public class RoomPlanTests
{
    private static readonly string?[] _groups = ["upper", "lower", "mill", null];

    private static class Wishes
    {
        /// <summary>Few people, so that an oracle can try all ways.</summary>
        public static Arbitrary<RoomWishes> Of() => Gen.Choose(0, int.MaxValue - 1).Select(seed =>
        {
            var random = new Random(seed);
            var (people, rooms) = (random.Next(1, 9), random.Next(1, 4));
            int Person() => random.Next(people);
            var wishes = RoomWishes.Of(people, rooms, seed) with
            {
                Groups = [.. Enumerable.Range(0, people).Select(_ => _groups[random.Next(_groups.Length)])],
                Fixed = [.. Enumerable.Range(0, people).Select(_ => random.Next(5) == 0 ? random.Next(rooms) : (int?)null)],
                Earlier = [.. Enumerable.Range(0, random.Next(3)).Select(_ => (ImmutableArray<int?>)
                    [.. Enumerable.Range(0, people).Select(_ => random.Next(6) == 0 ? (int?)null : random.Next(rooms))])]
            };
            return wishes with
            {
                Together = [.. Enumerable.Range(0, random.Next(3)).Select(_ => (ImmutableArray<int>)[Person(), Person()])],
                Apart = [.. Enumerable.Range(0, random.Next(4)).Select(_ => (One: Person(), Other: Person()))
                    .Where(pair => pair.One != pair.Other)]
            };
        }).ToArbitrary();
    }

    private static int[] Sizes(RoomWishes wishes, RoomPlan plan) => [.. Enumerable.Range(0, wishes.Rooms).Select(plan.SizeOf)];

    private static bool Keeps(RoomWishes wishes, ImmutableArray<int> rooms) =>
        wishes.Fixed.Select((room, person) => room is null || rooms[person] == room).All(kept => kept)
        && wishes.Together.All(set => set.Select(person => rooms[person]).Distinct().Count() == 1)
        && wishes.Apart.All(pair => rooms[pair.One] != rooms[pair.Other]);

    /// <summary>Every way there is, those that are even alone.</summary>
    private static IEnumerable<ImmutableArray<int>> AllEven(RoomWishes wishes)
    {
        var ways = (int)Math.Pow(wishes.Rooms, wishes.People);
        for (var way = 0; way < ways; way++)
        {
            var (rest, rooms) = (way, new int[wishes.People]);
            for (var person = 0; person < rooms.Length; person++, rest /= wishes.Rooms) rooms[person] = rest % wishes.Rooms;
            var sizes = Enumerable.Range(0, wishes.Rooms).Select(room => rooms.Count(one => one == room)).ToList();
            if (sizes.Max() - sizes.Min() <= 1) yield return [.. rooms];
        }
    }

    [Property(Arbitrary = [typeof(Wishes)], MaxTest = 300)]
    public void What_can_be_kept_in_even_rooms_is_kept_and_what_is_not_kept_is_named(RoomWishes wishes)
    {
        var plan = RoomPlanner.Plan(wishes);
        plan.RoomOf.Length.ShouldBe(wishes.People);
        plan.RoomOf.ShouldAllBe(room => room >= 0 && room < wishes.Rooms);
        foreach (var (room, person) in wishes.Fixed.Select((room, person) => (room, person)))
            if (room is { } wished) plan.RoomOf[person].ShouldBe(wished, "what was chosen by hand stays");
        if (plan.Clashes.IsEmpty) Keeps(wishes, plan.RoomOf).ShouldBeTrue();
        else Keeps(wishes, plan.RoomOf).ShouldBeFalse("nothing is named that is kept");
        plan.RoomOf.ShouldBe(RoomPlanner.Plan(wishes).RoomOf, "the same seed gives the same plan");
        plan.Repeated.ShouldBe(Met(wishes, plan.RoomOf));
        plan.Repeated.ShouldBeGreaterThanOrEqualTo(plan.Least);
    }

    /// <summary>Counted pair by pair.</summary>
    private static int Met(RoomWishes wishes, ImmutableArray<int> rooms) => wishes.Earlier.Sum(round =>
        Enumerable.Range(0, wishes.People).Sum(one => Enumerable.Range(one + 1, wishes.People - one - 1)
            .Count(other => round[one] is { } was && round[other] == was && rooms[one] == rooms[other])));

    private static class Free
    {
        public static Arbitrary<RoomWishes> Of() => Wishes.Of().Generator.Select(wishes => wishes with
        {
            Fixed = [.. new int?[wishes.People]],
            Together = [],
            Groups = [.. new string?[wishes.People]],
            Apart = [.. wishes.Apart.Take(2)]
        }).ToArbitrary();
    }

    /// <summary>Where nothing but rounds and those to be apart count, no way is better, of all there are.</summary>
    [Property(Arbitrary = [typeof(Free)], MaxTest = 200)]
    public void Rooms_are_even_and_as_few_meet_again_as_can_be(RoomWishes wishes)
    {
        var plan = RoomPlanner.Plan(wishes);
        Sizes(wishes, plan).ShouldSatisfyAllConditions(sizes => (sizes.Max() - sizes.Min()).ShouldBeLessThanOrEqualTo(1));
        var keeping = AllEven(wishes).Where(rooms => wishes.Apart.All(pair => rooms[pair.One] != rooms[pair.Other])).ToList();
        if (keeping.Count > 0) plan.Repeated.ShouldBe(keeping.Min(rooms => Met(wishes, rooms)));
    }

    [Fact]
    public void Contradictions_are_told_by_name()
    {
        var wishes = RoomWishes.Of(6, 2) with { Together = [[0, 1], [1, 2]], Apart = [(0, 2), (3, 4), (4, 5), (5, 3)] };
        RoomPlanner.Plan(wishes).Clashes.ShouldContain(clash =>
            clash.Kind == ClashKind.ApartAndTogether && clash.People.SequenceEqual(new[] { 0, 2 }));
        RoomPlanner.Plan(wishes).Clashes.ShouldContain(clash => clash.Kind == ClashKind.NotApart, "three cannot be apart in two rooms");
        var led = RoomWishes.Of(4, 2) with { Fixed = [0, 0, null, 1], Apart = [(0, 1)], Together = [[0, 3]] };
        RoomPlanner.Plan(led).Clashes.Select(clash => clash.Kind).ShouldBe([ClashKind.TogetherInTwoRooms, ClashKind.ApartInOneRoom]);
        RoomPlanner.Plan(RoomWishes.Of(6, 3) with { Together = [[0, 1, 2]] }).Clashes.ShouldHaveSingleItem().Kind
            .ShouldBe(ClashKind.TogetherTooMany);
        RoomPlanner.Plan(RoomWishes.Of(2, 5)).Clashes.ShouldBeEmpty("more rooms than people leave some empty");
        RoomPlanner.Plan(RoomWishes.Of(0, 3)).RoomOf.ShouldBeEmpty();
        Should.Throw<ArgumentException>(() => RoomPlanner.Plan(RoomWishes.Of(3, 2) with { Apart = [(0, 3)] }));
        Should.Throw<ArgumentException>(() => RoomPlanner.Plan(RoomWishes.Of(3, 2) with { Fixed = [0, 2, null] }));
    }

    [Fact]
    public void Groups_are_spread_or_kept_together_and_who_comes_late_goes_where_the_plan_says()
    {
        ImmutableArray<string?> groups = [.. Enumerable.Range(0, 12).Select(person => _groups[person % 3])];
        var mixed = RoomWishes.Of(12, 3) with { Groups = groups };
        var rooms = RoomPlanner.Plan(mixed).RoomOf;
        for (var room = 0; room < 3; room++)
            foreach (var group in _groups.Take(3))
                Enumerable.Range(0, 12).Count(person => rooms[person] == room && groups[person] == group).ShouldBeInRange(1, 2);
        var apart = RoomPlanner.Plan(mixed with { Spread = Spread.ByGroup }).RoomOf;
        Enumerable.Range(0, 12).Select(person => (groups[person], apart[person])).Distinct().Count().ShouldBe(3);
        var late = RoomWishes.Of(5, 2) with { Groups = ["upper", "lower", "lower", null, "upper"], Spread = Spread.ByGroup };
        RoomPlanner.PlaceLate(late, [0, 1, 1, 0, null]).ShouldBe(0, "to their group");
        RoomPlanner.PlaceLate(late with { Spread = Spread.Mixed }, [0, 1, 0, 0, null]).ShouldBe(1, "the smallest");
        RoomPlanner.PlaceLate(late with { Spread = Spread.Mixed, Apart = [(4, 1)] }, [0, 1, 0, 0, null]).ShouldBe(0);
        RoomPlanner.PlaceLate(late with { Spread = Spread.Mixed, Together = [[4, 2]] }, [0, 1, 0, 0, null]).ShouldBe(0);
    }

    /// <summary>
    /// Rounds one after the other, as a host plans them, who takes the best of three; each figure as good as was reached before. How many
    /// meet again in the last rounds hangs on how the first ones came out.
    /// </summary>
    [Theory]
    [InlineData(200, 20, 5, 0)]
    [InlineData(100, 10, 5, 45)]
    [InlineData(30, 6, 5, 4)]
    [InlineData(30, 5, 4, 30)]
    [InlineData(32, 8, 8, 5)]
    public void In_several_rounds_few_meet_again(int people, int rooms, int rounds, int most)
    {
        Enumerable.Range(0, 3).Min(InRounds).ShouldBeLessThanOrEqualTo(most);

        int InRounds(int series)
        {
            var (wishes, sum) = (RoomWishes.Of(people, rooms), 0);
            for (var round = 0; round < rounds; round++)
            {
                var plan = RoomPlanner.Plan(wishes with { Seed = (series * 1_000) + round });
                sum += plan.Repeated;
                wishes = wishes with { Earlier = wishes.Earlier.Add([.. plan.RoomOf.Select(room => (int?)room)]) };
            }
            return sum;
        }
    }
}
