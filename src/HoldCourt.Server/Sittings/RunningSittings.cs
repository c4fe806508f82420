using System.Collections.Concurrent;

namespace HoldCourt.Server.Sittings;

/// <summary>The sittings whose grains are in this process, as they were last told: for what looks at them and changes nothing.</summary>
internal sealed class RunningSittings
{
    private readonly ConcurrentDictionary<Guid, Sitting> _told = new();

    public void Follow(Guid sitting, Sitting told)
    {
        if (told.IsRunning) _told[sitting] = told;
        else _told.TryRemove(sitting, out _);
    }

    /// <summary>Null while it has not begun, and once it is over.</summary>
    public Sitting? Of(Guid sitting) => _told.GetValueOrDefault(sitting);

    public IReadOnlyList<(Guid Sitting, Sitting State)> All() => [.. _told.Select(pair => (pair.Key, pair.Value))];
}
