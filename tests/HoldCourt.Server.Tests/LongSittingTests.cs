using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using HoldCourt.Server.Ledger;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Tests;

/// <summary>A sitting holds the newest in memory; what is older is read from the store, and comes back the same after a restart.</summary>
public class LongSittingTests(Court court) : IClassFixture<Court>
{
    private const int Messages = ChatLog.Depth + 40;

    private CourtDb Db() => court.Services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContext();

    /// <summary>Message 4 is Nia's, and to the bench alone; 1, 3 and 5 are the host's.</summary>
    private async Task<(OpenedSitting Opened, Visitor HostsBrowser, Live Host, Visitor NiasBrowser, Live Nia)> Long()
    {
        var (hosts, nias) = (await court.Host(), court.Visitor());
        var opened = await hosts.Post<OpenedSitting>("/api/sessions", new OpenNow("A long one"));
        var (host, nia) = (await hosts.Announces(opened, "Odalys"), await nias.Announces(opened, "Nia"));
        await Eventually.Holds(() => host.Seats.Count == 2);
        await host.Done(new Admit([host.SeatOf("Nia")]));
        await Eventually.Holds(() => nia.Me!.Place == Place.Seated);
        // Past the line, which takes no more from one seat than a hand can do.
        var grain = court.Services.GetRequiredService<IGrainFactory>().GetGrain<ISittingGrain>(opened.Sitting);
        await host.Done(new SetDoor(DoorMode.Open));
        var writers = new List<SeatId>();
        for (var n = 0; n < 1 + (Messages / 8); n++)
            writers.Add((await grain.Announce(new Announce(new PersonKey($"guest:{n}"), $"Writer {n}"))).Seat!.Value);
        for (var n = 1; n <= Messages; n++)
        {
            var by = n > 6 ? writers[n / 8] : (n % 2 == 0 ? nia : host).Me!.Seat;
            (await grain.Do(by, new Write(new Recipient(n == 4 ? Reach.Bench : Reach.Everyone), $"Message {n}."))).ShouldBeNull();
        }
        for (var n = 0; n < 520; n++)
            (await grain.Do(host.Me!.Seat, n % 2 == 0 ? new OpenMicrophone() : new CloseMicrophone())).ShouldBeNull();
        return (opened, hosts, host, nias, nia);
    }

    private static async Task TellsTheSame(Live host, Live nia)
    {
        var page = await host.Ask<ChatPage>("Chat", new ChatWish(101, null));
        page.Rows.Select(row => row.Number).ShouldBe(Enumerable.Range(1, 100));
        page.Older.ShouldBeNull();
        page.Rows[2].ShouldSatisfyAllConditions(row => row.Text.ShouldBe("I meant three"), row => row.Edited.ShouldBeTrue());
        (await host.Ask<ChatPage>("Chat", new ChatWish(Messages - 60, null))).ShouldSatisfyAllConditions(
            across => across.Rows[^1].Number.ShouldBe(Messages - 61), across =>
                across.Rows.Length.ShouldBe(100), across => across.Older.ShouldBe(Messages - 160));
        (await host.Ask<ChatPage>("Chat", new ChatWish(null, "message 9."))).Rows.Select(row => row.Number).ShouldBe([9]);
        // Nobody finds among the old what was not for them.
        (await nia.Ask<ChatPage>("Chat", new ChatWish(101, null))).Rows.Select(row => row.Number).ShouldBe(Enumerable.Range(1, 100));
        nia.Sitting!.Chat!.PutUp!.Text.ShouldBe("Message 5.");
        var muted = await host.Ask<LedgerPage>("Ledger", new LedgerWish(null, [Topic.Microphones], null, false, null, null));
        muted.Rows.Length.ShouldBe(200);
        muted.Rows.ShouldAllBe(row => row.What == "openedMicrophone" || row.What == "closedMicrophone");
        muted.More.ShouldBeTrue();
        var byBench = await host.Ask<LedgerPage>("Ledger", new LedgerWish(null, [], null, true, null, null));
        byBench.Rows.Select(row => row.What).ShouldBe(["admitted", "doorSet", "messagePutUp", "messageDeleted", "takenBack"]);
        var niasSeat = host.SeatOf("Nia");
        (await host.Ask<LedgerPage>("Ledger", new LedgerWish(null, [], niasSeat, false, null, null))).Rows
            .ShouldAllBe(row => row.By == "Nia" || row.Names.Contains("Nia"));
        (await host.Ask<PersonRow>("Person", niasSeat)).History.Select(row => row.What).ShouldContain("admitted");
        (await nia.Ask<LedgerPage>("Ledger", new LedgerWish(null, [], null, false, null, null))).Rows.ShouldBeEmpty();
        (await nia.Ask<GonePage>("Gone", niasSeat)).Rows.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_old_can_be_read_and_acted_on_and_is_the_same_after_a_restart_however_it_is_brought_back()
    {
        var (opened, hosts, host, nias, nia) = await Long();
        (await host.Ask<ForesightRow>("Foresee", new DeleteMessage(4))).Refusal.ShouldBeNull();
        await host.Done(new EditMessage(3, "I meant three"));
        (await nia.Do(new EditMessage(3, "mine")))!.Reason.ShouldBe(Reason.NotYourMessage);
        await host.Done(new PutUp(5));
        await host.Done(new DeleteMessage(6));
        await host.Done(new TakeBack());
        await Eventually.Holds(() => nia.Messages.Any(row => row is { Number: 6, Deleted: Deletion.None })
            && nia.Sitting!.Chat!.PutUp is not null);
        await TellsTheSame(host, nia);
        var before = await hosts.Get<ChatExport>($"/api/sittings/{opened.Sitting}/chat.json");
        before.Rows.Length.ShouldBe(Messages);

        await Eventually.Holds(() => Db().Snapshots.Any(snapshot => snapshot.SittingId == opened.Sitting && snapshot.Sequence >= 1_000));
        foreach (var way in new Action<CourtDb>[]
        {
            _ => { },
            // Another build wrote it.
            db => db.Snapshots.ExecuteUpdate(set => set.SetProperty(snapshot => snapshot.Form, "another")),
            // It does not belong to the entries that are there.
            db => db.Snapshots.ExecuteUpdate(set => set.SetProperty(snapshot => snapshot.Form, Snapshot.Form)
                .SetProperty(snapshot => snapshot.Digest, Array.Empty<byte>())),
            // A version that noted nothing beside the entries wrote them.
            db => db.Entries.ExecuteUpdate(set => set.SetProperty(entry => entry.At, 0).SetProperty(entry => entry.Topic, (Topic?)null)
                .SetProperty(entry => entry.About, "")
                .SetProperty(entry => entry.By, 0).SetProperty(entry => entry.IsOwn, false).SetProperty(entry => entry.Message, (int?)null))
        })
        {
            await host.DisposeAsync();
            await nia.DisposeAsync();
            using (var db = Db()) way(db);
            await court.Restart();
            (host, nia) = (await hosts.Connects(opened), await nias.Connects(opened));
            await TellsTheSame(host, nia);
        }
        (await hosts.Get<ChatExport>($"/api/sittings/{opened.Sitting}/chat.json")).Rows.ShouldBeJson(before.Rows);
        await host.Done(new Adjourn());
        await Eventually.Holds(() => !Db().Snapshots.Any(snapshot => snapshot.SittingId == opened.Sitting));
        await host.DisposeAsync();
        await nia.DisposeAsync();
    }

    /// <summary>
    /// What may be read is judged by the words of each message, which say for whom it is, and by where everybody is, which the test
    /// brought about; the rule in the core is not asked.
    /// </summary>
    [Fact]
    public async Task Nobody_reads_finds_or_senses_among_the_old_what_was_not_for_them_wherever_they_are_now()
    {
        using var hosts = await court.Host();
        var opened = await hosts.Post<OpenedSitting>("/api/sessions", new OpenNow("Old words"));
        var grain = court.Services.GetRequiredService<IGrainFactory>().GetGrain<ISittingGrain>(opened.Sitting);
        var chat = court.Services.GetRequiredService<IGrainFactory>().In<ISittingChat>(opened.Sitting);
        await using var live = await hosts.Announces(opened, "Odalys");
        var host = live.Me!.Seat;
        await Does(host, new SetDoor(DoorMode.Open));
        string[] names = ["deputy", "presenter", "attendee", "removed", "left", "back", "again", "later"];
        var seats = new Dictionary<string, SeatId> { ["host"] = host };
        foreach (var name in names[..^1]) seats[name] = await Comes(name);
        await Does(host, new GiveRole([seats["deputy"]], Role.Deputy));
        await Does(host, new GiveRole([seats["presenter"]], Role.Presenter));

        var messages = new List<(SeatId From, Recipient To, string Text)>();
        foreach (var from in seats.Values)
        {
            await Writes(from, new Recipient(Reach.Everyone), "for all");
            await Writes(from, new Recipient(Reach.Bench), "for the bench");
            var to = seats.Values.Where(seat => seat != from).ElementAt(messages.Count % (seats.Count - 1));
            await Writes(from, new Recipient(Reach.One, to), "for one");
        }
        var old = messages.Count;
        for (var n = 0; n < ChatLog.Depth + 20; n++)
            await Writes(n % 8 == 0 ? await Comes($"writer {n}") : messages[^1].From, new Recipient(Reach.Everyone), "for all");
        await Does(host, new Remove([seats["removed"]], MayReturn: false));
        await Does(seats["left"], new Leave());
        await Does(host, new SendToLobby([seats["back"]]));
        // Who was on the bench once is no longer.
        await Does(host, new GiveRole([seats["again"]], Role.Deputy));
        await Does(host, new GiveRole([seats["again"]], Role.Attendee));
        await Does(host, new SetDoor(DoorMode.Attended));
        seats["waits"] = await Comes("waits");
        string[] inside = ["host", "deputy", "presenter", "attendee", "again"];
        await EachReadsTheirOwn(since: 0);

        // From now on people come one at a time: whoever comes in later reads nothing of before.
        await Does(host, new Expect(new DocketLine("Somebody", Slot: new Instant(DateTimeOffset.UtcNow.ToUnixTimeMilliseconds()))));
        seats["later"] = await Comes("later");
        await Does(host, new Admit([seats["later"]]));
        inside = [.. inside, "later"];
        await EachReadsTheirOwn(since: old);

        async Task EachReadsTheirOwn(int since)
        {
            foreach (var (name, seat) in seats)
            {
                var sitsOnBench = name is "host" or "deputy";
                var may = messages.Select((message, at) => (message, Number: at + 1)).Where(one =>
                    one.message.From == seat
                    || (inside.Contains(name) && (one.message.To.Seat == seat
                        || (one.message.To.Reach == Reach.Everyone && (since == 0 || name != "later"))
                        || (one.message.To.Reach == Reach.Bench && sitsOnBench))))
                    .Select(one => one.Number).ToHashSet();
                var read = new HashSet<int>();
                foreach (var wish in new ChatWish[]
                {
                    new(null, null), new(old + 1, null), new(old + 1, "for"), new(null, "bench"), new(null, "for one"),
                    new(int.MaxValue, null), new(int.MinValue, null), new(0, "for"), new(-3, null), new(2, null), new(null, "deputy")
                })
                {
                    var rows = (await chat.Read(seat, wish)).Rows;
                    foreach (var row in rows) may.ShouldContain(row.Number, $"{name}: {row}");
                    read.UnionWith(rows.Select(row => row.Number));
                }
                read.Where(number => number <= old).ShouldBe(may.Where(number => number <= old), ignoreOrder: true, name);
                for (var number = 1; number <= old; number++)
                {
                    if (may.Contains(number)) continue;
                    // What is there and not for them looks like what is not there.
                    foreach (var ask in new Func<int, SeatCommand>[]
                    {
                        at => new DeleteMessage(at), at => new EditMessage(at, "mine"), at => new MarkQuestion(at, Question.Asked),
                        at => new PutUp(at)
                    })
                    {
                        var (here, nowhere) = (ask(number), ask(99_999));
                        (await grain.Foresee(seat, here)).ShouldBeJson(await grain.Foresee(seat, nowhere), $"{name} {here}");
                        (await grain.Do(seat, here)).ShouldBeJson(await grain.Do(seat, nowhere), $"{name} {here}");
                    }
                }
            }
        }

        async Task<SeatId> Comes(string name) => (await grain.Announce(new Announce(new PersonKey($"guest:{name}"), name))).Seat!.Value;

        async Task Does(SeatId by, SeatCommand command) => (await grain.Do(by, command)).ShouldBeNull();

        async Task Writes(SeatId from, Recipient to, string text)
        {
            await Does(from, new Write(to, text));
            messages.Add((from, to, text));
        }
    }
}
