using FsCheck;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

public class RollTests
{
    [Property]
    public void Changes_between_two_versions_are_just_the_seats_replaced_or_added(PositiveInt size, NonNegativeInt[] touched, byte added)
    {
        var before = Enumerable.Range(1, size.Get * 3).Aggregate(Roll.Empty, (roll, n) => roll.With(Newcomer(n)));
        var numbers = touched.Select(n => (n.Get % before.Count) + 1).Distinct().Order().ToList();
        var after = numbers.Aggregate(before, (roll, n) => roll.With(roll[new SeatId(n)] with { Name = "changed" }));
        before.WithEach(numbers.Select(n => new SeatId(n)), seat => seat with { Name = "changed" })
            .ShouldBe(after, "all at once is one after another");
        before.ChangedSince(before.WithEach([], seat => seat)).ShouldBeEmpty();
        after = Enumerable.Range(before.Count + 1, added).Aggregate(after, (roll, n) => roll.With(Newcomer(n)));

        after.ChangedSince(before).Select(pair => pair.After.Id.Number).ShouldBe(numbers.Concat(Enumerable.Range(before.Count + 1, added)));
        after.ChangedSince(before).Where(pair => pair.Before is not null).ShouldAllBe(pair => pair.Before == before[pair.After.Id]);
        after.ToList().Count.ShouldBe(after.Count);
    }

    private static Seat Newcomer(int n) =>
        new() { Id = new(n), Person = new($"guest:{n}"), Name = $"n{n}", Role = Role.Attendee, Place = Place.Lobby, Since = default };
}
