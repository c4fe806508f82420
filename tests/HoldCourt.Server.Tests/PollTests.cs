using System.Net;
using System.Security.Cryptography;
using System.Text;
using HoldCourt.Server.Api;
using HoldCourt.Server.StandIns.Extras;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Server.Tests;

/// <summary>Polls over the live line, and the box of a secret one: what is on the disk, and who can make what of it.</summary>
public sealed class PollTests : IAsyncLifetime
{
    private Court _court = null!;

    public async Task InitializeAsync() => _court = await Court.With("--Demo:Load", "true");

    public Task DisposeAsync() => _court.DisposeAsync();

    private sealed record Assembly(OpenedSitting Opened, Visitor Host, Live Bench, List<(Visitor Visitor, Live Line)> People);

    private async Task<Assembly> Opened(int people)
    {
        var host = await _court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("With questions"));
        var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        var all = new List<(Visitor, Live)>();
        for (var n = 0; n < people; n++)
        {
            var visitor = _court.Visitor();
            all.Add((visitor, await visitor.Announces(opened, $"Voter {n}")));
        }
        return new Assembly(opened, host, bench, all);
    }

    private static string NewToken() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    private static PollsFacet Polls(Live live) { lock (live) return live.Sitting!.Polls!; }

    private string Database => Path.Combine(_court.Folder, "hold-court.db");

    private T Asked<T>(string question, Func<SqliteDataReader, T> read)
    {
        using var connection = new SqliteConnection($"Data Source={Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = question;
        using var reader = command.ExecuteReader();
        return read(reader);
    }

    private List<(byte[] Key, byte[] Sealed)> Ballots() => Asked("select Key, Sealed from Ballots", reader =>
    {
        var all = new List<(byte[], byte[])>();
        while (reader.Read()) all.Add(((byte[])reader[0], (byte[])reader[1]));
        return all;
    });

    private string[] KeyFiles() => Directory.Exists(Path.Combine(_court.Folder, "boxes"))
        ? Directory.GetFiles(Path.Combine(_court.Folder, "boxes"))
        : [];

    [Fact]
    public async Task A_named_poll_is_followed_by_the_bench_and_seen_by_others_when_it_is_shown()
    {
        var (opened, host, bench, people) = await Opened(2);
        var (nia, line) = people[0];
        await using var _ = bench;
        await bench.Done(new OpenPoll(PollForm.Of(PollKind.One, "Which first?", "weir", "ford")));
        await line.Done(new Vote(1, Choice.Of(1)));
        await Eventually.Holds(() => Polls(bench).Open?.Result?.Bars[1].Count == 1 && line.Me!.Ballot is { Voted: true });
        Polls(line).Open!.ShouldSatisfyAllConditions(poll => poll.Result.ShouldBeNull(), poll => poll.Turnout.ShouldBeNull());
        // Whoever comes by another browser is another seat, and did not stand there when it was opened.
        await using var other = await _court.Visitor().Announces(opened, "Voter 0");
        (await other.Do(new Vote(1, Choice.Of(0))))!.Reason.ShouldBe(Reason.NotVoter);
        // A second tab takes the seat, and the first one votes no more.
        await using var second = await nia.Connects(opened);
        (await line.Do(new Vote(1, Choice.Of(0))))!.Reason.ShouldBe(Reason.Superseded);
        await second.Done(new Vote(1, Choice.Of(0)));
        await bench.Done(new Remove([people[1].Line.Me!.Seat], MayReturn: false));
        (await people[1].Line.Do(new Vote(1, Choice.Of(0))))!.Reason.ShouldBe(Reason.NotInside);
        (await nia.Get($"/api/sittings/{opened.Sitting}/polls.json")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await bench.Done(new ClosePoll());
        await Eventually.Holds(() => Polls(second).Open is null);
        Polls(second).Over.ShouldBeEmpty();
        await bench.Done(new ShowResult(1, true));
        await Eventually.Holds(() => Polls(second).Over is [{ Result.Turnout: 1 }]);
        var csv = await (await host.Get($"/api/sittings/{opened.Sitting}/polls.csv")).Content.ReadAsStringAsync();
        csv.ShouldContain(",weir,1,Voter 0,");
        var json = await host.Get<PollExport>($"/api/sittings/{opened.Sitting}/polls.json");
        json.Polls.ShouldHaveSingleItem().Votes.ShouldHaveSingleItem().Choice.ShouldBe(Choice.Of(0));
        (await nia.Get($"/api/sittings/{opened.Sitting}/polls.csv")).StatusCode.ShouldBe(HttpStatusCode.NotFound, "nor afterwards");
        (await _court.Visitor().Get($"/api/sittings/{opened.Sitting}/polls.csv")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>With the whole folder in hand while it is open, but for the key, and with all of it once it is counted.</summary>
    [Fact]
    public async Task Nobody_can_say_who_chose_what_by_order_time_row_ids_sizes_or_words()
    {
        var (opened, host, bench, people) = await Opened(12);
        await bench.Done(new OpenPoll(PollForm.Of(PollKind.Words, "What is most needed?") with { Secret = true }));
        var tokens = people.ConvertAll(_ => NewToken());
        var answers = people.ConvertAll(person => $"{new string('q', people.IndexOf(person) * 9)}zwiebelfisch{people.IndexOf(person)}");
        for (var n = 0; n < people.Count; n++)
            await people[n].Line.Done(new Vote(1, new Choice([], null, answers[n]), tokens[n]));
        // Changed once, in an order of its own.
        answers[3] = "zwiebelfisch-changed";
        await people[3].Line.Done(new Vote(1, new Choice([], null, answers[3]), tokens[3]));
        Polls(bench).Open!.Result.ShouldBeNull("not even a count, which would rise with a name");

        var ballots = Ballots();
        ballots.Count.ShouldBe(12);
        ballots.Select(ballot => ballot.Sealed.Length).Distinct().ShouldHaveSingleItem("they are all of one size");
        ballots.Select(ballot => Convert.ToHexString(ballot.Key)).ShouldBeInOrder(SortDirection.Ascending, StringComparer.Ordinal);
        Should.Throw<SqliteException>(() => Asked("select rowid from Ballots", reader => reader.Read())).Message.ShouldContain("rowid");
        Asked("select name from pragma_table_info('Ballots')", reader =>
        {
            var columns = new List<string>();
            while (reader.Read()) columns.Add(reader.GetString(0));
            return columns;
        }).ShouldBe(["SittingId", "Poll", "Key", "Sealed"]);
        OnDisk().ShouldNotContain("zwiebelfisch");
        foreach (var token in tokens) OnDisk().ShouldNotContain(token);
        KeyFiles().ShouldHaveSingleItem();
        if (!OperatingSystem.IsWindows())
            File.GetUnixFileMode(KeyFiles()[0]).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        var key = Convert.ToHexString(File.ReadAllBytes(KeyFiles()[0]));

        await bench.Done(new ClosePoll());
        await Eventually.Holds(() => Polls(bench).Over is [{ Result: not null }]);
        var counted = Polls(bench).Over[0];
        counted.Result!.Bars.Sum(bar => bar.Count).ShouldBe(12);
        await Eventually.Holds(() => KeyFiles().Length == 0 && Ballots().Count == 0);
        foreach (var file in Directory.GetFiles(_court.Folder, "*", SearchOption.AllDirectories))
            Convert.ToHexString(Read(file)).ShouldNotContain(key, customMessage: file);
        var fact = Asked($"select Json from Entries where SittingId = '{opened.Sitting.ToString().ToUpperInvariant()}'", reader =>
        {
            var all = new List<string>();
            while (reader.Read()) all.Add(reader.GetString(0));
            return all;
        });
        var boxed = fact.Where(json => json.Contains("voteBoxed", StringComparison.Ordinal)).ToList();
        boxed.Count.ShouldBe(13);
        boxed.ShouldAllBe(json => !json.Contains("zwiebelfisch", StringComparison.Ordinal));
        fact.Where(json => json.Contains("zwiebelfisch", StringComparison.Ordinal)).ShouldHaveSingleItem().ShouldContain("boxCounted");
        // In an order that follows from the answers alone.
        var box = (await host.Get<PollExport>($"/api/sittings/{opened.Sitting}/polls.json")).Polls[0].Ballots;
        box.Select(ballot => ballot.Text!).ShouldBe(answers.Order(StringComparer.Ordinal), ignoreOrder: true);
        SecretBox.InOrder(box.Reverse()).ShouldBe(box);
        SecretBox.DigestOf(box).ShouldBe(counted.Digest);
    }

    [Fact]
    public async Task Only_the_browser_that_voted_changes_a_secret_vote_and_nobody_elses_token_is_taken()
    {
        var (opened, host, bench, people) = await Opened(3);
        await bench.Done(new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Secret = true }));
        var (mine, theirs) = (NewToken(), NewToken());
        await people[0].Line.Done(new Vote(1, Choice.Of(0), mine));
        (await people[0].Line.Do(new Vote(1, Choice.Of(1), theirs)))!.Reason.ShouldBe(Reason.VotedElsewhere);
        (await people[1].Line.Do(new Vote(1, Choice.Of(1), mine)))!.Reason.ShouldBe(Reason.NotUnderstood);
        (await people[1].Line.Do(new Vote(1, Choice.Of(1), mine.ToUpperInvariant())))!.Reason.ShouldBe(Reason.NotUnderstood);
        // Two at once by one token: one of them is in the box, and the sitting goes on.
        var both = await Task.WhenAll(people.Skip(1).Select(one => one.Line.Do(new Vote(1, Choice.Of(1), theirs))));
        both.Count(refusal => refusal is null).ShouldBe(1);
        Ballots().Count.ShouldBe(2);

        foreach (var (_, line) in people) await line.DisposeAsync();
        await bench.DisposeAsync();
        await _court.Restart();
        await using var back = await people[0].Visitor.Connects(opened);
        await using var again = await host.Connects(opened);
        back.Me!.Ballot.ShouldBe(new BallotRow(1, May: true, Voted: true, Choice: null));
        await back.Done(new Vote(1, Choice.Of(1), mine));
        Ballots().Count.ShouldBe(2);
        await again.Done(new Vote(1, Choice.Of(0), NewToken()));
        await again.Done(new ClosePoll());
        await Eventually.Holds(() => Polls(again).Over is [{ Result: not null }]);
        Polls(again).Over[0].Result!.Bars.Select(bar => bar.Count).ShouldBe([1, 2]);
        (await back.Do(new Vote(1, Choice.Of(0), mine)))!.Reason.ShouldBe(Reason.PollIsClosed);
    }

    [Fact]
    public async Task A_box_whose_key_is_gone_is_said_to_be_lost_and_the_next_one_counts()
    {
        var (opened, host, bench, people) = await Opened(3);
        await bench.Done(new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Secret = true }));
        foreach (var voter in new[] { people[0].Line, people[1].Line, bench }) await voter.Done(new Vote(1, Choice.Of(0), NewToken()));
        foreach (var (_, line) in people) await line.DisposeAsync();
        await bench.DisposeAsync();
        await _court.Stop();
        File.Delete(KeyFiles().ShouldHaveSingleItem());
        await _court.InitializeAsync();
        await using var again = await host.Connects(opened);
        await using var back = await people[2].Visitor.Connects(opened);
        (await back.Do(new Vote(1, Choice.Of(0), NewToken())))!.Reason.ShouldBe(Reason.BoxIsLost);
        await using var first = await people[0].Visitor.Connects(opened);
        await again.Done(new ClosePoll());
        await Eventually.Holds(() => Polls(again).Over is [{ Lost: true, Result: null }]);
        await again.Done(new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Secret = true }));
        foreach (var voter in new[] { back, first, again }) await voter.Done(new Vote(2, Choice.Of(0), NewToken()));
        await again.Done(new Adjourn());
        await Eventually.Holds(() => KeyFiles().Length == 0 && Ballots().Count == 0);
        (await host.Get<PollExport>($"/api/sittings/{opened.Sitting}/polls.json")).Polls[1].Poll.Result!.First.ShouldBe([0]);
    }

    [Fact]
    public async Task A_box_that_cannot_be_read_just_now_is_counted_by_itself_later()
    {
        var (_, _, bench, people) = await Opened(2);
        await bench.Done(new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Secret = true }));
        foreach (var voter in people.Select(one => one.Line).Append(bench)) await voter.Done(new Vote(1, Choice.Of(0), NewToken()));
        Asked("alter table Ballots rename to Away", reader => reader.Read());
        await bench.Done(new ClosePoll());
        await Task.Delay(500);
        Polls(bench).Over.ShouldAllBe(poll => poll.Result == null);
        Asked("alter table Away rename to Ballots", reader => reader.Read());
        await Eventually.Succeeds(() =>
        {
            Polls(bench).Over[0].Result!.Bars.Select(bar => bar.Count).ShouldBe([3, 0]);
            return Task.CompletedTask;
        }, seconds: 30);
    }

    /// <summary>The vote of the ledger and the ballot stand together or not at all.</summary>
    [Fact]
    public async Task A_vote_that_cannot_be_stored_is_neither_in_the_ledger_nor_in_the_box_and_can_be_cast_again()
    {
        var (opened, _, bench, people) = await Opened(2);
        await bench.Done(new OpenPoll(PollForm.Of(PollKind.YesOrNo) with { Secret = true }));
        Asked("create trigger Full before insert on Ballots begin select raise(abort, 'full'); end", reader => reader.Read());
        var token = NewToken();
        (await people[0].Line.Do(new Vote(1, Choice.Of(0), token)))!.Reason.ShouldBe(Reason.NotStored);
        int Noted() => Asked(
            "select count(*) from Entries where Json like '%voteBoxed%'", reader => reader.Read() ? reader.GetInt32(0) : -1);
        Noted().ShouldBe(0);
        Asked("drop trigger Full", reader => reader.Read());
        await Eventually.Succeeds(async () =>
        {
            await using var line = await people[0].Visitor.Connects(opened);
            await line.Done(new Vote(1, Choice.Of(0), token));
        }, seconds: 20);
        (Ballots().Count, Noted()).ShouldBe((1, 1));
    }

    [Fact]
    public void The_simulated_people_answer_whatever_they_are_asked()
    {
        foreach (var kind in Enum.GetValues<PollKind>())
            for (var number = 0; number < 40; number++)
            {
                var form = PollForm.Of(kind, "What?", PollForm.TakesOptions(kind) ? ["a", "b", "c"] : []) with { Most = 1 };
                var poll = new Poll(1, form with { Secret = number % 2 == 0 }, new Instant(0), null, [1]);
                var vote = ExtraVotes.Of(poll, number, byPhone: true);
                vote.BallotFor(form).ShouldNotBeNull($"{kind}, {number}");
                Vote.IsToken(vote.Token).ShouldBe(poll.Form.Secret);
            }
    }

    private static byte[] Read(string file)
    {
        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        using var memory = new MemoryStream();
        stream.CopyTo(memory);
        return memory.ToArray();
    }

    /// <summary>All files of the house, the journal of the database among them, but for the key.</summary>
    private string OnDisk() => string.Concat(Directory.GetFiles(_court.Folder, "*", SearchOption.AllDirectories)
        .Where(file => !file.EndsWith(".key", StringComparison.Ordinal)).Select(file => Encoding.Latin1.GetString(Read(file))));
}
