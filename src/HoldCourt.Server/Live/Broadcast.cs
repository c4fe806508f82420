using System.Collections.Immutable;
using Microsoft.AspNetCore.SignalR;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Admission;

namespace HoldCourt.Server.Live;

/// <summary>Sends each viewpoint its change, made and serialised once, and each seat its own part.</summary>
internal sealed class Broadcast(IHubContext<LiveHub, ILiveClient> hub, Lines lines, DoorBell bell)
{
    private const int MostNames = 3;

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
        // A change of phase or orders may change what anybody may do; otherwise only changed seats have news of their own, and those
        // whose exhibits changed.
        var seats = before.Phase != after.Phase || before.Orders != after.Orders || before.GroupRules != after.GroupRules
            || before.Rooms.Orders != after.Rooms.Orders
            ? connections.Keys.Select(id => after.Seats[id])
            : after.Seats.ChangedSince(before.Seats).Select(pair => pair.After.Id)
                .Union(ReferenceEquals(before.Shelf, after.Shelf) && ReferenceEquals(before.Rooms, after.Rooms)
                    ? []
                    : before.AllExhibits().Concat(after.AllExhibits())
                        .SelectMany(exhibit => exhibit.Pages?.Holder is { } holder ? [exhibit.By, holder] : new[] { exhibit.By }))
                .Union(HandoutRow.Touched(before, after, connections.Keys))
                .Union(CaptionerRow.Touched(before, after))
                .Union(BallotRow.Touched(before, after, connections.Keys))
                .Union(OwnRoomRow.Touched(before, after, connections.Keys))
                .Select(id => after.Seats[id]);
        foreach (var seat in seats)
        {
            if (!connections.TryGetValue(seat.Id, out var connection)) continue;
            await hub.Clients.Client(connection).Me(MeRow.Of(after, seat));
        }
    }

    /// <summary>The bench sees when everybody's turn is expected; whoever waits, their own.</summary>
    public async Task TellOutlook(Guid sitting, Sitting state, OutlookRow outlook, IReadOnlyDictionary<SeatId, string> connections)
    {
        await OfTheBench(sitting, state).Outlook(outlook);
        foreach (var start in outlook.Starts)
            if (connections.TryGetValue(start.Seat, out var connection))
                await hub.Clients.Client(connection).Outlook(outlook with { Starts = [start] });
    }

    /// <summary>Gives each message to those who may read it: once to a kind of viewer where all of that kind may.</summary>
    public Task TellMessages(
        Guid sitting, Sitting after, IReadOnlyList<ChatMessage> messages, IReadOnlyDictionary<SeatId, string> connections) =>
        TellReaders(sitting, after, connections, (line, rows) => line.Messages(rows), new Kept<ChatMessage, MessageRow>(messages,
            message => new Matter.Words(message), (message, from) => MessageRow.Of(after, message, from),
            (message, seat) => MessageRow.Of(after, message, seat)));

    /// <summary>Gives each line of what is said to those who may read it.</summary>
    public Task TellCaptions(
        Guid sitting, Sitting after, IReadOnlyList<CaptionLine> lines, IReadOnlyDictionary<SeatId, string> connections) =>
        TellReaders(sitting, after, connections, (line, rows) => line.Captions(rows), new Kept<CaptionLine, CaptionRow>(lines,
            one => new Matter.Caption(one), (one, from) => CaptionRow.Of(after, one, from),
            (one, seat) => CaptionRow.Of(after, one, seat)));

    /// <summary>Words, what asks who may read them, and how they look from a viewpoint and to somebody alone.</summary>
    private sealed record Kept<T, TRow>(
        IReadOnlyList<T> All, Func<T, Matter> AsMatter, Func<T, Viewpoint, TRow> From, Func<T, Seat, TRow> To);

    private async Task TellReaders<T, TRow>(Guid sitting, Sitting after, IReadOnlyDictionary<SeatId, string> connections,
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

    /// <summary>Counts reactions for all inside, with the names that each kind of viewer may know.</summary>
    public async Task TellSigns(Guid sitting, Sitting shown, IReadOnlyList<(SeatId Seat, Sign Sign)> signs)
    {
        foreach (var viewer in Viewpoint.In(shown).Where(viewer => shown.MayKnow(viewer, Matter.Inside)))
        {
            var here = signs.Where(one => shown.Seats[one.Seat].Room == viewer.Room).ToList();
            if (here is []) continue;
            SignRow[] rows = [.. here.GroupBy(one => one.Sign).OrderBy(group => group.Key)
                .Select(group => new SignRow(group.Key, group.Count(),
                [.. group.Select(one => shown.Seats[one.Seat]).Where(seat => shown.MayKnow(viewer, new Matter.Person(seat))).Take(MostNames)
                    .Select(seat => seat.Name)]))];
            await hub.Clients.Group(GroupOf(sitting, viewer)).Signs(rows);
        }
    }

    /// <summary>To all who may know of an exhibit: what was drawn on the pages that they may see. Of other pages each learns that there
    /// was an act, so that nobody misses one.</summary>
    /// <param name="gone">The marks that it took away.</param>
    public Task TellMarks(Guid sitting, Sitting shown, Exhibit exhibit, MarkAct act, IReadOnlyList<Mark> gone,
        IReadOnlyDictionary<SeatId, string> connections) =>
        TellPages(sitting, shown, exhibit, connections, (to, sees) => to.Mark(new MarkActRow(exhibit.Number, act.Sequence, act.By,
            [.. act.Put.Where(mark => sees(mark.Page))], [.. gone.Where(mark => sees(mark.Page)).Select(mark => mark.Number)])));

    public Task TellStrokes(
        Guid sitting, Sitting shown, Exhibit exhibit, StrokeRow[] strokes, IReadOnlyDictionary<SeatId, string> connections) =>
        TellPages(sitting, shown, exhibit, connections, (to, sees) =>
            strokes.Where(stroke => sees(stroke.Page)).ToList() is { Count: > 0 } seen ? to.Strokes(seen) : Task.CompletedTask);

    /// <summary>To all who may know of an exhibit: once to each viewpoint, and to whoever brought it or turns its pages, who may see more.
    /// </summary>
    private async Task TellPages(Guid sitting, Sitting shown, Exhibit exhibit, IReadOnlyDictionary<SeatId, string> connections,
        Func<ILiveClient, Func<int, bool>, Task> tell)
    {
        var about = new Matter.OfExhibit(exhibit);
        var special = new List<(Seat Seat, string Connection)>();
        foreach (var id in new[] { exhibit.By, exhibit.Pages?.Holder ?? exhibit.By }.Distinct())
            if (connections.TryGetValue(id, out var connection) && shown.Seats[id] is { IsSeated: true } seat
                && shown.MayKnow(seat, about) && !shown.MayKnow(Knowledge.ViewpointOf(shown, seat), new Matter.AllPages(exhibit)))
                special.Add((seat, connection));
        var others = special.ConvertAll(one => one.Connection);
        foreach (var from in Viewpoint.In(shown).Where(from => shown.MayKnow(from, about)))
            await tell(hub.Clients.GroupExcept(GroupOf(sitting, from), others), page =>
                shown.MayKnow(from, new Matter.OfPage(exhibit, page)));
        foreach (var (seat, connection) in special)
            await tell(hub.Clients.Client(connection), page => shown.MayKnow(seat, new Matter.OfPage(exhibit, page)));
    }

    public Task TellTrouble(Guid sitting, Sitting state, TroubleRow trouble) => OfTheBench(sitting, state).Trouble(trouble);

    /// <summary>The bench, wherever it is.</summary>
    private ILiveClient OfTheBench(Guid sitting, Sitting state) =>
        hub.Clients.Groups([.. Viewpoint.In(state).Where(from => from.Viewer == Viewer.Bench).Select(from => GroupOf(sitting, from))]);

    private static string GroupOf(Guid sitting, Viewpoint from) => $"{sitting:N}:{from.Viewer}:{from.Room}";
}
