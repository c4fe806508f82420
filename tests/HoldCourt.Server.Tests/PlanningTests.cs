using System.Net;
using System.Net.Http.Json;
using System.Text;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Docket;
using HoldCourt.Core.Orders;
using HoldCourt.Core.Sittings;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using MimeKit;

namespace HoldCourt.Server.Tests;

public class PlanningTests(Court court) : IClassFixture<Court>
{
    private static Plan Planned(string title, SessionKind kind = SessionKind.Once, string? start = "2031-03-03T09:00", string zone = "Europe/Berlin", string? rule = null, params string[] except) => new(
        title, "About the weir", kind, start, 60, zone, rule, except, true, DoorMode.Attended, OrderSheet.Usual with { Speak = Audience.Presenters }, false);

    private static SheetLine Line(string name, string? email = null, string? slot = null, int? minutes = null, Role role = Role.Attendee) =>
        new(null, name, email, role, null, slot, minutes, Answer.None, null);

    private static Instant Utc(string time) => new(DateTimeOffset.Parse(time + "Z", System.Globalization.CultureInfo.InvariantCulture).ToUnixTimeMilliseconds());

    [Fact]
    public async Task A_recurring_plan_keeps_its_local_time_over_clock_changes_and_leaves_out_its_exceptions()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Weekly", SessionKind.Recurring, "2031-03-17T09:00", rule: "FREQ=WEEKLY;BYDAY=MO", except: "2031-03-24"));
        // The clocks go forward on 30 March 2031.
        kept.Next.Take(3).ShouldBe([Utc("2031-03-17T08:00"), Utc("2031-03-31T07:00"), Utc("2031-04-07T07:00")]);
        var again = await host.Get<KeptPlan>($"/api/plans/{kept.Id}");
        again.Plan.ShouldSatisfyAllConditions(plan => plan.Start.ShouldBe("2031-03-17T09:00"), plan => plan.Orders.Speak.ShouldBe(Audience.Presenters), plan => plan.Except.ShouldBe(["2031-03-24"]));
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
    public async Task A_plan_that_cannot_be_kept_says_why(string title, SessionKind kind, string? start, string zone, string? rule, string reason)
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
        foreach (var path in new[] { $"/api/plans/{kept.Id}", $"/api/plans/{kept.Id}/docket", "/api/contacts", "/api/outbox", "/api/presets", "/api/sessions/slots?from=0" })
            (await guest.Get(path)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized, path);
        (await Visitor.ReasonOf(await host.Get($"/api/plans/{Guid.NewGuid()}"))).ShouldBe("noSuchSession");
    }

    [Fact]
    public async Task Invited_by_mail_a_guest_answers_comes_by_the_personal_link_and_is_surely_recognized_under_any_name()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("By invitation", start: "2031-05-05T10:00"));
        var sheet = await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("Nia Okafor", "nia@larkmoor.example.org", role: Role.Presenter), Line("Jun Takeda") });
        (await host.Post<Told>($"/api/plans/{kept.Id}/invite", new InviteWish([.. sheet.Lines.Select(line => line.Id!.Value)]))).Count.ShouldBe(1, "only who has an address");

        var sent = (await host.Get<List<OutboxRow>>("/api/outbox")).First(row => row.Subject == "Invitation: By invitation");
        using var message = MimeMessage.Load(await (await host.Get($"/api/outbox/{sent.Id}/message.eml")).Content.ReadAsStreamAsync());
        message.To.Mailboxes.Single().Address.ShouldBe("nia@larkmoor.example.org");
        var calendar = Ical.Net.Calendar.Load(message.BodyParts.OfType<TextPart>().Single(part => part.ContentType.IsMimeType("text", "calendar")).Text)!;
        calendar.Method.ShouldBe("REQUEST");
        calendar.Events.Single().ShouldSatisfyAllConditions(
            planned => planned!.Sequence.ShouldBe(0), planned => planned!.Start!.AsUtc.ShouldBe(new DateTime(2031, 5, 5, 8, 0, 0, DateTimeKind.Utc)),
            planned => planned!.Summary.ShouldBe("By invitation"), planned => planned!.Attendees.Single().Value!.ToString().ShouldBe("mailto:nia@larkmoor.example.org"));
        var token = message.TextBody!.Split('\n').Single(line => line.Contains("/answer/", StringComparison.Ordinal)).Trim().Split('/')[^1];

        using var nia = court.Visitor();
        (await nia.Get<AnswerPage>($"/api/answer/{token}")).ShouldSatisfyAllConditions(page => page.Name.ShouldBe("Nia Okafor"), page => page.StartsAt.ShouldBe(Utc("2031-05-05T08:00")));
        (await nia.Post($"/api/answer/{token}", new AnswerWish(Answer.Comes))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await host.Get<Sheet>($"/api/plans/{kept.Id}/docket")).Lines[0].Answer.ShouldBe(Answer.Comes);
        (await nia.Get<DoorPage>($"/api/door/{kept.Link}?me={token}")).ShouldSatisfyAllConditions(page => page.KnownName.ShouldBe("Nia Okafor"), page => page.Phase.ShouldBe(DoorPhase.NotOpen), page => page.StartsAt.ShouldBe(Utc("2031-05-05T08:00")));

        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var live = await host.Announces(opened, "Odalys");
        await nia.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("N.", Invitation: token));
        await using var waiting = await nia.Connects(opened);
        await Eventually.Holds(() => live.Seats.Values.Any(row => row.Name == "N."));
        live.Seats[live.SeatOf("N.")].Note!.ShouldSatisfyAllConditions(note => note.Recognition.Match.ShouldBe(Match.Sure), note => note.Recognition.Reasons.ShouldBe([MatchReason.PersonalLink]), note => note.Line!.Name.ShouldBe("Nia Okafor"));
        await live.Done(new AdmitSure());
        await Eventually.Holds(() => waiting.Me!.Role == Role.Presenter);
        (await court.Visitor().Get<DoorPage>($"/api/door/{kept.Link}?me={new string('A', 22)}")).InvitationGone.ShouldBeTrue();
    }

    [Fact]
    public async Task With_a_mail_server_messages_are_handed_to_it_and_what_fails_is_kept_and_said()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("By mail"));
        var sheet = await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("Zoë Ångström", "zoe@larkmoor.example.org") });
        var wish = new InviteWish([sheet.Lines[0].Id!.Value]);
        var options = court.Services.GetRequiredService<IOptions<MailOptions>>().Value;
        using var server = new MailServer();
        (options.SmtpHost, options.SmtpPort) = ("127.0.0.1", server.Port);
        try
        {
            await host.Post<Told>($"/api/plans/{kept.Id}/invite", wish);
            using var message = MimeMessage.Load(new MemoryStream(await server.Received()));
            message.ShouldSatisfyAllConditions(sent => sent.Subject.ShouldBe("Invitation: By mail"), sent => sent.To.Mailboxes.Single().Name.ShouldBe("Zoë Ångström"));
            message.BodyParts.Count(part => part.ContentType.IsMimeType("application", "ics")).ShouldBe(1);
            server.Dispose();
            (await host.Post<Told>($"/api/plans/{kept.Id}/invite", wish)).Count.ShouldBe(1);
        }
        finally { options.SmtpHost = null; }
        (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject == "Invitation: By mail").Select(row => row.Trouble is null).ShouldBe([false, true], "the newest first");
    }

    [Fact]
    public async Task A_change_and_a_cancellation_are_told_with_rising_sequence_and_nobody_enters_afterwards()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Moved"));
        var sheet = await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("Ansel Roope", "ansel@larkmoor.example.org") });
        await host.Post<Told>($"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        await host.Put<KeptPlan>($"/api/plans/{kept.Id}", Planned("Moved", start: "2031-03-04T10:00"));
        await host.Put<KeptPlan>($"/api/plans/{kept.Id}", Planned("Moved", start: "2031-03-04T10:00") with { Description = "Only words" });
        (await host.Post<Told>($"/api/plans/{kept.Id}/cancel")).Count.ShouldBe(1);

        var rows = (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject.EndsWith("Moved", StringComparison.Ordinal)).Reverse().ToList();
        rows.Select(row => row.Subject).ShouldBe(["Invitation: Moved", "Changed: Moved", "Cancelled: Moved"], "a new description alone sends nobody mail");
        var calendars = new List<Ical.Net.Calendar>();
        foreach (var row in rows) calendars.Add(Ical.Net.Calendar.Load((await host.Get<OutboxPage>($"/api/outbox/{row.Id}")).Calendar!)!);
        calendars.Select(calendar => (calendar.Method, calendar.Events[0]!.Sequence)).ShouldBe([("REQUEST", 0), ("REQUEST", 1), ("CANCEL", 2)]);
        calendars.Select(calendar => calendar.Events[0]!.Uid).Distinct().Count().ShouldBe(1);
        (await Visitor.ReasonOf(await host.Post($"/api/sessions/{kept.Id}/open"))).ShouldBe("alreadyCancelled");
        (await court.Visitor().Get<DoorPage>($"/api/door/{kept.Link}")).Cancelled.ShouldBeTrue();
        await host.Post<Told>($"/api/plans/{kept.Id}/restore");
        (await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open")).Link.ShouldBe(kept.Link);
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
        (await Visitor.ReasonOf(await court.Visitor().Post($"/api/door/{kept.Link}/announce", new AnnounceWish("Guess", "abcdef")))).ShouldBe("passcodeWrong");
        (await host.Send(HttpMethod.Delete, $"/api/plans/{kept.Id}/passcode")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await court.Visitor().Get<DoorPage>($"/api/door/{kept.Link}")).ShouldSatisfyAllConditions(page => page.NeedsPasscode.ShouldBeFalse(), page => page.HasHostKey.ShouldBeTrue());
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
            live.Sitting!.Phase.ShouldBe(Phase.Prepare);
            using var guest = court.Visitor();
            (await guest.Get<DoorPage>($"/api/door/{kept.Link}")).Phase.ShouldBe(early ? DoorPhase.Open : DoorPhase.NotOpen);
            var answer = await guest.Post($"/api/door/{kept.Link}/announce", new AnnounceWish("Runa"));
            if (!early) (await Visitor.ReasonOf(answer)).ShouldBe("notOpen");
            await live.Done(new Begin());
            (await guest.Get<DoorPage>($"/api/door/{kept.Link}")).Phase.ShouldBe(DoorPhase.Open);
        }
    }

    [Fact]
    public async Task Pasted_text_and_tables_of_all_kinds_are_read_and_bad_rows_are_named()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Lists", start: "2031-06-02T09:00"));
        var read = await host.Post<ReadSheet>($"/api/plans/{kept.Id}/docket/read", new PastedText(
            "1. 14:15 Nia Okafor\n• Bartosz Wilk <b.wilk@larkmoor.example.org> 2.30 pm, 20 min (upper reach)\n\n16:00-16:45 – Ewa Nowak, presenter\n99\n???\nJun Takeda; jun@larkmoor.example.org"));
        read.Lines.Select(line => (line.Line.Name, line.Line.Slot?[11..], line.Line.Minutes, line.Trouble)).ShouldBe([
            ("Nia Okafor", "14:15", null, null), ("Bartosz Wilk", "14:30", 20, null), ("Ewa Nowak", "16:00", 45, null), ("99", null, null, "nameEmpty"), ("???", null, null, "nameEmpty"), ("Jun Takeda", null, null, null)]);
        read.Lines[1].Line.ShouldSatisfyAllConditions(line => line.Email.ShouldBe("b.wilk@larkmoor.example.org"), line => line.Group.ShouldBe("upper reach"));
        read.Lines[2].Line.Role.ShouldBe(Role.Presenter);

        async Task<ReadSheet> Import(byte[] bytes) => (await (await host.Send(HttpMethod.Post, $"/api/plans/{kept.Id}/docket/import", bytes)).Content.ReadFromJsonAsync<ReadSheet>(CoreJson.Options))!;
        var excel = await Import(Encoding.Latin1.GetBytes("Name;E-Mail;Slot;Minutes;Role\nZoë Ångström;zoe@larkmoor.example.org;09:15;15;deputy\nBad Role;;;;king\nBad Mail;nobody;;;\nBad Slot;;noon;;\n;;;;\n"));
        excel.Lines.Select(line => (line.Line.Name, line.Trouble)).ShouldBe([("Zoë Ångström", null), ("Bad Role", "roleNotGiven"), ("Bad Mail", "emailNotUnderstood"), ("Bad Slot", "timeNotUnderstood")]);
        excel.Lines[0].Line.ShouldSatisfyAllConditions(line => line.Slot.ShouldBe("2031-06-02T09:15"), line => line.Role.ShouldBe(Role.Deputy));
        (await Import([.. Encoding.Unicode.GetPreamble(), .. Encoding.Unicode.GetBytes("name\tgroup\nRuna Halvari\twardens")])).Lines.Single().Line.Group.ShouldBe("wardens");
        (await Import("BEGIN:VCARD\nVERSION:4.0\nFN:Pilar Mestre\nEMAIL:pilar@larkmoor.example.org\nCATEGORIES:wardens\nEND:VCARD"u8.ToArray())).Lines.Single().Line
            .ShouldSatisfyAllConditions(line => line.Name.ShouldBe("Pilar Mestre"), line => line.Email.ShouldBe("pilar@larkmoor.example.org"), line => line.Group.ShouldBe("wardens"));
        (await Import("who,when\na,b"u8.ToArray())).Trouble.ShouldBe("csvNoName");
        (await Import([])).Trouble.ShouldBe("fileEmpty");
        (await Import([0x89, 0x50, 0x4E, 0x47, 0, 0, 0, 1])).Trouble.ShouldNotBeNull();
        (await Import(Encoding.UTF8.GetBytes("name\n" + string.Concat(Enumerable.Repeat("A Person\n", 100_000))))).Trouble.ShouldBe("tooManyLines");

        var twice = await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("First", slot: "2031-06-02T10:00", minutes: 30), Line("Second", slot: "2031-06-02T10:15") });
        twice.Overlaps.ShouldBe(["First, Second"]);
        var refused = await host.Send(HttpMethod.Put, $"/api/plans/{kept.Id}/docket", new[] { Line("Good"), Line(" ") });
        (await Visitor.ReasonOf(refused)).ShouldBe("nameEmpty");
        (await host.Get<Sheet>($"/api/plans/{kept.Id}/docket")).Lines.Count.ShouldBe(2, "nothing is half kept");
        var csv = await (await host.Get($"/api/plans/{kept.Id}/docket/docket.csv")).Content.ReadAsByteArrayAsync();
        (await Import(csv)).Lines.Select(line => (line.Line.Name, line.Line.Slot, line.Line.Minutes)).ShouldBe([("First", "2031-06-02T10:00", 30), ("Second", "2031-06-02T10:15", null)]);
    }

    [Fact]
    public async Task Contacts_come_from_vcards_of_three_versions_and_go_out_again_unchanged()
    {
        using var host = await court.Host();
        var cards = Encoding.UTF8.GetBytes("""
            BEGIN:VCARD
            VERSION:2.1
            N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:M=C3=BCller;J=C3=
            =B6rg
            EMAIL;INTERNET:joerg@larkmoor.example.org
            END:VCARD
            BEGIN:VCARD
            VERSION:3.0
            FN:Delacroix\, Marise
            item1.EMAIL;TYPE=work:marise@larkmoor.example.org
            TEL;TYPE="voice,cell":+49 30 555 0100
            CATEGORIES:wardens,upper reach
            END:VCARD
            BEGIN:VCARD
            VERSION:4.0
            FN:A very long name that is fol
             ded over two lines
            EMAIL:not an address
            END:VCARD
            BEGIN:VCARD
            VERSION:4.0
            FN:Marise again
            EMAIL:MARISE@larkmoor.example.org
            END:VCARD
            BEGIN:VCARD
            FN:Cut off
            """.ReplaceLineEndings("\r\n"));
        var look = (await (await host.Send(HttpMethod.Post, "/api/contacts/import/look", cards)).Content.ReadFromJsonAsync<ContactImport>(CoreJson.Options))!;
        look.Rows.Select(row => (row.Contact.Name, row.Deed, row.Trouble)).ShouldBe([
            ("Jörg Müller", ImportDeed.Add, null), ("Delacroix, Marise", ImportDeed.Add, null), ("A very long name that is folded over two lines", ImportDeed.Skip, "emailNotUnderstood"),
            ("Marise again", ImportDeed.Skip, "twiceInFile"), ("Cut off", ImportDeed.Skip, "vcardCutOff")]);
        var before = (await host.Get<List<ContactRow>>("/api/contacts")).Count;
        var done = (await (await host.Send(HttpMethod.Post, "/api/contacts/import", cards)).Content.ReadFromJsonAsync<ContactImport>(CoreJson.Options))!;
        done.ShouldSatisfyAllConditions(import => import.Added.ShouldBe(2), import => import.Skipped.ShouldBe(3));
        var all = await host.Get<List<ContactRow>>("/api/contacts");
        all.Count.ShouldBe(before + 2);
        all.Single(contact => contact.Email == "marise@larkmoor.example.org").ShouldSatisfyAllConditions(contact => contact.Phone.ShouldBe("+49 30 555 0100"), contact => contact.Groups.ShouldBe(["wardens", "upper reach"]));

        foreach (var file in new[] { "contacts.vcf", "contacts.csv" })
        {
            var bytes = await (await host.Get($"/api/contacts/{file}")).Content.ReadAsByteArrayAsync();
            var again = (await (await host.Send(HttpMethod.Post, "/api/contacts/import/look", bytes)).Content.ReadFromJsonAsync<ContactImport>(CoreJson.Options))!;
            again.ShouldSatisfyAllConditions(import => import.Same.ShouldBe(all.Count, file), import => import.Skipped.ShouldBe(0));
        }
    }

    [Fact]
    public async Task Papers_are_what_their_names_say_and_only_those_inside_get_them_as_downloads()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Papers") with { Door = DoorMode.Attended });
        Task<HttpResponseMessage> Add(string name, byte[] bytes) => host.Send(HttpMethod.Post, $"/api/plans/{kept.Id}/papers/{Uri.EscapeDataString(name)}", bytes);
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
    }

    [Fact]
    public async Task Orders_are_kept_under_a_name_and_a_copy_takes_the_docket_along_without_the_invitations()
    {
        using var host = await court.Host();
        await host.Post<PresetRow>("/api/presets", new PresetRow(0, "Lecture", DoorMode.Listed, OrderSheet.Usual with { Speak = Audience.Bench }));
        await host.Post<PresetRow>("/api/presets", new PresetRow(0, "Lecture", DoorMode.Open, OrderSheet.Usual));
        (await host.Get<List<PresetRow>>("/api/presets")).Single(preset => preset.Name == "Lecture").Door.ShouldBe(DoorMode.Open);
        (await Visitor.ReasonOf(await host.Post("/api/presets", new PresetRow(0, " ", DoorMode.Open, OrderSheet.Usual)))).ShouldBe("presetNameOutOfRange");

        var kept = await host.Post<KeptPlan>("/api/plans", Planned("To copy"));
        var sheet = await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("Nia Okafor", "nia@larkmoor.example.org") });
        await host.Post<Told>($"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        var copy = await host.Post<KeptPlan>($"/api/plans/{kept.Id}/copy");
        copy.Link.ShouldNotBe(kept.Link);
        (await host.Get<Sheet>($"/api/plans/{copy.Id}/docket")).Lines.Single().ShouldSatisfyAllConditions(line => line.Name.ShouldBe("Nia Okafor"), line => line.InvitedAt.ShouldBeNull());
    }

    [Fact]
    public async Task The_bench_calls_somebody_in_who_is_then_surely_recognized_and_nobody_else_may()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Calling in") with { Door = DoorMode.Open });
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var live = await host.Announces(opened, "Odalys");
        using var guest = court.Visitor();
        await using var seated = await guest.Announces(opened, "Guest");
        var address = $"/api/door/{kept.Link}/call-in";
        (await Visitor.ReasonOf(await guest.Post(address, new CallIn("Friend", null, Role.Deputy)))).ShouldBe("onlyBench");
        (await Visitor.ReasonOf(await court.Visitor().Post(address, new CallIn("Friend", null, Role.Attendee)))).ShouldBe("notInside");
        (await Visitor.ReasonOf(await host.Post(address, new CallIn("Nia Okafor", "nobody", Role.Attendee)))).ShouldBe("emailNotUnderstood");
        (await host.Get<Sheet>($"/api/plans/{kept.Id}/docket")).Lines.ShouldBeEmpty("nothing of a refused wish stays");

        var called = await host.Post<CalledIn>(address, new CallIn("Nia Okafor", "nia@larkmoor.example.org", Role.Presenter));
        called.Sent.ShouldBeTrue();
        (await host.Get<List<OutboxRow>>("/api/outbox")).Count(row => row.Subject == "Invitation: Calling in").ShouldBe(1);
        await live.Done(new SetDoor(DoorMode.Attended));
        using var nia = court.Visitor();
        await nia.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Somebody", Invitation: called.Link.Split('/')[1]));
        await Eventually.Holds(() => live.Seats.Values.Any(row => row.Note?.Line?.Name == "Nia Okafor" && row.Note.Recognition.Match == Match.Sure));
    }

    [Fact]
    public async Task Those_invited_are_reminded_once_before_the_start_unless_they_cannot_come()
    {
        using var host = await court.Host();
        var soon = DateTimeOffset.UtcNow.AddMinutes(10).ToString("yyyy-MM-dd'T'HH:mm", System.Globalization.CultureInfo.InvariantCulture);
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Soon", start: soon, zone: "Etc/UTC"));
        var sheet = await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("Ilse", "ilse@larkmoor.example.org"), Line("Not invited", "other@larkmoor.example.org") });
        await host.Post<Told>($"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        var visits = await host.Post<KeptPlan>("/api/plans", Planned("Visits", SessionKind.Standing, null, "Etc/UTC"));
        var slots = await host.Put<Sheet>($"/api/plans/{visits.Id}/docket", new[] { Line("Gwen", "gwen@larkmoor.example.org", slot: soon), Line("Later", "later@larkmoor.example.org", slot: "2031-01-01T10:00") });
        await host.Post<Told>($"/api/plans/{visits.Id}/invite", new InviteWish([.. slots.Lines.Select(line => line.Id!.Value)]));
        var reminders = (Reminders)court.Services.GetService(typeof(Reminders))!;
        await reminders.Remind();
        await reminders.Remind();
        (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject == "Soon: Soon").Select(row => row.To).ShouldHaveSingleItem().ShouldContain("ilse@");
        (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject == "Soon: Visits").Select(row => row.To).ShouldHaveSingleItem().ShouldContain("gwen@");
    }

    [Fact]
    public async Task Casework_goes_by_slots_with_a_forecast_for_those_who_wait()
    {
        using var host = await court.Host();
        var now = DateTimeOffset.UtcNow;
        string Slot(int minutes) => now.AddMinutes(minutes).ToString("yyyy-MM-dd'T'HH:mm", System.Globalization.CultureInfo.InvariantCulture);
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Casework", SessionKind.Standing, null, "Etc/UTC"));
        await host.Put<Sheet>($"/api/plans/{kept.Id}/docket", new[] { Line("Gwen Ashdown", slot: Slot(0), minutes: 15), Line("Bartosz Wilk", slot: Slot(15), minutes: 15), Line("Next week", slot: Slot(7 * 24 * 60)) });
        (await host.Get<List<SlotRow>>($"/api/sessions/slots?from={now.AddHours(-1).ToUnixTimeMilliseconds()}")).Where(slot => slot.Session == kept.Id).Select(slot => slot.Name).ShouldBe(["Gwen Ashdown", "Bartosz Wilk"]);
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var live = await host.Announces(opened, "Odalys");
        await using var wilk = await court.Visitor().Announces(opened, "B. Wilk");
        await using var gwen = await court.Visitor().Announces(opened, "gwen ashdown");
        await Eventually.Holds(() => live.Sitting!.NextUp == gwen.Me!.Seat);
        live.Sitting!.HasSlots.ShouldBeTrue();
        await live.Done(new Next());
        await Eventually.Holds(() => gwen.Me!.Place == Place.Seated && wilk.Outlook is { Starts.Count: 1 });
        wilk.Outlook!.Starts[0].ShouldSatisfyAllConditions(start => start.Seat.ShouldBe(wilk.Me!.Seat), start => start.At.Milliseconds.ShouldBeInRange(now.AddMinutes(13).ToUnixTimeMilliseconds(), now.AddMinutes(17).ToUnixTimeMilliseconds()));
        await live.Done(new SendNotice("A little patience, please."));
        await Eventually.Holds(() => wilk.Sitting!.Notice?.Words == "A little patience, please.");
        await live.Done(new Next());
        await Eventually.Holds(() => gwen.Me!.Exit == Exit.VisitOver && wilk.Me!.Place == Place.Seated);
    }
}
