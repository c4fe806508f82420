namespace HoldCourt.Bench;

/// <summary>Waits until everybody has got it.</summary>
internal sealed class Inbox
{
    private TaskCompletionSource _all = new();
    private int _left;

    public Task All => _all.Task.WaitAsync(TimeSpan.FromSeconds(60));

    public void Expect(int people)
    {
        _all = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        Volatile.Write(ref _left, people);
    }

    public void Take()
    {
        if (Interlocked.Decrement(ref _left) == 0) _all.TrySetResult();
    }
}
