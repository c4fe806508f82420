using System.Collections.Immutable;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using HoldCourt.Server.CommandLine;
using HoldCourt.Server.Ledger;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Server.Tests;

/// <summary>Chat, ledger, command line and reactions over the live line and the web.</summary>
public class RunningTests(Court court) : IClassFixture<Court>
{
    private sealed record Room(OpenedSitting Opened, Visitor HostsBrowser, Live Host, Visitor NiasBrowser, Live Nia, Visitor JunsBrowser,
        Live Jun) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync()
        {
            await Host.DisposeAsync();
            await Nia.DisposeAsync();
            await Jun.DisposeAsync();
        }
    }

    private async Task<Room> Open()
    {
        var (browser, first, second) = (await court.Host(), court.Visitor(), court.Visitor());
        var opened = await browser.Post<OpenedSitting>("/api/sessions", new OpenNow("Running"));
        var (host, nia, jun) = (await browser.Announces(opened, "Odalys"), await first.Announces(opened, "Nia"),
            await second.Announces(opened, "Jun"));
        await Eventually.Holds(() => host.Seats.Count == 3);
        await host.Done(new Admit([host.SeatOf("Nia"), host.SeatOf("Jun")]));
        await Eventually.Holds(() => nia.Me!.Place == Place.Seated && jun.Me!.Place == Place.Seated);
        return new Room(opened, browser, host, first, nia, second, jun);
    }

    [Fact]
    public async Task Messages_reach_those_they_are_for_also_in_files_and_after_a_restart()
    {
        await using var room = await Open();
        var (host, nia, jun) = (room.Host, room.Nia, room.Jun);
        await nia.Done(new Write(new Recipient(Reach.Everyone), "To all, =1+1"));
        await nia.Done(new Write(new Recipient(Reach.Bench), "To the bench"));
        await nia.Done(new Write(new Recipient(Reach.One, jun.Me!.Seat), "To Jun alone"));
        await Eventually.Holds(() => host.Messages.Count == 2 && jun.Messages.Count == 2 && nia.Messages.Count == 3);
        host.Messages.Select(row => row.Text).ShouldBe(["To all, =1+1", "To the bench"]);
        jun.Messages.Select(row => row.Text).ShouldBe(["To all, =1+1", "To Jun alone"]);

        (await nia.Do(new Write(new Recipient(Reach.Everyone), new string('x', 100_000))))!.Reason.ShouldBe(Reason.MessageTooLong);
        await nia.Done(new EditMessage(1, "To all, changed"));
        await Eventually.Holds(() => jun.Messages.Any(row => row is { Number: 1, Edited: true }));

        string FileOf(string name) => $"/api/sittings/{room.Opened.Sitting}/{name}";
        var exported = await room.HostsBrowser.Get<ChatExport>(FileOf("chat.json"));
        exported.Rows.Select(row => row.Number).ShouldBe([1, 2]);
        (await (await room.JunsBrowser.Get(FileOf("chat.txt"))).Content.ReadAsStringAsync()).ShouldContain("Nia to Jun: To Jun alone");
        (await (await room.JunsBrowser.Get(FileOf("chat.txt?language=pl&zone=Asia/Tokyo"))).Content.ReadAsStringAsync())
            .ShouldSatisfyAllConditions(
            text => text.ShouldStartWith("Czat, Running (Asia/Tokyo)"), text =>
                text.ShouldMatch(@"\[\d\d:\d\d:\d\d\] Nia do: wszyscy: To all, changed"));
        (await (await room.JunsBrowser.Get(FileOf("chat.csv"))).Content.ReadAsStringAsync()).ShouldContain("To all, changed");
        (await court.Visitor().Get(FileOf("chat.json"))).StatusCode.ShouldBe(System.Net.HttpStatusCode.NotFound);

        await host.Done(new SetOrder(Order.SeeChat, Audience.Bench));
        await host.Done(new Write(new Recipient(Reach.Everyone), "Hidden from attendees"));
        await Eventually.Holds(() => host.Messages.Any(row => row.Text == "Hidden from attendees"));
        (await jun.Ask<ChatPage>("Chat", new ChatWish(null, null))).Rows.Select(row => row.Text).ShouldBe(["To Jun alone"]);
        (await nia.Ask<ChatPage>("Chat", new ChatWish(null, "BENCH"))).Rows.ShouldHaveSingleItem().Text.ShouldBe("To the bench");

        await court.Restart();
        await using var again = await room.JunsBrowser.Connects(room.Opened);
        again.Messages.Select(row => row.Text).ShouldBe(["To Jun alone"]);
    }

    [Fact]
    public async Task The_ledger_is_for_the_bench_can_be_looked_through_and_shows_when_it_was_altered()
    {
        await using var room = await Open();
        var (host, nia) = (room.Host, room.Nia);
        await host.Done(new SetOrder(Order.React, Audience.Bench));
        (await host.Do(new Mute([nia.Me!.Seat]))).ShouldBeNull("it is so already");
        await nia.Done(new OpenMicrophone());
        await nia.Done(new Write(new Recipient(Reach.One, room.Jun.Me!.Seat), "between us"));
        var everything = new LedgerWish(null, [], null, false, null, null);
        (await nia.Ask<LedgerPage>("Ledger", everything)).Rows.ShouldBeEmpty();
        (await nia.Ask<PersonRow?>("Person", room.Jun.Me.Seat)).ShouldBeNull();
        (await host.Ask<LedgerPage>("Ledger", everything with { Topics = [Topic.Orders] })).Rows.Select(row => row.What)
            .ShouldBe(["orderSet"]);
        (await host.Ask<LedgerPage>("Ledger", everything with { Person = nia.Me.Seat })).Rows.Select(row => row.What)
            .ShouldBe(["announced", "admitted", "openedMicrophone"]);
        (await host.Ask<LedgerPage>("Ledger", everything with { ByBench = true })).Rows.Select(row => row.What)
            .ShouldBe(["admitted", "orderSet"]);
        (await host.Ask<PersonRow?>("Person", nia.Me.Seat))!.History[0].What.ShouldBe("openedMicrophone");

        string FileOf(string name) => $"/api/sittings/{room.Opened.Sitting}/{name}";
        (await room.NiasBrowser.Get(FileOf("ledger.csv"))).StatusCode.ShouldBe(System.Net.HttpStatusCode.NotFound);
        var lines = (await (await room.HostsBrowser.Get(FileOf("ledger.jsonl"))).Content.ReadAsStringAsync()).TrimEnd().Split('\n');
        lines.ShouldAllBe(line => JsonDocument.Parse(line, default).RootElement.GetProperty("digest").GetString()!.Length == 64);
        string.Join("", lines).ShouldNotContain("between us");
        var table = (await (await room.HostsBrowser.Get(FileOf("ledger.csv"))).Content.ReadAsStringAsync()).TrimEnd()
            .ReplaceLineEndings("\n").Split('\n');
        table[0].TrimStart('\uFEFF').ShouldBe("sequence,time,by,what,count,people,detail,takes back,digest");
        table.Length.ShouldBe(lines.Length + 1);
        var ordered = JsonDocument.Parse(lines.Single(line => line.Contains("\"orderSet\"", StringComparison.Ordinal)),
            default).RootElement.GetProperty("digest").GetString()!;
        table.Single(line => line.Contains(",Odalys,orderSet,", StringComparison.Ordinal)).ShouldEndWith("," + ordered);
        (await Visitor.ReasonOf(await room.HostsBrowser.Get(FileOf("ledger.xml")))).ShouldBe("noSuchAddress");
        (await room.HostsBrowser.Get<LedgerCheckRow>(FileOf("ledger/check"))).FirstBreak.ShouldBeNull();
        await using (var db = new SqliteConnection($"Data Source={Path.Combine(court.Folder, "hold-court.db")};Pooling=False"))
        {
            await db.OpenAsync();
            await using var change = db.CreateCommand();
            change.CommandText = "UPDATE Entries SET Json = replace(Json, 'orderSet', 'ordersSet') WHERE SittingId = $sitting";
            change.Parameters.AddWithValue("$sitting", room.Opened.Sitting.ToString().ToUpperInvariant());
            (await change.ExecuteNonQueryAsync()).ShouldBeGreaterThan(0);
        }
        (await room.HostsBrowser.Get<LedgerCheckRow>(FileOf("ledger/check"))).FirstBreak.ShouldNotBeNull();
    }

    [Fact]
    public async Task A_host_who_stays_out_of_reach_is_followed_by_the_first_deputy_and_everybody_reads_it()
    {
        await using var room = await Open();
        var (host, nia, jun) = (room.Host, room.Nia, room.Jun);
        await using var third = await court.Visitor().Announces(room.Opened, "Ewa");
        await Eventually.Holds(() => host.Seats.Count == 4);
        await host.Done(new Admit([host.SeatOf("Ewa")]));
        await third.DisposeAsync();
        await Eventually.Holds(() => !host.Seats[host.SeatOf("Ewa")].Connected);
        (await host.Do(new HandOver(host.SeatOf("Ewa"))))!.Reason.ShouldBe(Reason.OutOfReach);
        await host.Done(new GiveRole([host.SeatOf("Nia")], Role.Deputy));
        await Eventually.Holds(() => nia.Me!.Role == Role.Deputy);
        (await nia.Do(new SetSuccession(5)))!.Reason.ShouldBe(Reason.MinutesOutOfRange);
        await nia.Done(new SetSuccession(30));

        await host.DisposeAsync();
        await Eventually.Holds(() => !nia.Seats[nia.Sitting!.Session!.Host!.Value].Connected);
        court.Time.Forward(TimeSpan.FromSeconds(15));
        await Task.Delay(TimeSpan.FromSeconds(11));
        nia.Me!.Role.ShouldBe(Role.Deputy, "thirty seconds are not over");
        court.Time.Forward(TimeSpan.FromSeconds(10));
        await Eventually.Holds(() => nia.Me.Role == Role.Host && jun.Sitting!.Session!.HostName == "Nia", seconds: 20);
        await using var back = await room.HostsBrowser.Connects(room.Opened);
        back.Me!.Role.ShouldBe(Role.Deputy);
        (await back.Ask<LedgerPage>("Ledger", new LedgerWish(null, [Topic.People], null, false, null, null))).Rows[^1].What.ShouldBe(
            "succeeded");
        (await back.Do(new Adjourn()))!.Reason.ShouldBe(Reason.OnlyHost);
    }

    [Fact]
    public async Task A_line_is_read_with_what_it_would_do_and_reactions_are_counted_and_leave_nothing()
    {
        await using var room = await Open();
        var (host, nia, jun) = (room.Host, room.Nia, room.Jun);
        var presets = ImmutableArray<NamedPreset>.Empty;
        var reading = await host.Ask<ReadingRow>("Read", "microphones by leave", presets, "en");
        reading.Command.ShouldBe(new SetOrder(Order.Speak, Audience.Presenters));
        reading.Foresight!.Shifts.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(shift => shift.Gains.ShouldBeFalse(), shift => shift.Names.ShouldBe(["Nia", "Jun"]));
        (await host.Ask<ReadingRow>("Read", "głos dla Nia", presets, "pl")).Command.ShouldBe(new GiveFloor(nia.Me!.Seat));
        (await nia.Ask<ReadingRow>("Read", "mute ", presets, "en")).ShouldSatisfyAllConditions(
            row => row.Command.ShouldBeNull(), row =>
                row.Completions.ShouldBeEmpty("the command line is the bench's, and names nobody to others"));
        (await nia.Ask<ForesightRow>("Foresee", new { @do = "adjourn" })).Refusal!.Reason.ShouldBe(Reason.OnlyHost);

        var before = host.Version;
        await Task.WhenAll(nia.Done(new React(Sign.Applause)), jun.Done(new React(Sign.Applause)), host.Done(new React(Sign.Agreed)));
        await Eventually.Holds(() => nia.Signs.Where(row => row.Sign == Sign.Applause).Sum(row => row.Count) == 2
            && nia.Signs.Any(row => row.Sign == Sign.Agreed));
        host.Version.ShouldBe(before);
        await host.Done(new SetOrder(Order.React, Audience.Bench));
        (await nia.Do(new React(Sign.Thanks)))!.Reason.ShouldBe(Reason.ReactionsOff);
    }

    [Fact]
    public async Task The_run_sheet_of_the_plan_is_there_when_it_opens_and_the_planned_end_with_it()
    {
        var host = await court.Host();
        var plan = new Plan(
            Title: "With a sheet", Description: "", Kind: SessionKind.Standing, Start: null, Minutes: 90, Zone: "Europe/Warsaw",
            Rule: null, Except: [], EarlyEntry: true, Door: DoorMode.Open, Orders: StandingOrders.Usual, RecordsItself: false,
            RunSheet: [new Item(1, "Reports", 20, "Nia", StandingOrders.Usual with { Speak = Audience.Presenters }),
                new Item(2, "Questions")],
            Language: "pl");
        var kept = await host.Post<KeptPlan>("/api/plans", plan);
        kept.Plan.RunSheet!.Value.Length.ShouldBe(2);
        (await host.Post("/api/plans", plan with { RunSheet = [new Item(1, "x"), new Item(1, "y")] })).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.BadRequest);

        await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { new DocketRow(null, "Ewa", "ewa@larkmoor.example.org", Role.Attendee, null, "2031-03-03T09:00", 15,
            Answer.None, null) });
        var line = (await host.Get<DocketPage>($"/api/plans/{kept.Id}/docket")).Lines.Single();
        (await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", new InviteWish([line.Id!.Value]))).Count.ShouldBe(1);
        var sent = (await host.Get<List<OutboxRow>>("/api/outbox")).Single(row => row.Subject == "Zaproszenie: With a sheet");
        (await host.Get<OutboxPage>($"/api/outbox/{sent.Id}")).Text.ShouldContain(
            "Twój czas: poniedziałek, 3 marca 2031, 09:00 (Europe/Warsaw)");
        await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket", Array.Empty<DocketRow>());

        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var bench = await host.Announces(opened, "Odalys");
        await using var nia = await court.Visitor().Announces(opened, "Nia");
        bench.Sitting!.Items!.Items!.Value.Select(item => item.Title).ShouldBe(["Reports", "Questions"]);
        (bench.Sitting.Time!.EndsAt!.Value - bench.Sitting.Session!.OpenedAt).ShouldBe(TimeSpan.FromMinutes(90), TimeSpan.FromMinutes(1));
        await bench.Done(new NextItem());
        await Eventually.Holds(() => nia.Sitting!.Business!.Item is { Title: "Reports", Number: 1, Of: 2 });
        nia.Sitting!.ShouldSatisfyAllConditions(row => row.Items!.Items.ShouldBeNull(), row => row.Floor!.Turn!.Name.ShouldBe("Nia"), row =>
            row.Orders!.Speak.ShouldBe(Audience.Presenters));
    }
}
