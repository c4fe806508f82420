using System.Collections.Immutable;
using Microsoft.AspNetCore.SignalR;

namespace HoldCourt.Server.Live;

/// <summary>Sends each kind of viewer its change, made and serialised once, and each seat its own part.</summary>
internal sealed class Broadcast(IHubContext<LiveHub, ILiveClient> hub, Lines lines, DoorBell bell)
{
    private const int MostNames = 3;
    private static readonly Viewer[] _viewers = Enum.GetValues<Viewer>();

    public async Task Enter(Guid sitting, string connection, Viewer viewer, Joined joined)
    {
        await hub.Groups.AddToGroupAsync(connection, GroupOf(sitting, viewer));
        await hub.Clients.Client(connection).Joined(joined);
    }

    /// <summary>The sitting was loaded anew and does not know who is connected.</summary>
    public Task AskToRejoin(Guid sitting) => hub.Clients.Groups(_viewers.Select(viewer => GroupOf(sitting, viewer))).Rejoin();

    /// <summary>A moment later, so that those who acted have their answers before.</summary>
    public void AskToRejoinSoon(Guid sitting)
    {
        _ = Ask();

        async Task Ask()
        {
            await Task.Delay(TimeSpan.FromSeconds(1));
            await AskToRejoin(sitting);
        }
    }

    /// <summary>Tells a connection that another one has taken its seat, and that it gets nothing more.</summary>
    public async Task Supersede(Guid sitting, string connection, Viewer viewer)
    {
        await hub.Groups.RemoveFromGroupAsync(connection, GroupOf(sitting, viewer));
        await hub.Clients.Client(connection).Superseded();
        lines.CutSoon(connection);
    }

    /// <param name="newest">The entries that a whole view carries, for those who become another kind of viewer.</param>
    /// <param name="sent">For each kind of viewer the version last sent; brought up to date here. A change names it as the version it starts from.</param>
    public async Task Tell(
        Guid sitting, Sitting before, Sitting after, ImmutableArray<Entry> entries, IReadOnlyDictionary<SeatId, string> connections, Func<IReadOnlyList<Entry>> newest,
        long[] sent)
    {
        bell.Ring(sitting, before, after);
        var moved = await Move(sitting, before, after, connections, newest);
        foreach (var viewer in _viewers)
        {
            var change = Projection.Difference(before, after, viewer, entries);
            if (change.IsEmpty) continue;
            await hub.Clients.GroupExcept(GroupOf(sitting, viewer), moved).Change(change with { From = sent[(int)viewer] });
            sent[(int)viewer] = change.V;
        }
        await TellEachTheirOwn(before, after, connections);
    }

    /// <summary>Whoever sees the sitting as another kind of viewer from now on changes groups and gets a whole view.</summary>
    private async Task<IReadOnlyList<string>> Move(
        Guid sitting, Sitting before, Sitting after, IReadOnlyDictionary<SeatId, string> connections, Func<IReadOnlyList<Entry>> newest)
    {
        var moved = new List<string>();
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            if (was is null || !connections.TryGetValue(now.Id, out var connection)) continue;
            var (from, to) = (Knowledge.ViewerOf(was), Knowledge.ViewerOf(now));
            if (from == to) continue;
            await hub.Groups.RemoveFromGroupAsync(connection, GroupOf(sitting, from));
            await hub.Groups.AddToGroupAsync(connection, GroupOf(sitting, to));
            await hub.Clients.Client(connection).Whole(Projection.Whole(after, to, newest()));
            moved.Add(connection);
        }
        return moved;
    }

    private async Task TellEachTheirOwn(Sitting before, Sitting after, IReadOnlyDictionary<SeatId, string> connections)
    {
        // A change of phase or orders may change what anybody may do; otherwise only changed seats have news of their own.
        var seats = before.Phase != after.Phase || before.Orders != after.Orders
            ? connections.Keys.Select(id => after.Seats[id])
            : after.Seats.ChangedSince(before.Seats).Select(pair => pair.After);
        foreach (var seat in seats)
        {
            if (!connections.TryGetValue(seat.Id, out var connection)) continue;
            await hub.Clients.Client(connection).Me(Projection.Me(after, seat));
        }
    }

    /// <summary>The bench sees when everybody's turn is expected; whoever waits, their own.</summary>
    public async Task TellOutlook(Guid sitting, OutlookRow outlook, IReadOnlyDictionary<SeatId, string> connections)
    {
        await hub.Clients.Group(GroupOf(sitting, Viewer.Bench)).Outlook(outlook);
        foreach (var start in outlook.Starts)
            if (connections.TryGetValue(start.Seat, out var connection)) await hub.Clients.Client(connection).Outlook(outlook with { Starts = [start] });
    }

    /// <summary>Gives each message to those who may read it: once to a kind of viewer where all of that kind may.</summary>
    public async Task TellMessages(Guid sitting, Sitting after, IReadOnlyList<ChatMessage> messages, IReadOnlyDictionary<SeatId, string> connections)
    {
        foreach (var viewer in _viewers)
        {
            var rows = messages.Where(message => after.MayKnow(viewer, new Matter.Words(message))).Select(message => Projection.Row(after, message, viewer)).ToList();
            if (rows is not []) await hub.Clients.Group(GroupOf(sitting, viewer)).Messages(rows);
        }
        foreach (var (id, connection) in connections)
        {
            var seat = after.Seats[id];
            var viewer = Knowledge.ViewerOf(seat);
            var rows = messages.Where(message => !after.MayKnow(viewer, new Matter.Words(message)) && after.MayKnow(seat, new Matter.Words(message)))
                .Select(message => Projection.Row(after, message, seat)).ToList();
            if (rows is not []) await hub.Clients.Client(connection).Messages(rows);
        }
    }

    /// <summary>Counts reactions for all inside, with the names that each kind of viewer may know.</summary>
    public async Task TellSigns(Guid sitting, Sitting told, IReadOnlyList<(SeatId Seat, Sign Sign)> signs)
    {
        foreach (var viewer in _viewers.Where(viewer => told.MayKnow(viewer, Matter.Inside)))
        {
            SignRow[] rows = [.. signs.GroupBy(one => one.Sign).OrderBy(group => group.Key).Select(group => new SignRow(group.Key, group.Count(),
                [.. group.Select(one => told.Seats[one.Seat]).Where(seat => told.MayKnow(viewer, new Matter.Person(seat))).Take(MostNames).Select(seat => seat.Name)]))];
            await hub.Clients.Group(GroupOf(sitting, viewer)).Signs(rows);
        }
    }

    public Task TellTrouble(Guid sitting, TroubleRow trouble) => hub.Clients.Group(GroupOf(sitting, Viewer.Bench)).Trouble(trouble);

    private static string GroupOf(Guid sitting, Viewer viewer) => $"{sitting:N}:{viewer}";
}
