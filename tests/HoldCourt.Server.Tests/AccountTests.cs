using System.Net;
using HoldCourt.Server.Accounts;
using HoldCourt.Server.Api;
using HoldCourt.Server.Demo;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>The ways into an account, and what keeps others out of it.</summary>
public sealed class AccountTests : OwnHouse
{
    [Fact]
    public async Task The_first_account_is_made_with_the_printed_code_alone_and_once_even_by_two_at_once()
    {
        using var stranger = _court.Visitor();
        (await stranger.Get<Me>("/api/me")).SetUp.ShouldBeTrue();
        SetUpWish Wish(string? code, string password = Good, string email = "ilse@larkmoor.example.org") =>
            new(code, "Ilse Vantorre", email, password, null);
        foreach (var wrong in new[] { null, "", "aaaaaaaaaaaa", Code[..11], Code + "x" })
            (await stranger.Refused(HttpMethod.Post, "/api/set-up", Wish(wrong)))
                .ShouldBe(wrong is null ? "setUpCodeWrong" : "setUpCodeWrong");
        (await stranger.Refused(HttpMethod.Post, "/api/set-up", Wish(Code))).ShouldBe("passcodeWait", "guessing is slowed down");
        using (var other = _court.Visitor())
        {
            await other.Get<Me>("/api/me");
            (await other.Refused(HttpMethod.Post, "/api/set-up", Wish("aaaaaaaaaaaa"))).ShouldBe("setUpCodeWrong",
                "who guesses does not shut out another browser of the same address");
        }
        _court.Time.Forward(TimeSpan.FromMinutes(1));
        var old = Code;
        await _court.Restart();
        (await stranger.Refused(HttpMethod.Post, "/api/set-up", Wish(old))).ShouldBe("setUpCodeWrong", "each start has its own");
        foreach (var (password, reason) in new[] { ("short", "passwordTooShort"), ("password12", "passwordTooWeak"),
            ("ilsevantorre", "passwordTooWeak"), ("qwertyuiop", "passwordTooWeak"), (new string('a', 200), "passwordTooWeak"),
            (new string('x', 10_000), "passwordTooLong") })
            (await stranger.Refused(HttpMethod.Post, "/api/set-up", Wish(Code, password))).ShouldBe(reason);
        (await stranger.Refused(HttpMethod.Post, "/api/set-up", Wish(Code, email: "nowhere"))).ShouldBe("emailNotUnderstood");
        (await stranger.Get<Me>("/api/me")).Email.ShouldBeNull();

        var code = Code;
        var visitors = Enumerable.Range(0, 6).Select(_ => _court.Visitor()).ToList();
        foreach (var visitor in visitors) await visitor.Get<Me>("/api/me");
        var answers = await Task.WhenAll(visitors.Select((visitor, n) =>
            visitor.Post("/api/set-up", Wish(code, email: $"keeper{n}@larkmoor.example.org"))));
        answers.Count(answer => answer.IsSuccessStatusCode).ShouldBe(1);
        var keeper = visitors[Array.FindIndex(answers, answer => answer.IsSuccessStatusCode)];
        (await keeper.Get<Me>("/api/me")).ShouldSatisfyAllConditions(me => me.Keeper.ShouldBeTrue(), me => me.SetUp.ShouldBeFalse());
        (await keeper.Get<HostsPage>("/api/house/hosts")).Hosts.Count.ShouldBe(1);
        (await stranger.Refused(HttpMethod.Post, "/api/set-up", Wish(code))).ShouldBe("setUpDone");
        await _court.Restart();
        _court.Services.GetRequiredService<House>().NeedsSetUp.ShouldBeFalse();
        (await keeper.Get<Me>("/api/me")).Keeper.ShouldBeTrue("a restart signs nobody out");
    }

    [Fact]
    public async Task An_invitation_makes_one_account_for_its_own_address_and_then_nothing_more()
    {
        using var keeper = await Keeper();
        var byLink = (await keeper.Post<InvitedHost>("/api/house/invitations",
            new InviteHost("teodor@larkmoor.example.org", "Teodor", false))).Link!.Split('#')[1];
        using var guest = _court.Visitor();
        (await guest.Post<InvitationPage>("/api/join/look", new InvitationLook(byLink))).Email.ShouldBe("teodor@larkmoor.example.org");
        (await guest.Refused(HttpMethod.Post, "/api/join", new JoinWish(byLink, "Teodor Quill", "password12", null)))
            .ShouldBe("passwordTooWeak");
        // Forwarded, it still makes only that account, and only once, however many come with it at once.
        var comers = Enumerable.Range(0, 5).Select(_ => _court.Visitor()).ToList();
        foreach (var comer in comers) await comer.Get<Me>("/api/me");
        var joined = await Task.WhenAll(comers.Select(comer => comer.Post("/api/join", new JoinWish(byLink, "Teodor Quill", Good, null))));
        joined.Count(answer => answer.IsSuccessStatusCode).ShouldBe(1);
        (await guest.Refused(HttpMethod.Post, "/api/join", new JoinWish(byLink, "Somebody", Good, null))).ShouldBe("invitationGone");
        (await guest.Refused(HttpMethod.Post, "/api/join/look", new InvitationLook(byLink))).ShouldBe("invitationGone");
        (await keeper.Get<HostsPage>("/api/house/hosts")).Hosts.Single(host => host.Name == "Teodor Quill").ShouldSatisfyAllConditions(
            host => host.Email.ShouldBe("teodor@larkmoor.example.org"), host =>
                host.EmailConfirmed.ShouldBeFalse("nobody has shown to read it"), host => host.Keeper.ShouldBeFalse());
        (await keeper.Refused(HttpMethod.Post, "/api/house/invitations", new InviteHost("Teodor@larkmoor.example.org", null, false)))
            .ShouldBe("addressTaken");

        (await keeper.Post<InvitedHost>("/api/house/invitations",
            new InviteHost("nia@larkmoor.example.org", "Nia", true))).Link.ShouldBeNull("it goes to the address alone");
        var first = (await Letter(keeper, "nia@", "You are invited to host with Hold Court"))[0];
        await keeper.Post<InvitedHost>("/api/house/invitations", new InviteHost("nia@larkmoor.example.org", "Nia", false));
        (await guest.Refused(HttpMethod.Post, "/api/join/look", new InvitationLook(first)))
            .ShouldBe("invitationGone", "the newest one holds");
        var late = (await keeper.Post<InvitedHost>("/api/house/invitations",
            new InviteHost("jun@larkmoor.example.org", "Jun", false))).Link!.Split('#')[1];
        _court.Time.Forward(TimeSpan.FromDays(7.1));
        (await guest.Refused(HttpMethod.Post, "/api/join", new JoinWish(late, "Jun Takeda", Good, null))).ShouldBe("invitationGone");
    }

    [Fact]
    public async Task With_a_second_factor_the_password_opens_nothing_a_code_is_good_once_and_a_recovery_code_too()
    {
        using var keeper = await Keeper();
        var secret = await keeper.Post<CodeSecret>("/api/account/code/begin");
        secret.Address.ShouldStartWith("otpauth://totp/");
        (await keeper.Refused(HttpMethod.Post, "/api/account/code/confirm", new CodeWish("000000"))).ShouldBe("codeWrong");
        var now = DateTimeOffset.UtcNow;
        var recovery = (await keeper.Post<RecoveryCodes>("/api/account/code/confirm",
            new CodeWish(CodeAt(secret.Key, now.AddSeconds(-30)).Insert(3, " ")))).Codes;
        recovery.Count.ShouldBe(10);

        async Task<Visitor> AfterPassword()
        {
            var visitor = _court.Visitor();
            (await visitor.Post<SignedIn>("/api/sign-in", new SignIn("ilse@larkmoor.example.org", Good))).CodeNeeded.ShouldBeTrue();
            (await visitor.Get<Me>("/api/me")).Email.ShouldBeNull("the password alone opens nothing");
            (await visitor.Refused(HttpMethod.Post, "/api/account/prove", new PasswordWish(Good))).ShouldBe("signInNeeded");
            return visitor;
        }
        using var first = await AfterPassword();
        (await first.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep(CodeAt(secret.Key, now.AddSeconds(-30)), false)))
            .ShouldBe("codeWrong", "it was used to turn the second step on");
        (await first.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep(CodeAt(secret.Key, now.AddMinutes(-5)), false)))
            .ShouldBe("codeWrong", "five minutes old");
        (await first.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep("", false))).ShouldBe("codeWrong");
        var minuteAhead = CodeAt(secret.Key, now.AddSeconds(60));
        await first.Does(HttpMethod.Post, "/api/sign-in/code", new SecondStep(minuteAhead, false));
        (await first.Get<Me>("/api/me")).Email.ShouldNotBeNull("a clock may be a minute off");
        using var second = await AfterPassword();
        (await second.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep(minuteAhead, false)))
            .ShouldBe("codeWrong", "somebody looked over the shoulder");
        await _court.Restart();
        (await second.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep(minuteAhead, false)))
            .ShouldBe("codeWrong", "a restart forgets no code that was used");
        await second.Does(HttpMethod.Post, "/api/sign-in/code", new SecondStep(recovery[0].ToLowerInvariant(), true));
        (await second.Get<AccountPage>("/api/account")).RecoveryCodes.ShouldBe(9);
        using var third = await AfterPassword();
        (await third.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep(recovery[0], true))).ShouldBe("codeWrong");
        var answers = new List<string>();
        for (var n = 0; n < 12; n++)
            answers.Add(await third.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep($"{n:D6}", false)));
        answers[^1].ShouldBe("signInWait", "a million codes are not tried");
        // A new password by mail does not take the second step away; only the keeper does, for whoever has lost the device.
        await third.Does(HttpMethod.Post, "/api/forgot", new ForgotWish("ilse@larkmoor.example.org"));
        var link = await Letter(keeper, "ilse@", "A new password");
        await third.Does(HttpMethod.Post, "/api/reset", new ResetWish(link[0], link[1], Other));
        (await keeper.Get<Me>("/api/me")).Email.ShouldBeNull();
        (await third.Post<SignedIn>("/api/sign-in", new SignIn("ilse@larkmoor.example.org", Other))).CodeNeeded.ShouldBeTrue();
        using var nobody = _court.Visitor();
        (await nobody.Refused(HttpMethod.Post, "/api/sign-in/code", new SecondStep(CodeAt(secret.Key, now), false)))
            .ShouldBe("secondStepOver");
        (await nobody.Refused(HttpMethod.Post, "/api/sign-in/passkey", new PasskeyProof("{}", null))).ShouldBe("passkeyWrong");
        (await nobody.Refused(HttpMethod.Post, "/api/sign-in/passkey", new PasskeyProof("not json", null))).ShouldBe("passkeyWrong");
    }

    [Fact]
    public async Task A_forgotten_password_is_replaced_by_the_message_alone_opens_a_locked_account_and_signs_out_everywhere()
    {
        using var keeper = await Keeper();
        using var teodor = await Joins(keeper, "teodor@larkmoor.example.org", "Teodor Quill");
        using var guest = _court.Visitor();
        foreach (var address in new[] { "teodor@larkmoor.example.org", "nobody@larkmoor.example.org" })
            (await guest.Post("/api/forgot", new ForgotWish(address))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var link = await Letter(keeper, "teodor@", "A new password");
        (await keeper.Get<List<OutboxRow>>("/api/outbox")).ShouldNotContain(row => row.To.Contains("nobody@"));
        (await teodor.Get<List<OutboxRow>>("/api/outbox")).ShouldBeEmpty("the house's letters are the keeper's business");
        foreach (var row in await keeper.Get<List<OutboxRow>>("/api/outbox"))
        {
            (await teodor.Refused(HttpMethod.Get, $"/api/outbox/{row.Id}")).ShouldBe("noSuchMessage");
            (await teodor.Get($"/api/outbox/{row.Id}/message.eml")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        }

        // Locked by guesses from elsewhere: the right password does not open it either, and the answer is the same.
        var page = (await guest.Get<Me>("/api/me")).Token;
        async Task<string> Guess(Visitor by, string password, string? with = null)
        {
            using var answer = await by.SendRaw(HttpMethod.Post, "/api/sign-in",
                System.Text.Json.JsonSerializer.Serialize(new SignIn("teodor@larkmoor.example.org", password), CoreJson.Options),
                with ?? page);
            return answer.IsSuccessStatusCode ? "in" : await Visitor.ReasonOf(answer);
        }
        using var known = await SignsIn("teodor@larkmoor.example.org");
        await known.Does(HttpMethod.Post, "/api/sign-out");
        for (var n = 0; n < 10; n++) (await Guess(guest, $"wrong guess {n}")).ShouldBe("signInWrong");
        await Eventually.Succeeds(async () =>
        {
            // The count follows the answers.
            await using var scope = _court.Services.CreateAsyncScope();
            var users = scope.ServiceProvider.GetRequiredService<Microsoft.AspNetCore.Identity.UserManager<Store.Accounts.Account>>();
            (await users.IsLockedOutAsync((await users.FindByIdAsync(link[0]))!)).ShouldBeTrue();
        });
        (await Guess(guest, Good)).ShouldBe("signInWrong");
        (await Guess(known, Good, (await known.Get<Me>("/api/me")).Token))
            .ShouldBe("in", "where he has signed in before, nobody locks him out");

        foreach (var (id, token) in new[] { (link[0], link[1] + "x"), (await IdOf(keeper, "ilse@larkmoor.example.org"), link[1]), ("", ""),
            (link[0], "") })
            (await guest.Refused(HttpMethod.Post, "/api/reset", new ResetWish(id, token, Other))).ShouldBe("linkGone");
        (await guest.Refused(HttpMethod.Post, "/api/reset", new ResetWish(link[0], link[1], "qwertyuiop"))).ShouldBe("passwordTooWeak");
        await guest.Does(HttpMethod.Post, "/api/reset", new ResetWish(link[0], link[1], Other));
        (await guest.Refused(HttpMethod.Post, "/api/reset", new ResetWish(link[0], link[1], Good))).ShouldBe("linkGone", "it works once");
        (await teodor.Get<Me>("/api/me")).Email.ShouldBeNull("signed out everywhere");
        using var anew = _court.Visitor();
        (await Guess(anew, Other, (await anew.Get<Me>("/api/me")).Token)).ShouldBe("in", "opened by the message");
    }

    [Fact]
    public async Task Whoever_signs_out_or_is_signed_out_from_elsewhere_leaves_the_bench_and_no_old_cookie_comes_back()
    {
        using var keeper = await Keeper();
        using var here = await SignsIn("ilse@larkmoor.example.org");
        var opened = await here.Post<OpenedSitting>("/api/sessions", new OpenNow("Left behind"));
        await using var live = await here.Announces(opened, "Ilse");
        using var media = await live.Media();
        using var guest = _court.Visitor();
        await using var waiting = await guest.Announces(opened, "Guest");
        await using var deputy = await _court.Visitor().Announces(opened, "Deputy");
        await live.Done(new Admit([deputy.Me!.Seat], Role.Deputy));
        var elsewhere = (await keeper.Get<AccountPage>("/api/account")).SignIns.Single(one => !one.Here);
        await keeper.Does(HttpMethod.Post, $"/api/account/sign-ins/{elsewhere.Id}/end");
        await Eventually.Holds(() => live.IsClosed);
        await Eventually.Holds(() => media.Closed is not null);
        (await here.Get<Me>("/api/me")).Email.ShouldBeNull();
        (await here.Refused(HttpMethod.Post, "/api/sessions", new OpenNow("Again"))).ShouldBe("signInNeeded");
        await using (var again = await here.Connects(opened)) await Eventually.Holds(() => again.NoSeat);
        waiting.IsClosed.ShouldBeFalse("nobody else is touched");
        await Eventually.Holds(() => deputy.Me!.Role == Role.Host, why: "somebody leads");
        deputy.Seats.Values.Single(row => row.Name == "Ilse").Place.ShouldBe(Place.Gone);
        (await keeper.Get<AccountPage>("/api/account")).SignIns.Single().Here.ShouldBeTrue();

        using var copy = _court.Visitor();
        copy.Cookies.Add(keeper.Cookies.GetAllCookies());
        await keeper.Does(HttpMethod.Post, "/api/sign-out");
        (await copy.Get<Me>("/api/me")).Email.ShouldBeNull("a stolen cookie ends with the sign-in");
    }

    [Fact]
    public async Task Where_other_machines_reach_the_house_the_demos_account_opens_nothing_unless_it_is_asked_for()
    {
        await _court.Stop();
        var folder = _court.Folder;
        async Task<(bool SetUp, bool Warns, string Reason)> Start(params string[] more)
        {
            await using var app = Hosting.CourtHost.Build(["--urls", "http://127.0.0.1:0", "--Data:Folder", folder, "--Data:Pooling",
                "false", .. more]);
            await app.StartAsync();
            using var http = new HttpClient(new HttpClientHandler { CookieContainer = new CookieContainer() })
            {
                BaseAddress =
                new Uri(app.Urls.Single())
            };
            var me = (await System.Net.Http.Json.HttpClientJsonExtensions.GetFromJsonAsync<Me>(http, "/api/me", CoreJson.Options))!;
            using var request = new HttpRequestMessage(HttpMethod.Post,
                "/api/sign-in")
            {
                Content = System.Net.Http.Json.JsonContent.Create(new SignIn(DemoData.Email, DemoData.Password),
                options: CoreJson.Options)
            };
            request.Headers.Add("X-Csrf", me.Token);
            using var answer = await http.SendAsync(request);
            var reason = answer.IsSuccessStatusCode ? "in" : await Visitor.ReasonOf(answer);
            using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(1));
            await app.StopAsync(patience.Token);
            return (me.SetUp, me.OpenDemo, reason);
        }
        (await Start("--Demo:Load", "true", "--Address", "https://court.example.org"))
            .ShouldBe((true, false, "signInWrong"), "it is not made");
        (await Start("--Demo:Load", "true")).ShouldBe((false, false, "in"));
        (await Start("--Address", "https://court.example.org"))
            .ShouldBe((true, false, "accountClosed"), "what is there is closed, and the house needs a keeper");
        (await Start("--Demo:Load", "true", "--Demo:Everywhere", "true", "--Address", "https://court.example.org"))
            .ShouldBe((false, true, "in"));
        // A database that an older version made, in which the demo's account is not marked: brought to the new form, and closed all
        // the same.
        folder = Path.Combine(folder, "older");
        Directory.CreateDirectory(folder);
        await using (var older = await Older.Open(folder)) await older.Do("update AspNetUsers set IsDemo = 0, IsKeeper = 0");
        (await Start("--Address", "https://court.example.org")).ShouldBe((true, false, "accountClosed"));
        (await Start("--Demo:Load", "true")).ShouldBe((false, false, "in"));
    }
}
