using System.Collections.Immutable;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Lending;
using HoldCourt.Server.Media;
using HoldCourt.Server.Polls;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Files;
using HoldCourt.Store.Ledger;
using Orleans.Concurrency;
using HoldCourt.Server.Live;

namespace HoldCourt.Server.Sittings;

/// <summary>
/// Takes wishes one at a time: asks the core, appends the entries, and tells everyone once they are on disk. Deciding
/// and evolving never wait, so that many wishes share one transaction; telling keeps their order.
/// </summary>
[Reentrant]
internal sealed partial class SittingGrain(
    SittingLoader loader, EntryWriter writer, EntryReader reader, Snapshots snapshots, Broadcast broadcast, SittingRecords records,
    IRelay relay, RecordingRegister recordings, KeptFiles files, PageStore pageStore, Bringing bringing, PaperKeeping papers, Agents agents,
    MarkWriter marks, RunningSittings running, SpeechToText speech, BallotBoxes boxes, HeavyWork heavy, Supervisor supervisor,
    DiskRoom disk, PageBuild pages, TimeProvider time, ILogger<SittingGrain> log)
    : Grain, ISittingGrain, IDisposable
{
    /// <summary>How long somebody whose connection dropped keeps the place before counting as having left.</summary>
    private static readonly TimeSpan _keptAfterDrop = TimeSpan.FromMinutes(10);

    /// <summary>How long somebody announced may take until the page has opened its line.</summary>
    private static readonly TimeSpan _untilTheLineOpens = TimeSpan.FromMinutes(1);

    private static readonly TimeSpan _betweenOutlooks = TimeSpan.FromSeconds(15), _betweenLooks = TimeSpan.FromSeconds(10);

    /// <summary>A recording that stands still is said at once.</summary>
    private static readonly TimeSpan _betweenGlances = TimeSpan.FromSeconds(1);

    /// <summary>Timers may come a little early.</summary>
    private static readonly TimeSpan _afterTime = TimeSpan.FromMilliseconds(50);

    private static readonly TimeSpan _betweenSigns = TimeSpan.FromMilliseconds(300), _betweenCounts = TimeSpan.FromSeconds(10);

    /// <summary>Most entries of one person in a sitting: a long day of work on
    /// the bench, and an end to a flood that keeps within the limits.</summary>
    private const int MostEntriesOfOne = 20_000;

    /// <summary>A page asks again within seconds.</summary>
    private const int MostWishesKept = 4_000;

    /// <summary>After so many entries a snapshot is kept.</summary>
    private const int BetweenSnapshots = 1_000;

    private static readonly Refusal _notStored = new(Reason.NotStored, Remedy.TryAgain), _tooMany = new(Reason.TooMany, Remedy.AskBench);

    private readonly Queue<Pending> _pending = new();
    private readonly Dictionary<SeatId, string> _connections = [];

    /// <summary>Connections that are being noted, and are not told anything yet.</summary>
    private readonly Dictionary<SeatId, string> _arriving = [];
    private readonly Dictionary<SeatId, (string? Device, Instant Since)> _devices = [];

    private readonly Dictionary<SeatId, int> _written = [];

    /// <summary>Wishes that were done or are under way, by their ids.</summary>
    private readonly Dictionary<(SeatId Seat, string Id), Task<Refusal?>> _wishes = [];
    private readonly Queue<(SeatId Seat, string Id)> _wishesInOrder = new();

    /// <summary>The newest entries of which the ledger tells, oldest first; all others are read from the store.</summary>
    private readonly Queue<Entry> _newest = new();

    /// <summary>Up to where the newest snapshot goes, or the one that is being written.</summary>
    private long _snapshotAt;

    /// <summary>Reactions since they were last shown.</summary>
    private readonly List<(SeatId Seat, Sign Sign)> _signs = [];
    private readonly Dictionary<SeatId, Instant> _signedAt = [];
    private TroubleRow _trouble = new([]);
    private Sitting _sitting = Sitting.Empty;
    private Sitting _shown = Sitting.Empty;
    private readonly SemaphoreSlim _tellingTurn = new(1);
    private readonly Dictionary<Viewpoint, long> _sent = [];
    private byte[] _digest = Chain.Start;

    /// <summary>Nobody could open a line before this.</summary>
    private Instant _awakeSince;

    /// <summary>An entry could not be stored, so what is in memory must not go on.</summary>
    private bool _lost;

    private Instant? _due;
    private IGrainTimer? _clock;

    private Guid Id => this.GetPrimaryKey();
    private Instant Now => new(time.GetUtcNow().ToUnixTimeMilliseconds());

    public override async Task OnActivateAsync(CancellationToken cancellationToken)
    {
        writer.Resume(Id);
        _awakeSince = Now;
        (_sitting, _digest, var newest, var tail, var made) = await loader.Load(Id);
        Remember(newest);
        _snapshotAt = _sitting.Sequence - tail.Count;
        foreach (var (seat, count) in made) _written[seat] = count;
        foreach (var entry in tail.Concat(newest).DistinctBy(entry => entry.Sequence).OrderBy(entry => entry.Sequence))
            if (entry is { Wish: { } wish, By.Seat: { } by }) Keep(by, wish, Task.FromResult<Refusal?>(null));
        _shown = _sitting;
        foreach (var from in Viewpoint.In(_sitting)) _sent[from] = _sitting.Sequence;
        // The server may have stopped between the last entry and the table of sittings.
        if (_sitting.AdjournedAt is { } adjourned) await Close(adjourned);
        recordings.Follow(Id, _sitting);
        await supervisor.Once("boxes", CountBoxes);
        if (!_sitting.IsRunning) return;
        WatchClock();
        running.Follow(Id, _sitting);
        // Before the relay writes anything: up to when there is something is known only until then.
        await NoteRecordingGap();
        relay.Follow(Id, StageChange.Whole(_sitting));
        await broadcast.AskToRejoin(Id, _sitting);
        // Whoever was connected to the server before it stopped has to come back.
        await DropAll();
        await supervisor.Once("lending", LookForAgents);
        await supervisor.Once("pages", PrepareAgain);
        KeepTime();
    }

    /// <summary>Everybody without a line counts as dropped; when that cannot be written down, as soon as it can.</summary>
    private async Task DropAll()
    {
        var gone = _sitting.Seats.Select(seat => seat.Id).Where(seat => !_connections.ContainsKey(seat) && !_arriving.ContainsKey(seat));
        _owesDrop = await Commit(Actor.House, new Drop([.. gone])) is not null;
    }

    private bool _owesDrop;

    public async Task<Refusal?> Open(Open open)
    {
        var refusal = await Commit(Actor.House, open);
        if (refusal is null) KeepTime();
        await RecordByPlan();
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
                : _notStored);
        if (wish is null) return Done();
        if (_wishes.TryGetValue((by, wish), out var before)) return before;
        // While it is under way a second one with the same id waits for the same answer; what was refused may be tried again.
        var done = Done();
        if (!done.IsCompleted || done.IsCompletedSuccessfully && done.Result is null) Keep(by, wish, done);
        return Kept(done);

        async Task<Refusal?> Done()
        {
            if (command is CaptionByMachine { On: true } && !speech.IsThere(Id)) return new Refusal(Reason.NoRecogniser);
            if (command is KeepHandout or KeepExhibit) return await KeepAmongPapers(by, command, wish);
            var refusal = await Commit(Actor.Of(by), command, wish);
            if (refusal is null && command is Begin) await RecordByPlan();
            if (refusal is null && command is React react) Gather(by, react.Sign);
            if (refusal is null && command is NextItem or TurnToItem) supervisor.Begin("papers", () => BringItems(by));
            if (refusal is null && command is PlanRooms or PlanAnotherRound or OpenRooms or NextItem or TurnToItem)
                supervisor.Begin("papers", () => BringTasks(by));
            return refusal;
        }

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

    public Task<bool> IsPresent(SeatId seat, string connection) =>
        Task.FromResult(_connections.GetValueOrDefault(seat) == connection && _shown.IsRunning && _shown.Seats.TryGet(seat, out var held)
            && held.Place != Place.Gone);

    public async Task<SeatId?> Connect(PersonKey person, string connection, string? device = null)
    {
        if (_sitting.Find(person) is not { } seat) return null;
        // The older one does nothing more from here on; the new one is told nothing before its whole view.
        if (_connections.Remove(seat.Id, out var older) && older != connection)
            await broadcast.Supersede(Id, older, Knowledge.ViewpointOf(_sitting, seat));
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
                await broadcast.Supersede(Id, connection, viewer);
                return seat.Id;
            }
            _arriving.Remove(seat.Id);
            _connections[seat.Id] = connection;
            GrantAgents();
            // Without a look into the store, for which everybody would wait.
            var chat = await ChatOf(_shown, shown, new ChatWish(null, null), blocks: 0);
            await broadcast.Enter(Id, connection, viewer, new Joined(
                MeRow.Of(_shown, shown), Projection.Whole(_shown, viewer, NewestEntries()), chat, CaptionsFor(shown),
                _shown.MayKnow(viewer, Matter.Books) ? _trouble : new TroubleRow([]), Now, pages.Build));
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
        GrantAgents();
        if (_sitting.IsRunning) await Commit(Actor.House, new Drop([seat]));
    }

    public async Task Withdraw(SeatId seat, string connection)
    {
        if (_connections.GetValueOrDefault(seat) != connection) return;
        var mustHandOver = (await Commit(Actor.Of(seat), new Leave()))?.Reason == Reason.HostMustHandOver;
        if (mustHandOver && Succession.FirstDeputy(_sitting) is { } deputy) await Commit(Actor.Of(seat), new Leave(deputy.Id));
    }

    public Task Forget()
    {
        if (!_sitting.IsRunning) DeactivateOnIdle();
        return Task.CompletedTask;
    }

    public Task<WholeView?> Whole(SeatId seat) => Task.FromResult(
        _shown.Seats.TryGet(seat, out var held) ? Projection.Whole(_shown, Knowledge.ViewpointOf(_shown, held), NewestEntries()) : null);

    public Task<DoorState> Door(PersonKey? holder, PersonKey? comer, string? proof = null, bool owns = false)
    {
        Seat? Of(PersonKey? person) => person is { } key ? _shown.Find(key) : null;
        var (held, seat) = (Of(holder), Of(comer) ?? Of(holder));
        return Task.FromResult(new DoorState(
            Over: _shown.Phase == Phase.Adjourned, HostName: _shown.Host is { } host ? _shown.Seats[host].Name : null,
            Lock: _shown.Door.Lock, IsKnown: seat is not null, HoldsSeat: held is { Place: not Place.Gone },
            ComesBack: seat is { Place: not Place.Gone } or { Admittance: Admittance.Granted }, IsSeated: held is { IsSeated: true },
            Barred: seat is { Exit: Exit.RemovedForGood }, Preparing: _shown.Phase == Phase.Prepare,
            EntersAs: seat is { IsSeated: true } ? seat.Role : EntersAs(comer, proof, owns), OnRecord: OnRecordNow()));
    }

    /// <summary>Asks the rules what would happen, and lets nothing happen.</summary>
    private Role? EntersAs(PersonKey? comer, string? proof, bool owns) =>
        SittingRules.Decide(_shown, new Announce(comer ?? new PersonKey(""), "Somebody", proof, Owns: owns), Actor.House, Now)
            is { Facts: [Entered entered] } ? entered.As : null;

    private async Task<Refusal?> Commit(Actor by, Command command, string? wish = null)
    {
        if (_lost) return _notStored;
        if (by.Seat is { } id && _written.GetValueOrDefault(id) >= MostEntriesOfOne) return _tooMany;
        // Whatever happens while it is looked up stands in the state, which comes first.
        var old = await LookUp(command);
        command = await PlannedOut(by, await Known(command));
        if (_lost) return _notStored;
        var (now, before) = (Now, _sitting);
        command = KnownNow(command);
        var decision = SittingRules.Decide(old is null ? _sitting : _sitting.LookingAt(old), command, by, now);
        if (decision.Refusal is { } refusal) return refusal;
        if (decision.Facts is []) return null;
        // What cannot be written down is not tried again and again, each time with all that is in memory thrown away.
        if (writer.IsFull && !disk.HasRoomForEntries) return _notStored;
        var (ballot, noBox) = BallotOf(command, decision);
        if (noBox is not null) return noBox;
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
            await writer.Append(Id, kept, ballot);
        }
        catch (Exception e)
        {
            // The state in memory is ahead of the disk: throw it away, and start again from what is stored.
            if (!_lost)
            {
                LogLost(e, Id, kept.Count);
                // Pages whose sitting is not there any more must not look as if it were.
                broadcast.AskToRejoinSoon(Id, _shown);
            }
            _lost = true;
            DeactivateOnIdle();
            return _notStored;
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
        running.Follow(Id, after);
        FollowOnStage(before, after);
        supervisor.Turn("recordings", () => FollowRecording(before, after, news));
        if (!ReferenceEquals(before.Shelf, after.Shelf) || !ReferenceEquals(before.Rooms, after.Rooms)) LetGoOfMarks();
        supervisor.Turn("lending", () => TellAgents(before, after));
        try
        {
            await broadcast.Tell(Id, before, after, news, _connections, NewestEntries, _sent);
            await TellMessages(before, after, news);
            await TellCaptions(before, after, news);
        }
        catch (Exception e)
        {
            // Nobody knows what each page has been told: all of them look anew. What is on disk is done all the same.
            supervisor.Note("telling", e);
            foreach (var from in Viewpoint.In(after)) _sent[from] = after.Sequence;
            broadcast.AskToRejoinSoon(Id, after);
        }
        if (after.Docket.HasSlots
            && (!ReferenceEquals(before.Visits, after.Visits) || after.Seats.ChangedSince(before.Seats)
            .Any(pair => pair.Before?.Place != pair.After.Place)))
            await supervisor.Once("outlook", () => LookAhead(CancellationToken.None));
        if (!ReferenceEquals(before.Polls, after.Polls)) supervisor.Begin("boxes", CountBoxes);
        if (before.Phase != Phase.Adjourned && after.Phase == Phase.Adjourned) await Close(after.AdjournedAt!.Value);
    }

    /// <summary>The relay must not go on by what was: whatever it missed, it is told the whole.</summary>
    private void FollowOnStage(Sitting before, Sitting after)
    {
        if (!_stageIsBehind && StageChange.Of(before, after) is not { }) return;
        _stageIsBehind = !supervisor.Turn("relay", () =>
            relay.Follow(Id, _stageIsBehind ? StageChange.Whole(after) : StageChange.Of(before, after)!))
            && !supervisor.Turn("relay", () => relay.Follow(Id, StageChange.Whole(after)));
    }

    private bool _stageIsBehind;

    /// <summary>In the table of sittings; when that is locked just then, as soon as it is not.</summary>
    private async Task Close(Instant at)
    {
        if (!await supervisor.Once("sittings", () => records.Close(Id, at))) supervisor.Begin("sittings", InTheEnd);

        async Task InTheEnd()
        {
            do await Task.Delay(_betweenLooks, time);
            while (!await supervisor.Once("sittings", () => records.Close(Id, at)));
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
        supervisor.Begin("snapshots", () => heavy.Run(Lane.Slow, Id.ToString(), async () =>
        {
            await snapshots.Keep(Id, state, digest);
            return true;
        }));
    }

    private Task TellMessages(Sitting before, Sitting after, ImmutableArray<Entry> entries)
    {
        var messages = Enumerable.Range(before.Chat.Count + 1, after.Chat.Count - before.Chat.Count)
            .Union(entries.Select(entry => Sentences.MessageOf(entry.Fact)).OfType<int>()).Order().Select(number => after.Message(number))
            .OfType<ChatMessage>().ToList();
        return messages is [] ? Task.CompletedTask : broadcast.TellMessages(Id, after, messages, _connections);
    }

    /// <summary>Reactions of a moment are told together; one person counts once a second.</summary>
    private void Gather(SeatId by, Sign sign)
    {
        if (_signedAt.TryGetValue(by, out var last) && Now - last < TimeSpan.FromSeconds(1)) return;
        _signedAt[by] = Now;
        _signs.Add((by, sign));
        if (_signs.Count == 1) this.RegisterGrainTimer(_ => TellSigns(), _betweenSigns, Timeout.InfiniteTimeSpan);
    }

    private async Task TellSigns()
    {
        var signs = _signs.ToList();
        _signs.Clear();
        await broadcast.TellSigns(Id, _shown, signs);
    }

    public void Dispose() => _tellingTurn.Dispose();

    private void KeepTime()
    {
        this.RegisterGrainTimer(LetGo, _betweenLooks, _betweenLooks);
        this.RegisterGrainTimer(LookAhead, _betweenOutlooks, _betweenOutlooks);
        this.RegisterGrainTimer(LookAtMedia, _betweenCounts, _betweenCounts);
        this.RegisterGrainTimer(LookAtRecording, _betweenGlances, _betweenGlances);
    }

    /// <summary>Counts who was heard, and tells the bench whose connection is slow.</summary>
    private async Task LookAtMedia(CancellationToken cancel)
    {
        if (!_sitting.IsRunning) return;
        var (talked, slow, cannotRecord) = relay.Report(Id);
        // A disk that fills slowly ends it in order. One that is full at once may be free again at once: it stands still, and goes on.
        var isLow = recordings.HasNoRoom(_sitting) && _trouble.StandsSince is null;
        if (cannotRecord || (isLow && _wasLow)) await Commit(Actor.House, new BreakOffRecording());
        _wasLow = isLow;
        if (talked.Count > 0) await Commit(Actor.House, new CountTalk([.. talked.Keys], [.. talked.Values]));
        var roomFor = recordings.RoomFor();
        if (slow.SequenceEqual(_trouble.Slow) && roomFor == _trouble.RoomFor) return;
        _trouble = _trouble with { Slow = slow, RoomFor = roomFor };
        await broadcast.TellTrouble(Id, _shown, _trouble);
    }

    /// <summary>There was too little room for a recording at the last look, and it was written all the same.</summary>
    private bool _wasLow;

    /// <summary>Says when a recording stands still for want of room, and notes what is missing once it goes on.</summary>
    private async Task LookAtRecording(CancellationToken cancel)
    {
        if (_sitting.Recorder?.RunsSince is null && _trouble.StandsSince is null) return;
        var (stands, gap) = relay.RecordingOf(Id);
        _gap = gap ?? _gap;
        if (_gap is { } from && await Commit(Actor.House, new NoteRecordingGap(from)) is null) _gap = null;
        if (stands == _trouble.StandsSince) return;
        _trouble = _trouble with { StandsSince = stands };
        await broadcast.TellTrouble(Id, _shown, _trouble);
    }

    /// <summary>What is still to be noted as missing.</summary>
    private Instant? _gap;

    /// <summary>Ends a turn or a recess in its time, and lets a deputy lead, with one timer for what comes first.</summary>
    private void WatchClock()
    {
        var turn = EndTurn.Due(_sitting);
        var recess = _sitting is { Recess: { EndsItself: true, Until: { } until } } ? until : (Instant?)null;
        var due = new[] { turn, recess, Succession.Due(_sitting), _sitting.IsRunning ? _sitting.Polls.Open?.EndsAt : null,
            _sitting.IsRunning ? EndRooms.Due(_sitting) : null }.Min();
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
        HouseCommand[] due = [new EndTurn(), new EndRecess(), new EndPoll(), new EnterRooms(), new EndRooms(), new Succeed()];
        // One whose time cannot be kept keeps no other from its own.
        foreach (var command in due) await supervisor.Once("clock", () => Commit(Actor.House, command));
        WatchClock();
    }

    private Task LookAhead(CancellationToken cancel)
    {
        if (!_shown.IsRunning || !_shown.Docket.HasSlots || _connections.Count == 0) return Task.CompletedTask;
        var outlook = Forecast.Of(_shown, Now);
        var starts = outlook.Starts.ToDictionary(start => start.Key);
        return broadcast.TellOutlook(Id, _shown, new OutlookRow((int)Math.Round(outlook.Late.TotalMinutes), [.. _shown.Seats
            .Where(seat => seat is { Place: Place.Lobby, Recognition.Line: { } line } && starts.ContainsKey(line))
            .Select(seat => (seat.Id, Start: starts[seat.Recognition.Line!.Value]))
            .Select(pair => new SeatStart(pair.Id, pair.Start.From, pair.Start.At, pair.Start.To))]), _connections);
    }

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
        // The database may have been locked when the poll was closed.
        if (_shown.Polls.Asked.Any(poll => poll.WaitsForItsBox)) await CountBoxes();
        // Whoever is announced and never opens the line is not at the door.
        var neverCame = _sitting.Seats.Where(seat =>
            seat is { Place: not Place.Gone, Connected: false, DroppedAt: null, Role: not Role.Host }
            && now - (seat.Since > _awakeSince
                ? seat.Since
                : _awakeSince) > (seat.Place == Place.Lobby ? _untilTheLineOpens : _keptAfterDrop)).Select(seat => seat.Id).ToList();
        foreach (var seat in longGone.Concat(neverCame)) await Commit(Actor.Of(seat), new Leave());
    }

    [LoggerMessage(LogLevel.Error, "Sitting {Sitting}: {Count} entries could not be stored")]
    private partial void LogLost(Exception e, Guid sitting, int count);

    /// <param name="Digest">The last entry's.</param>
    private sealed record Pending(ImmutableArray<Entry> Entries, Sitting After, byte[] Digest);
}
