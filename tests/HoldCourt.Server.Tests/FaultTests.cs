using System.Diagnostics;
using System.Net.Sockets;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using HoldCourt.Server.CommandLine;
using HoldCourt.Server.Ledger;
using HoldCourt.Server.Planning;
using HoldCourt.Store.Ledger;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>A locked database, a browser that does not read, values that nobody would send by hand.</summary>
public class FaultTests(Court court) : IClassFixture<Court>
{
    [Fact]
    public async Task While_the_database_is_locked_wishes_are_answered_as_not_done_and_afterwards_everybody_is_there_again()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var owner = await own.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Locked"));
        await using var host = await owner.Announces(opened, "Odalys");
        await host.Done(new SetDoor(DoorMode.Open));
        await using var guest = await own.Visitor().Announces(opened, "Nia");

        await using (var disk = new SqliteConnection($"Data Source={Path.Combine(own.Folder, "hold-court.db")};Pooling=False"))
        {
            await disk.OpenAsync();
            await using var hold = disk.CreateCommand();
            hold.CommandText = "BEGIN IMMEDIATE";
            await hold.ExecuteNonQueryAsync();
            var clock = Stopwatch.StartNew();
            // Where the line breaks off first, the page asks again with the same id; here it does not.
            static async Task<Reason?> Answer(Task<Refusal?> wish)
            {
                try { return (await wish)?.Reason; }
                catch (TaskCanceledException) { return Reason.NotStored; }
            }
            var answers = await Task.WhenAll(Answer(host.Do(new LockDoor("during the lock", false))),
                Answer(guest.Do(new OpenMicrophone())), Answer(guest.Do(new RaiseHand())));
            answers.ShouldAllBe(reason => reason == Reason.NotStored);
            clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(25));
        }
        await Eventually.Succeeds(async () =>
        {
            if (host.IsClosed) await host.Again();
            await host.Done(new SendNotice("after the lock"));
        }, seconds: 40);
        await Eventually.Succeeds(async () =>
        {
            if (guest.IsClosed) await guest.Again();
            await guest.Done(new TurnCamera(true));
        }, seconds: 40);
        var stored = await own.Services.GetRequiredService<EntryReader>().Read(opened.Sitting);
        Chain.FirstBreak(stored).ShouldBeNull();
        stored.ShouldNotContain(entry => entry.Json.Contains("during the lock", StringComparison.Ordinal)
            || entry.Json.Contains("microphonesOpened", StringComparison.Ordinal));
        host.Sitting!.Door!.Lock.ShouldBeNull();
        await Eventually.Holds(() => host.Seats[guest.Me!.Seat].CameraOn);
        await own.DisposeAsync();
    }

    [Fact]
    public async Task Somebody_who_does_not_read_holds_up_nobody_and_is_cut_off_or_gets_a_whole_view_later()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var owner = await own.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Deaf"));
        await using var host = await owner.Announces(opened, "Odalys");
        await host.Done(new SetDoor(DoorMode.Open));
        using var browser = own.Visitor();
        await using var neighbour = await own.Visitor().Announces(opened, "Neighbour");
        await browser.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Deaf"));
        using var deaf = await Deaf(own, browser, opened.Sitting);
        await Eventually.Holds(() => host.Seats.Values.Any(row => row is { Name: "Deaf", Connected: true }));

        // Each notice goes to everybody's ledger and view; the kernel's buffers hold only some of them.
        await host.Done(new GiveRole([host.SeatOf("Deaf")], Role.Deputy));
        var longest = TimeSpan.Zero;
        for (var n = 0; n < 700; n++)
        {
            var clock = Stopwatch.StartNew();
            while ((await host.Do(new SendNotice($"{n} {new string('x', 480)}")))?.Reason == Reason.TooMany) await Task.Delay(100);
            longest = clock.Elapsed > longest ? clock.Elapsed : longest;
        }
        longest.ShouldBeLessThan(TimeSpan.FromSeconds(5), "the one who acts is answered");
        await Eventually.Succeeds(() => host.Done(new OpenMicrophone()));
        await Eventually.Holds(() => neighbour.Seats[host.Me!.Seat].Microphone == MicrophoneState.Open, seconds: 3,
            why: "and the others are told");
        neighbour.Missed.ShouldBeFalse();
        await own.DisposeAsync();
    }

    /// <summary>A live line by hand that takes what it needs to be taken for open, and then reads nothing more.</summary>
    private static async Task<ClientWebSocket> Deaf(Court own, Visitor browser, Guid sitting)
    {
        var socket = new ClientWebSocket();
        socket.Options.Cookies = browser.Cookies;
        using var way = new HttpMessageInvoker(new SocketsHttpHandler
        {
            UseCookies = false,
            ConnectCallback = async (context, cancel) =>
            {
                var tcp = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true, ReceiveBufferSize = 8 * 1024 };
                await tcp.ConnectAsync(context.DnsEndPoint, cancel);
                return new NetworkStream(tcp, ownsSocket: true);
            }
        });
        socket.Options.Cookies = null;
        socket.Options.SetRequestHeader("Cookie", browser.Cookies.GetCookieHeader(own.Address));
        await socket.ConnectAsync(new Uri($"ws://{own.Address.Authority}/live?sitting={sitting}"), way, CancellationToken.None);
        await socket.SendAsync(Encoding.UTF8.GetBytes("{\"protocol\":\"json\",\"version\":1}\u001e"), WebSocketMessageType.Text, true,
            CancellationToken.None);
        await socket.ReceiveAsync(new byte[100], CancellationToken.None);
        return socket;
    }

    [Theory]
    [InlineData("PUT", "/api/plans/{id}/docket", "[null]")]
    [InlineData("PUT", "/api/plans/{id}/docket", "null")]
    [InlineData("POST", "/api/plans/{id}/invite", "{\"lines\":null}")]
    [InlineData("POST", "/api/plans/{id}/docket/read", "{\"text\":null}")]
    [InlineData("POST", "/api/contacts", "{\"id\":0,\"name\":\"Nia\",\"email\":null,\"phone\":null,\"groups\":[null]}")]
    [InlineData("POST", "/api/contacts/remove", "null")]
    [InlineData("POST", "/api/presets", "{\"id\":0,\"name\":\"x\",\"door\":\"open\",\"orders\":null}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"runSheet\":[null]}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"except\":[null]}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"runSheet\":[{\"id\":1,\"title\":null}]}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"kind\":\"recurring\",\"rule\":\"FREQ=DAILY;UNTIL=99991231T235959Z\"}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"kind\":\"recurring\",\"rule\":\"FREQ=DAILY;BYHOUR=0,1;BYMINUTE=0,1;BYSECOND=0,1,2\"}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"kind\":\"recurring\",\"rule\":\"FREQ=SECONDLY\"}")]
    [InlineData("PUT", "/api/plans/{id}", "{\"start\":\"9999-12-31T23:59\"}")]
    public async Task What_nobody_would_type_is_answered_with_a_reason_and_nothing_is_lost(string method, string path, string body)
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Odd values"));
        var sent = path == "/api/plans/{id}" ? Merged(kept.Plan, body) : body;
        var response = await host.Send(new HttpMethod(method), path.Replace("{id}", kept.Id.ToString(), StringComparison.Ordinal),
            JsonDocument.Parse(sent).RootElement);
        ((int)response.StatusCode).ShouldBeInRange(400, 499, await response.Content.ReadAsStringAsync());
        (await Visitor.ReasonOf(response)).ShouldNotBeNullOrEmpty();
        (await host.Get<KeptPlan>($"/api/plans/{kept.Id}")).Plan.Title.ShouldBe("Odd values");
    }

    private static string Merged(Plan plan, string change)
    {
        var whole = JsonSerializer.SerializeToNode(plan, CoreJson.Options)!.AsObject();
        foreach (var (name, value) in System.Text.Json.Nodes.JsonNode.Parse(change)!.AsObject()) whole[name] = value?.DeepClone();
        return whole.ToJsonString();
    }

    [Fact]
    public async Task A_docket_as_full_as_is_allowed_can_be_kept_and_text_made_to_be_slow_is_read_at_once()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Full"));
        var name = new string('n', 70);
        var full = Enumerable.Range(0, DocketTable.MostLines)
            .Select(n => Line($"{name} {n}", $"{new string('a', 60)}{n}@example.org", "2031-03-03T09:00", 15)).ToArray();
        (await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket", full)).Lines.Count.ShouldBe(DocketTable.MostLines);

        var clock = Stopwatch.StartNew();
        foreach (var nasty in new[] { "a@", "(", "1 min", ", ", "-", "a@a." })
            await host.Post<ReadDocket>($"/api/plans/{kept.Id}/docket/read",
                new PastedText(string.Join('\n', Enumerable.Repeat(string.Concat(Enumerable.Repeat(nasty, 990 / nasty.Length)), 50))));
        clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(10));
    }

    [Fact]
    public async Task Every_text_list_and_moment_beyond_its_bound_is_refused_with_a_reason_and_the_line_goes_on()
    {
        using var owner = await court.Host();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Bounds"));
        await using var host = await owner.Announces(opened, "Odalys");
        var many = string.Join(',', Enumerable.Range(1, 100_000));
        var beyond = new string('x', 100_001);
        foreach (var (wish, reason) in new[]
        {
            ($"{{\"do\":\"mute\",\"seats\":[{many}]}}", Reason.TooMany),
            ("{\"do\":\"expect\",\"line\":{\"name\":\"Nia\",\"slot\":9000000000000000}}", Reason.TimeOutOfRange),
            ("{\"do\":\"setEnd\",\"to\":9000000000000000}", Reason.TimeOutOfRange),
            ("{\"do\":\"setRunSheet\",\"items\":[null]}", Reason.NotUnderstood),
            ($"{{\"do\":\"lockDoor\",\"words\":\"{beyond}\",\"lateWait\":true}}", Reason.TooLong),
            ($"{{\"do\":\"sendNotice\",\"words\":\"{beyond}\"}}", Reason.TooLong),
            ($"{{\"do\":\"expect\",\"line\":{{\"name\":\"Nia\",\"email\":\"{beyond}\"}}}}", Reason.TooLong),
            ($"{{\"do\":\"expect\",\"line\":{{\"name\":\"Nia\",\"email\":\"{new string('x', 255)}\"}}}}", Reason.TooLong),
            ("{\"do\":\"expect\",\"line\":{\"name\":\"Nia\",\"minutes\":-1}}", Reason.MinutesOutOfRange),
            ("{\"do\":\"setRunSheet\",\"items\":null}", Reason.NotUnderstood)
        })
            (await host.Send(JsonDocument.Parse(wish).RootElement))
            .ShouldNotBeNull(wish[..Math.Min(60, wish.Length)]).Reason.ShouldBe(reason);

        (await host.Ask<ReadingRow?>("Read", null, Array.Empty<NamedPreset>(), "en")).ShouldBeNull();
        (await host.Ask<ReadingRow?>("Read", "mute all", Array.Empty<NamedPreset>(), new string('e', 10_000))).ShouldBeNull();
        (await host.Ask<ReadingRow?>("Read", "mute all", new NamedPreset?[] { null }, "en")).ShouldBeNull();
        (await host.Ask<ChatPage?>("Chat", new ChatWish(null, new string('x', 10_000)))).ShouldBeNull();
        (await host.Ask<LedgerPage?>("Ledger", (object?)null)).ShouldBeNull();
        var clock = Stopwatch.StartNew();
        await host.Ask<ReadingRow?>("Read", string.Concat(Enumerable.Repeat("mute all but and ", 290)), Array.Empty<NamedPreset>(), "en");
        clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(2));

        await host.Done(new Write(new Recipient(Reach.Everyone), "bell\u0007 and\u0000 null\r\nnext"));
        await Eventually.Holds(() => { lock (host) return host.Messages.Any(row => row.Text == "bell and null\nnext"); });
        (await (await owner.Get($"/api/sittings/{opened.Sitting}/chat.txt")).Content.ReadAsStringAsync())
            .ShouldContain("bell and null\nnext");
        for (var n = 0; n < EditMessage.MostEdits; n++)
            while ((await host.Do(new EditMessage(1, $"edit {n}")))?.Reason == Reason.TooMany) await Task.Delay(100);
        (await host.Do(new EditMessage(1, "once more")))!.Reason.ShouldBe(Reason.TooManyEdits);
    }

    [Fact]
    public async Task A_quotation_mark_that_is_not_closed_does_not_make_two_people_one()
    {
        using var host = await court.Host();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Quotes"));
        async Task<ReadDocket> Read(string table) =>
            (await (await host.Send(HttpMethod.Post, $"/api/plans/{kept.Id}/docket/import",
            Encoding.UTF8.GetBytes(table))).Content.ReadAsStringAsync()) is var json
            ? JsonSerializer.Deserialize<ReadDocket>(json, CoreJson.Options)! : null!;
        (await Read("name,group\n\"Nia Okafor,upper\nJun Takeda,lower\n")).Flaw.ShouldBe("csvQuote");
        (await Read("name,group\n\"Nia Okafor,upper\n\"Jun Takeda\",lower\n")).Flaw.ShouldBe("csvQuote");
        (await Read("name;group\n\"Okafor; Nia \"\"N\"\"\";upper\nJun 5\" Takeda;lower\n")).Lines.Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("damaged", "is damaged and cannot be read")]
    [InlineData("read-only", "cannot be")]
    [InlineData("newer", "newer version")]
    [InlineData("older", "of before 1 December 2026")]
    [InlineData("--Proxy:Known=the proxy", "neither an address such as")]
    [InlineData("--Address=court.example.org", "looks like https://")]
    [InlineData("--Address=https://court.example.org/path", "without a path")]
    [InlineData("--Nodes:Store=postgres", "can be sqlite")]
    [InlineData("--Nodes:Cluster=redis", "can be embedded")]
    public async Task What_keeps_the_server_from_starting_is_said_in_a_sentence(string what, string says)
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-broken-").FullName;
        var file = Path.Combine(folder, "hold-court.db");
        var data = folder;
        switch (what)
        {
            case "damaged":
                await File.WriteAllTextAsync(file, new string('x', 10_000));
                break;
            case "newer" or "older":
                await using (var disk = new SqliteConnection($"Data Source={file};Pooling=False"))
                {
                    await disk.OpenAsync();
                    await using var make = disk.CreateCommand();
                    var form = what == "newer" ? "29990101000000_Later" : "20261125010104_First";
                    make.CommandText = "create table __EFMigrationsHistory (MigrationId text primary key, ProductVersion text); insert "
                        + $"into __EFMigrationsHistory values ('{form}', '9')";
                    await make.ExecuteNonQueryAsync();
                }
                break;
            case ['-', ..]:
                break;
            default:
                // A file in the folder's place: also the superuser cannot write into it.
                data = file;
                await File.WriteAllTextAsync(file, "");
                break;
        }
        using var server = Process.Start(new ProcessStartInfo("dotnet",
            [typeof(Me).Assembly.Location, "--urls", "http://127.0.0.1:0", "--Data:Folder", data, .. what.StartsWith('-')
            ? [what]
            : Array.Empty<string>()])
        {
            RedirectStandardError = true,
            RedirectStandardOutput = true
        })!;
        var (error, output) = (server.StandardError.ReadToEndAsync(), server.StandardOutput.ReadToEndAsync());
        await server.WaitForExitAsync().WaitAsync(TimeSpan.FromSeconds(60));
        server.ExitCode.ShouldBe(1);
        (await error).ShouldContain(says);
        (await error + await output).ShouldNotContain("   at ");
        Directory.Delete(folder, recursive: true);
    }
}
