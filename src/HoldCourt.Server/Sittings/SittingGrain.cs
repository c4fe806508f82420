using System.Collections.Immutable;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Ledger;
using Orleans.Concurrency;
using HoldCourt.Server.Live;

namespace HoldCourt.Server.Sittings;

/// <summary>
/// The single writer of a sitting. Takes wishes one at a time: asks the core, appends the entries, and tells everyone once they are on
/// disk. Deciding and evolving never wait, so that many wishes share one transaction; telling keeps their order. What topics do beside
/// the rules stands with them (<see cref="TopicWork"/>); none of them is named here.
/// </summary>
[Reentrant]
internal sealed partial class SittingGrain : Grain, ISittingGrain, ISittingInside, IDisposable
{
    private static readonly TimeSpan _betweenLooks = TimeSpan.FromSeconds(10), _betweenLooksAnew = TimeSpan.FromMinutes(1);

    /// <summary>Timers may come a little early.</summary>
    private static readonly TimeSpan _afterTime = TimeSpan.FromMilliseconds(50);

    /// <summary>Most entries of one person in a sitting: a long day of work on
    /// the bench, and an end to a flood that keeps within the limits.</summary>
    private const int MostEntriesOfOne = 20_000;

    /// <summary>A page asks again within seconds.</summary>
    private const int MostWishesKept = 4_000;

    /// <summary>After so many entries a snapshot is kept.</summary>
    private const int BetweenSnapshots = 1_000;

    private static readonly Refusal _tooMany = new(Reason.TooMany, Remedy.AskBench);

    private readonly ImmutableArray<TopicWork> _topics;
    private readonly ImmutableArray<(string Topic, Func<Sitting, Instant?> Due, ImmutableArray<HouseCommand> Wishes)> _clocks;
    private readonly SittingLoader _loader;
    private readonly EntryWriter _writer;
    private readonly Snapshots _snapshots;
    private readonly Broadcast _broadcast;
    private readonly RunningSittings _running;
    private readonly HeavyWork _heavy;
    private readonly Supervisor _supervisor;
    private readonly DiskRoom _disk;
    private readonly PageBuild _pages;
    private readonly TimeProvider _time;
    private readonly ILogger<SittingGrain> _log;

    private readonly Queue<Pending> _pending = new();
    private readonly Dictionary<SeatId, int> _written = [];

    /// <summary>Wishes that were done or are under way, by their ids.</summary>
    private readonly Dictionary<(SeatId Seat, string Id), Task<Refusal?>> _wishes = [];
    private readonly Queue<(SeatId Seat, string Id)> _wishesInOrder = new();

    /// <summary>The newest entries of which the ledger tells, oldest first; all others are read from the store.</summary>
    private readonly Queue<Entry> _newest = new();

    /// <summary>Up to where the newest snapshot goes, or the one that is being written.</summary>
    private long _snapshotAt;

    private Sitting _sitting = Sitting.Empty;
    private Sitting _shown = Sitting.Empty;
    private readonly SemaphoreSlim _tellingTurn = new(1);
    private readonly Dictionary<Viewpoint, long> _sent = [];
    private byte[] _digest = Chain.Start;

    /// <summary>An entry could not be stored, so what is in memory must not go on.</summary>
    private bool _lost;

    private Instant? _due;
    private IGrainTimer? _clock;

    public SittingGrain(
        IEnumerable<TopicWork> topics, SittingLoader loader, EntryWriter writer, Snapshots snapshots, Broadcast broadcast,
        RunningSittings running, HeavyWork heavy, Supervisor supervisor, DiskRoom disk, PageBuild pages, TimeProvider time,
        ILogger<SittingGrain> log)
    {
        (_loader, _writer, _snapshots, _broadcast, _running, _heavy) = (loader, writer, snapshots, broadcast, running, heavy);
        (_supervisor, _disk, _pages, _time, _log) = (supervisor, disk, pages, time, log);
        _topics = [.. topics];
        foreach (var topic in _topics) topic.Inside = this;
        _clocks = [.. _topics.SelectMany(topic => topic.Clocks.Select(clock => (topic.Name, clock.Due, clock.Wishes)))];
    }

    public Guid Id => this.GetPrimaryKey();
    public Instant Now => new(_time.GetUtcNow().ToUnixTimeMilliseconds());
    public Sitting Latest => _sitting;
    public Sitting Shown => _shown;
    public bool IsLost => _lost;
    public IReadOnlyDictionary<SeatId, string> Lines => _connections;
    public (string? Device, Instant Since) DeviceOf(SeatId seat) => _devices.GetValueOrDefault(seat);

    public Task<Refusal?> Wish(Actor by, Command wish, string? id = null) => Commit(by, wish, id);

    public void In(TopicWork topic, TimeSpan wait, Func<Task> act) =>
        this.RegisterGrainTimer(_ => _supervisor.Once(topic.Name, act), wait, Timeout.InfiniteTimeSpan);

    public override async Task OnActivateAsync(CancellationToken cancellationToken)
    {
        _writer.Resume(Id);
        _awakeSince = Now;
        (_sitting, _digest, var newest, var tail, var made) = await _loader.Load(Id);
        Remember(newest);
        _snapshotAt = _sitting.Sequence - tail.Count;
        foreach (var (seat, count) in made) _written[seat] = count;
        foreach (var entry in tail.Concat(newest).DistinctBy(entry => entry.Sequence).OrderBy(entry => entry.Sequence))
            if (entry is { Wish: { } wish, By.Seat: { } by }) Keep(by, wish, Task.FromResult<Refusal?>(null));
        _shown = _sitting;
        foreach (var from in Viewpoint.In(_sitting)) _sent[from] = _sitting.Sequence;
        if (_sitting.IsRunning)
        {
            WatchClock();
            _running.Follow(Id, _sitting);
        }
        foreach (var topic in _topics) await Ask(topic, topic.Woke);
        if (_sitting.AdjournedAt is { } adjourned) await End(adjourned);
        if (!_sitting.IsRunning) return;
        await _broadcast.AskToRejoin(Id, _sitting);
        // Whoever was connected to the server before it stopped has to come back.
        await DropAll();
        KeepTime();
    }

    /// <summary>What a topic does of itself: what it throws is noted, and whoever waits for it waits no longer than is allowed.</summary>
    private Task<bool> Ask(TopicWork topic, Func<Task> act)
    {
        Task? done = null;
        if (!_supervisor.Turn(topic.Name, () => done = act())) return Task.FromResult(false);
        return done!.IsCompletedSuccessfully ? Task.FromResult(true) : Waited();

        async Task<bool> Waited()
        {
            try
            {
                await done.WaitAsync(TopicWork.Longest);
                return true;
            }
            catch (Exception e)
            {
                _supervisor.Note(topic.Name, e);
                return false;
            }
        }
    }

    private async Task End(Instant at)
    {
        foreach (var topic in _topics) await Ask(topic, () => topic.Ended(at));
    }

    public async Task<Refusal?> Open(Open open)
    {
        var refusal = await Commit(Actor.House, open);
        if (refusal is null) KeepTime();
        return refusal;
    }

    public Task<Refusal?> DoAsHouse(Command command) => Commit(Actor.House, command);

    public async Task<Arrival> Announce(Announce announce) =>
        await Commit(Actor.House, announce) is { } refusal
            ? new Arrival(null, refusal)
            : new Arrival(_sitting.SeatOf[announce.Person], null);

    public Task<Refusal?> Do(SeatId by, SeatCommand command, string? connection = null, string? wish = null)
    {
        if (connection is not null && _connections.GetValueOrDefault(by) != connection)
            return Task.FromResult<Refusal?>(_connections.ContainsKey(by) || _arriving.ContainsKey(by)
                ? new Refusal(Reason.Superseded)
                : Refusals.NotStored);
        if (wish is null) return Commit(Actor.Of(by), command);
        if (_wishes.TryGetValue((by, wish), out var before)) return before;
        // While it is under way a second one with the same id waits for the same answer; what was refused may be tried again.
        var done = Commit(Actor.Of(by), command, wish);
        if (!done.IsCompleted || done.IsCompletedSuccessfully && done.Result is null) Keep(by, wish, done);
        return Kept(done);

        async Task<Refusal?> Kept(Task<Refusal?> under)
        {
            var isDone = false;
            try
            {
                var refusal = await under;
                isDone = refusal is null;
                return refusal;
            }
            finally
            {
                // What was refused or failed may be tried again, and is not answered with the old failure.
                if (!isDone) _wishes.Remove((by, wish));
            }
        }
    }

    /// <summary>Answers are kept for a while: a page asks again within seconds.</summary>
    private void Keep(SeatId by, string wish, Task<Refusal?> done)
    {
        _wishes[(by, wish)] = done;
        _wishesInOrder.Enqueue((by, wish));
        while (_wishesInOrder.Count > MostWishesKept) _wishes.Remove(_wishesInOrder.Dequeue());
    }

    public Task<Refusal?> DoFor(PersonKey person, SeatCommand command) =>
        _sitting.Find(person) is { } seat ? Commit(Actor.Of(seat.Id), command) : Task.FromResult<Refusal?>(new Refusal(Reason.NotInside));

    public Task<Refusal?> WouldRefuse(PersonKey person, SeatCommand command) =>
        Task.FromResult(_shown.Find(person) is { } seat
            ? SittingRules.Decide(_shown, command, Actor.Of(seat.Id), Now).Refusal
            : new Refusal(Reason.NotInside));

    public Task Wake() => Task.CompletedTask;

    public Task Forget()
    {
        if (!_sitting.IsRunning) DeactivateOnIdle();
        return Task.CompletedTask;
    }

    public Task<WholeView?> Whole(SeatId seat) => Task.FromResult(
        _shown.Seats.TryGet(seat, out var held) ? Projection.Whole(_shown, Knowledge.ViewpointOf(_shown, held), NewestEntries()) : null);

    public async Task<ForesightRow> Foresee(SeatId by, SeatCommand command)
    {
        var recalled = await Recall(command);
        return Foresight.Of(With(_shown, recalled), command, Actor.Of(by), Now);
    }

    /// <summary>What the rules must see of what is not in memory any more.</summary>
    private async Task<IReadOnlyList<Func<Sitting, Sitting>>> Recall(Command wish)
    {
        List<Func<Sitting, Sitting>>? recalled = null;
        foreach (var topic in _topics)
            foreach (var recall in topic.RecallsOf(wish))
                if (await recall(wish) is { } with) (recalled ??= []).Add(with);
        return recalled ?? (IReadOnlyList<Func<Sitting, Sitting>>)[];
    }

    private static Sitting With(Sitting sitting, IReadOnlyList<Func<Sitting, Sitting>> recalled) =>
        recalled.Aggregate(sitting, (seen, with) => with(seen));

    /// <summary>Gets a wish ready, decides it, and does what follows when it is done.</summary>
    private async Task<Refusal?> Commit(Actor by, Command wish, string? id = null)
    {
        if (_lost) return Refusals.NotStored;
        if (by.Seat is { } seat && _written.GetValueOrDefault(seat) >= MostEntriesOfOne) return _tooMany;
        // Whatever happens while it is looked up stands in the state, which comes first.
        var recalled = await Recall(wish);
        List<(TopicWork Topic, Func<bool, Task> Over)>? over = null;
        var (ready, done) = (wish, false);
        try
        {
            foreach (var topic in _topics)
                foreach (var prepare in topic.BeforeOf(wish))
                {
                    (ready, var refused, var atEnd) = await prepare(by, ready, id);
                    if (atEnd is not null) (over ??= []).Add((topic, atEnd));
                    if (refused is not null) return refused;
                }
            if (await Decide(by, ready, recalled, id) is { } refusal) return refusal;
            done = true;
        }
        finally
        {
            foreach (var (topic, atEnd) in over ?? []) await Ask(topic, () => atEnd(done));
        }
        foreach (var topic in _topics)
            foreach (var act in topic.AfterOf(wish))
                await Ask(topic, () => act(by, ready));
        return null;
    }

    private async Task<Refusal?> Decide(Actor by, Command command, IReadOnlyList<Func<Sitting, Sitting>> recalled, string? wish)
    {
        if (_lost) return Refusals.NotStored;
        var (now, before) = (Now, _sitting);
        foreach (var topic in _topics)
            foreach (var complete in topic.AtDecisionOf(command)) command = complete(command);
        var decision = SittingRules.Decide(With(_sitting, recalled), command, by, now);
        if (decision.Refusal is { } refusal) return refusal;
        if (decision.Facts is []) return null;
        // What cannot be written down is not tried again and again, each time with all that is in memory thrown away.
        if (_writer.IsFull && !_disk.HasRoomForEntries) return Refusals.NotStored;
        var stored = new List<IStoredWith>();
        foreach (var topic in _topics)
            foreach (var store in topic.StoreWithOf(command))
            {
                var (row, cannot) = store(command, decision);
                if (cannot is not null) return cannot;
                if (row is not null) stored.Add(row);
            }
        (var entries, _sitting) = SittingRules.Record(_sitting, decision.Facts, by, now, wish);
        // Whoever comes back from having gone may have kept the page open all the while.
        foreach (var back in _sitting.Seats.ChangedSince(before.Seats)
            .Where(pair => pair is { Before.Place: Place.Gone, After: { Place: not Place.Gone, Connected: false } }
            && _connections.ContainsKey(pair.After.Id))
            .Select(pair => pair.After.Id).ToList())
        {
            (var more, _sitting) = SittingRules.Record(_sitting, [new Reconnected(back, First: true)], Actor.House, now);
            entries = entries.AddRange(more);
        }
        if (by.Seat is { } author) _written[author] = _written.GetValueOrDefault(author) + entries.Length;
        WatchClock();
        var kept = new List<KeptEntry>(entries.Length);
        var state = before;
        foreach (var entry in entries)
        {
            state = entries.Length == 1 ? _sitting : SittingRules.Evolve(state, entry);
            var link = Chain.Link(_digest, entry, Marks.Of(entry, state));
            _digest = link.Digest;
            kept.Add(link);
        }
        _pending.Enqueue(new Pending(entries, _sitting, _digest));
        try
        {
            await _writer.Append(Id, kept, stored);
        }
        catch (Exception e)
        {
            // The state in memory is ahead of the disk: throw it away, and start again from what is stored.
            if (!_lost)
            {
                LogLost(e, Id, kept.Count);
                // Pages whose sitting is not there any more must not look as if it were.
                _broadcast.AskToRejoinSoon(Id, _shown);
            }
            _lost = true;
            DeactivateOnIdle();
            return Refusals.NotStored;
        }
        await Tell(entries[^1].Sequence);
        return null;
    }

    /// <summary>Tells of everything up to a sequence that is on disk, in one change for each kind of viewer.</summary>
    private async Task Tell(long upTo)
    {
        // One at a time: a change must not overtake the one before it.
        await _tellingTurn.WaitAsync();
        try
        {
            await TellInTurn(upTo);
        }
        finally
        {
            _tellingTurn.Release();
        }
    }

    private async Task TellInTurn(long upTo)
    {
        var entries = ImmutableArray.CreateBuilder<Entry>();
        var (before, after, digest) = (_shown, _shown, Chain.Start);
        while (_pending.TryPeek(out var pending) && pending.Entries[^1].Sequence <= upTo)
        {
            entries.AddRange(_pending.Dequeue().Entries);
            (after, digest) = (pending.After, pending.Digest);
        }
        if (entries.Count == 0) return;
        _shown = after;
        var news = entries.ToImmutable();
        Remember(news);
        KeepSnapshot(after, digest);
        _running.Follow(Id, after);
        foreach (var topic in _topics) _supervisor.Turn(topic.Name, () => topic.Stored(before, after, news));
        try
        {
            await _broadcast.Tell(Id, before, after, news, _connections, NewestEntries, _sent);
        }
        catch (Exception e)
        {
            _supervisor.Note("telling", e);
            LookAnew(after);
        }
        foreach (var topic in _topics) LetTell(topic, new Change(before, after, news));
        if (before.Phase != Phase.Adjourned && after.Phase == Phase.Adjourned) await End(after.AdjournedAt!.Value);
    }

    /// <summary>Nobody knows what each page has been told: all of them look anew. What is on disk is done all the same.</summary>
    private void LookAnew(Sitting after)
    {
        foreach (var from in Viewpoint.In(after)) _sent[from] = after.Sequence;
        _broadcast.AskToRejoinSoon(Id, after);
    }

    /// <summary>A topic that fails each time does not have everybody look anew each time.</summary>
    private bool TimeToLookAnew(TopicWork topic)
    {
        var now = _time.GetTimestamp();
        if (_lookedAnew.TryGetValue(topic, out var last) && _time.GetElapsedTime(last, now) < _betweenLooksAnew) return false;
        _lookedAnew[topic] = now;
        return true;
    }

    private readonly Dictionary<TopicWork, long> _lookedAnew = [];

    /// <summary>What topics that are still telling have not told; null for nothing.</summary>
    private readonly Dictionary<TopicWork, Change?> _untold = [];

    /// <summary>A topic that takes long holds up nobody else: when it is ready it tells of all that came meanwhile at once.</summary>
    private void LetTell(TopicWork topic, Change change)
    {
        if (_untold.TryGetValue(topic, out var waiting))
        {
            _untold[topic] = waiting is null ? change : new Change(waiting.Before, change.After, waiting.News.AddRange(change.News));
            return;
        }
        var told = Ask(topic, () => topic.Tell(change.Before, change.After, change.News));
        if (told is { IsCompletedSuccessfully: true, Result: true }) return;
        _untold[topic] = null;
        _ = Rest();

        async Task Rest()
        {
            for (; ; told = Ask(topic, () => topic.Tell(change.Before, change.After, change.News)))
            {
                if (!await told && TimeToLookAnew(topic)) LookAnew(_shown);
                if (_untold[topic] is not { } next) break;
                (change, _untold[topic]) = (next, null);
            }
            _untold.Remove(topic);
        }
    }

    /// <summary>The entries that a whole view carries.</summary>
    private IReadOnlyList<Entry> NewestEntries() => [.. _newest];

    private void Remember(IEnumerable<Entry> entries)
    {
        foreach (var entry in entries.Where(entry => Sentences.StandsInLedger(entry.Fact))) _newest.Enqueue(entry);
        while (_newest.Count > Projection.LedgerDepth) _newest.Dequeue();
    }

    /// <summary>Now and then, beside everything else. Without it only the next start takes longer.</summary>
    private void KeepSnapshot(Sitting state, byte[] digest)
    {
        if (!state.IsRunning || state.Sequence - _snapshotAt < BetweenSnapshots) return;
        _snapshotAt = state.Sequence;
        // Writing the whole down takes a while, and nobody waits for it.
        _supervisor.Begin("snapshots", () => _heavy.Run(Lane.Slow, Id.ToString(), async () =>
        {
            await _snapshots.Keep(Id, state, digest);
            return true;
        }));
    }

    public void Dispose() => _tellingTurn.Dispose();

    private void KeepTime()
    {
        this.RegisterGrainTimer(LetGo, _betweenLooks, _betweenLooks);
        foreach (var topic in _topics)
            foreach (var (every, look) in topic.Looks)
                this.RegisterGrainTimer(_ => _supervisor.Once(topic.Name, look), every, every);
    }

    /// <summary>What is to end or begin in its time, with one timer for what comes first.</summary>
    private void WatchClock()
    {
        Instant? due = null;
        foreach (var (name, dueOf, _) in _clocks) _supervisor.Turn(name, () => due = Earlier(due, dueOf(_sitting)));
        if (due == _due) return;
        _clock?.Dispose();
        (_due, _clock) = (due, due is not { } at
            ? null
            : this.RegisterGrainTimer(_ => Ring(), (at > Now ? at - Now : TimeSpan.Zero) + _afterTime, Timeout.InfiniteTimeSpan));
    }

    /// <summary>Each rule asks for itself whether its time has come.</summary>
    private async Task Ring()
    {
        _due = null;
        // One whose time cannot be kept keeps no other from its own.
        foreach (var wish in _clocks.SelectMany(clock => clock.Wishes))
            await _supervisor.Once("clock", () => Commit(Actor.House, wish));
        WatchClock();
    }

    private static Instant? Earlier(Instant? one, Instant? other) => one is null || other < one ? other : one;

    [LoggerMessage(LogLevel.Error, "Sitting {Sitting}: {Count} entries could not be stored")]
    private partial void LogLost(Exception e, Guid sitting, int count);

    private sealed record Change(Sitting Before, Sitting After, ImmutableArray<Entry> News);

    /// <param name="Digest">The last entry's.</param>
    private sealed record Pending(ImmutableArray<Entry> Entries, Sitting After, byte[] Digest);
}
