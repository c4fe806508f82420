using System.Collections.Immutable;
using Microsoft.AspNetCore.SignalR;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Admission;

namespace HoldCourt.Server.Live;

/// <summary>Sends each viewpoint its change, made and serialised once, and each seat its own part.</summary>
internal sealed class Broadcast(IHubContext<LiveHub, ILiveClient> hub, Lines lines, DoorBell bell)
{

    public async Task Enter(Guid sitting, string connection, Viewpoint from, Joined joined)
    {
        await hub.Groups.AddToGroupAsync(connection, GroupOf(sitting, from));
        await hub.Clients.Client(connection).Joined(joined);
    }

    /// <summary>The sitting was loaded anew and does not know who is connected.</summary>
    public Task AskToRejoin(Guid sitting, Sitting state) =>
        hub.Clients.Groups([.. Viewpoint.In(state).Select(from => GroupOf(sitting, from))]).Rejoin();

    /// <summary>A moment later, so that those who acted have their answers before.</summary>
    public void AskToRejoinSoon(Guid sitting, Sitting state)
    {
        _ = Ask();

        async Task Ask()
        {
            await Task.Delay(TimeSpan.FromSeconds(1));
            await AskToRejoin(sitting, state);
        }
    }

    /// <summary>Tells a connection that another one has taken its seat, and that it gets nothing more.</summary>
    public async Task Supersede(Guid sitting, string connection, Viewpoint from)
    {
        await hub.Groups.RemoveFromGroupAsync(connection, GroupOf(sitting, from));
        await hub.Clients.Client(connection).Superseded();
        lines.CutSoon(connection);
    }

    /// <param name="newest">The entries that a whole view carries, for those whose viewpoint is another from now on.</param>
    /// <param name="sent">For each viewpoint the version last sent; brought up
    /// to date here. A change names it as the version it starts from.</param>
    public async Task Tell(
        Guid sitting, Sitting before, Sitting after, ImmutableArray<Entry> entries, IReadOnlyDictionary<SeatId, string> connections,
        Func<IReadOnlyList<Entry>> newest, Dictionary<Viewpoint, long> sent)
    {
        bell.Ring(sitting, before, after);
        var moved = await Move(sitting, before, after, connections, newest);
        var transition = new Transition(before, after, entries);
        foreach (var from in Viewpoint.In(after))
        {
            // From where nobody has looked yet: whoever does now has a whole view.
            if (!sent.TryGetValue(from, out var last))
            {
                sent[from] = after.Sequence;
                continue;
            }
            var change = transition.From(from);
            if (change.IsEmpty) continue;
            await hub.Clients.GroupExcept(GroupOf(sitting, from), moved).Change(change with { From = last });
            sent[from] = change.V;
        }
        foreach (var closed in sent.Keys.Where(from => from.Room is not null && after.Rooms.Find(from.Room) is null).ToList())
            sent.Remove(closed);
        await TellEachTheirOwn(before, after, connections);
    }

    /// <summary>Whoever has another viewpoint from now on changes groups, and gets a whole view: one for all who have the same.</summary>
    private async Task<IReadOnlyList<string>> Move(
        Guid sitting, Sitting before, Sitting after, IReadOnlyDictionary<SeatId, string> connections, Func<IReadOnlyList<Entry>> newest)
    {
        var moved = new List<(Viewpoint To, string Connection)>();
        foreach (var (was, now) in after.Seats.ChangedSince(before.Seats))
        {
            if (was is null || !connections.TryGetValue(now.Id, out var connection)) continue;
            var (from, to) = (Knowledge.ViewpointOf(before, was), Knowledge.ViewpointOf(after, now));
            if (from == to) continue;
            await hub.Groups.RemoveFromGroupAsync(connection, GroupOf(sitting, from));
            await hub.Groups.AddToGroupAsync(connection, GroupOf(sitting, to));
            moved.Add((to, connection));
        }
        foreach (var together in moved.GroupBy(one => one.To, one => one.Connection))
            await hub.Clients.Clients([.. together]).Whole(Projection.Whole(after, together.Key, newest()));
        return moved.ConvertAll(one => one.Connection);
    }

    private async Task TellEachTheirOwn(Sitting before, Sitting after, IReadOnlyDictionary<SeatId, string> connections)
    {
        SeatId[] all = [.. connections.Keys];
        var seats = Facet.All.SelectMany(facet => facet.Touches(before, after, all))
            .Union(after.Seats.ChangedSince(before.Seats).Select(pair => pair.After.Id));
        foreach (var seat in seats)
            if (connections.TryGetValue(seat, out var line)) await hub.Clients.Client(line).Me(MeRow.Of(after, after.Seats[seat]));
    }

    /// <summary>One line.</summary>
    public ILiveClient To(string connection) => hub.Clients.Client(connection);

    /// <summary>All who see a sitting from somewhere, but for some of their lines.</summary>
    public ILiveClient To(Guid sitting, Viewpoint from, IReadOnlyList<string>? except = null) =>
        except is { Count: > 0 } ? hub.Clients.GroupExcept(GroupOf(sitting, from), except) : hub.Clients.Group(GroupOf(sitting, from));

    /// <summary>The bench, wherever it is.</summary>
    public ILiveClient ToBench(Guid sitting, Sitting state) =>
        hub.Clients.Groups([.. Viewpoint.In(state).Where(from => from.Viewer == Viewer.Bench).Select(from => GroupOf(sitting, from))]);

    /// <summary>Gives words to those who may read them: once to a kind of viewer where all of that kind may.</summary>
    public async Task TellReaders<T, TRow>(Guid sitting, Sitting after, IReadOnlyDictionary<SeatId, string> connections,
        Func<ILiveClient, IReadOnlyList<TRow>, Task> tell, Kept<T, TRow> kept)
    {
        foreach (var from in Viewpoint.In(after))
        {
            var rows = kept.All.Where(one => after.MayKnow(from, kept.AsMatter(one))).Select(one => kept.From(one, from)).ToList();
            if (rows is not []) await tell(hub.Clients.Group(GroupOf(sitting, from)), rows);
        }
        foreach (var (id, connection) in connections)
        {
            var seat = after.Seats[id];
            var from = Knowledge.ViewpointOf(after, seat);
            var rows = kept.All.Where(one => !after.MayKnow(from, kept.AsMatter(one)) && after.MayKnow(seat, kept.AsMatter(one)))
                .Select(one => kept.To(one, seat)).ToList();
            if (rows is not []) await tell(hub.Clients.Client(connection), rows);
        }
    }

    private static string GroupOf(Guid sitting, Viewpoint from) => $"{sitting:N}:{from.Viewer}:{from.Room}";
}

/// <summary>Words, what asks who may read them, and how they look from a viewpoint and to somebody alone.</summary>
internal sealed record Kept<T, TRow>(
    IReadOnlyList<T> All, Func<T, Matter> AsMatter, Func<T, Viewpoint, TRow> From, Func<T, Seat, TRow> To);
