using HoldCourt.Store.Files;

namespace HoldCourt.Server.Exhibits;

/// <summary>How soon something of a file is wanted.</summary>
internal enum Wanted
{
    /// <summary>Somebody looks at it now.</summary>
    Now,

    /// <summary>It was brought, and nothing of it is known yet.</summary>
    First,

    /// <summary>Small pictures that somebody may look at.</summary>
    Ahead
}

/// <summary>
/// Whose turn it is to have pages made. There are several workers; of one file one thing is made at a time. Sittings take turns, and the
/// people in them: who has been served least lately comes first. Nobody has all workers at once, nor do office programs; whose files ran
/// out of time is served when nobody else waits.
/// </summary>
/// <param name="workers">2 or more.</param>
internal sealed class PageTurns(int workers, TimeProvider time)
{
    /// <summary>For so long somebody whose file ran out of time stands at the end of the line.</summary>
    private static readonly TimeSpan _atTheEnd = TimeSpan.FromMinutes(10);

    private const int MostKnown = 10_000;

    private readonly Lock _gate = new();
    private readonly List<Waiter> _waiting = [];
    private readonly List<Waiter> _served = [];
    private readonly Dictionary<(Guid Sitting, int Seat), long> _lastOfPerson = [];
    private readonly Dictionary<Guid, long> _lastOfSitting = [];
    private readonly Dictionary<(Guid Sitting, int Seat), long> _slow = [];
    private long _count;

    private sealed record Waiter(FileRecord File, Wanted How, bool Converts, long Number)
    {
        public TaskCompletionSource Turn { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);
        public (Guid, int) Person => (File.SittingId, File.Seat);
    }

    /// <summary>Waits for a turn; it ends when what is given is disposed of.</summary>
    /// <param name="converts">By an office program.</param>
    public async Task<IDisposable> Wait(FileRecord file, Wanted how, bool converts, CancellationToken cancel)
    {
        Waiter waiter;
        lock (_gate)
        {
            _waiting.Add(waiter = new Waiter(file, how, converts, ++_count));
            Serve();
        }
        await using (cancel.Register(() => Cancel(waiter, cancel))) await waiter.Turn.Task;
        return new Released(() => Release(waiter));
    }

    /// <summary>A file took longer than it may.</summary>
    public void RanOut(FileRecord file)
    {
        lock (_gate)
        {
            if (_slow.Count > MostKnown) _slow.Clear();
            _slow[(file.SittingId, file.Seat)] = time.GetTimestamp();
        }
    }

    private void Cancel(Waiter waiter, CancellationToken cancel)
    {
        lock (_gate)
            if (_waiting.Remove(waiter)) waiter.Turn.SetCanceled(cancel);
    }

    private void Release(Waiter waiter)
    {
        lock (_gate)
        {
            _served.Remove(waiter);
            Serve();
        }
    }

    private void Serve()
    {
        while (_served.Count < workers && Next() is { } next)
        {
            _waiting.Remove(next);
            _served.Add(next);
            if (_lastOfPerson.Count > MostKnown)
            {
                _lastOfPerson.Clear();
                _lastOfSitting.Clear();
            }
            _lastOfPerson[next.Person] = _lastOfSitting[next.File.SittingId] = ++_count;
            next.Turn.SetResult();
        }
    }

    private Waiter? Next()
    {
        var fit = _waiting.Where(waiter => _served.TrueForAll(other => other.File.Id != waiter.File.Id)
            && _served.Count(other => other.Person == waiter.Person) < workers - 1
            && (!waiter.Converts || _served.Count(other => other.Converts) < workers - 1)).ToList();
        return fit.OrderBy(IsSlow).ThenBy(waiter => waiter.How)
            .ThenBy(waiter => _lastOfSitting.GetValueOrDefault(waiter.File.SittingId))
            .ThenBy(waiter => _lastOfPerson.GetValueOrDefault(waiter.Person)).ThenBy(waiter => waiter.Number).FirstOrDefault() is { } next
            // Somebody whose files run out of time holds one worker at the most, and never the last that is free.
            && (!IsSlow(next) || (_served.Count < workers - 1 && !_served.Exists(IsSlow)))
                ? next
                : null;
    }

    private bool IsSlow(Waiter waiter) =>
        _slow.TryGetValue(waiter.Person, out var at) && time.GetElapsedTime(at) < _atTheEnd;

    private sealed class Released(Action then) : IDisposable
    {
        private Action? _then = then;

        public void Dispose() => Interlocked.Exchange(ref _then, null)?.Invoke();
    }
}
