using System.Net;
using System.Net.WebSockets;
using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Ledger;
using Microsoft.Extensions.DependencyInjection;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>Ways in that people tried who should not come in, over HTTP, the live line and the media socket.</summary>
public class IntrusionTests(Court court) : IClassFixture<Court>
{
    private static readonly SemaphoreSlim _alone = new(1);

    private async Task<(OpenedSitting Opened, Live Host)> Open(string title, DoorMode door = DoorMode.Attended)
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        var live = await host.Announces(opened, "Odalys");
        if (door != DoorMode.Attended) await live.Done(new SetDoor(door));
        return (opened, live);
    }

    private static Task<HttpResponseMessage> Announce(Visitor who, OpenedSitting opened, string name, string? code = null,
        string? invitation = null) =>
        who.Post($"/api/door/{opened.Link}/announce", new AnnounceWish(name, code, invitation));

    private static async Task<string> Answer(Visitor who, OpenedSitting opened, string name, string? code = null)
    {
        var response = await Announce(who, opened, name, code);
        return response.IsSuccessStatusCode ? "in" : await Visitor.ReasonOf(response);
    }

    [Fact]
    public async Task Leaving_the_lobby_and_coming_back_waits_again_and_is_asked_for_the_passcode_again()
    {
        using var owner = await court.Host();
        var kept = await owner.Post<KeptPlan>("/api/plans", Planned("Come back") with { Door = DoorMode.Attended });
        var passcode = (await owner.Post<NewCode>($"/api/plans/{kept.Id}/passcode")).Code;
        var opened = await owner.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var host = await owner.Announces(opened, "Odalys");
        using var nia = court.Visitor();
        (await Announce(nia, opened, "Nia", passcode)).EnsureSuccessStatusCode();
        await using var live = await nia.Connects(opened);
        await live.Done(new Leave());
        (await Answer(nia, opened, "Nia")).ShouldBe("passcodeWrong");
        (await Answer(nia, opened, "Nia", passcode)).ShouldBe("in");
        await Eventually.Holds(() => live.Me!.Place == Place.Lobby);

        await host.Done(new Admit([live.Me!.Seat]));
        await Eventually.Holds(() => live.Me.Place == Place.Seated);
        await live.Done(new Leave());
        (await Answer(nia, opened, "Nia")).ShouldBe("in", "who was let in comes back without being asked");
        await host.Done(new SendToLobby([live.Me.Seat]));
        await live.Done(new Leave());
        (await Answer(nia, opened, "Nia")).ShouldBe("passcodeWrong");
    }

    [Fact]
    public async Task Two_first_tabs_of_one_browser_are_one_person()
    {
        var (opened, host) = await Open("Two tabs");
        await using var _ = host;
        using var browser = court.Visitor();
        await Task.WhenAll(browser.Get($"/api/door/{opened.Link}"), browser.Get($"/api/door/{opened.Link}"));
        var token = (await browser.Get<Me>("/api/me")).Token;
        await Task.WhenAll(Enumerable.Range(0, 2)
            .Select(n => browser.Post($"/api/door/{opened.Link}/announce", new AnnounceWish("Nia"), token)));
        await using var live = await browser.Connects(opened);
        await Eventually.Holds(() => host.Sitting!.Counts!.Waiting > 0);
        host.Seats.Values.Count(row => row.Name == "Nia").ShouldBe(1);
    }

    [Fact]
    public async Task Whoever_is_announced_and_never_opens_the_line_is_not_at_the_door_for_long()
    {
        await _alone.WaitAsync();
        try
        {
            var own = new Court();
            await own.InitializeAsync();
            using var owner = await own.Host();
            var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Ghosts"));
            await using var host = await owner.Announces(opened, "Odalys");
            await host.Done(new SetDoor(DoorMode.Open));
            using var ghost = own.Visitor();
            using var guest = own.Visitor();
            await host.Done(new SetDoor(DoorMode.Attended));
            (await Announce(ghost, opened, "Ghost")).EnsureSuccessStatusCode();
            (await Announce(ghost, opened, "Ghost")).EnsureSuccessStatusCode();
            await using (var live = await guest.Announces(opened, "Guest"))
            {
                await host.Done(new Admit([live.Me!.Seat]));
                await Eventually.Holds(() => live.Me.Place == Place.Seated);
                host.Seats[host.SeatOf("Ghost")].Connected.ShouldBeFalse();
                own.Time.Forward(TimeSpan.FromMinutes(2));
                await Eventually.Holds(() => host.Seats[host.SeatOf("Ghost")].Place == Place.Gone, seconds: 25);
                host.Seats[host.SeatOf("Guest")].Place.ShouldBe(Place.Seated, "whoever is here stays");
            }
            await Eventually.Holds(() => !host.Seats[host.SeatOf("Guest")].Connected);
            own.Time.Forward(TimeSpan.FromMinutes(9));
            await Task.Delay(TimeSpan.FromSeconds(11));
            host.Seats[host.SeatOf("Guest")].Place.ShouldBe(Place.Seated, "a dropped connection keeps the seat for ten minutes");
            own.Time.Forward(TimeSpan.FromMinutes(2));
            await Eventually.Holds(() => host.Seats[host.SeatOf("Guest")].Place == Place.Gone, seconds: 25);
            await own.DisposeAsync();
        }
        finally
        {
            _alone.Release();
        }
    }

    [Fact]
    public async Task A_personal_link_counts_for_a_browser_that_has_a_seat_and_an_account_proves_its_own_line()
    {
        using var owner = await court.Host();
        var kept = await owner.Post<KeptPlan>("/api/plans", Planned("Proofs") with { Door = DoorMode.Listed });
        await owner.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("Nia Okafor", "nia@larkmoor.example.org"), Line("Ilse Vantorre", role: Role.Deputy) });
        var opened = await owner.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var host = await owner.Announces(opened, "Odalys");
        using var typed = court.Visitor();
        await using var slip = await typed.Announces(opened, "Ilse Vantore");
        slip.Me!.ShouldSatisfyAllConditions(me => me.Place.ShouldBe(Place.Lobby), me => me.Role.ShouldBe(Role.Attendee));

        var link = (await owner.Post<CalledIn>($"/api/door/{opened.Link}/call-in",
            new CallIn("Teodor Quill", null, Role.Presenter))).Link.Split('#')[1];
        (await Announce(typed, opened, "Teodor", invitation: link)).EnsureSuccessStatusCode();
        await Eventually.Holds(() => slip.Me!.Place == Place.Seated && slip.Me.Role == Role.Presenter);
    }

    [Fact]
    public async Task Calling_in_asks_first_who_may_and_writes_then()
    {
        using var owner = await court.Host();
        var kept = await owner.Post<KeptPlan>("/api/plans", Planned("Calling") with { Door = DoorMode.Open });
        await owner.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        var outcomes = await Task.WhenAll(Enumerable.Range(0, 20)
            .Select(n => court.Visitor()
            .Post($"/api/door/{kept.Link}/call-in", new CallIn($"Friend {n}", "friend@example.org", Role.Deputy))));
        outcomes.ShouldAllBe(response => response.StatusCode == HttpStatusCode.Conflict);
        (await owner.Get<DocketPage>($"/api/plans/{kept.Id}/docket")).Lines.ShouldBeEmpty();
    }

    [Fact]
    public async Task Guesses_at_a_code_are_counted_before_they_are_looked_at_and_shut_out_nobody_else()
    {
        using var owner = await court.Host();
        var kept = await owner.Post<KeptPlan>("/api/plans", Planned("Guessing") with { Door = DoorMode.Open });
        var key = (await owner.Post<NewCode>($"/api/plans/{kept.Id}/host-key")).Code;
        key.Length.ShouldBeGreaterThanOrEqualTo(10);
        var opened = await owner.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var host = await owner.Announces(opened, "Odalys");

        using var guesser = court.Visitor();
        await using var seated = await guesser.Announces(opened, "Guest");
        var token = (await guesser.Get<Me>("/api/me")).Token;
        var answers = await Task.WhenAll(Enumerable.Range(0, 40).Select(async n =>
            await Visitor.ReasonOf(await guesser.Post($"/api/door/{opened.Link}/announce",
                new AnnounceWish("Guest", $"guess{n}"), token))));
        answers.Count(reason => reason == "passcodeWrong").ShouldBeLessThanOrEqualTo(5);
        (await Answer(guesser, opened, "Guest", key)).ShouldBe("passcodeWait", "also the right one has to wait then");
        seated.Me!.Role.ShouldBe(Role.Attendee);

        using var knower = court.Visitor();
        await knower.Get($"/api/door/{opened.Link}");
        (await Answer(knower, opened, "Stand-in", key)).ShouldBe("in", "another browser of the same address knows it");
        await using var deputy = await knower.Connects(opened);
        deputy.Me!.Role.ShouldBe(Role.Deputy);
    }

    [Fact]
    public async Task Wrong_passwords_lock_out_nobody_who_has_signed_in_here_before_and_do_not_tell_who_has_an_account()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var known = await own.Host();
        async Task<List<string>> Try(string email)
        {
            using var stranger = own.Visitor();
            var reasons = new List<string>();
            for (var n = 0; n < 12; n++)
                reasons.Add(await Visitor.ReasonOf(await stranger.Post("/api/sign-in", new SignIn(email, $"wrong {n}"))));
            return reasons;
        }
        // The first sign-in from this address has counted once.
        var there = await Try(Demo.DemoData.Email);
        var nobody = await Try("nobody@larkmoor.example.org");
        there.Distinct().ShouldBe(nobody.Distinct());
        there[^1].ShouldBe("signInWait");
        (await known.Post("/api/sign-in", new SignIn(Demo.DemoData.Email, Demo.DemoData.Password))).StatusCode.ShouldBe(HttpStatusCode.OK);
        await own.DisposeAsync();
    }

    [Fact]
    public async Task A_seat_held_as_an_account_ends_with_signing_out()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var owner = await own.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Signing out"));
        await using (var host = await owner.Announces(opened, "Odalys")) host.Me!.Role.ShouldBe(Role.Host);
        (await owner.Post("/api/sign-out")).EnsureSuccessStatusCode();
        await using var after = await owner.Connects(opened);
        after.NoSeat.ShouldBeTrue();
        await own.DisposeAsync();
    }

    [Fact]
    public async Task An_account_that_has_a_seat_enters_from_another_browser_by_its_door()
    {
        var (opened, host) = await Open("Two browsers");
        await using var _ = host;
        using var other = await court.Host();
        other.Cookies.GetAllCookies().Where(cookie => cookie.Name.StartsWith("hold-court-seat", StringComparison.Ordinal)).ToList()
            .ForEach(cookie => cookie.Expired = true);
        (await other.Get<DoorPage>($"/api/door/{opened.Link}"))
            .ShouldSatisfyAllConditions(page => page.HoldsSeat.ShouldBeFalse(), page => page.Entry.ShouldBe(EntryKind.EnterAsHost));
        await using var again = await other.Announces(opened, "Odalys");
        again.Me!.Role.ShouldBe(Role.Host);
        await Eventually.Holds(() => host.Superseded);
    }

    [Fact]
    public async Task A_superseded_tab_does_nothing_more_and_is_closed()
    {
        var (opened, host) = await Open("Superseded", DoorMode.Open);
        await using var _ = host;
        using var browser = court.Visitor();
        await using var first = await browser.Announces(opened, "Nia");
        await using var second = await browser.Connects(opened);
        await Eventually.Holds(() => first.Superseded);
        try { (await first.Do(new OpenMicrophone())).ShouldNotBeNull().Reason.ShouldBe(Reason.Superseded); }
        catch (Exception e) when (e is TaskCanceledException or InvalidOperationException or HttpRequestException) { /* Closed already. */ }
        second.Me!.Microphone.ShouldBe(MicrophoneState.Closed);
        await Eventually.Holds(() => first.IsClosed);
        await second.Done(new OpenMicrophone());
    }

    [Fact]
    public async Task Many_connections_of_one_person_have_the_wishes_of_one_person()
    {
        var (opened, host) = await Open("Sixty connections", DoorMode.Open);
        await using var _ = host;
        using var browser = court.Visitor();
        await using var live = await browser.Announces(opened, "Flood");
        var (done, begun) = (0, DateTime.UtcNow);
        for (var round = 0; round < 8; round++)
        {
            await using var another = await browser.Connects(opened);
            var answers = await Task.WhenAll(Enumerable.Range(0, 60)
                .Select(n => another.Do(new SetState(n % 2 == 0 ? State.Following : State.CannotHear))));
            done += answers.Count(refusal => refusal?.Reason != Reason.TooMany);
        }
        done.ShouldBeLessThan(70 + (int)(20 * (DateTime.UtcNow - begun).TotalSeconds) + 20);
    }

    [Fact]
    public async Task Somebody_declined_who_comes_again_and_again_leaves_no_entries_and_gets_no_ticket()
    {
        var (opened, host) = await Open("Reconnecting");
        await using var _ = host;
        using var browser = court.Visitor();
        var seat = default(SeatId);
        await using (var live = await browser.Announces(opened, "Pest"))
        {
            seat = live.Me!.Seat;
            await host.Done(new Decline([seat]));
            await Eventually.Holds(() => live.Me.Place == Place.Gone);
        }
        var reader = court.Services.GetRequiredService<EntryReader>();
        var before = (await reader.Read(opened.Sitting)).Count;
        for (var n = 0; n < 10; n++)
        {
            await using var again = await browser.Connects(opened);
            (await again.Ask<string?>("MediaTicket")).ShouldBeNull();
        }
        (await reader.Read(opened.Sitting)).Count.ShouldBe(before);
    }

    [Fact]
    public async Task A_ticket_opens_one_socket_a_seat_has_one_and_adjourning_ends_them()
    {
        var (opened, host) = await Open("Tickets", DoorMode.Open);
        await using var _ = host;
        using var browser = court.Visitor();
        await using var guest = await browser.Announces(opened, "Guest");
        var ticket = (await guest.Ask<string?>("MediaTicket"))!;
        using var first = await Media.Open(court.Address, ticket);
        await Should.ThrowAsync<WebSocketException>(() => Media.Open(court.Address, ticket));
        using var second = await guest.Media();
        await Eventually.Holds(() => first.Closed is not null);
        second.Closed.ShouldBeNull();
        await host.Done(new Adjourn());
        await Eventually.Holds(() => second.Closed is not null);
        (await guest.Ask<string?>("MediaTicket")).ShouldBeNull();
    }

    [Fact]
    public async Task Tickets_and_cookies_run_out()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var owner = await own.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Running out"));
        await using var host = await owner.Announces(opened, "Odalys");
        await host.Done(new SetDoor(DoorMode.Open));
        using var browser = own.Visitor();
        await using var guest = await browser.Announces(opened, "Guest");
        var ticket = (await guest.Ask<string?>("MediaTicket"))!;
        own.Time.Forward(TimeSpan.FromSeconds(31));
        await Should.ThrowAsync<WebSocketException>(() => Media.Open(own.Address, ticket));
        using var media = await guest.Media();
        own.Time.Forward(TimeSpan.FromHours(24));
        await using var late = await browser.Connects(opened);
        late.NoSeat.ShouldBeTrue("a claim on a seat is good for a day");
        await own.DisposeAsync();
    }

    [Fact]
    public async Task An_account_that_a_line_names_proves_that_line()
    {
        using var owner = await court.Host();
        var kept = await owner.Post<KeptPlan>("/api/plans", Planned("Accounts") with { Door = DoorMode.Listed });
        await owner.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("T. Quill", "Runa@larkmoor.example.org", role: Role.Presenter) });
        var opened = await owner.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await using var host = await owner.Announces(opened, "Odalys");
        using var other = await court.AnotherHost("runa@larkmoor.example.org");
        await using var live = await other.Announces(opened, "Runa");
        live.Me!.ShouldSatisfyAllConditions(me => me.Place.ShouldBe(Place.Seated), me => me.Role.ShouldBe(Role.Presenter));
    }

    [Fact]
    public async Task Three_hundred_behind_one_address_wait_in_quiet_and_all_come_in_when_it_opens()
    {
        using var owner = await court.Host();
        var kept = await owner.Post<KeptPlan>("/api/plans", Planned("Three hundred") with { Door = DoorMode.Open });
        using var http = new HttpClient { Timeout = Timeout.InfiniteTimeSpan };
        async Task<Stream> Wait() => await http.GetStreamAsync(new Uri(court.Address, $"/api/door/{kept.Link}/stream"));
        var streams = await Task.WhenAll(Enumerable.Range(0, 300).Select(_ => Wait()));
        var looks = streams.Select(async stream =>
        {
            using var lines = new StreamReader(stream);
            for (var seen = 0; seen < 2;)
                if (await lines.ReadLineAsync() == "event: look") seen++;
        }).ToList();
        var opened = await owner.Post<OpenedSitting>($"/api/sessions/{kept.Id}/open");
        await Task.WhenAll(looks).WaitAsync(TimeSpan.FromSeconds(20));
        await using var host = await owner.Announces(opened, "Odalys");
        var answers = await Task.WhenAll(Enumerable.Range(0, 300).Select(async n =>
        {
            using var guest = court.Visitor();
            (await guest.Get($"/api/door/{opened.Link}")).EnsureSuccessStatusCode();
            return (await Announce(guest, opened, $"Warden {n}")).StatusCode;
        }));
        answers.ShouldAllBe(status => status == HttpStatusCode.OK);
        await Eventually.Holds(() => host.Sitting!.Counts!.Inside == 301);
    }

    [Fact]
    public async Task A_wish_whose_answer_was_lost_is_not_done_twice_also_after_a_restart()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var owner = await own.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Twice"));
        await using (var host = await owner.Announces(opened, "Odalys"))
        {
            var write = new Write(new Recipient(Reach.Everyone), "Good morning");
            var both = await Task.WhenAll(host.Do(write, "once"), host.Do(write, "once"));
            both.ShouldAllBe(refusal => refusal == null);
            (await host.Do(new EditMessage(99, "none"), "refused"))!.Reason.ShouldBe(Reason.NotYourMessage);
            (await host.Do(write, "refused")).ShouldBeNull("what was refused may be tried again");
        }
        await own.Restart();
        await using var again = await owner.Connects(opened);
        (await again.Do(new Write(new Recipient(Reach.Everyone), "Good morning"), "once")).ShouldBeNull();
        again.Messages.Count.ShouldBe(2);
        (await again.Ask<ChatPage>("Chat", new ChatWish(null, null))).Rows.Length.ShouldBe(2);
        await own.DisposeAsync();
    }
}
