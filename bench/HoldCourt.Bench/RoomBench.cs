using System.Diagnostics;

namespace HoldCourt.Bench;

/// <summary>Plans of rooms in several rounds: pairs who meet again, and what a plan takes.</summary>
internal static class RoomBench
{
    public static void Run()
    {
        Numbers.Head("Rooms in several rounds: people / rooms / rounds");
        foreach (var (people, rooms, rounds) in new[]
        {
            (1_000, 100, 5), (200, 20, 5), (100, 10, 5), (30, 6, 5), (30, 5, 4), (32, 8, 8), (300, 30, 8)
        })
        {
            var wishes = RoomWishes.Of(people, rooms);
            var (repeated, least, longest) = (0, 0, 0.0);
            for (var round = 0; round < rounds; round++)
            {
                var start = Stopwatch.GetTimestamp();
                var plan = RoomPlanner.Plan(wishes with { Seed = round });
                longest = Math.Max(longest, Stopwatch.GetElapsedTime(start).TotalSeconds);
                (repeated, least) = (repeated + plan.Repeated, least + plan.Least);
                wishes = wishes with { Earlier = wishes.Earlier.Add([.. plan.RoomOf.Select(room => (int?)room)]) };
            }
            Numbers.Row($"{people:N0} / {rooms} / {rounds}",
                $"{repeated} pairs again (no fewer than {least}), {longest:F2} s the slowest round (target: under 1)");
        }
    }
}
