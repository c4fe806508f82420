using System.IO.Compression;
using System.Net;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>The keeper, those whose a session is, and what is one's own.</summary>
public sealed class KeepingTests : OwnHouse
{
    [Fact]
    public async Task What_the_keeper_may_nobody_else_may_and_not_without_a_fresh_proof()
    {
        using var keeper = await Keeper();
        using var teodor = await Joins(keeper, "teodor@larkmoor.example.org", "Teodor Quill");
        using var nobody = _court.Visitor();
        var (ilseId, teodorId) = (await IdOf(keeper, "ilse@larkmoor.example.org"), await IdOf(keeper, "teodor@larkmoor.example.org"));
        (HttpMethod Method, string Path, object? Body)[] acts =
        [
            (HttpMethod.Get, "/api/house/hosts", null),
            (HttpMethod.Post, "/api/house/invitations", new InviteHost("x@larkmoor.example.org", "X", false)),
            (HttpMethod.Delete, "/api/house/invitations/1", null),
            (HttpMethod.Post, $"/api/house/hosts/{ilseId}/suspend", null), (HttpMethod.Post, $"/api/house/hosts/{ilseId}/resume", null),
            (HttpMethod.Post, $"/api/house/hosts/{teodorId}/keeper", null),
            (HttpMethod.Delete, $"/api/house/hosts/{ilseId}/keeper", null), (HttpMethod.Delete, $"/api/house/hosts/{ilseId}/code", null),
            (HttpMethod.Get, "/api/house/state", null), (HttpMethod.Post, "/api/house/backup", null),
            (HttpMethod.Post, "/api/house/erase/look", new EraseWish("Ilse Vantorre", null)),
            (HttpMethod.Post, "/api/house/erase", new EraseWish("Ilse Vantorre", null)),
            (HttpMethod.Post, $"/api/house/hosts/{ilseId}/remove", new GoWish(teodorId))
        ];
        foreach (var (method, path, body) in acts)
        {
            (await nobody.Refused(method, path, body)).ShouldBe("signInNeeded", path);
            (await teodor.Refused(method, path, body)).ShouldBe("keeperOnly", path);
        }
        (await nobody.Get("/openapi/v1.json")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        _court.Time.Forward(TimeSpan.FromMinutes(11));
        foreach (var (method, path, body) in acts.Where(act => act.Method != HttpMethod.Get
            && !act.Path.EndsWith("/1", StringComparison.Ordinal)))
            (await keeper.Refused(method, path, body)).ShouldBe("proofNeeded", path);
        foreach (var (path, body) in new (string, object?)[] { ("password", new PasswordWish(Other)),
            ("email", new EmailWish("new@larkmoor.example.org")), ("code/begin", null), ("passkeys/options", null),
            ("close", new GoWish(teodorId)) })
            (await keeper.Refused(HttpMethod.Post, $"/api/account/{path}", body)).ShouldBe("proofNeeded", path);
        (await Visitor.ReasonOf(await keeper.Get("/api/account/archive.zip"))).ShouldBe("proofNeeded");
        (await keeper.Refused(HttpMethod.Post, "/api/account/prove", new PasswordWish(Other))).ShouldBe("passwordWrong");
        await keeper.Does(HttpMethod.Post, "/api/account/prove", new PasswordWish(Good));
        await keeper.Does(HttpMethod.Post, $"/api/house/hosts/{teodorId}/suspend");
        (await teodor.Get<Me>("/api/me")).Email.ShouldBeNull();
        (await nobody.Refused(HttpMethod.Post, "/api/sign-in", new SignIn("teodor@larkmoor.example.org", Good))).ShouldBe("accountClosed");
        (await nobody.Refused(HttpMethod.Post, "/api/sign-in", new SignIn("teodor@larkmoor.example.org", Other))).ShouldBe("signInWrong");
        await _court.Restart();
        (await nobody.Refused(HttpMethod.Post, "/api/sign-in", new SignIn("teodor@larkmoor.example.org", Good))).ShouldBe("accountClosed");
        await keeper.Does(HttpMethod.Post, $"/api/house/hosts/{teodorId}/resume");
        (await SignsIn("teodor@larkmoor.example.org")).Dispose();
    }

    [Fact]
    public async Task There_is_always_a_keeper_even_when_two_remove_each_other_at_once()
    {
        using var keeper = await Keeper();
        var ilse = await IdOf(keeper, "ilse@larkmoor.example.org");
        (await keeper.Refused(HttpMethod.Delete, $"/api/house/hosts/{ilse}/keeper")).ShouldBe("lastKeeper");
        (await keeper.Refused(HttpMethod.Post, "/api/account/close", new GoWish(null))).ShouldBe("lastKeeper");
        (await keeper.Refused(HttpMethod.Post, $"/api/house/hosts/{ilse}/suspend")).ShouldBe("lastKeeper");
        using var teodor = await Joins(keeper, "teodor@larkmoor.example.org", "Teodor Quill");
        using var nia = await Joins(keeper, "nia@larkmoor.example.org", "Nia Okafor");
        var (teodorId, niaId) = (await IdOf(keeper, "teodor@larkmoor.example.org"), await IdOf(keeper, "nia@larkmoor.example.org"));
        await keeper.Does(HttpMethod.Post, $"/api/house/hosts/{niaId}/suspend");
        (await keeper.Refused(HttpMethod.Post, $"/api/house/hosts/{niaId}/keeper")).ShouldBe("keeperCannotSignIn");
        await keeper.Does(HttpMethod.Post, $"/api/house/hosts/{teodorId}/keeper");
        await keeper.Post<OpenedSitting>("/api/sessions", new OpenNow("Ilse's own"));
        // Both want to be rid of the other in the same moment.
        var answers = await Task.WhenAll(keeper.Post($"/api/house/hosts/{teodorId}/suspend"),
            teodor.Post($"/api/house/hosts/{ilse}/remove", new GoWish(teodorId)));
        answers.Count(answer => answer.IsSuccessStatusCode).ShouldBe(1);
        var left = answers[0].IsSuccessStatusCode ? keeper : teodor;
        var page = await left.Get<HostsPage>("/api/house/hosts");
        page.Hosts.Count(host => host is { Keeper: true, Suspended: false }).ShouldBe(1);
        if (left == teodor)
            (await teodor.Get<List<SessionCard>>("/api/sessions"))
            .ShouldContain(session => session.Title == "Ilse's own", "what was planned goes to somebody");
        (await left.Refused(HttpMethod.Post, "/api/account/close", new GoWish(null))).ShouldBe("lastKeeper");
    }

    [Fact]
    public async Task A_co_owner_plans_opens_and_leads_and_nobody_else_does()
    {
        using var keeper = await Keeper();
        using var teodor = await Joins(keeper, "teodor@larkmoor.example.org", "Teodor Quill");
        using var nia = await Joins(keeper, "nia@larkmoor.example.org", "Nia Okafor");
        var kept = await keeper.Post<KeptPlan>("/api/plans", Planned("Ours", SessionKind.Standing, null) with { Door = DoorMode.Attended });
        var colleagues = await keeper.Get<List<ColleagueRow>>("/api/colleagues");
        var (teodorId, niaId) = (colleagues.Single(one => one.Name == "Teodor Quill").Id,
            colleagues.Single(one => one.Name == "Nia Okafor").Id);
        (await teodor.Refused(HttpMethod.Get, $"/api/plans/{kept.Id}")).ShouldBe("noSuchSession");
        (await teodor.Refused(HttpMethod.Post, $"/api/plans/{kept.Id}/owners", new OwnerWish(teodorId)))
            .ShouldBe("noSuchSession", "nobody adds themselves");
        (await keeper.Post<List<OwnerRow>>($"/api/plans/{kept.Id}/owners", new OwnerWish(teodorId))).Select(row => (row.Name, row.Owner))
            .ShouldBe([("Ilse Vantorre", true), ("Teodor Quill", false)]);
        (await teodor.Get<List<SessionCard>>("/api/sessions")).Single().Owner.ShouldBe("Ilse Vantorre");
        (await teodor.Put<KeptPlan>($"/api/plans/{kept.Id}", kept.Plan with { Title = "Ours, changed" })).Plan.Title.ShouldBe(
            "Ours, changed");
        foreach (var (method, path, body) in new (HttpMethod, string, object?)[] { (HttpMethod.Post, "owners", new OwnerWish(niaId)),
            (HttpMethod.Delete, $"owners/{niaId}", null), (HttpMethod.Post, $"owners/{teodorId}/owner", null) })
            (await teodor.Refused(method, $"/api/plans/{kept.Id}/{path}", body)).ShouldBe("ownerOnly", path);

        var opened = await teodor.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var leads = await teodor.Announces(opened, "Teodor");
        leads.Me!.Role.ShouldBe(Role.Host);
        await using var owner = await keeper.Announces(opened, "Ilse");
        owner.Me!.Role.ShouldBe(Role.Deputy, "one leads at a time; who came first hands over");
        (await nia.Get<DoorPage>($"/api/door/{opened.Link}"))
            .ShouldSatisfyAllConditions(page => page.Entry.ShouldBe(EntryKind.Announce), page => page.Session.ShouldBeNull());
        await using var waits = await nia.Announces(opened, "Nia");
        waits.Me!.Place.ShouldBe(Place.Lobby, "an account alone opens no door");
        await leads.Done(new Adjourn());

        await keeper.Does(HttpMethod.Delete, $"/api/plans/{kept.Id}/owners/{teodorId}");
        (await teodor.Get<List<SessionCard>>("/api/sessions")).ShouldBeEmpty();
        (await teodor.Refused(HttpMethod.Post, $"/api/sessions/{kept.Id}/open")).ShouldBe("noSuchSession");
        var next = await keeper.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var outside = await teodor.Announces(next, "Teodor");
        outside.Me!.Place.ShouldBe(Place.Lobby);
        await keeper.Post<List<OwnerRow>>($"/api/plans/{kept.Id}/owners", new OwnerWish(niaId));
        await keeper.Post<List<OwnerRow>>($"/api/plans/{kept.Id}/owners/{niaId}/owner");
        (await nia.Get<List<OwnerRow>>($"/api/plans/{kept.Id}/owners")).Single(row => row.Owner).Me.ShouldBeTrue();
        (await keeper.Refused(HttpMethod.Post, $"/api/plans/{kept.Id}/owners", new OwnerWish(teodorId))).ShouldBe("ownerOnly");
    }

    [Fact]
    public async Task The_own_data_the_settings_and_a_new_address_go_with_the_account_and_a_closed_one_leaves_nothing_open()
    {
        using var keeper = await Keeper();
        using var teodor = await Joins(keeper, "teodor@larkmoor.example.org", "Teodor Quill");
        await teodor.Does(HttpMethod.Put, "/api/account/settings", new SettingsWish("""{"theme":"dark"}""", "pl"));
        (await (await SignsIn("teodor@larkmoor.example.org")).Get<Me>("/api/me")).Settings.ShouldBe("""{"theme":"dark"}""");
        foreach (var bad in new[] { null, "", "[]", "7", "{", $$"""{"a":"{{new string('x', 17_000)}}"}""",
            string.Concat(Enumerable.Repeat("{\"a\":", 20)) + "1" + new string('}', 20) })
            (await teodor.Refused(HttpMethod.Put, "/api/account/settings", new SettingsWish(bad, null)))
                .ShouldBe("notUnderstood", bad?[..Math.Min(bad.Length, 10)]);

        (await teodor.Post("/api/account/email", new EmailWish("t.quill@larkmoor.example.org"))).StatusCode.ShouldBe(
            HttpStatusCode.NoContent);
        (await teodor.Get<Me>("/api/me")).Email.ShouldBe("teodor@larkmoor.example.org", "until it is confirmed");
        var link = await Letter(keeper, "t.quill@", "Potwierdź swój adres");
        var to = string.Join('.', link[2..]);
        using var guest = _court.Visitor();
        (await guest.Refused(HttpMethod.Post, "/api/confirm", new ConfirmWish(link[0], link[1], "evil@larkmoor.example.org")))
            .ShouldBe("linkGone", "it is for one address");
        await guest.Does(HttpMethod.Post, "/api/confirm", new ConfirmWish(link[0], link[1], to));
        (await teodor.Get<Me>("/api/me")).Email.ShouldBe("t.quill@larkmoor.example.org");
        (await guest.Refused(HttpMethod.Post, "/api/sign-in", new SignIn("teodor@larkmoor.example.org", Good))).ShouldBe("signInWrong");
        // Somebody else's address is answered like any other, and is not taken.
        (await teodor.Post("/api/account/email", new EmailWish("ilse@larkmoor.example.org"))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await keeper.Get<List<OutboxRow>>("/api/outbox")).ShouldNotContain(row => row.To.Contains("ilse@"));

        var kept = await teodor.Post<KeptPlan>("/api/plans", Planned("Mine"));
        var held = await teodor.Post<OpenedSitting>("/api/sessions", new OpenNow("Held before"));
        await using (var host = await teodor.Announces(held, "Teodor"))
        await using (var one = await guest.Announces(held, "One"))
        await using (var other = await _court.Visitor().Announces(held, "Other"))
        {
            await host.Done(new Admit([one.Me!.Seat, other.Me!.Seat]));
            await Eventually.Holds(() => one.Me!.Place == Place.Seated && other.Me!.Place == Place.Seated);
            await one.Done(new Write(new Recipient(Reach.One, other.Me!.Seat), "for your eyes alone"));
            await one.Done(new Write(new Recipient(Reach.Everyone), "for all to read"));
            await host.Done(new Adjourn());
        }
        await teodor.Put<DocketPage>($"/api/plans/{kept.Id}/docket", new[] { Line("Zoë Ångström", "zoe@larkmoor.example.org") });
        using (var zip = new ZipArchive(
            new MemoryStream(await (await teodor.Get("/api/account/archive.zip")).Content.ReadAsByteArrayAsync())))
        {
            zip.Entries.Select(entry => entry.FullName).ShouldContain("account.json");
            using var docket = new StreamReader(zip.GetEntry($"sessions/{kept.Id:N}/docket.json")!.Open());
            (await docket.ReadToEndAsync()).ShouldContain("zoe@larkmoor.example.org");
            var all = string.Concat(zip.Entries.Select(entry =>
            {
                using var reader = new StreamReader(entry.Open());
                return reader.ReadToEnd();
            }));
            all.ShouldSatisfyAllConditions(text => text.ShouldContain("for all to read"), text =>
                text.ShouldNotContain("for your eyes alone", customMessage: "what two wrote to each other is beyond the bench"), text =>
                text.ShouldNotContain("AQAAAA", customMessage: "no hashes"));
            zip.Entries.ShouldNotContain(entry => entry.FullName.Contains("hash", StringComparison.OrdinalIgnoreCase));
        }
        var opened = await teodor.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        (await teodor.Refused(HttpMethod.Post, "/api/account/close", new GoWish(null))).ShouldBe("isLive");
        (await teodor.Refused(HttpMethod.Post, "/api/account/close", new GoWish("nobody"))).ShouldBe("noSuchHost");
        await teodor.Does(HttpMethod.Post, "/api/account/close", new GoWish(await IdOf(keeper, "ilse@larkmoor.example.org")));
        (await teodor.Get<Me>("/api/me")).Email.ShouldBeNull();
        (await keeper.Get<List<SessionCard>>("/api/sessions")).Single(session => session.Title == "Mine").Live.ShouldBe(opened.Sitting);
    }
}
