using System.Net;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>What is planned: times, codes, papers, presets.</summary>
public class PlanTests(Court court) : IClassFixture<Court>
{
    [Fact]
    public async Task A_recurring_plan_keeps_its_local_time_over_clock_changes_and_leaves_out_its_exceptions()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans",
            Planned("Weekly", SessionKind.Recurring, "2031-03-17T09:00", rule: "FREQ=WEEKLY;BYDAY=MO", except: "2031-03-24"));
        // The clocks go forward on 30 March 2031.
        kept.Next.Take(3).ShouldBe([Utc("2031-03-17T08:00"), Utc("2031-03-31T07:00"), Utc("2031-04-07T07:00")]);
        var again = await host.Get<KeptPlan>($"/api/plans/{kept.Id}");
        again.Plan.ShouldSatisfyAllConditions(plan => plan.Start.ShouldBe("2031-03-17T09:00"), plan =>
            plan.Orders.Speak.ShouldBe(Audience.Presenters), plan => plan.Except.ShouldBe(["2031-03-24"]));
        (await host.Get<List<SessionCard>>("/api/sessions")).Single(card => card.Id == kept.Id).Next.ShouldBe(Utc("2031-03-17T08:00"));
    }

    [Theory]
    [InlineData("", SessionKind.Once, "2031-03-03T09:00", "Europe/Berlin", null, "titleEmpty")]
    [InlineData("x", SessionKind.Once, "2031-03-30T02:30", "Europe/Berlin", null, "timeSkipped")]
    [InlineData("x", SessionKind.Once, "next Monday", "Europe/Berlin", null, "timeNotUnderstood")]
    [InlineData("x", SessionKind.Once, null, "Europe/Berlin", null, "timeNotUnderstood")]
    [InlineData("x", SessionKind.Once, "2031-03-03T09:00", "Middle/Earth", null, "zoneUnknown")]
    [InlineData("x", SessionKind.Recurring, "2031-03-03T09:00", "Europe/Berlin", "FREQ=SOMETIMES", "ruleNotUnderstood")]
    [InlineData("x", SessionKind.Recurring, "2031-03-03T09:00", "Europe/Berlin", "FREQ=SECONDLY", "ruleNotUnderstood")]
    [InlineData("x", SessionKind.Recurring, "2031-03-03T09:00", "Europe/Berlin", "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "ruleNeverFires")]
    [InlineData("x", SessionKind.Recurring, "2031-03-03T09:00", "Europe/Berlin", "FREQ=WEEKLY;UNTIL=20310101T000000Z", "ruleNeverFires")]
    public async Task A_plan_that_cannot_be_kept_says_why(string title, SessionKind kind, string? start, string zone, string? rule,
        string reason)
    {
        using var host = await court.Host();
        (await Visitor.ReasonOf(await host.Post("/api/plans", Planned(title, kind, start, zone, rule)))).ShouldBe(reason);
    }

    [Fact]
    public async Task A_time_that_exists_twice_is_the_first_and_says_so()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Twice", start: "2031-10-26T02:30"));
        kept.ShouldSatisfyAllConditions(plan => plan.TimeTwice.ShouldBeTrue(), plan => plan.Next.ShouldBe([Utc("2031-10-26T00:30")]));
    }

    [Fact]
    public async Task Other_hosts_and_guests_reach_nothing_of_it()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Mine"));
        using var guest = court.Visitor();
        foreach (var path in new[] { $"/api/plans/{kept.Id}", $"/api/plans/{kept.Id}/docket", "/api/contacts", "/api/outbox",
            "/api/presets", "/api/sessions/slots?from=0" })
            (await guest.Get(path)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized, path);
        (await Visitor.ReasonOf(await host.Get($"/api/plans/{Guid.NewGuid()}"))).ShouldBe("noSuchSession");

        using var other = await court.AnotherHost();
        foreach (var path in new[] { $"/api/plans/{kept.Id}", $"/api/plans/{kept.Id}/docket", $"/api/plans/{kept.Id}/papers",
            $"/api/plans/{kept.Id}/docket/docket.csv" })
            (await Visitor.ReasonOf(await other.Get(path))).ShouldBe("noSuchSession", path);
        foreach (var path in new[] { $"/api/sessions/{kept.Id}/open", $"/api/plans/{kept.Id}/cancel", $"/api/plans/{kept.Id}/copy",
            $"/api/plans/{kept.Id}/link", $"/api/plans/{kept.Id}/host-key" })
            (await Visitor.ReasonOf(await other.Post(path))).ShouldBe("noSuchSession", path);
        (await other.Get<List<SessionCard>>("/api/sessions")).ShouldBeEmpty();
    }

    [Fact]
    public async Task Passcode_and_host_key_are_shown_once_and_which_one_is_typed_decides_the_role()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Two codes") with { Door = DoorMode.Open });
        var passcode = (await host.Post<NewCode>($"/api/plans/{kept.Id}/passcode")).Code;
        var key = (await host.Post<NewCode>($"/api/plans/{kept.Id}/host-key")).Code;
        (await (await host.Get($"/api/plans/{kept.Id}")).Content.ReadAsStringAsync()).ShouldNotContain(passcode);
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");

        async Task<Live> Enter(string name, string code)
        {
            var visitor = court.Visitor();
            await visitor.Post<Announcement>($"/api/door/{kept.Link}/announce", new AnnounceWish(name, code));
            return await visitor.Connects(opened);
        }
        await using var guest = await Enter("Guest", passcode);
        await using var deputy = await Enter("Stand-in", key);
        guest.Me!.Role.ShouldBe(Role.Attendee);
        deputy.Me!.Role.ShouldBe(Role.Host, "the first with the key leads while the host is not there");
        await using var owner = await host.Announces(opened, "Odalys");
        owner.Me!.Role.ShouldBe(Role.Deputy);
        (await Visitor.ReasonOf(await court.Visitor().Post($"/api/door/{kept.Link}/announce", new AnnounceWish("Guess", "abcdef"))))
            .ShouldBe("passcodeWrong");
        (await host.Send(HttpMethod.Delete, $"/api/plans/{kept.Id}/passcode")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await court.Visitor().Get<DoorPage>($"/api/door/{kept.Link}"))
            .ShouldSatisfyAllConditions(page => page.NeedsPasscode.ShouldBeFalse(), page => page.HasHostKey.ShouldBeTrue());
    }

    [Fact]
    public async Task A_new_link_ends_the_old_one_but_not_under_a_sitting_that_runs()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Got around"));
        var renewed = await host.Post<KeptPlan>($"/api/plans/{kept.Id}/link");
        renewed.Link.ShouldNotBe(kept.Link);
        (await Visitor.ReasonOf(await court.Visitor().Get($"/api/door/{kept.Link}"))).ShouldBe("noSuchLink");
        (await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open")).Link.ShouldBe(renewed.Link);
        (await Visitor.ReasonOf(await host.Post($"/api/plans/{kept.Id}/link"))).ShouldBe("isLive");
    }

    [Fact]
    public async Task Before_it_opens_people_wait_in_quiet_or_stay_outside_as_the_plan_says()
    {
        using var host = await court.Host();
        foreach (var early in new[] { true, false })
        {
            var kept = await host.Post<KeptPlan>("/api/plans", Planned($"Early {early}") with { EarlyEntry = early, Door = DoorMode.Open });
            var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open?prepare=true");
            await using var live = await host.Announces(opened, "Odalys");
            live.Sitting!.Session!.Phase.ShouldBe(Phase.Prepare);
            using var guest = court.Visitor();
            (await guest.Get<DoorPage>($"/api/door/{kept.Link}")).Phase.ShouldBe(early ? DoorPhase.Open : DoorPhase.NotOpen);
            var answer = await guest.Post($"/api/door/{kept.Link}/announce", new AnnounceWish("Runa"));
            if (!early) (await Visitor.ReasonOf(answer)).ShouldBe("notOpen");
            await live.Done(new Begin());
            (await guest.Get<DoorPage>($"/api/door/{kept.Link}")).Phase.ShouldBe(DoorPhase.Open);
        }
    }

    [Fact]
    public async Task Papers_are_what_their_names_say_and_only_those_inside_get_them_as_downloads()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Papers") with { Door = DoorMode.Attended });
        Task<HttpResponseMessage> Add(string name, byte[] bytes) =>
            host.Send(HttpMethod.Post, $"/api/plans/{kept.Id}/papers/{Uri.EscapeDataString(name)}", bytes);
        (await Add("map.pdf", "%PDF-1.7 weir"u8.ToArray())).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Add("map.pdf", "%PDF-1.7 other"u8.ToArray())).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Visitor.ReasonOf(await Add("page.html", "<script>"u8.ToArray()))).ShouldBe("fileTypeNotAllowed");
        (await Visitor.ReasonOf(await Add("fake.png", "%PDF-1.7"u8.ToArray()))).ShouldBe("fileTypeNotAllowed");
        (await Visitor.ReasonOf(await Add("none.txt", []))).ShouldBe("fileEmpty");
        (await Visitor.ReasonOf(await Add("large.pdf", new byte[Uploads.Largest + 1]))).ShouldBe("tooLarge");
        var papers = await host.Get<List<PaperRow>>($"/api/plans/{kept.Id}/papers");
        papers.Select(paper => paper.Name).ShouldBe(["map (2).pdf", "map.pdf"]);

        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var live = await host.Announces(opened, "Odalys");
        using var visitor = court.Visitor();
        await using var guest = await visitor.Announces(opened, "Guest");
        var address = $"/api/door/{kept.Link}/papers";
        (await Visitor.ReasonOf(await visitor.Get(address))).ShouldBe("notInside");
        await Eventually.Holds(() => live.Seats.Count == 2);
        await live.Done(new Admit([guest.Me!.Seat]));
        await Eventually.Holds(() => guest.Me!.Place == Place.Seated);
        (await visitor.Get<List<PaperRow>>(address)).Count.ShouldBe(2);
        var file = await visitor.Get($"{address}/{papers[1].Id}");
        file.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
        (await file.Content.ReadAsStringAsync()).ShouldBe("%PDF-1.7 weir");

        (await visitor.Send(HttpMethod.Delete, $"/api/plans/{kept.Id}/papers/{papers[1].Id}")).StatusCode.ShouldBe(
            HttpStatusCode.Unauthorized);
        (await Visitor.ReasonOf(await host.Send(HttpMethod.Delete, $"/api/plans/{Guid.NewGuid()}/papers/{papers[1].Id}")))
            .ShouldBe("noSuchSession");
        (await host.Send(HttpMethod.Delete, $"/api/plans/{kept.Id}/papers/{papers[1].Id}")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await visitor.Get<List<PaperRow>>(address)).Select(paper => paper.Name).ShouldBe(["map (2).pdf"]);
        (await visitor.Get($"{address}/{papers[1].Id}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Orders_are_kept_under_a_name_and_a_copy_takes_the_docket_along_without_the_invitations()
    {
        using var host = await court.Host();
        await host.Post<PresetRow>("/api/presets",
            new PresetRow(0, "Lecture", DoorMode.Listed, StandingOrders.Usual with { Speak = Audience.Bench }));
        await host.Post<PresetRow>("/api/presets", new PresetRow(0, "Lecture", DoorMode.Open, StandingOrders.Usual));
        (await host.Get<List<PresetRow>>("/api/presets")).Single(preset => preset.Name == "Lecture").Door.ShouldBe(DoorMode.Open);
        var other = await host.Post<PresetRow>("/api/presets", new PresetRow(0, "Hearing", DoorMode.Open, StandingOrders.Usual));
        (await host.Send(HttpMethod.Delete, $"/api/presets/{other.Id}")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await host.Get<List<PresetRow>>("/api/presets")).Select(preset => preset.Name).ShouldNotContain("Hearing");
        (await Visitor.ReasonOf(await host.Post("/api/presets", new PresetRow(0, " ", DoorMode.Open, StandingOrders.Usual))))
            .ShouldBe("presetNameOutOfRange");

        var kept = await host.Post<KeptPlan>("/api/plans", Planned("To copy"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket", new[] { Line("Nia Okafor", "nia@larkmoor.example.org") });
        await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        var copy = await host.Post<KeptPlan>($"/api/plans/{kept.Id}/copy");
        copy.Link.ShouldNotBe(kept.Link);
        (await host.Get<DocketPage>($"/api/plans/{copy.Id}/docket")).Lines.Single()
            .ShouldSatisfyAllConditions(line => line.Name.ShouldBe("Nia Okafor"), line => line.InvitedAt.ShouldBeNull());
    }
}
