using System.Diagnostics;
using System.Net;
using HoldCourt.Server.Api;
using HoldCourt.Server.Mailing;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using MimeKit;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>Invitations, reminders and cancellations, in the outbox and over SMTP.</summary>
public class MailTests(Court court) : IClassFixture<Court>
{
    [Fact]
    public async Task Invited_by_mail_a_guest_answers_comes_by_the_personal_link_and_is_surely_recognized_under_any_name()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("By invitation", start: "2031-05-05T10:00"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("Nia Okafor", "nia@larkmoor.example.org", role: Role.Presenter), Line("Jun Takeda") });
        (await host.Post<Mailed>($"/api/plans/{kept.Id}/invite",
            new InviteWish([.. sheet.Lines.Select(line => line.Id!.Value)]))).Count.ShouldBe(1, "only who has an address");

        var sent = (await host.Get<List<OutboxRow>>("/api/outbox")).First(row => row.Subject == "Invitation: By invitation");
        using var message = MimeMessage.Load(await (await host.Get($"/api/outbox/{sent.Id}/message.eml")).Content.ReadAsStreamAsync());
        message.To.Mailboxes.Single().Address.ShouldBe("nia@larkmoor.example.org");
        var calendar = Ical.Net.Calendar.Load(message.BodyParts.OfType<TextPart>()
            .Single(part => part.ContentType.IsMimeType("text", "calendar")).Text)!;
        calendar.Method.ShouldBe("REQUEST");
        calendar.Events.Single().ShouldSatisfyAllConditions(
            planned => planned!.Sequence.ShouldBe(0), planned =>
                planned!.Start!.AsUtc.ShouldBe(new DateTime(2031, 5, 5, 8, 0, 0, DateTimeKind.Utc)),
            planned => planned!.Summary.ShouldBe("By invitation"), planned =>
                planned!.Attendees.Single().Value!.ToString().ShouldBe("mailto:nia@larkmoor.example.org"));
        var token = message.TextBody!.Split('\n').Single(line => line.Contains("/answer#", StringComparison.Ordinal))
            .Trim().Split('#')[^1];

        using var nia = court.Visitor();
        (await nia.Post<AnswerPage>("/api/answer/look", new ShownLink(token)))
            .ShouldSatisfyAllConditions(page => page.Name.ShouldBe("Nia Okafor"), page => page.StartsAt.ShouldBe(Utc("2031-05-05T08:00")));
        (await nia.Post("/api/answer", new AnswerWish(Answer.Comes, token))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await host.Get<DocketPage>($"/api/plans/{kept.Id}/docket")).Lines[0].Answer.ShouldBe(Answer.Comes);
        (await nia.Post<DoorPage>($"/api/door/{kept.Link}/invitation", new ShownLink(token)))
            .ShouldSatisfyAllConditions(page => page.KnownName.ShouldBe("Nia Okafor"), page =>
            page.Phase.ShouldBe(DoorPhase.NotOpen), page => page.StartsAt.ShouldBe(Utc("2031-05-05T08:00")));

        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var live = await host.Announces(opened, "Odalys");
        await nia.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("N.", Invitation: token));
        await using var waiting = await nia.Connects(opened);
        await Eventually.Holds(() => live.Seats.Values.Any(row => row.Name == "N."));
        live.Seats[live.SeatOf("N.")].Note!.ShouldSatisfyAllConditions(note => note.Recognition.Match.ShouldBe(Match.Sure), note =>
            note.Recognition.Reasons.ShouldBe([MatchReason.PersonalLink]), note => note.Line!.Name.ShouldBe("Nia Okafor"));
        await live.Done(new AdmitSure());
        await Eventually.Holds(() => waiting.Me!.Role == Role.Presenter);
        (await court.Visitor().Post<DoorPage>($"/api/door/{kept.Link}/invitation",
            new ShownLink(new string('A', 22)))).InvitationGone.ShouldBeTrue();
    }

    [Fact]
    public async Task With_a_mail_server_messages_are_kept_first_sent_once_tried_again_and_given_up_with_the_servers_words_beside_them()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("By mail"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket", new[] { Line("Zoë Ångström", "zoe@larkmoor.example.org") });
        var wish = new InviteWish([sheet.Lines[0].Id!.Value]);
        var options = court.Services.GetRequiredService<IOptions<MailOptions>>().Value;
        using var server = new MailServer();
        (options.SmtpHost, options.SmtpPort) = ("127.0.0.1", server.Port);
        async Task<OutboxRow> Newest() =>
            (await host.Get<List<OutboxRow>>("/api/outbox")).First(row => row.Subject == "Invitation: By mail");
        try
        {
            await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", wish);
            await Eventually.Holds(() => server.Taken.Count == 1);
            using (var message = MimeMessage.Load(new MemoryStream(System.Text.Encoding.Latin1.GetBytes(server.Taken.Single()))))
            {
                message.ShouldSatisfyAllConditions(sent => sent.Subject.ShouldBe("Invitation: By mail"), sent =>
                    sent.To.Mailboxes.Single().Name.ShouldBe("Zoë Ångström"));
                message.BodyParts.Count(part => part.ContentType.IsMimeType("application", "ics")).ShouldBe(1);
            }
            await Eventually.Succeeds(async () =>
                (await Newest()).ShouldSatisfyAllConditions(row => row.State.ShouldBe(MailState.Sent), row =>
                row.Answer!.ShouldContain("kept as 17"), row => row.SentAt.ShouldNotBeNull()));

            server.Answer = "451 come back later";
            await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", wish);
            await Eventually.Succeeds(async () =>
                (await Newest()).ShouldSatisfyAllConditions(row => row.State.ShouldBe(MailState.Waiting), row =>
                row.Answer!.ShouldContain("come back later"), row => row.NextAt.ShouldNotBeNull()));
            server.Answer = "250 fine";
            court.Time.Forward(TimeSpan.FromMinutes(1.1));
            await Eventually.Succeeds(async () => (await Newest()).State.ShouldBe(MailState.Sent));

            server.Answer = "554 nobody of that name";
            await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", wish);
            await Eventually.Succeeds(async () =>
                (await Newest()).ShouldSatisfyAllConditions(row => row.State.ShouldBe(MailState.GivenUp), row =>
                row.Answer!.ShouldContain("nobody of that name")));
            server.Answer = "250 fine";
            (await host.Post($"/api/outbox/{(await Newest()).Id}/again")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
            await Eventually.Succeeds(async () => (await Newest()).State.ShouldBe(MailState.Sent));

            server.Dispose();
            await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", wish);
            await Eventually.Succeeds(async () =>
                (await Newest()).ShouldSatisfyAllConditions(row => row.State.ShouldBe(MailState.Waiting), row =>
                row.Answer.ShouldNotBeNull()));
            using var back = new MailServer(server.Port);
            court.Time.Forward(TimeSpan.FromMinutes(1.1));
            await Eventually.Succeeds(async () => (await Newest()).State.ShouldBe(MailState.Sent));
            string IdOf(string message) =>
                message.Split('\n').Single(line => line.StartsWith("Message-Id:", StringComparison.OrdinalIgnoreCase));
            server.Taken.Concat(back.Taken).Select(IdOf).Distinct().Count().ShouldBe(4, "each message once");
            server.Taken.Concat(back.Taken).Count().ShouldBe(4);
        }
        finally { options.SmtpHost = null; }
    }

    [Fact]
    public async Task A_mail_server_that_hangs_holds_up_nobody_and_what_waited_goes_once_after_a_restart()
    {
        using var server = new MailServer { Hangs = true };
        var own = await Court.With("--Demo:Load", "true", "--Mail:SmtpHost", "127.0.0.1", "--Mail:SmtpPort", $"{server.Port}",
            "--Mail:PatienceSeconds", "2");
        try
        {
            using var host = await own.Host();
            var kept = await host.Post<KeptPlan>("/api/plans", Planned("Slowly"));
            var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
                Enumerable.Range(1, 5).Select(n => Line($"Guest {n}", $"guest{n}@larkmoor.example.org")).ToArray());
            var watch = Stopwatch.StartNew();
            (await host.Post<Mailed>($"/api/plans/{kept.Id}/invite",
                new InviteWish([.. sheet.Lines.Select(line => line.Id!.Value)]))).Count.ShouldBe(5);
            watch.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(2), "the host does not wait for the mail server");
            await Eventually.Succeeds(async () => (await host.Get<List<OutboxRow>>("/api/outbox"))
                .ShouldAllBe(row => row.State == MailState.Waiting && row.Answer == "The mail server did not answer in time."));
            await own.Stop();
            server.Hangs = false;
            own.Time.Forward(TimeSpan.FromMinutes(1.1));
            await own.Restart();
            await Eventually.Succeeds(async () => (await host.Get<List<OutboxRow>>("/api/outbox"))
                .ShouldAllBe(row => row.State == MailState.Sent));
            server.Taken.Count.ShouldBe(5);
            // A secret one keeps no text, and the keeper does not read it on its way either.
            (await host.Post("/api/forgot", new ForgotWish(Demo.DemoData.Email))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
            await Eventually.Holds(() => server.Taken.Count == 6);
            await Eventually.Succeeds(async () =>
            {
                var row = (await host.Get<List<OutboxRow>>("/api/outbox")).Single(one => one.House);
                row.State.ShouldBe(MailState.Sent);
                (await host.Get<OutboxPage>($"/api/outbox/{row.Id}")).Text.ShouldBeEmpty();
                (await host.Get($"/api/outbox/{row.Id}/message.eml")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
            });
        }
        finally { await own.DisposeAsync(); }
    }

    [Fact]
    public async Task After_a_kill_in_the_middle_nothing_is_lost_and_one_message_at_most_goes_again_under_its_own_id()
    {
        const int Count = 30;
        using var server = new MailServer { Answer = "451 not yet", Slowness = TimeSpan.FromMilliseconds(40) };
        var own = await Court.With("--Demo:Load", "true", "--Mail:SmtpHost", "127.0.0.1", "--Mail:SmtpPort", $"{server.Port}");
        try
        {
            using (var host = await own.Host())
            {
                var kept = await host.Post<KeptPlan>("/api/plans", Planned("Killed"));
                var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
                    Enumerable.Range(1, Count).Select(n => Line($"Guest {n}", $"guest{n}@larkmoor.example.org")).ToArray());
                await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", new InviteWish([.. sheet.Lines.Select(line => line.Id!.Value)]));
            }
            await own.Stop();
            server.Answer = "250 fine";
            async Task<long> Left(string change = "")
            {
                await using var disk = new Microsoft.Data.Sqlite.SqliteConnection(
                    $"Data Source={Path.Combine(own.Folder, "hold-court.db")};Pooling=False");
                await disk.OpenAsync();
                await using var command = disk.CreateCommand();
                command.CommandText = change + "select count(*) from Outbox where State = 1";
                return (long)(await command.ExecuteScalarAsync())!;
            }
            (await Left("update Outbox set NextAt = 0;")).ShouldBe(Count);
            string[] line = [Path.Combine(AppContext.BaseDirectory, "HoldCourt.Server.dll"), "--urls", "http://127.0.0.1:0",
                "--Data:Folder", own.Folder, "--Mail:SmtpHost", "127.0.0.1", "--Mail:SmtpPort", $"{server.Port}"];
            Process Start() => Process.Start(new ProcessStartInfo("dotnet", line) { RedirectStandardOutput = true })!;
            using (var killed = Start())
            {
                await Eventually.Holds(() => server.Taken.Count >= 8, seconds: 30);
                killed.Kill();
                await killed.WaitForExitAsync();
            }
            (await Left()).ShouldBeInRange(1, Count - 7);
            using var again = Start();
            try { await Eventually.Succeeds(async () => (await Left()).ShouldBe(0), seconds: 30); }
            finally { again.Kill(); }
            var ids = server.Taken.Select(message =>
                message.Split('\n').Single(line => line.StartsWith("Message-Id:", StringComparison.OrdinalIgnoreCase))).ToList();
            ids.Distinct().Count().ShouldBe(Count);
            ids.Count.ShouldBeLessThanOrEqualTo(Count + 1);
        }
        finally { await own.DisposeAsync(); }
    }

    [Fact]
    public async Task A_change_and_a_cancellation_are_told_with_rising_sequence_and_nobody_enters_afterwards()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Moved"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket", new[] { Line("Ansel Roope", "ansel@larkmoor.example.org") });
        await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        await host.Put<KeptPlan>($"/api/plans/{kept.Id}", Planned("Moved", start: "2031-03-04T10:00"));
        await host.Put<KeptPlan>($"/api/plans/{kept.Id}", Planned("Moved", start: "2031-03-04T10:00") with { Description = "Only words" });
        (await host.Post<Mailed>($"/api/plans/{kept.Id}/cancel")).Count.ShouldBe(1);

        var rows = (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject.EndsWith("Moved", StringComparison.Ordinal))
            .Reverse().ToList();
        rows.Select(row => row.Subject)
            .ShouldBe(["Invitation: Moved", "Changed: Moved", "Cancelled: Moved"], "a new description alone sends nobody mail");
        var calendars = new List<Ical.Net.Calendar>();
        foreach (var row in rows) calendars.Add(Ical.Net.Calendar.Load((await host.Get<OutboxPage>($"/api/outbox/{row.Id}")).Calendar!)!);
        calendars.Select(calendar => (calendar.Method, calendar.Events[0]!.Sequence))
            .ShouldBe([("REQUEST", 0), ("REQUEST", 1), ("CANCEL", 2)]);
        calendars.Select(calendar => calendar.Events[0]!.Uid).Distinct().Count().ShouldBe(1);
        (await Visitor.ReasonOf(await host.Post($"/api/sessions/{kept.Id}/open"))).ShouldBe("alreadyCancelled");
        (await court.Visitor().Get<DoorPage>($"/api/door/{kept.Link}")).Cancelled.ShouldBeTrue();
        await host.Post<Mailed>($"/api/plans/{kept.Id}/restore");
        (await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open")).Link.ShouldBe(kept.Link);
    }

    [Fact]
    public async Task Those_invited_are_reminded_once_before_the_start_unless_they_cannot_come()
    {
        using var host = await court.Host();
        var soon = DateTimeOffset.UtcNow.AddMinutes(10).ToString("yyyy-MM-dd'T'HH:mm", System.Globalization.CultureInfo.InvariantCulture);
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Soon", start: soon, zone: "Etc/UTC"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("Ilse", "ilse@larkmoor.example.org"), Line("Not invited", "other@larkmoor.example.org") });
        await host.Post<Mailed>($"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        var visits = await host.Post<KeptPlan>("/api/plans", Planned("Visits", SessionKind.Standing, null, "Etc/UTC"));
        var slots = await host.Put<DocketPage>($"/api/plans/{visits.Id}/docket",
            new[] { Line("Gwen", "gwen@larkmoor.example.org", slot: soon),
            Line("Later", "later@larkmoor.example.org", slot: "2031-01-01T10:00") });
        await host.Post<Mailed>($"/api/plans/{visits.Id}/invite", new InviteWish([.. slots.Lines.Select(line => line.Id!.Value)]));
        var reminders = (Reminders)court.Services.GetService(typeof(Reminders))!;
        await reminders.Remind();
        await reminders.Remind();
        (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject == "Soon: Soon").Select(row => row.To)
            .ShouldHaveSingleItem().ShouldContain("ilse@");
        (await host.Get<List<OutboxRow>>("/api/outbox")).Where(row => row.Subject == "Soon: Visits").Select(row => row.To)
            .ShouldHaveSingleItem().ShouldContain("gwen@");
    }
}
