using System.Net;
using System.Net.Http.Json;
using System.Text;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>Who is expected: read, called in, visited by slots.</summary>
public class DocketTests(Court court) : IClassFixture<Court>
{
    [Fact]
    public async Task Pasted_text_and_tables_of_all_kinds_are_read_and_bad_rows_are_named()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Lists", start: "2031-06-02T09:00"));
        var read = await host.Post<ReadDocket>($"/api/plans/{kept.Id}/docket/read", new PastedText(
            "1. 14:15 Nia Okafor\n• Bartosz Wilk <b.wilk@larkmoor.example.org> 2.30 pm, 20 min (upper reach)\n\n16:00-16:45 – Ewa Nowak, "
                + "presenter\n99\n???\nJun Takeda; jun@larkmoor.example.org"));
        read.Lines.Select(line => (line.Line.Name, line.Line.Slot?[11..], line.Line.Minutes, line.Flaw)).ShouldBe([
            ("Nia Okafor", "14:15", null, null), ("Bartosz Wilk", "14:30", 20, null), ("Ewa Nowak", "16:00", 45, null),
            ("99", null, null, "nameEmpty"), ("???", null, null, "nameEmpty"), ("Jun Takeda", null, null, null)]);
        read.Lines[1].Line.ShouldSatisfyAllConditions(line => line.Email.ShouldBe("b.wilk@larkmoor.example.org"), line =>
            line.Group.ShouldBe("upper reach"));
        read.Lines[2].Line.Role.ShouldBe(Role.Presenter);

        async Task<ReadDocket> Import(byte[] bytes) =>
            (await (await host.Send(HttpMethod.Post, $"/api/plans/{kept.Id}/docket/import", bytes)).Content.ReadFromJsonAsync<ReadDocket>(
            CoreJson.Options))!;
        var excel = await Import(
            Encoding.Latin1.GetBytes(
            "Name;E-Mail;Slot;Minutes;Role\nZoë Ångström;zoe@larkmoor.example.org;09:15;15;deputy\nBad Role;;;;king\nBad Mail;nobody;;;\n"
                + "Bad Slot;;noon;;\n;;;;\n"));
        excel.Lines.Select(line => (line.Line.Name, line.Flaw))
            .ShouldBe([("Zoë Ångström", null), ("Bad Role", "roleNotGiven"), ("Bad Mail", "emailNotUnderstood"),
            ("Bad Slot", "timeNotUnderstood")]);
        excel.Lines[0].Line.ShouldSatisfyAllConditions(line => line.Slot.ShouldBe("2031-06-02T09:15"), line =>
            line.Role.ShouldBe(Role.Deputy));
        (await Import([.. Encoding.Unicode.GetPreamble(),
            .. Encoding.Unicode.GetBytes("name\tgroup\nRuna Halvari\twardens")])).Lines.Single().Line.Group.ShouldBe("wardens");
        var card = "BEGIN:VCARD\nVERSION:4.0\nFN:Pilar Mestre\nEMAIL:pilar@larkmoor.example.org\nCATEGORIES:wardens\nEND:VCARD"u8;
        (await Import(card.ToArray())).Lines.Single().Line.ShouldSatisfyAllConditions(
            line => line.Name.ShouldBe("Pilar Mestre"),
            line => line.Email.ShouldBe("pilar@larkmoor.example.org"),
            line => line.Group.ShouldBe("wardens"));
        (await Import("who,when\na,b"u8.ToArray())).Flaw.ShouldBe("csvNoName");
        (await Import([])).Flaw.ShouldBe("fileEmpty");
        (await Import([0x89, 0x50, 0x4E, 0x47, 0, 0, 0, 1])).Flaw.ShouldNotBeNull();
        (await Import(Encoding.UTF8.GetBytes("name\n" + string.Concat(Enumerable.Repeat("A Person\n", 100_000))))).Flaw.ShouldBe(
            "tooManyLines");

        var twice = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("First", slot: "2031-06-02T10:00", minutes: 30), Line("Second", slot: "2031-06-02T10:15") });
        twice.Overlaps.ShouldBe(["First, Second"]);
        var refused = await host.Send(HttpMethod.Put, $"/api/plans/{kept.Id}/docket", new[] { Line("Good"), Line(" ") });
        (await Visitor.ReasonOf(refused)).ShouldBe("nameEmpty");
        (await host.Get<DocketPage>($"/api/plans/{kept.Id}/docket")).Lines.Count.ShouldBe(2, "nothing is half kept");
        var csv = await (await host.Get($"/api/plans/{kept.Id}/docket/docket.csv")).Content.ReadAsByteArrayAsync();
        (await Import(csv)).Lines.Select(line => (line.Line.Name, line.Line.Slot, line.Line.Minutes))
            .ShouldBe([("First", "2031-06-02T10:00", 30), ("Second", "2031-06-02T10:15", null)]);
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
        var look = (await (await host.Send(HttpMethod.Post, "/api/contacts/import/look", cards)).Content.ReadFromJsonAsync<ContactImport>(
            CoreJson.Options))!;
        look.Rows.Select(row => (row.Contact.Name, row.Deed, row.Flaw)).ShouldBe([
            ("Jörg Müller", ImportDeed.Add, null), ("Delacroix, Marise", ImportDeed.Add, null),
            ("A very long name that is folded over two lines", ImportDeed.Skip, "emailNotUnderstood"),
            ("Marise again", ImportDeed.Skip, "twiceInFile"), ("Cut off", ImportDeed.Skip, "vcardCutOff")]);
        var before = (await host.Get<List<ContactRow>>("/api/contacts")).Count;
        var done = (await (await host.Send(HttpMethod.Post, "/api/contacts/import", cards)).Content.ReadFromJsonAsync<ContactImport>(
            CoreJson.Options))!;
        done.ShouldSatisfyAllConditions(import => import.Added.ShouldBe(2), import => import.Skipped.ShouldBe(3));
        var all = await host.Get<List<ContactRow>>("/api/contacts");
        all.Count.ShouldBe(before + 2);
        all.Single(contact => contact.Email == "marise@larkmoor.example.org")
            .ShouldSatisfyAllConditions(contact => contact.Phone.ShouldBe("+49 30 555 0100"), contact =>
            contact.Groups.ShouldBe(["wardens", "upper reach"]));

        foreach (var file in new[] { "contacts.vcf", "contacts.csv" })
        {
            var bytes = await (await host.Get($"/api/contacts/{file}")).Content.ReadAsByteArrayAsync();
            var again = (await (await host.Send(HttpMethod.Post, "/api/contacts/import/look",
                bytes)).Content.ReadFromJsonAsync<ContactImport>(CoreJson.Options))!;
            again.ShouldSatisfyAllConditions(import => import.Same.ShouldBe(all.Count, file), import => import.Skipped.ShouldBe(0));
        }
    }

    [Fact]
    public async Task Contacts_are_kept_changed_and_removed_and_what_cannot_be_kept_changes_nothing()
    {
        using var host = await court.Host();
        var before = await host.Get<List<ContactRow>>("/api/contacts");
        var kept = await host.Post<ContactRow>("/api/contacts",
            new ContactRow(0, "Soraya Kazemi", "soraya@larkmoor.example.org", "+49 30 555 0101", ["wardens"]));
        var changed = await host.Post<ContactRow>("/api/contacts", kept with { Name = "Soraya Kazemi-Lund", Groups = [] });
        changed.ShouldSatisfyAllConditions(row => row.Id.ShouldBe(kept.Id), row => row.Email.ShouldBe("soraya@larkmoor.example.org"), row =>
            row.Groups.ShouldBeEmpty());

        foreach (var (row, status, reason) in new (object, HttpStatusCode, string)[]
        {
            (kept with { Name = " " }, HttpStatusCode.BadRequest, "nameEmpty"),
            (kept with { Email = "at nowhere" }, HttpStatusCode.BadRequest, "emailNotUnderstood"),
            (new { kept.Id, kept.Name }, HttpStatusCode.BadRequest, "notUnderstood"),
            (kept with { Id = 999_999 }, HttpStatusCode.NotFound, "noSuchContact")
        })
        {
            var refused = await host.Post("/api/contacts", row);
            (refused.StatusCode, await Visitor.ReasonOf(refused)).ShouldBe((status, reason));
        }
        using var guest = court.Visitor();
        (await guest.Post("/api/contacts/remove", new[] { kept.Id })).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await host.Get<List<ContactRow>>("/api/contacts")).Single(row => row.Id == kept.Id).Name.ShouldBe("Soraya Kazemi-Lund");

        (await host.Post("/api/contacts/remove", new[] { kept.Id, 999_999 })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await host.Get<List<ContactRow>>("/api/contacts")).Select(row => row.Name).ShouldBe(before.Select(row => row.Name));
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
        (await Visitor.ReasonOf(await host.Post(address, new CallIn("Nia Okafor", "nobody", Role.Attendee))))
            .ShouldBe("emailNotUnderstood");
        (await host.Get<DocketPage>($"/api/plans/{kept.Id}/docket")).Lines.ShouldBeEmpty("nothing of a refused wish stays");

        var called = await host.Post<CalledIn>(address, new CallIn("Nia Okafor", "nia@larkmoor.example.org", Role.Presenter));
        called.Sent.ShouldBeTrue();
        (await host.Get<List<OutboxRow>>("/api/outbox")).Count(row => row.Subject == "Invitation: Calling in").ShouldBe(1);
        await live.Done(new SetDoor(DoorMode.Attended));
        using var nia = court.Visitor();
        await nia.Post<Announcement>($"/api/door/{opened.Link}/announce",
            new AnnounceWish("Somebody", Invitation: called.Link.Split('#')[1]));
        await Eventually.Holds(() =>
            live.Seats.Values.Any(row => row.Note?.Line?.Name == "Nia Okafor" && row.Note.Recognition.Match == Match.Sure));
    }

    [Fact]
    public async Task Casework_goes_by_slots_with_a_forecast_for_those_who_wait()
    {
        using var host = await court.Host();
        var now = DateTimeOffset.UtcNow;
        string Slot(int minutes) =>
            now.AddMinutes(minutes).ToString("yyyy-MM-dd'T'HH:mm", System.Globalization.CultureInfo.InvariantCulture);
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Casework", SessionKind.Standing, null, "Etc/UTC"));
        await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("Gwen Ashdown", slot: Slot(0), minutes: 15), Line("Bartosz Wilk", slot: Slot(15), minutes: 15),
            Line("Next week", slot: Slot(7 * 24 * 60)) });
        (await host.Get<List<SlotRow>>($"/api/sessions/slots?from={now.AddHours(-1).ToUnixTimeMilliseconds()}"))
            .Where(slot => slot.Session == kept.Id).Select(slot => slot.Name).ShouldBe(["Gwen Ashdown", "Bartosz Wilk"]);
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var live = await host.Announces(opened, "Odalys");
        await using var wilk = await court.Visitor().Announces(opened, "B. Wilk");
        await using var gwen = await court.Visitor().Announces(opened, "gwen ashdown");
        await Eventually.Holds(() => live.Sitting!.Visits!.Next == gwen.Me!.Seat);
        live.Sitting!.Visits!.HasSlots.ShouldBeTrue();
        await live.Done(new Next());
        await Eventually.Holds(() => gwen.Me!.Place == Place.Seated && wilk.Outlook is { Starts.Count: 1 });
        wilk.Outlook!.Starts[0].ShouldSatisfyAllConditions(start => start.Seat.ShouldBe(wilk.Me!.Seat), start =>
            start.At.Milliseconds.ShouldBeInRange(now.AddMinutes(13).ToUnixTimeMilliseconds(),
            now.AddMinutes(17).ToUnixTimeMilliseconds()));
        await live.Done(new SendNotice("A little patience, please."));
        await Eventually.Holds(() => wilk.Sitting!.Door!.Notice?.Words == "A little patience, please.");
        await live.Done(new Next());
        await Eventually.Holds(() => gwen.Me!.Exit == Exit.VisitOver && wilk.Me!.Place == Place.Seated);
    }
}
