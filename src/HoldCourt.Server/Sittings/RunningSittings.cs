using System.Collections.Concurrent;

namespace HoldCourt.Server.Sittings;

/// <summary>The sittings whose grains are in this process, as they were last told: for what looks at them and changes nothing.</summary>
internal sealed class RunningSittings
{
    private readonly ConcurrentDictionary<Guid, Sitting> _known = new();

    public void Follow(Guid sitting, Sitting shown)
    {
        if (shown.IsRunning) _known[sitting] = shown;
        else _known.TryRemove(sitting, out _);
    }

    /// <summary>Null while it has not begun, and once it is over.</summary>
    public Sitting? Of(Guid sitting) => _known.GetValueOrDefault(sitting);

    public IReadOnlyList<(Guid Sitting, Sitting State)> All() => [.. _known.Select(pair => (pair.Key, pair.Value))];
}
