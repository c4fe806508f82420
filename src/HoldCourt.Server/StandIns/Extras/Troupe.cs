using System.Collections.Concurrent;
using System.Diagnostics;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Media;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.StandIns.Extras;

public sealed class ExtrasOptions
{
    /// <summary>Further simulated people in every sitting that has a script, 0 to 200.</summary>
    public int Count { get; set; }

    /// <summary>Path of the agent's program: one of the extras then shares a made-up desk and lends it. Empty for none.</summary>
    public string Desk { get; set; } = "";
}

/// <summary>
/// Plays the simulated people of all sittings: brings them to the door by the script, and inside has them show
/// pictures, speak in turn, and answer when asked to unmute.
/// </summary>
internal sealed class Troupe(
    IGrainFactory grains, Stages stages, RunningSittings running, Lazy<ClipLibrary> clips, IDbContextFactory<CourtDb> databases,
    IOptions<ExtrasOptions> options, Preparation preparation, Bringing bringing, MadeUpDesks desks, SpeechToText speech,
    Supervisor supervisor)
    : SupervisedService(supervisor)
{
    private const int BeatMs = 20;
    private readonly ConcurrentDictionary<Guid, Company> _companies = new();

    /// <summary>Wakes the beat, which rests while there is nobody to play.</summary>
    private readonly SemaphoreSlim _called = new(0);

    public void Start(Guid sitting, string script)
    {
        var read = Script.Read(script);
        var players = read.People.Concat(Script.Crowd(options.Value.Count)).ToList();
        var company = new Company(
            sitting, stages.Of(sitting), () => running.Of(sitting), grains.GetGrain<ISittingGrain>(sitting),
            exhibits: grains.In<ISittingExhibits>(sitting), clips: clips.Value, players: players, pause: read.Pause,
            bringing: bringing, desks: desks, speech: speech);
        if (!_companies.TryAdd(sitting, company)) return;
        speech.HasScript(sitting);
        Supervisor.Begin("extras", () => Run(company));
        _called.Release();
    }

    public override void Dispose()
    {
        _called.Dispose();
        base.Dispose();
    }

    protected override string Name => "extras";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        await preparation.Ready.WaitAsync(stoppingToken);
        await using var db = await databases.CreateDbContextAsync(stoppingToken);
        var running = await db.Sittings.Where(s => s.AdjournedAt == null && s.Session!.Extras != null)
            .Select(s => new { s.Id, s.Session!.Extras }).ToListAsync(stoppingToken);
        foreach (var sitting in running) Start(sitting.Id, sitting.Extras!);
        var clock = Stopwatch.StartNew();
        while (true)
        {
            await _called.WaitAsync(stoppingToken);
            // A timer only while there is somebody to play: an idle one would still wake the machine.
            using var timer = new PeriodicTimer(TimeSpan.FromMilliseconds(BeatMs));
            while (!_companies.IsEmpty && await timer.WaitForNextTickAsync(stoppingToken))
                foreach (var company in _companies.Values)
                    Supervisor.Turn("extras", () => company.Play(clock.Elapsed.TotalMilliseconds));
        }
    }

    private async Task Run(Company company)
    {
        try
        {
            await company.Perform();
        }
        finally
        {
            _companies.TryRemove(company.Sitting, out _);
            speech.Forget(company.Sitting);
            company.GoHome();
        }
    }
}

/// <summary>The simulated people of one sitting.</summary>
/// <param name="state">As it was last shown; null once it is over.</param>
internal sealed class Company(
    Guid sitting, Stage stage, Func<Sitting?> state, ISittingGrain grain, ISittingExhibits exhibits, ClipLibrary clips,
    IReadOnlyList<Player> players, int pause, Bringing bringing, MadeUpDesks desks, SpeechToText speech)
{
    private static readonly TimeSpan _lookAround = TimeSpan.FromMilliseconds(250);
    private readonly ConcurrentDictionary<SeatId, Extra> _inside = new();
    private readonly Dictionary<SeatId, (Player Player, int Number)> _cast = [];
    private readonly HashSet<SeatId> _settled = [];
    private readonly HashSet<SeatId> _raised = [];

    /// <summary>What each has shown or written already, by its place in the script.</summary>
    private readonly HashSet<(SeatId, int)> _known = [];
    private readonly Dictionary<int, double> _nextSpeech = [];
    private int _turn;

    public Guid Sitting => sitting;

    /// <summary>Follows the script until the sitting is adjourned.</summary>
    public async Task Perform()
    {
        // Wakes the sitting, so that after a restart of the server they find themselves where they were.
        await grain.Wake();
        var clock = Stopwatch.StartNew();
        var waiting = new Queue<(Player Player, int Number)>(players.Select((player, number) => (player, number))
            .OrderBy(entry => entry.player.Arrives));
        while (state() is { } now)
        {
            while (waiting.TryPeek(out var next) && next.Player.Arrives <= clock.Elapsed.TotalSeconds) await Arrive(waiting.Dequeue());
            foreach (var (id, (player, number)) in _cast)
                if (now.Seats.TryGet(id, out var seat)) await Behave(seat, player, number, clock.Elapsed.TotalSeconds);
            await Task.Delay(_lookAround);
        }
    }

    private async Task Arrive((Player Player, int Number) entry)
    {
        var person = new PersonKey($"extra:{entry.Player.Name}");
        // After a restart of the server they are in their seats already, and stay out if they were sent away.
        var known = state()?.Find(person);
        if (known is { Place: Place.Gone }) return;
        var arrival = await grain.Announce(new Announce(person, entry.Player.Name, ByPhone: entry.Player.Phone));
        if (arrival.Seat is not { } seat) return;
        // They have no browser that opens a line.
        await grain.DoAsHouse(new Reconnect(seat));
        _cast[seat] = entry;
        if (known is not null)
            foreach (var at in Enumerable.Range(-1, 1 + (entry.Player.Says?.Count ?? 0))
                .Concat(Enumerable.Range(FirstDeed, entry.Player.Does?.Count ?? 0))) _known.Add((seat, at));
        if (known is null && entry.Player.Inside) await grain.DoAsHouse(new Admit([seat], entry.Player.Role));
    }

    private async Task Behave(Seat seat, Player player, int number, double seconds)
    {
        if (!seat.IsSeated)
        {
            _settled.Remove(seat.Id);
            if (_inside.TryRemove(seat.Id, out var gone)) gone.Leave();
            return;
        }
        if (!_inside.ContainsKey(seat.Id))
            _inside[seat.Id] = new Extra(stage, seat.Id, clips.Figures[number % clips.Figures.Count],
                clips.Voices[number % clips.Voices.Count], clips.Page, number);
        if (_settled.Add(seat.Id))
        {
            if (player.Camera && !player.Phone && !seat.CameraOn) await grain.Do(seat.Id, new TurnCamera(true));
            if (player.Microphone && !seat.MicrophoneOpen) await grain.Do(seat.Id, new OpenMicrophone());
        }
        if (player.Hand <= seconds && _raised.Add(seat.Id) && seat.HandSince is null) await grain.Do(seat.Id, new RaiseHand());
        if (player.State is { } state && player.StateAt <= seconds && _known.Add((seat.Id, -1)))
            await grain.Do(seat.Id, new SetState(state));
        foreach (var (saying, at) in (player.Says ?? []).Select((saying, at) => (saying, at)))
            if (saying.At <= seconds && _known.Add((seat.Id, at)))
                await grain.Do(seat.Id, new Write(new Recipient(saying.To), saying.Text, saying.Question));
        foreach (var (doing, at) in (player.Does ?? []).Select((doing, at) => (doing, at)))
            if (doing.At <= SecondsOf(doing.Item, seconds) && MayBeDone(seat, doing) && _known.Add((seat.Id, FirstDeed + at)))
                await Does(seat, doing);
        if (seat.Asked) await grain.Do(seat.Id, new AnswerUnmute(true));
        await VoteIn(seat, number, seconds);
        await BeInRoom(seat, number, seconds);
    }

    /// <summary>Since when each was first seen in a room, in seconds after the opening.</summary>
    private readonly Dictionary<(SeatId Seat, int Room), double> _rooms = [];

    /// <summary>After so long, in seconds, somebody in a room wants to know something of the bench.</summary>
    private const double Puzzled = 45;

    /// <summary>Among few every other one speaks, and one in six calls the bench once.</summary>
    private async Task BeInRoom(Seat seat, int number, double seconds)
    {
        if (seat.Room is not { } room) return;
        if (_rooms.TryAdd((seat.Id, room), seconds) && number % 2 == 0 && !seat.MicrophoneOpen)
            await grain.Do(seat.Id, new OpenMicrophone());
        if (number % 6 == 5 && seconds - _rooms[(seat.Id, room)] >= Puzzled && _called.Add((seat.Id, room)))
            await grain.Do(seat.Id, new CallBench());
    }

    private readonly HashSet<(SeatId, int)> _called = [];

    /// <summary>When a poll was first seen to be open, in seconds after the opening.</summary>
    private readonly Dictionary<int, double> _polls = [];

    /// <summary>Each tries once.</summary>
    private readonly HashSet<(SeatId, int)> _voted = [];

    private async Task VoteIn(Seat seat, int number, double seconds)
    {
        if (state()?.Polls.Open is not { } poll) return;
        _polls.TryAdd(poll.Number, seconds);
        if (poll.Voters.Contains(seat.Id.Number) && !poll.Votes.ContainsKey(seat.Id.Number)
            && seconds - _polls[poll.Number] >= ExtraVotes.At(number) && _voted.Add((seat.Id, poll.Number)))
            await grain.Do(seat.Id, ExtraVotes.Of(poll, number, seat.ByPhone));
    }

    /// <summary>Controls are lent once the agent is there, which takes as long as it takes.</summary>
    private bool MayBeDone(Seat seat, Doing doing) => !doing.LendsToHost || state()?.Shelf.ScreenOf(seat.Id) is { HasAgent: true };

    /// <summary>Deeds stand behind what is said among what is known.</summary>
    private const int FirstDeed = 1_000;

    private MadeUpDesk? _desk;

    /// <summary>When an item of the run sheet was first seen to be on, in seconds after the opening.</summary>
    private readonly Dictionary<int, double> _items = [];

    private double SecondsOf(int? item, double seconds)
    {
        if (item is not { } id) return seconds;
        if (state()?.RunSheet.At == id) _items.TryAdd(id, seconds);
        return _items.TryGetValue(id, out var since) ? seconds - since : -1;
    }

    private async Task Does(Seat seat, Doing doing)
    {
        if (state() is not { } now) return;
        if (doing.Desk)
        {
            if (_desk is not null || await desks.Open() is not { } desk) return;
            if (!_inside.TryGetValue(seat.Id, out var extra))
            {
                desk.Dispose();
                return;
            }
            (_desk, extra.Desk) = (desk, desk);
        }
        if (doing.OfDesk && _desk is null) return;
        if (doing.Brings is { } paper && now.Named(paper) is null) await bringing.Paper(sitting, seat.Person, seat.Id, paper);
        if (doing.Shows is { } title && now.Shelf.Open.FirstOrDefault(exhibit => exhibit.Title == title) is { } shown)
            await grain.Do(seat.Id, new ShowExhibit(shown.Number));
        if (doing.HandsTo is { } name && now.Seats.FirstOrDefault(other => other.IsSeated && other.Name == name) is { } to)
            await grain.Do(seat.Id, new HandPaging(to.Id));
        if (doing.Wish is { } wish) await grain.Do(seat.Id, wish);
        if (doing.Desk && state()?.Shelf.ScreenOf(seat.Id) is { } screen) desks.Connect(_desk!, sitting, seat, screen.Number);
        if (doing.LendsToHost && state()?.Host is { } host) await grain.Do(seat.Id, new LendControls(host));
        if (doing.Marks is { } mark && now.Shelf.Shown is [var exhibit, ..]) await exhibits.Mark(seat.Id, exhibit, mark, null);
    }

    /// <summary>Sends what is due, and gives the word to the next in turn when nobody has it.</summary>
    public void Play(double now)
    {
        var extras = _inside.Values.OrderBy(extra => extra.Seat).ToList();
        foreach (var extra in extras)
        {
            extra.Play(now);
            if (extra.TakeSaid() is { } said && state() is { } there && there.IsTranscribed(there.Seats[extra.Seat]))
                _ = speech.Tell(sitting, extra.Seat, said.Words, said.Milliseconds);
        }
        // In each place one at a time.
        foreach (var here in extras.GroupBy(extra => state()?.Seats[extra.Seat].Room ?? 0))
        {
            if (here.Any(extra => extra.IsTalking)) _nextSpeech[here.Key] = now + pause;
            else if (now >= _nextSpeech.GetValueOrDefault(here.Key) && here.Where(MaySpeak).ToList() is { Count: > 0 } speakers)
                speakers[_turn++ % speakers.Count].Speak(now);
        }
    }

    private bool MaySpeak(Extra extra) => state()?.Seats.TryGet(extra.Seat, out var seat) == true && seat.MicrophoneOpen;

    public void GoHome()
    {
        foreach (var extra in _inside.Values) extra.Leave();
        _desk?.Dispose();
    }
}
