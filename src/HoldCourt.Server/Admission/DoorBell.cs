using System.Collections.Concurrent;
using System.Threading.Channels;

namespace HoldCourt.Server.Admission;

/// <summary>
/// Rings for those who stand at a link without a seat: the session opens, its door changes, it ends. They wait on one quiet
/// stream each, and ask nothing meanwhile.
/// </summary>
internal sealed class DoorBell
{
    private readonly ConcurrentDictionary<Guid, Guid> _sessionOf = new();
    private readonly ConcurrentDictionary<Listener, Guid> _listeners = new();

    /// <summary>Which session a sitting belongs to.</summary>
    public void Know(Guid sitting, Guid session) => _sessionOf[sitting] = session;

    /// <summary>Rings when what people at the door may know has changed.</summary>
    public void Ring(Guid sitting, Sitting before, Sitting after)
    {
        if (before.Phase == after.Phase && before.Door == after.Door && before.Host == after.Host) return;
        if (_sessionOf.TryGetValue(sitting, out var session)) Ring(session);
        if (after.Phase == Phase.Adjourned) _sessionOf.TryRemove(sitting, out _);
    }

    public void Ring(Guid session)
    {
        foreach (var (listener, at) in _listeners)
            if (at == session) listener.Hear();
    }

    /// <summary>From here on no ring is missed, until it is disposed.</summary>
    public Listener Listen(Guid session)
    {
        var listener = new Listener(this);
        _listeners[listener] = session;
        return listener;
    }

    public sealed class Listener(DoorBell bell) : IDisposable
    {
        private readonly Channel<bool> _rings =
            Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

        internal void Hear() => _rings.Writer.TryWrite(true);

        /// <summary>Completes at the next ring; several that came at once are one.</summary>
        /// <returns>False when it stayed quiet for so long.</returns>
        /// <exception cref="OperationCanceledException">Nobody waits any more.</exception>
        public async Task<bool> Next(TimeSpan quiet, CancellationToken cancel)
        {
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            patience.CancelAfter(quiet);
            try
            {
                return await _rings.Reader.ReadAsync(patience.Token);
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                return false;
            }
        }

        public void Dispose() => bell._listeners.TryRemove(this, out _);
    }
}
