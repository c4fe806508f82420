namespace HoldCourt.Server.Captions;

/// <summary>So many at once, and no more; nobody waits for a place.</summary>
internal sealed class Places(int most)
{
    private int _taken;

    public bool TryTake()
    {
        if (Interlocked.Increment(ref _taken) <= most) return true;
        Interlocked.Decrement(ref _taken);
        return false;
    }

    public void GiveBack() => Interlocked.Decrement(ref _taken);
}
