using System.Collections.Concurrent;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Protocol;

namespace HoldCourt.Server.Live;

/// <summary>
/// The live lines of all browsers. Telling never waits for one of them: each line has a bounded queue of messages that
/// are serialised once for all; a browser that falls so far behind that its queue overflows gets nothing more until it
/// has caught up, and then a whole view by joining anew. One that stays behind is cut off.
/// </summary>
internal sealed class Lines(TimeProvider time) : HubLifetimeManager<LiveHub>
{
    /// <summary>Most messages that wait for one browser.</summary>
    public const int MostWaiting = 256;

    /// <summary>How long a browser may stay behind.</summary>
    private static readonly TimeSpan _patience = TimeSpan.FromSeconds(30);

    private static readonly SerializedHubMessage _rejoin = new(new InvocationMessage(nameof(ILiveClient.Rejoin), []));

    private readonly ConcurrentDictionary<string, Line> _lines = new();
    private readonly ConcurrentDictionary<string, Group> _groups = new();

    public override Task OnConnectedAsync(HubConnectionContext connection)
    {
        _lines[connection.ConnectionId] = new Line(connection, time);
        return Task.CompletedTask;
    }

    public override Task OnDisconnectedAsync(HubConnectionContext connection)
    {
        if (_lines.TryRemove(connection.ConnectionId, out var line))
            foreach (var name in line.Groups) Leave(name, line);
        return Task.CompletedTask;
    }

    /// <summary>How many are open.</summary>
    public int Count => _lines.Count;

    /// <summary>Cuts a line, after what it has been told so far had a moment to arrive.</summary>
    public void CutSoon(string connection)
    {
        if (_lines.TryGetValue(connection, out var line)) _ = CutAfter(line);
    }

    private async Task CutAfter(Line line)
    {
        await Task.Delay(TimeSpan.FromSeconds(2), time);
        line.Cut();
    }

    public override Task SendConnectionAsync(string connectionId, string methodName, object?[] args,
        CancellationToken cancellationToken = default)
    {
        if (_lines.TryGetValue(connectionId, out var line)) line.Send(MessageOf(methodName, args));
        return Task.CompletedTask;
    }

    public override Task SendConnectionsAsync(IReadOnlyList<string> connectionIds, string methodName, object?[] args,
        CancellationToken cancellationToken = default)
    {
        var message = MessageOf(methodName, args);
        foreach (var id in connectionIds)
            if (_lines.TryGetValue(id, out var line)) line.Send(message);
        return Task.CompletedTask;
    }

    public override Task SendGroupAsync(string groupName, string methodName, object?[] args,
        CancellationToken cancellationToken = default) =>
        SendGroupExceptAsync(groupName, methodName, args, [], cancellationToken);

    public override Task SendGroupsAsync(IReadOnlyList<string> groupNames, string methodName, object?[] args,
        CancellationToken cancellationToken = default)
    {
        var message = MessageOf(methodName, args);
        foreach (var name in groupNames)
            if (_groups.TryGetValue(name, out var group)) group.Send(message, []);
        return Task.CompletedTask;
    }

    public override Task SendGroupExceptAsync(
        string groupName, string methodName, object?[] args, IReadOnlyList<string> excludedConnectionIds,
        CancellationToken cancellationToken = default)
    {
        if (_groups.TryGetValue(groupName, out var group)) group.Send(MessageOf(methodName, args), excludedConnectionIds);
        return Task.CompletedTask;
    }

    public override Task SendAllAsync(string methodName, object?[] args, CancellationToken cancellationToken = default) =>
        SendAllExceptAsync(methodName, args, [], cancellationToken);

    public override Task SendAllExceptAsync(string methodName, object?[] args, IReadOnlyList<string> excludedConnectionIds,
        CancellationToken cancellationToken = default)
    {
        var message = MessageOf(methodName, args);
        foreach (var (id, line) in _lines)
            if (!excludedConnectionIds.Contains(id)) line.Send(message);
        return Task.CompletedTask;
    }

    /// <exception cref="NotSupportedException">Always: nobody is told as an account, only as a seat.</exception>
    public override Task SendUserAsync(string userId, string methodName, object?[] args, CancellationToken cancellationToken = default) =>
        throw new NotSupportedException();

    /// <inheritdoc cref="SendUserAsync"/>
    public override Task SendUsersAsync(IReadOnlyList<string> userIds, string methodName, object?[] args,
        CancellationToken cancellationToken = default) => throw new NotSupportedException();

    public override Task AddToGroupAsync(string connectionId, string groupName, CancellationToken cancellationToken = default)
    {
        if (!_lines.TryGetValue(connectionId, out var line)) return Task.CompletedTask;
        line.Groups = line.Groups.Add(groupName);
        // One that emptied at this moment is none any more: what joins it would be told nothing for ever.
        for (Group group; !(group = _groups.GetOrAdd(groupName, _ => new Group())).Add(line);)
            _groups.TryRemove(new KeyValuePair<string, Group>(groupName, group));
        // It may have ended meanwhile.
        if (!_lines.ContainsKey(connectionId)) Leave(groupName, line);
        return Task.CompletedTask;
    }

    public override Task RemoveFromGroupAsync(string connectionId, string groupName, CancellationToken cancellationToken = default)
    {
        if (!_lines.TryGetValue(connectionId, out var line)) return Task.CompletedTask;
        line.Groups = line.Groups.Remove(groupName);
        Leave(groupName, line);
        return Task.CompletedTask;
    }

    private void Leave(string name, Line line)
    {
        if (_groups.TryGetValue(name, out var group) && group.Remove(line)) _groups.TryRemove(new KeyValuePair<string, Group>(name, group));
    }

    private static SerializedHubMessage MessageOf(string method, object?[] args) => new(new InvocationMessage(method, args));

    private sealed class Group
    {
        private readonly Lock _gate = new();
        private readonly HashSet<Line> _members = [];
        private volatile Line[] _all = [];
        private bool _isOver;

        /// <returns>False when it has emptied, and is taken away: another takes its place.</returns>
        public bool Add(Line line)
        {
            lock (_gate)
            {
                if (_isOver) return false;
                if (_members.Add(line)) _all = [.. _members];
                return true;
            }
        }

        /// <returns>True when nobody is left.</returns>
        public bool Remove(Line line)
        {
            lock (_gate)
            {
                if (_members.Remove(line)) _all = [.. _members];
                return _isOver |= _members.Count == 0;
            }
        }

        public void Send(SerializedHubMessage message, IReadOnlyList<string> except)
        {
            foreach (var line in _all)
                if (except.Count == 0 || !except.Contains(line.Id)) line.Send(message);
        }
    }

    private sealed class Line(HubConnectionContext connection, TimeProvider time)
    {
        private readonly Lock _gate = new();
        private readonly Queue<SerializedHubMessage> _waiting = new();
        private bool _sends, _isBehind;
        private long _behindSince;

        public string Id => connection.ConnectionId;

        /// <summary>Replaced as a whole.</summary>
        public System.Collections.Immutable.ImmutableHashSet<string> Groups { get; set; } = [];

        /// <summary>Cuts the connection; its browser may come again.</summary>
        public void Cut() => connection.Abort();

        public void Send(SerializedHubMessage message)
        {
            lock (_gate)
            {
                if (_isBehind)
                {
                    if (time.GetElapsedTime(_behindSince) > _patience) Cut();
                    return;
                }
                if (_sends)
                {
                    if (_waiting.Count < MostWaiting) _waiting.Enqueue(message);
                    else
                    {
                        _waiting.Clear();
                        (_isBehind, _behindSince) = (true, time.GetTimestamp());
                    }
                    return;
                }
                _sends = true;
            }
            _ = Pump(message);
        }

        private async Task Pump(SerializedHubMessage first)
        {
            for (var next = first; next is not null; next = Following())
            {
                try
                {
                    await connection.WriteAsync(next);
                }
                catch (Exception)
                {
                    // The connection ended; its end is told elsewhere.
                }
            }
        }

        private SerializedHubMessage? Following()
        {
            lock (_gate)
            {
                if (_waiting.TryDequeue(out var next)) return next;
                if (_isBehind)
                {
                    _isBehind = false;
                    return _rejoin;
                }
                _sends = false;
                return null;
            }
        }
    }
}
