namespace HoldCourt.Server.Sittings;

/// <summary>Lines of browsers: who has one, who comes back, and who counts as having left.</summary>
internal sealed partial class SittingGrain
{
    /// <summary>How long somebody whose connection dropped keeps the place before counting as having left.</summary>
    private static readonly TimeSpan _keptAfterDrop = TimeSpan.FromMinutes(10);

    /// <summary>How long somebody announced may take until the page has opened its line.</summary>
    private static readonly TimeSpan _untilTheLineOpens = TimeSpan.FromMinutes(1);

    private readonly Dictionary<SeatId, string> _connections = [];

    /// <summary>Connections that are being noted, and are not told anything yet.</summary>
    private readonly Dictionary<SeatId, string> _arriving = [];
    private readonly Dictionary<SeatId, (string? Device, Instant Since)> _devices = [];

    /// <summary>Nobody could open a line before this.</summary>
    private Instant _awakeSince;

    public Task<bool> IsPresent(SeatId seat, string connection) =>
        Task.FromResult(_connections.GetValueOrDefault(seat) == connection && _shown.IsRunning && _shown.Seats.TryGet(seat, out var held)
            && held.Place != Place.Gone);

    public async Task<SeatId?> Connect(PersonKey person, string connection, string? device = null)
    {
        if (_sitting.Find(person) is not { } seat) return null;
        // The older one does nothing more from here on; the new one is told nothing before its whole view.
        if (_connections.Remove(seat.Id, out var older) && older != connection)
            await _broadcast.Supersede(Id, older, Knowledge.ViewpointOf(_sitting, seat));
        _arriving[seat.Id] = connection;
        _devices[seat.Id] = (device, Now);
        if (_sitting.IsRunning && await Commit(Actor.House, new Reconnect(seat.Id)) is { } refusal)
            throw new InvalidOperationException($"The connection could not be noted: {refusal.Reason}.");
        // In turn with the changes, so that the first one that arrives is the one after this view.
        await _tellingTurn.WaitAsync();
        try
        {
            var shown = _shown.Seats[seat.Id];
            var viewer = Knowledge.ViewpointOf(_shown, shown);
            // Another one may have come while it was being noted.
            if (_arriving.GetValueOrDefault(seat.Id) != connection)
            {
                await _broadcast.Supersede(Id, connection, viewer);
                return seat.Id;
            }
            _arriving.Remove(seat.Id);
            _connections[seat.Id] = connection;
            LinesChanged();
            var joined = new Joined(MeRow.Of(_shown, shown), Projection.Whole(_shown, viewer, NewestEntries()), Now, _pages.Build);
            foreach (var topic in _topics) _supervisor.Turn(topic.Name, () => joined = topic.Welcome(shown, joined));
            await _broadcast.Enter(Id, connection, viewer, joined);
        }
        finally
        {
            _tellingTurn.Release();
        }
        return seat.Id;
    }

    public async Task Disconnect(SeatId seat, string connection)
    {
        if (_connections.GetValueOrDefault(seat) != connection) return;
        _connections.Remove(seat);
        LinesChanged();
        if (_sitting.IsRunning) await Commit(Actor.House, new Drop([seat]));
    }

    private void LinesChanged()
    {
        foreach (var topic in _topics) _supervisor.Turn(topic.Name, topic.LinesChanged);
    }

    public async Task Withdraw(SeatId seat, string connection)
    {
        if (_connections.GetValueOrDefault(seat) != connection) return;
        var mustHandOver = (await Commit(Actor.Of(seat), new Leave()))?.Reason == Reason.HostMustHandOver;
        if (mustHandOver && Succession.FirstDeputy(_sitting) is { } deputy) await Commit(Actor.Of(seat), new Leave(deputy.Id));
    }

    /// <summary>Everybody without a line counts as dropped; when that cannot be written down, as soon as it can.</summary>
    private async Task DropAll()
    {
        var gone = _sitting.Seats.Select(seat => seat.Id).Where(seat => !_connections.ContainsKey(seat) && !_arriving.ContainsKey(seat));
        _owesDrop = await Commit(Actor.House, new Drop([.. gone])) is not null;
    }

    private bool _owesDrop;

    private async Task LetGo(CancellationToken cancel)
    {
        if (!_sitting.IsRunning) return;
        if (_owesDrop) await DropAll();
        if (_connections.Count > 0) DelayDeactivation(TimeSpan.FromMinutes(30));
        var now = Now;
        var longGone = _sitting.Seats.Where(seat => seat is { Place: not Place.Gone, Connected: false, Role: not Role.Host }
            && seat.DroppedAt is { } at && now - at > _keptAfterDrop).Select(seat => seat.Id).ToList();
        // The clock may have been put forward, or the machine have slept.
        if (_due is { } due && now >= due + _afterTime) await Ring();
        // Whoever is announced and never opens the line is not at the door.
        var neverCame = _sitting.Seats.Where(seat =>
            seat is { Place: not Place.Gone, Connected: false, DroppedAt: null, Role: not Role.Host }
            && now - (seat.Since > _awakeSince
                ? seat.Since
                : _awakeSince) > (seat.Place == Place.Lobby ? _untilTheLineOpens : _keptAfterDrop)).Select(seat => seat.Id).ToList();
        foreach (var seat in longGone.Concat(neverCame)) await Commit(Actor.Of(seat), new Leave());
    }
}
