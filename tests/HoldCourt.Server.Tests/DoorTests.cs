using System.Net;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

public class DoorTests(Court court) : IClassFixture<Court>
{
    [Theory]
    [InlineData("", "nameEmpty")]
    [InlineData(null, "nameEmpty")]
    [InlineData("\u202Egnirts", "nameHidden")]
    [InlineData("long", "nameTooLong")]
    public async Task A_name_that_cannot_be_shown_is_refused_with_its_reason(string? name, string reason)
    {
        var opened = await (await court.Host()).Post<OpenedSitting>("/api/sessions", new OpenNow("Names"));
        using var guest = court.Visitor();
        var response = await guest.Post($"/api/door/{opened.Link}/announce",
            new AnnounceWish(name == "long" ? new string('n', 10_000) : name));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await Visitor.ReasonOf(response)).ShouldBe(reason);
    }

    [Theory]
    [InlineData("/api/door/nonsense", "noSuchLink")]
    [InlineData("/api/door/AAAAAAAAAAAAAAAAAAAAAA", "noSuchLink")]
    [InlineData("/api/somewhere", "noSuchAddress")]
    [InlineData("/api/sessions", "signInNeeded")]
    public async Task What_is_not_there_or_not_allowed_says_so(string path, string reason)
    {
        using var guest = court.Visitor();
        (await Visitor.ReasonOf(await guest.Get(path))).ShouldBe(reason);
    }

    [Fact]
    public async Task Wrong_passcodes_are_slowed_down_and_the_right_one_then_has_to_wait_too()
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Behind a passcode"));
        await using (var db = await court.Services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync())
        {
            var hash = await court.Services.GetRequiredService<CodeGuard>().Hash("withy");
            await db.Sessions.Where(s => s.Link == opened.Link).ExecuteUpdateAsync(set => set.SetProperty(s => s.PasscodeHash, hash));
        }
        using var guest = court.Visitor();
        Task<HttpResponseMessage> Try(string passcode) =>
            guest.Post($"/api/door/{opened.Link}/announce", new AnnounceWish("Guest", passcode));

        (await guest.Get<DoorPage>($"/api/door/{opened.Link}")).NeedsPasscode.ShouldBeTrue();
        for (var n = 0; n < 4; n++) (await Visitor.ReasonOf(await Try("wrong"))).ShouldBe("passcodeWrong");
        (await Visitor.ReasonOf(await Try("wrong"))).ShouldBe("passcodeWait");
        var patient = await Try("withy");
        patient.StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
        (await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Odalys"))).Sitting.ShouldBe(opened.Sitting);
    }

    [Fact]
    public async Task A_change_without_the_pages_token_is_refused()
    {
        using var guest = court.Visitor();
        (await Visitor.ReasonOf(await guest.Post("/api/sign-in", new SignIn("a@example.org", "b"), token: "forged")))
            .ShouldBe("staleToken");
    }

    [Fact]
    public async Task Signing_in_with_a_wrong_password_says_so_and_lets_nobody_in()
    {
        using var guest = court.Visitor();
        (await Visitor.ReasonOf(await guest.Post("/api/sign-in", new SignIn("nobody@example.org", "wrong")))).ShouldBe("signInWrong");
        (await guest.Get("/api/sessions")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_page_of_another_site_cannot_open_the_live_line_or_the_media_socket()
    {
        using var http = new HttpClient();
        http.DefaultRequestHeaders.Add("Origin", "https://elsewhere.example.net");
        (await http.PostAsync(new Uri(court.Address, "/live/negotiate?negotiateVersion=1"), null)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden);
        (await http.GetAsync(new Uri(court.Address, "/media"))).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_socket_from_the_same_name_by_another_scheme_is_another_sites()
    {
        using var http = new HttpClient();
        http.DefaultRequestHeaders.Add("Origin", $"https://{court.Address.Authority}");
        (await Visitor.ReasonOf(await http.GetAsync(new Uri(court.Address, "/media")))).ShouldBe("otherSite");
        http.DefaultRequestHeaders.Remove("Origin");
        http.DefaultRequestHeaders.Add("Origin", court.Address.GetLeftPart(UriPartial.Authority));
        (await Visitor.ReasonOf(await http.GetAsync(new Uri(court.Address, "/media")))).ShouldNotBe("otherSite");
    }

    /// <summary>A link of before leads on to where its token is not sent; what a personal link opens goes by a cookie.</summary>
    [Fact]
    public async Task The_token_of_a_personal_link_stands_in_no_address_that_is_sent()
    {
        using var plain = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false });
        foreach (var (old, now) in new[] { ("/s/link/token", "/s/link#token"), ("/answer/token", "/answer#token") })
            (await plain.GetAsync(new Uri(court.Address, old))).Headers.Location!.ToString().ShouldBe(now);
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Made.Planned("Tokens") with { Door = DoorMode.Listed });
        await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket", new[] { Made.Line("Nia Okafor", "nia@larkmoor.example.org") });
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var bench = await host.Announces(opened, "Odalys");
        var token = (await host.Post<CalledIn>($"/api/door/{opened.Link}/call-in", new CallIn("Ilse", null, Role.Deputy)))
            .Link.Split('#')[1];
        using var ilse = court.Visitor();
        (await ilse.Post<DoorPage>($"/api/door/{opened.Link}/invitation", new ShownLink(token))).Entry.ShouldBe(EntryKind.EnterAsDeputy);
        (await ilse.Get<DoorPage>($"/api/door/{opened.Link}")).KnownName.ShouldBe("Ilse", "by the cookie");
        await using var seat = await ilse.Announces(opened, "Ilse");
        seat.Me!.Role.ShouldBe(Role.Deputy);
        foreach (var odd in new[] { "", "x", new string('A', 22), new string('A', 5_000) })
        {
            using var other = court.Visitor();
            await other.Post($"/api/door/{opened.Link}/invitation", new ShownLink(odd));
            (await other.Get<DoorPage>($"/api/door/{opened.Link}")).KnownName.ShouldBeNull();
        }
    }

    [Fact]
    public async Task Pages_come_with_headers_that_allow_scripts_from_here_alone()
    {
        using var guest = court.Visitor();
        var headers = (await guest.Get("/api/me")).Headers;
        headers.Contains("Server").ShouldBeFalse("which program answers is nobody's business");
        var policy = headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldContain("script-src 'self'");
        policy.ShouldNotContain("unsafe");
        headers.GetValues("X-Content-Type-Options").ShouldBe(["nosniff"]);
    }

    [Fact]
    public async Task A_forged_or_missing_cookie_holds_no_seat()
    {
        var opened = await (await court.Host()).Post<OpenedSitting>("/api/sessions", new OpenNow("Cookies"));
        using var guest = court.Visitor();
        await using var without = await guest.Connects(opened);
        without.NoSeat.ShouldBeTrue();
        guest.Cookies.Add(court.Address, new Cookie($"hold-court-seat-{opened.Sitting:N}", "Zm9yZ2Vk"));
        await using var forged = await guest.Connects(opened);
        forged.NoSeat.ShouldBeTrue();
    }

    [Fact]
    public async Task Opening_twice_gives_the_same_sitting_and_others_sessions_cannot_be_opened()
    {
        var host = await court.Host();
        var card = (await host.Get<List<SessionCard>>("/api/sessions")).First(session => session.Kind == SessionKind.Standing);
        var both = await Task.WhenAll(host.Post<OpenedSitting>($"/api/sessions/{card.Id}/open"),
            host.Post<OpenedSitting>($"/api/sessions/{card.Id}/open"));
        both[0].ShouldBe(both[1]);
        (await Visitor.ReasonOf(await host.Post($"/api/sessions/{Guid.NewGuid()}/open"))).ShouldBe("noSuchSession");
    }

    [Fact]
    public async Task Malformed_bodies_are_answered_with_a_reason()
    {
        using var guest = court.Visitor();
        var token = (await guest.Get<Me>("/api/me")).Token;
        using var request = new HttpRequestMessage(HttpMethod.Post,
            new Uri(court.Address, "/api/sign-in"))
        { Content = new StringContent("{", System.Text.Encoding.UTF8, "application/json") };
        request.Headers.Add("X-Csrf", token);
        using var http = new HttpClient(new HttpClientHandler { CookieContainer = guest.Cookies });
        var response = await http.SendAsync(request);
        ((int)response.StatusCode).ShouldBe(400);
        (await Visitor.ReasonOf(response)).ShouldBe("notUnderstood");
    }
}
