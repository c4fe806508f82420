using System.Collections.Concurrent;
using System.Security.Cryptography;
using HoldCourt.Server.Api;

namespace HoldCourt.Bench.Soak;

/// <summary>One session: a host, guests, and what they do all the time.</summary>
internal sealed class SoakSitting(int number, Uri server, SoakOracle oracle, int people, int seed)
{
    private readonly CancellationTokenSource _over = new();
    private readonly List<(string Name, byte[] Hash)> _handed = [];
    private readonly List<Task> _doing = [];
    private readonly List<Task> _lives = [];

    public int Number => number;
    public SoakOracle Oracle => oracle;
    public Guid Id { get; private set; }
    public string Link { get; private set; } = "";
    public List<SoakPerson> People { get; } = [];
    public SoakPerson Host => People[0];
    public int Rounds { get; private set; }
    public int Removed { get; private set; }
    public int Silenced { get; private set; }
    public int Handed => _handed.Count;
    public int Missing => People.Count(person => !person.IsIn);

    /// <summary>Everything a poll was answered with, as it was acknowledged: who, in which poll, what.</summary>
    public ConcurrentQueue<(int Poll, string Name, int Option, Outcome Outcome)> Votes { get; } = new();

    /// <param name="host">Signed in; the host of many sittings.</param>
    public async Task Open(CourtAddress host, bool records)
    {
        People.Add(new SoakPerson(this, 0, server, host));
        var opened = await Host.Address.Post<OpenedSitting>("/api/sessions", new OpenNow($"Soak {number}"));
        (Id, Link) = (opened.Sitting, opened.Link);
        await Host.Address.Post<Announcement>($"/api/door/{Link}/announce", new AnnounceWish("Host"));
        _lives.Add(Host.Live());
        await Until(() => Host.IsIn);
        await Host.Wish(new SetDoor(DoorMode.Open));
        await Host.Wish(new SetHandoutRules(HandoutRules.Usual with { Others = true }));
        if (records) await Host.Wish(new StartRecording());
        for (var n = 1; n < people; n++)
        {
            var person = new SoakPerson(this, n, server) { Pace = n == 1 ? 50 : n <= 3 ? 8 : 0 };
            People.Add(person);
            _lives.Add(person.Live());
            await Until(() => person.IsIn);
        }
    }

    private static async Task Until(Func<bool> holds)
    {
        for (var tries = 0; !holds(); tries++)
        {
            if (tries > 600) throw new InvalidOperationException("Somebody did not come in within a minute.");
            await Task.Delay(100);
        }
    }

    public void Begin()
    {
        var random = new Random(seed + number);
        foreach (var person in People) _doing.Add(Writes(person, random.Next()));
        foreach (var person in People.Where(person => person.Pace > 0)) _doing.Add(Speaks(person));
        _doing.Add(Polls(random.Next()));
        _doing.Add(Rooms(random.Next()));
        _doing.Add(Orders(random.Next()));
        _doing.Add(Files(random.Next()));
        _doing.Add(Admits());
    }

    /// <summary>Nothing new is begun; what is under way is answered.</summary>
    public async Task Rest()
    {
        await _over.CancelAsync();
        await Task.WhenAll(_doing);
    }

    public async Task End()
    {
        foreach (var person in People) person.Stop();
        await Task.WhenAll(_lives);
    }

    private async Task<bool> Wait(Random random, double from, double to)
    {
        try { await Task.Delay(TimeSpan.FromSeconds(from + (random.NextDouble() * (to - from))), _over.Token); }
        catch (OperationCanceledException) { return false; }
        return true;
    }

    private async Task Writes(SoakPerson person, int its)
    {
        var random = new Random(its);
        for (var n = 0; await Wait(random, 4, 14); n++)
        {
            if (!person.IsIn && n > 0) continue;
            var words = $"s{number} p{person.Number} n{n} {Guid.NewGuid():N}";
            oracle.Messages.Enqueue(new Act(number, words, await person.Wish(new Write(new Recipient(Reach.Everyone), words))));
        }
    }

    private async Task Speaks(SoakPerson person)
    {
        var random = new Random(person.Number);
        while (await Wait(random, 1, 3))
        {
            if (person.SilentSince is { } since)
            {
                if (SoakPerson.Now - since < SoakPerson.SilentFor) continue;
                person.SilentSince = null;
            }
            if (person is { IsIn: true, HasMicrophone: false }) await person.Wish(new OpenMicrophone());
        }
    }

    private async Task Polls(int its)
    {
        var random = new Random(its);
        while (await Wait(random, 20, 60))
        {
            if (await Host.Wish(new OpenPoll(PollForm.Of(PollKind.One, "Which one?", "Weir", "Ford", "Bank"))) == Outcome.Done)
                await Task.WhenAll(People.Where(person => person is { Number: > 0, IsIn: true }).Select(async person =>
                {
                    var option = random.Next(3);
                    await Task.Delay(Random.Shared.Next(500, 6_000));
                    if (person.Ballot is { } poll)
                        Votes.Enqueue((poll, person.Name, option, await person.Wish(new Vote(poll, Choice.Of(option)))));
                }));
            while (await Host.Wish(new ClosePoll()) == Outcome.Unknown) await Task.Delay(500);
        }
    }

    private async Task Rooms(int its)
    {
        var random = new Random(its);
        while (await Wait(random, 60, 150))
        {
            if (await Host.Wish(new PlanRooms(RoomForm.Of("One", "Two", "Three"))) != Outcome.Done) continue;
            if (await Host.Wish(new OpenRooms()) == Outcome.Refused) continue;
            await Wait(random, 30, 60);
            while (await Host.Wish(new CloseRooms(0)) == Outcome.Unknown) await Task.Delay(500);
            Rounds++;
        }
    }

    private async Task Orders(int its)
    {
        var random = new Random(its);
        while (await Wait(random, 10, 30))
        {
            var person = People[random.Next(1, 4)];
            if (!person.IsIn || person.SilentSince is not null) continue;
            var removes = random.Next(4) == 0;
            // Until it is acknowledged the person opens no microphone, and nothing is judged.
            person.SilentSince = SoakPerson.Now + 60_000;
            var isDone = await Host.Wish(removes ? new Remove([person.Seat], MayReturn: true) : new Mute([person.Seat])) == Outcome.Done;
            person.SilentSince = isDone ? SoakPerson.Now : null;
            if (isDone && removes) Removed++;
            else if (isDone) Silenced++;
        }
    }

    /// <summary>Whoever was put out waits, and is let in again by hand.</summary>
    private async Task Admits()
    {
        var random = new Random(number);
        while (await Wait(random, 3, 6))
        {
            var waiting = People.Where(person => person is { IsConnected: true, Place: -1 }).Select(person => person.Seat).ToArray();
            if (waiting is not []) await Host.Wish(new Admit([.. waiting]));
        }
    }

    private async Task Files(int its)
    {
        var random = new Random(its);
        for (var n = 0; await Wait(random, 40, 120); n++)
        {
            var bytes = new byte[random.Next(1_000, 400_000)];
            random.NextBytes(bytes);
            var name = $"file {n}.bin";
            try
            {
                await Host.Address.HandOut(Id, name, bytes);
                _handed.Add((name, SHA256.HashData(bytes)));
            }
            catch (Exception e) when (e is HttpRequestException or InvalidOperationException or TaskCanceledException)
            {
                // Refused, or cut off: nothing was acknowledged.
                oracle.Note($"no file: {SoakOracle.Gist(e)}");
            }
        }
    }

    /// <summary>Everything that was acknowledged, against what is read now.</summary>
    /// <param name="stored">The marks of all messages as they stand on the disk.</param>
    public async Task<List<string>> Check(IReadOnlyList<string> stored)
    {
        var wrong = new List<string>();
        wrong.AddRange(oracle.Written(number, stored.Where(mark => mark.StartsWith($"s{number} ", StringComparison.Ordinal)).ToList()));
        var polls = await Read<PollExport>($"/api/sittings/{Id}/polls.json");
        var cast = polls.Polls.SelectMany(poll => poll.Votes.Select(vote => (poll.Poll.Number, vote.Name, vote.Choice.Options[0])))
            .ToHashSet();
        var asked = polls.Polls.Select(poll => poll.Poll.Number).ToHashSet();
        foreach (var vote in Votes.Where(vote => vote.Outcome == Outcome.Done && asked.Contains(vote.Poll)))
            if (!cast.Contains((vote.Poll, vote.Name, vote.Option)))
                wrong.Add($"a vote was acknowledged, and is not counted: {number} {vote}");
        var known = Votes.Where(vote => vote.Outcome != Outcome.Refused).Select(vote => (vote.Poll, vote.Name, vote.Option)).ToHashSet();
        wrong.AddRange(cast.Where(vote => !known.Contains(vote)).Select(vote => $"a vote is counted that nobody gave: {number} {vote}"));
        foreach (var (name, hash) in _handed)
            if (Host.Handouts.FirstOrDefault(row => row.Name == name) is not { } row)
                wrong.Add($"a file was acknowledged, and is not there: {number}, {name}");
            else
            {
                var bytes = await Host.Address.Bytes($"/api/sittings/{Id}/handouts/{row.Number}/file");
                if (!hash.SequenceEqual(SHA256.HashData(bytes))) wrong.Add($"a file has other bytes: {number}, {name}");
            }
        var check = await Read<LedgerCheckRow>($"/api/sittings/{Id}/ledger/check");
        if (check.FirstBreak is { } broken) wrong.Add($"the ledger of {number} breaks at {broken}");
        return wrong;
    }

    /// <summary>A person may read few files in a moment: it is asked again.</summary>
    private async Task<T> Read<T>(string path)
    {
        for (var tries = 0; ; tries++)
            try { return await Host.Address.Get<T>(path); }
            catch (HttpRequestException) when (tries < 10) { await Task.Delay(3_000); }
    }
}
