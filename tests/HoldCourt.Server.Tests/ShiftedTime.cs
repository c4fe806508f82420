namespace HoldCourt.Server.Tests;

/// <summary>The machine's clock, put forward by hand: what takes ten minutes need not be waited for.</summary>
public sealed class ShiftedTime : TimeProvider
{
    private long _shift;

    public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + TimeSpan.FromMilliseconds(Volatile.Read(ref _shift));

    public void Forward(TimeSpan span) => Interlocked.Add(ref _shift, (long)span.TotalMilliseconds);
}
