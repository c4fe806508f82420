using HoldCourt.Server.Hosting;

namespace HoldCourt.Server.Tests;

/// <summary>The clock of the server, while somebody sets that of the machine.</summary>
public sealed class ClockTests
{
    [Fact]
    public void Put_back_a_little_it_never_goes_back_nor_stands_still_and_both_agree_again()
    {
        var random = new Random(20_261_128);
        for (var run = 0; run < 50; run++)
        {
            var machine = new Machine();
            var steady = new SteadyTime(machine);
            var last = steady.GetUtcNow();
            for (var n = 0; n < 200; n++)
            {
                var passed = TimeSpan.FromMilliseconds(random.Next(1, 5_000));
                machine.Pass(passed);
                // Off by at most half of what is much, so that several are not more than that.
                var back = n % 20 == 0 ? TimeSpan.FromSeconds(random.Next(1, 30)) : TimeSpan.Zero;
                machine.Set(-back);
                var now = steady.GetUtcNow();
                now.ShouldBeGreaterThan(last);
                (now - last).ShouldBeLessThanOrEqualTo(passed + TimeSpan.FromMilliseconds(1));
                last = now;
            }
            machine.Pass(TimeSpan.FromHours(2));
            steady.GetUtcNow().ShouldBe(machine.GetUtcNow());
        }
    }

    [Fact]
    public void Put_forward_or_back_by_much_it_is_followed_at_once()
    {
        var machine = new Machine();
        var steady = new SteadyTime(machine);
        machine.Set(TimeSpan.FromDays(1));
        steady.GetUtcNow().ShouldBe(machine.GetUtcNow());
        machine.Set(-SteadyTime.Much);
        steady.GetUtcNow().ShouldBe(machine.GetUtcNow());
        machine.Set(TimeSpan.FromSeconds(1) - SteadyTime.Much);
        steady.GetUtcNow().ShouldBe(machine.GetUtcNow() + SteadyTime.Much - TimeSpan.FromSeconds(1));
    }

    private sealed class Machine : TimeProvider
    {
        private DateTimeOffset _wall = new(2026, 5, 1, 9, 0, 0, TimeSpan.Zero);
        private long _ticks;

        public void Pass(TimeSpan span)
        {
            _wall += span;
            _ticks += span.Ticks;
        }

        public void Set(TimeSpan by) => _wall += by;

        public override DateTimeOffset GetUtcNow() => _wall;
        public override long TimestampFrequency => TimeSpan.TicksPerSecond;
        public override long GetTimestamp() => _ticks;
    }
}
