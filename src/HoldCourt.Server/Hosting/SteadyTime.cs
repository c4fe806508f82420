namespace HoldCourt.Server.Hosting;

/// <summary>
/// A clock that goes on when the machine's is put back a little: more slowly, until both agree. What is in order stays so, and a recording
/// that is being made loses nothing. A clock that is put forward, or back by much, is followed at once.
/// </summary>
public sealed class SteadyTime(TimeProvider machine) : TimeProvider
{
    /// <summary>A machine that was so far off was set wrongly before, and to wait for it would take too long.</summary>
    public static readonly TimeSpan Much = TimeSpan.FromMinutes(10);

    /// <summary>While it waits for the machine's clock, it goes so much of its own way.</summary>
    private const double Slowly = 0.9;

    private readonly Lock _gate = new();
    private DateTimeOffset _told = machine.GetUtcNow();
    private long _toldAt = machine.GetTimestamp();

    public override DateTimeOffset GetUtcNow()
    {
        lock (_gate)
        {
            var (now, stamp) = (machine.GetUtcNow(), machine.GetTimestamp());
            if (now < _told && _told - now < Much)
                now = _told + (machine.GetElapsedTime(_toldAt, stamp) * Slowly) is var slow && slow > now ? slow : now;
            (_told, _toldAt) = (now, stamp);
            return now;
        }
    }

    public override long TimestampFrequency => machine.TimestampFrequency;

    public override TimeZoneInfo LocalTimeZone => machine.LocalTimeZone;

    public override long GetTimestamp() => machine.GetTimestamp();

    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
        machine.CreateTimer(callback, state, dueTime, period);
}
