using System.Diagnostics;
using System.Net;
using System.Text;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>What costs much stands in turn, and what fails beside the requests goes on.</summary>
public class HeavyWorkTests(Court court) : IClassFixture<Court>
{
    [Fact]
    public async Task Whoever_asks_most_waits_most_and_beyond_a_bound_is_told_when_to_come_again()
    {
        using var heavy = new HeavyWork();
        using var opens = new ManualResetEventSlim();
        var order = new List<string>();
        var first = heavy.Run(Lane.Quick, "first", () => { opens.Wait(); return 0; });
        Task<int> Asks(string who) => heavy.Run(Lane.Quick, who, () => { order.Add(who); return 0; });
        await Eventually.Holds(() => heavy.Waiting == 1);
        var greedy = Enumerable.Range(0, HeavyWork.MostOfOne).Select(_ => Asks("greedy")).ToList();
        Should.Throw<BusyException>(() => { _ = Asks("greedy"); }).Seconds.ShouldBeInRange(1, 60);
        var modest = Asks("modest");
        var others = new List<Task>();
        for (var n = 0; heavy.Waiting < HeavyWork.MostWaiting; n++) others.Add(Asks($"other {n}"));
        Should.Throw<BusyException>(() => { _ = Asks("late"); });
        // What is long does not stand in the way of what is short, nor the other way.
        (await heavy.Run(Lane.Slow, "greedy", () => 7)).ShouldBe(7);
        opens.Set();
        await Task.WhenAll([first, modest, .. greedy, .. others]);
        order.IndexOf("modest").ShouldBe(1, "in turn, and not behind all that one has asked for");
        (await Should.ThrowAsync<InvalidOperationException>(() =>
            heavy.Run(Lane.Quick, "odd", Task<int> () => throw new InvalidOperationException()))).ShouldNotBeNull();
        (await heavy.Run(Lane.Quick, "next", () => 1)).ShouldBe(1, "what fails ends nothing");
        heavy.Waiting.ShouldBe(0);
    }

    /// <summary>Strangers come from as many addresses as they like.</summary>
    [Fact]
    public async Task Any_number_of_strangers_leaves_room_for_those_whom_the_house_knows_and_stands_behind_them()
    {
        using var heavy = new HeavyWork();
        using var opens = new ManualResetEventSlim();
        var order = new List<string>();
        var first = heavy.Run(Lane.Quick, "first", () => { opens.Wait(); return 0; }, isStranger: true);
        Task<int> Asks(string who, bool isStranger) => heavy.Run(Lane.Quick, who, () => { order.Add(who); return 0; }, isStranger);
        await Eventually.Holds(() => heavy.Waiting == 1);
        var (strangers, turnedAway) = (new List<Task<int>>(), 0);
        for (var n = 0; n < 200; n++)
            try { strangers.Add(Asks($"stranger {n}", isStranger: true)); }
            catch (BusyException) { turnedAway++; }
        turnedAway.ShouldBeGreaterThan(100);
        var known = Enumerable.Range(0, 8).Select(n => Asks($"host {n}", isStranger: false)).ToList();
        opens.Set();
        await Task.WhenAll([first, .. known, .. strangers]);
        order.FindLastIndex(who => who.StartsWith("host", StringComparison.Ordinal)).ShouldBeLessThan(12);
        order.Take(12).ShouldContain(who => who.StartsWith("stranger", StringComparison.Ordinal), "nobody waits for ever");
    }

    /// <summary>What comes with a rush of requests has the threads of the rush only a few at a time.</summary>
    [Fact]
    public async Task A_rush_of_requests_has_few_threads_and_one_that_waits_with_its_thread_keeps_none_from_the_others()
    {
        using var turns = new RequestTurns(atOnce: 2, most: 6);
        var (running, most, slow) = (0, 0, 0);
        await Task.WhenAll(Enumerable.Range(0, 300).Select(_ => turns.Run(async () =>
        {
            Computes();
            await Task.Yield();
            Computes();
        })));
        // One that this machine held up counts as one that waits.
        most.ShouldBeLessThanOrEqualTo(2 + slow);
        turns.Waiting.ShouldBe(0);

        using var opens = new ManualResetEventSlim();
        var waiting = Enumerable.Range(0, 5).Select(_ => turns.Run(() => { opens.Wait(); return Task.CompletedTask; })).ToList();
        await turns.Run(() => Task.CompletedTask).WaitAsync(TimeSpan.FromSeconds(20));
        waiting.ShouldAllBe(one => !one.IsCompleted);
        waiting.Add(turns.Run(() => { opens.Wait(); return Task.CompletedTask; }));
        var last = turns.Run(() => Task.CompletedTask);
        await Task.Delay(300);
        last.IsCompleted.ShouldBeFalse("there is an end to threads, too");
        opens.Set();
        await Task.WhenAll([last, .. waiting]).WaitAsync(TimeSpan.FromSeconds(20));
        await Should.ThrowAsync<InvalidOperationException>(() => turns.Run(() => throw new InvalidOperationException()));

        // What was cut off goes on when the server has stopped already, and ends nothing by it.
        turns.Dispose();
        await turns.Run(() => Task.CompletedTask).WaitAsync(TimeSpan.FromSeconds(20));

        void Computes()
        {
            var (began, now) = (Stopwatch.GetTimestamp(), Interlocked.Increment(ref running));
            int seen;
            while ((seen = Volatile.Read(ref most)) < now && Interlocked.CompareExchange(ref most, now, seen) != seen) { }
            Thread.SpinWait(20_000);
            Interlocked.Decrement(ref running);
            if (Stopwatch.GetElapsedTime(began) > TimeSpan.FromMilliseconds(40)) Interlocked.Increment(ref slow);
        }
    }

    [Theory]
    [InlineData("2001:db8:1:2:aaaa::1", "2001:db8:1:2:bbbb:1:2:3", true)]
    [InlineData("2001:db8:1:2::1", "2001:db8:1:3::1", false)]
    [InlineData("192.0.2.7", "::ffff:192.0.2.7", true)]
    [InlineData("192.0.2.7", "192.0.2.8", false)]
    public void Whoever_has_a_whole_line_of_addresses_counts_as_one(string one, string other, bool same) =>
        (ClientAddress.Of(IPAddress.Parse(one)) == ClientAddress.Of(IPAddress.Parse(other))).ShouldBe(same);

    [Fact]
    public async Task Whatever_fails_beside_the_requests_begins_again_and_is_counted()
    {
        using var supervisor = Made.Supervisor();
        var runs = 0;
        using var stop = new CancellationTokenSource();
        var kept = supervisor.Keep("films", async cancel =>
        {
            if (++runs == 1) throw new InvalidOperationException("secret words");
            await Task.Delay(Timeout.Infinite, cancel);
        }, stop.Token);
        await Eventually.Holds(() => runs == 2, seconds: 10);
        supervisor.Turn("relay", () => throw new FormatException()).ShouldBeFalse();
        supervisor.Begin("mail", () => throw new TimeoutException());
        await Eventually.Holds(() => supervisor.Failed.Count == 3);
        supervisor.Failed.Single(row => row.Name == "films").ShouldSatisfyAllConditions(
            row => row.Failures.ShouldBe(1),
            row => row.Kind.ShouldBe(nameof(InvalidOperationException)), row => row.Pauses.ShouldBeFalse());
        await stop.CancelAsync();
        await kept;
    }

    /// <summary>Seen: sixty sign-ins of a stranger silenced every voice for 8 s.</summary>
    [Fact]
    public async Task Sixty_sign_ins_at_once_hold_up_no_wish_and_most_are_told_to_come_again()
    {
        using var owner = await court.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("While a stranger signs in"));
        await using var bench = await owner.Announces(opened, "Odalys");
        using var stranger = court.Visitor();
        var token = (await stranger.Get<Me>("/api/me")).Token;
        var flood = Enumerable.Range(0, 60)
            .Select(n => stranger.Post("/api/sign-in", new SignIn($"nobody{n}@example.org", "wrong words"), token)).ToList();
        var slowest = TimeSpan.Zero;
        for (var n = 0; n < 10; n++)
        {
            var began = System.Diagnostics.Stopwatch.GetTimestamp();
            await bench.Done(new SetOrder(Order.Mark, n % 2 == 0 ? Audience.Everyone : Audience.Bench));
            if (System.Diagnostics.Stopwatch.GetElapsedTime(began) is var took && took > slowest) slowest = took;
        }
        var answers = await Task.WhenAll(flood);
        answers.Count(answer => answer.StatusCode == HttpStatusCode.Unauthorized).ShouldBeInRange(HeavyWork.MostOfOne, 45);
        var busy = answers.First(answer => answer.StatusCode == HttpStatusCode.TooManyRequests);
        (await Visitor.ReasonOf(busy)).ShouldBe("busy");
        busy.Headers.RetryAfter!.Delta!.Value.TotalSeconds.ShouldBeInRange(1, 60);
        slowest.ShouldBeLessThan(TimeSpan.FromSeconds(4));
    }

    /// <summary>Also what a sitting itself has worked out: it is told to come again, and the sitting goes on.</summary>
    [Fact]
    public async Task A_file_of_all_that_was_written_waits_its_turn_and_says_when_there_is_none()
    {
        using var owner = await court.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("While all are busy"));
        await using var bench = await owner.Announces(opened, "Odalys");
        var heavy = court.Services.GetRequiredService<HeavyWork>();
        using var opens = new ManualResetEventSlim();
        var line = Enumerable.Range(0, HeavyWork.MostWaiting)
            .Select(n => heavy.Run(Lane.Slow, $"other {n}", () => { opens.Wait(TimeSpan.FromMinutes(1)); return n; })).ToList();
        foreach (var file in new[] { "chat.csv", "ledger.jsonl", "ledger/check" })
        {
            using var answer = await owner.Get($"/api/sittings/{opened.Sitting}/{file}");
            (await Visitor.ReasonOf(answer)).ShouldBe("busy", file);
        }
        await bench.Done(new SendNotice("The sitting goes on"));
        opens.Set();
        await Task.WhenAll(line);
        (await owner.Get($"/api/sittings/{opened.Sitting}/chat.csv")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>Contacts were taken over within a lock of the whole database, which was held for as long as they waited.</summary>
    [Fact]
    public async Task Contacts_that_wait_their_turn_hold_up_no_sitting_and_two_at_once_double_nobody()
    {
        using var owner = await court.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("While contacts wait"));
        await using var bench = await owner.Announces(opened, "Odalys");
        var heavy = court.Services.GetRequiredService<HeavyWork>();
        using var opens = new ManualResetEventSlim();
        var before = heavy.Run(Lane.Slow, "another", () => { opens.Wait(TimeSpan.FromMinutes(1)); return 0; });
        var file = Encoding.UTF8.GetBytes("name,email\nWren Ashby,wren@larkmoor.example.org\nIdo Perl,ido@larkmoor.example.org\n");
        var imports = Enumerable.Range(0, 2).Select(_ => owner.Send(HttpMethod.Post, "/api/contacts/import", file))
            .ToList();
        await Eventually.Holds(() => heavy.Waiting >= 2);
        await bench.Done(new SendNotice("Nobody waits for contacts")).WaitAsync(TimeSpan.FromSeconds(2));
        opens.Set();
        foreach (var answer in await Task.WhenAll(imports))
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync());
        await before;
        (await owner.Get<List<ContactRow>>("/api/contacts")).Count(row => row.Name == "Wren Ashby").ShouldBe(1);
    }
}
